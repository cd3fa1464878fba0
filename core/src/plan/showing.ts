import type { Engine } from '../engine';
import type { Surface } from '../frame/surface';
import type { Look } from '../look/look';
import { resolveValues, type ResolvedUse } from '../look/resolve';
import type { Value } from '../traits/settings';
import { ACTS, type Act, type Beside, type Displacement } from '../traits/trait';
import { unitsFor } from '../traits/units';
import { countBeside, type Counts } from './cadence';
import { workingSize, type Size } from './canvases';
import { composes } from './compose';
import type { Moments, UseState } from './moment';

/** What a use is at the picture being rendered. */
export interface Live extends UseState {
  readonly use: ResolvedUse;
  /** Settings as numbers for its picture. */
  readonly settings: Readonly<Record<string, Value>>;
  /** The pictures beside that it reads, as they are before it. */
  readonly beside?: ReadonlyMap<Beside, Surface>;
  /** How far the film it shows is from its place. */
  readonly displaced?: Displacement;
}

/** What makes a picture: the footage's, and what is worn on it. */
export interface Showing {
  /** Number of the prepared shot's picture. */
  readonly source: number;
  /** Uses that act, in order. */
  readonly live: readonly Live[];
  /** By their place in `live`, the pictures beside that uses read; each ends with that use, before which it is wanted. */
  readonly beside: ReadonlyMap<number, ReadonlyMap<Beside, Showing>>;
}

/** Whether a use moves the film that a later one of its life shows, wholly and everywhere. */
const movesFilmOf = ({ use, strength }: Live, shower: Live): boolean =>
  use.trait.displaces !== undefined && use.life === shower.use.life && ACTS.indexOf(use.act) < ACTS.indexOf(shower.use.act) && !composes(use.use, strength);

/** Acts that a picture carries with it along the film. What comes after happens to whatever lies in the gate. */
const ON_THE_FILM: readonly Act[] = ['lens', 'stock', 'years'];

/** Tells what makes each picture of a look, from its number alone. */
export class Showings {
  /** Settings that do not move, worked out once. */
  private readonly resting = new Map<string, Readonly<Record<string, Value>>>();

  constructor(
    private readonly engine: Engine,
    private readonly look: Look,
    private readonly moments: Moments,
    private readonly rate: number,
    private readonly out: Size,
  ) {}

  at(n: number): Showing {
    const counts = this.moments.counts(n);
    return this.show(this.moments.uses, counts, counts);
  }

  /** The first and the last picture of the prepared shot that a picture may be made from, whatever happens at it. */
  window(n: number): { first: number; last: number } {
    const reads = (life: number): number => this.moments.uses.filter((use) => use.life === life && use.strength > 0 && use.trait.beside).length;
    const reach = (way: Beside): number => {
      let counts = this.moments.counts(n);
      for (let life = this.look.lives.length - 1; life >= 0; life--) {
        const most = way * reads(life);
        if (most !== 0) counts = countBeside(counts, life, most, this.rate, this.moments.uses);
      }
      return counts.source;
    };
    return { first: reach(-1), last: reach(1) };
  }

  /** Every use that could act, as it is without events. */
  possible(): Live[] {
    const counts = this.moments.counts(0);
    return this.acting(this.moments.uses)
      .filter((use) => !use.trait.idle?.(this.settle(use, use.values) as never))
      .map((use) => this.lively(use, this.moments.state(use, counts)));
  }

  /** @param film what is counted of the picture in the gate @param now what is counted of the moment at which it lies there */
  private show(uses: readonly ResolvedUse[], film: Counts, now: Counts): Showing {
    const acting = this.acting(uses)
      .map((use) => this.lively(use, this.moments.state(use, ON_THE_FILM.includes(use.act) ? film : now)))
      .filter(({ use, strength, settings, events }) => strength > 0 && !(use.trait.events && events.length === 0) && !use.trait.idle?.(settings as never));
    const reads = new Map(acting.map(({ use, values, events }) => [use, use.trait.beside?.({ settings: values as never, events, carrier: use.carrier }) ?? []]));
    // Where the film itself is shown, and nothing else with it, it is moved as a whole.
    const showers = acting.filter(({ use, strength }) => use.trait.showsFilm && reads.get(use)!.length > 0 && !composes(use.use, strength));
    const moved = new Map(showers.map((shower) => [shower, acting.filter((one) => movesFilmOf(one, shower))]));
    const left = new Set([...moved.values()].flat().map(({ use }) => use));
    const live = acting.filter(({ use }) => !left.has(use)).map((one) => (moved.has(one) ? { ...one, displaced: this.displaced(moved.get(one)!) } : one));
    const beside = new Map<number, Map<Beside, Showing>>();
    live.forEach((reader, i) => {
      const { use } = reader;
      for (const offset of reads.get(use)!) {
        const on = countBeside(film, use.life, offset, this.rate, this.moments.uses);
        if (on.lives[use.life]!.picture === film.lives[use.life]!.picture) continue;
        const before = uses.slice(0, uses.indexOf(use)).filter((other) => !left.has(other));
        const showing = this.show(before, on, { source: on.source, lives: [...on.lives.slice(0, use.life), ...now.lives.slice(use.life)] });
        const of = beside.get(i) ?? new Map<Beside, Showing>();
        beside.set(i, of.set(offset, { ...showing, live: [...showing.live, reader] }));
      }
    });
    return { source: film.source, live, beside };
  }

  private displaced(movers: readonly Live[]): Displacement {
    return movers.reduce(
      (sum, { use, settings, events, picture, seconds }) => {
        const { width, height } = workingSize(use, this.out);
        const { trait, carrier, seed } = use;
        const by = trait.displaces!({
          engine: this.engine,
          units: unitsFor(carrier, width, height),
          carrier,
          seed,
          rate: this.moments.rateOf(use),
          settings: settings as never,
          events,
          picture,
          seconds,
        });
        return { x: sum.x + by.x, y: sum.y + by.y };
      },
      { x: 0, y: 0 },
    );
  }

  /** Those that may change a pixel. */
  private acting(uses: readonly ResolvedUse[]): ResolvedUse[] {
    return uses.filter((use) => use.strength > 0 && !use.trait.cadence);
  }

  private lively(use: ResolvedUse, state: UseState): Live {
    return { ...state, use, settings: this.settle(use, state.values) };
  }

  private settle(use: ResolvedUse, values: Readonly<Record<string, Value>>): Readonly<Record<string, Value>> {
    const { width, height } = workingSize(use, this.out);
    const work = () => resolveValues(use.trait, values, unitsFor(use.carrier, width, height));
    if (values !== use.values) return work();
    const key = `${use.life}.${use.index}`;
    const known = this.resting.get(key) ?? work();
    this.resting.set(key, known);
    return known;
  }
}

/** The pictures of the prepared shot that a picture is made from, its own first. */
export function sourcesOf(showing: Showing): number[] {
  const others = [...showing.beside.values()].flatMap((of) => [...of.values()].flatMap(sourcesOf));
  return [...new Set([showing.source, ...others])];
}

/** What decides a picture before its use `count`, as a value that can be compared. */
export function prefixOf({ source, live, beside }: Showing, count = live.length - 1): unknown {
  return [
    source,
    live
      .slice(0, count)
      .map(({ use, strength, picture, values, events, displaced }, i) => [
        use.trait.id,
        use.carrier.id,
        use.seed,
        use.use.blend,
        use.use.zone,
        strength,
        picture,
        values,
        events,
        displaced,
        [...(beside.get(i) ?? [])].map(([offset, showing]) => [offset, prefixOf(showing)]),
      ]),
  ];
}
