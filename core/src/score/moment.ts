import type { Engine } from '../engine';
import { eventsAt, eventsBetween, type ActiveEvent, type EventChanges, type Generator } from '../events/events';
import { followed } from '../look/follows';
import type { PlateInfo } from '../frame/plate';
import type { Look, Span } from '../look/look';
import type { ResolvedUse } from '../look/resolve';
import { moved, type Moment } from '../motion/motion';
import { hash, hashText } from '../random/random';
import type { Colour, Setting, Value } from '../traits/settings';
import { MOST_LOST } from '../traits/trait';
import { countPictures, type Counting, type Counts } from './cadence';
import { joinReach, lostBy, type Join } from './lost';

/** A use at a picture. */
export interface UseState {
  /** In the settings' units; the use's own object where nothing moves. */
  readonly values: Readonly<Record<string, Value>>;
  readonly strength: number;
  readonly picture: number;
  readonly seconds: number;
  readonly events: readonly ActiveEvent[];
}

/** Beyond this many times its decay an event is followed no longer: exp(-6) is 0.25 %. */
const FADED = 6;

/** Share of a use at a moment by the times in which it acts. */
export function spanShare(spans: readonly Span[] | undefined, seconds: number): number {
  if (!spans) return 1;
  let share = 0;
  for (const span of spans) {
    if (seconds < span.from || seconds >= span.to) continue;
    const rise = span.in ? (seconds - span.from) / span.in : 1;
    const fall = span.out ? (span.to - seconds) / span.out : 1;
    share = Math.max(share, Math.min(1, rise, fall));
  }
  return share;
}

/** Places on a film of which it is known how far on they are. */
const KEPT_PLACES = 512;

/** What moves, and what happens, in a look: the state of each use at any picture, each worked out from the picture's number alone. */
export class Moments {
  /** By it pictures are counted. */
  readonly counting: Counting;
  private readonly losing: readonly ResolvedUse[];
  private readonly places = new Map<string, number>();

  constructor(
    private readonly engine: Engine,
    private readonly look: Look,
    readonly uses: readonly ResolvedUse[],
    private readonly rate: number,
    private readonly plate: (id: string) => PlateInfo | undefined = () => undefined,
  ) {
    this.losing = uses.filter((use) => use.strength > 0 && this.mostLost(use) > 0);
    this.counting = { rate, uses, ...(this.losing.length ? { lost: (life: number, picture: number) => this.lost(life, picture) } : {}) };
  }

  counts(n: number): Counts {
    return countPictures(this.look, n, this.counting);
  }

  /** How many pictures further on, or back, the film of a life may be at the most, as pictures of it were lost. */
  lostReach(life: number): number {
    return Math.max(0, ...this.losing.filter((use) => use.life === life).map((use) => Math.ceil(this.mostLost(use) / 2)));
  }

  private mostLost({ trait, use, values }: ResolvedUse): number {
    if (!trait.loses) return 0;
    return Object.keys(use.motions ?? {}).length ? MOST_LOST : trait.loses(values as never);
  }

  /** How many pictures further on the film of a life is at one of its pictures. */
  private lost(life: number, picture: number): number {
    const losing = this.losing.filter((use) => use.life === life);
    if (losing.length === 0) return 0;
    const key = `${life}.${picture}`;
    let by = this.places.get(key);
    if (by === undefined) {
      const rate = this.rateOf(losing[0]!);
      const reach = joinReach(rate);
      by = lostBy(picture, this.joins(losing, rate, picture - reach, picture + reach), rate);
      if (this.places.size >= KEPT_PLACES) this.places.clear();
      this.places.set(key, by);
    }
    return by;
  }

  /** Where pictures were lost, from one picture of a film to another; more than one join at a picture are one. */
  private joins(losing: readonly ResolvedUse[], rate: number, from: number, to: number): Join[] {
    const found = new Map<number, number>();
    for (const use of losing)
      for (const { at, scale } of eventsBetween(this.engine.kernels, this.generator(use, rate), this.changes(use), from / rate, to / rate)) {
        const picture = Math.floor(at * rate + 1e-9);
        const share = Math.min(1, scale) * use.strength * spanShare(use.use.when, at);
        const lost = Math.round(share * use.trait.loses!(this.values(use, { seconds: at, picture }) as never));
        if (lost > 0) found.set(picture, Math.max(lost, found.get(picture) ?? 0));
      }
    return [...found].map(([picture, lost]) => ({ picture, lost })).sort((a, b) => a.picture - b.picture);
  }

  /** The state of a use at picture `n` of the file. */
  state(use: ResolvedUse, counts: Counts): UseState {
    const life = counts.lives[use.life]!;
    const screen = use.act === 'screen';
    const picture = screen ? life.shown : life.picture;
    const seconds = picture / (screen ? life.count.rate : life.rate);
    const moment = { picture, seconds };
    return {
      values: this.values(use, moment),
      strength: use.strength * spanShare(use.use.when, seconds),
      picture,
      seconds,
      events: use.trait.events ? eventsAt(this.engine.kernels, this.generator(use, this.rateOf(use, counts)), this.changes(use), picture) : [],
    };
  }

  /** The pictures a second that a use counts. */
  rateOf(use: ResolvedUse, counts: Counts = countPictures(this.look, 0, { rate: this.rate, uses: this.uses })): number {
    const life = counts.lives[use.life]!;
    return use.act === 'screen' ? life.count.rate : life.rate;
  }

  /** Events of a use in a stretch of its carrier's time. */
  events(use: ResolvedUse, from: number, to: number) {
    return eventsBetween(this.engine.kernels, this.generator(use, this.rateOf(use)), this.changes(use), from, to, true);
  }

  private changes(use: ResolvedUse): EventChanges {
    return use.use.events ?? {};
  }

  private generator(use: ResolvedUse, picturesPerSecond: number): Generator {
    const source = use.trait.events!;
    const at = (seconds: number) => this.values(use, { seconds, picture: Math.floor(seconds * picturesPerSecond + 1e-6) });
    return {
      seed: hash(use.seed, 0xe7e2),
      picturesPerSecond,
      longest: source.longest,
      rate: (seconds) => source.rate(at(seconds), picturesPerSecond),
      times: source.times && ((from, to) => source.times!(at(from), from, to)),
      length: (seconds, drawn) => source.length(at(seconds), drawn, picturesPerSecond),
    };
  }

  private values(use: ResolvedUse, moment: Moment): Readonly<Record<string, Value>> {
    const { motions } = use.use;
    if (!motions || Object.keys(motions).length === 0) return use.values;
    const settings = use.trait.settings as Record<string, Setting>;
    const values = { ...use.values };
    for (const [key, motion] of Object.entries(motions)) {
      const s = settings[key]!;
      const seed = hash(use.seed, hashText(key));
      const part = (base: number, i: number, min: number, max: number): number =>
        Math.max(
          min,
          Math.min(
            max,
            moved(this.engine.kernels, motion, base, moment, seed, i, (of, delay, decay) => this.activity(of, moment, delay, decay)),
          ),
        );
      if (s.kind === 'number') values[key] = part(values[key] as number, 0, s.min, s.max);
      else values[key] = (values[key] as Colour).map((c, i) => part(c, i, 0, 1)) as unknown as Colour;
    }
    return values;
  }

  /**
   * How active a followed use is: its events, each falling away from its moment; or what it says of itself; or how far its
   * first motion has moved its setting, against the setting's greatest value.
   */
  private activity(of: string, moment: Moment, delay: number, decay: number): number {
    const target = followed(this.look, of);
    const use = target && this.uses.find((u) => u.life === target.life && u.index === target.index);
    if (!use || use.strength === 0) return 0;
    const seconds = moment.seconds - delay;
    const rate = this.rateOf(use);
    const picture = Math.floor(seconds * rate + 1e-6);
    if (use.trait.events) {
      const k = this.engine.kernels;
      const reach = Math.max(decay * FADED, 1 / rate);
      return eventsBetween(k, this.generator(use, rate), this.changes(use), seconds - reach, seconds + 1 / rate).reduce((sum, event) => {
        // An event begins with the picture it is first seen on.
        const since = seconds - Math.floor(event.at * rate + 1e-9) / rate;
        if (since < -1e-9) return sum;
        if (decay === 0) return since < 1 / rate - 1e-9 ? sum + event.scale : sum;
        return sum + event.scale * k.exp(-since / decay);
      }, 0);
    }
    const at = { picture, seconds };
    const values = this.values(use, at);
    if (use.trait.activity) return use.trait.activity({ engine: this.engine, settings: values as never, seed: use.seed, plate: this.plate, ...at });
    const [key] = Object.keys(use.use.motions ?? {});
    const s = key ? (use.trait.settings as Record<string, Setting>)[key]! : undefined;
    if (!key || !s || s.kind !== 'number') return 0;
    return ((values[key] as number) - (use.values[key] as number)) / Math.max(Math.abs(s.max), Math.abs(s.min));
  }
}
