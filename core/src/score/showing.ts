import type { Engine } from '../engine';
import type { Surface } from '../frame/surface';
import type { Look } from '../look/look';
import { resolveValues, type ResolvedUse } from '../look/resolve';
import type { Value } from '../traits/settings';
import { ACTS, type Act, type Beside, type Displacement } from '../traits/trait';
import { unitsFor } from '../traits/units';
import { countBeside, countEarlier, countReach, countSecond, type Counts } from './cadence';
import { composes } from '../look/composes';
import { workingSize, type Size } from './size';
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
  /** For what remembers. */
  readonly memory?: Memory;
}

/** Where pictures of a screen lie (plan/recollection.ts). */
export interface Memory {
  /** Where the picture itself is to be kept. */
  readonly own: number;
  /** What was shown one picture ago, two, and so on. */
  readonly before: readonly number[];
}

/** What makes a picture: the footage's, and what is worn on it. */
export interface Showing {
  /** Number of the prepared shot's picture. */
  readonly source: number;
  /** Uses that act, in order. */
  readonly live: readonly Live[];
  /** By their place in `live`, the pictures beside that uses read; each ends with that use, before which it is wanted. */
  readonly beside: ReadonlyMap<number, ReadonlyMap<Beside, Showing>>;
  /** By their place in `live`, what uses that remember read. */
  readonly earlier: ReadonlyMap<number, Remembered>;
}

/** What a screen showed. Keys tell pictures from every other of the same plan and footage. */
export interface Remembered {
  readonly key: string;
  /** One picture ago, two, and so on; each ends as those beside. */
  readonly before: readonly { readonly key: string; readonly showing: Showing }[];
}

/** Whether a use moves the film that a later one of its life shows, wholly and everywhere. */
const movesFilmOf = ({ use, strength }: Live, shower: Live): boolean =>
  use.trait.displaces !== undefined && use.life === shower.use.life && ACTS.indexOf(use.act) < ACTS.indexOf(shower.use.act) && !composes(use.use, strength);

/** Acts that a picture carries with it along the film. What comes after happens to whatever lies in the gate. */
const ON_THE_FILM: readonly Act[] = ['lens', 'stock', 'years'];

/** Pictures that a screen remembers at most: each may have to be worn for one that stands alone. */
const MOST_REMEMBERED = 24;

/** Whether all that is inside a life is the same at two moments. */
const sameInside = (a: Counts, b: Counts, life: number): boolean =>
  a.source === b.source && a.lives.slice(0, life).every(({ picture, shown }, i) => picture === b.lives[i]!.picture && shown === b.lives[i]!.shown);

/** Tells what makes each picture of a look, from its number alone. */
export class Showings {
  /** Settings that do not move, worked out once. */
  private readonly resting = new Map<string, Readonly<Record<string, Value>>>();
  /** How far each life reaches on its film and back on its screen, whatever happens. */
  private reaches: readonly { readonly reads: number; readonly remembered: number }[] | undefined;

  constructor(
    private readonly engine: Engine,
    private readonly look: Look,
    private readonly moments: Moments,
    private readonly out: Size,
  ) {}

  at(n: number): Showing {
    const counts = this.moments.counts(n);
    return this.show(this.moments.uses, counts, counts);
  }

  /** The first and the last picture of the prepared shot that a picture may be made from, whatever happens at it. */
  window(n: number): { first: number; last: number } {
    this.reaches ??= this.look.lives.map((_, life) => {
      const acting = this.acting(this.moments.uses).filter((use) => use.life === life);
      const reads = acting.filter(({ trait }) => trait.beside && !trait.fields).length;
      // Settings that move may ask for more at another moment.
      const remembered = acting.map((use) => (use.trait.remembers ? (Object.keys(use.use.motions ?? {}).length ? MOST_REMEMBERED : this.remembered(use, use.values)) - 1 : 0));
      return { reads: reads + this.moments.lostReach(life), remembered: remembered.reduce((a, b) => a + b, 0) };
    });
    const reaches = this.reaches;
    // Counted without what is lost, which the reach holds: both ends must never fall.
    const { rate, uses } = this.moments.counting;
    const on = { rate, uses };
    return {
      first: countReach(this.look, n, on, (life) => ({ offset: -reaches[life]!.reads, earlier: reaches[life]!.remembered })),
      last: countReach(this.look, n, on, (life) => ({ offset: reaches[life]!.reads, second: true })),
    };
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
    const moved = new Map(showers.map((shower) => [shower.use, acting.filter((one) => movesFilmOf(one, shower))]));
    const left = new Set([...moved.values()].flat().map(({ use }) => use));
    const live = acting.filter(({ use }) => !left.has(use)).map((one) => (moved.has(one.use) ? { ...one, displaced: this.displaced(moved.get(one.use)!) } : one));
    const beside = new Map<number, Map<Beside, Showing>>();
    const earlier = new Map<number, Remembered>();
    live.forEach((reader, i) => {
      const { use } = reader;
      // What this use itself moves with the film is not moved before it.
      const taken = new Set(moved.get(use)?.map((mover) => mover.use));
      const upTo = (on: Counts, at: Counts): Showing => {
        const before = uses.slice(0, uses.indexOf(use)).filter((other) => !taken.has(other));
        const showing = this.show(before, on, at);
        return { ...showing, live: [...showing.live, reader] };
      };
      for (const offset of reads.get(use)!) {
        const on = offset === 'second' ? countSecond(film, use.life, this.moments.counting) : countBeside(film, use.life, offset, this.moments.counting);
        const same = offset === 'second' ? sameInside(on, film, use.life) : on.lives[use.life]!.picture === film.lives[use.life]!.picture;
        if (same) continue;
        const of = beside.get(i) ?? new Map<Beside, Showing>();
        beside.set(i, of.set(offset, upTo(on, { source: on.source, lives: [...on.lives.slice(0, use.life), ...now.lives.slice(use.life)] })));
      }
      const count = use.trait.remembers ? this.remembered(use, reader.values) : 0;
      if (count > 1) {
        const keyOf = (on: Counts): string => JSON.stringify([use.life, use.index, on.source, on.lives.map(({ picture, shown }) => [picture, shown])]);
        const before = Array.from({ length: count - 1 }, (_, ago) => countEarlier(film, use.life, ago + 1, this.moments.counting)).map((on) => ({
          key: keyOf(on),
          showing: upTo(on, on),
        }));
        earlier.set(i, { key: keyOf(film), before });
      }
    });
    return { source: film.source, live, beside, earlier };
  }

  private remembered(use: ResolvedUse, values: Readonly<Record<string, Value>>): number {
    return Math.min(MOST_REMEMBERED, use.trait.remembers!(values as never, this.moments.rateOf(use)));
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

/** The pictures of the prepared shot that a picture is made from, its own first. @param known whether an earlier picture of a screen is still at hand, by its key */
export function sourcesOf(showing: Showing, known: (key: string) => boolean): number[] {
  const beside = [...showing.beside.values()].flatMap((of) => [...of.values()]);
  const earlier = [...showing.earlier.values()].flatMap((of) => of.before.filter(({ key }) => !known(key)));
  const others = [...beside, ...earlier.map((one) => one.showing)].flatMap((one) => sourcesOf(one, known));
  return [...new Set([showing.source, ...others])];
}

/** What decides a picture before its use `count`, as a value that can be compared. */
export function prefixOf({ source, live, beside, earlier }: Showing, count = live.length - 1): unknown {
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
        earlier.get(i)?.before.map(({ showing }) => prefixOf(showing)),
      ]),
  ];
}
