import type { Kernels } from '../engine';
import { even, hash, poisson } from '../random/random';

/** Seconds of a bin of time. What happens in a bin follows from (seed of the use, number of the bin) alone. */
const BIN = 1;
/** Most events of one use in a bin; a rate above is held to it. Sixty a picture at 60 pictures a second are fewer. */
const MOST_IN_BIN = 4000;

/** One thing that happens at a moment. */
export interface TraitEvent {
  /** Stable: the bin and its number there, or the user's own for a pinned one. */
  readonly id: string;
  /** Seconds of the carrier's time. */
  readonly at: number;
  readonly length: number;
  /** Place, in shares of the width and the height. */
  readonly x: number;
  readonly y: number;
  /** Strength against what was generated; 0 is muted. */
  readonly scale: number;
  /** Of its own randomness. */
  readonly seed: number;
  readonly pinned: boolean;
  /** Whether its place was given by hand. */
  readonly placed: boolean;
}

/** An event at one of its pictures. */
export interface ActiveEvent extends TraitEvent {
  /** Pictures since its first. */
  readonly age: number;
  /** Pictures it shows on. */
  readonly of: number;
}

/** What a user changed of a trait's events; kept by id, so that other settings leave it alone. */
export interface EventChanges {
  readonly muted?: readonly string[];
  readonly changed?: Readonly<Record<string, { readonly at?: number; readonly x?: number; readonly y?: number; readonly scale?: number }>>;
  readonly pinned?: readonly { readonly id: string; readonly at: number; readonly x?: number; readonly y?: number; readonly scale?: number; readonly length?: number }[];
}

/** What a use of a trait makes events by, at the moment of a bin. */
export interface Generator {
  readonly seed: number;
  /** The carrier's pictures a second. */
  readonly picturesPerSecond: number;
  readonly longest: number;
  /** Events a second at a moment. */
  rate(seconds: number): number;
  /** Moments in a stretch of time of events that come by the clock; in place of `rate`. */
  times?(from: number, to: number): readonly number[];
  /** Seconds an event at a moment lasts. */
  length(seconds: number, drawn: number): number;
}

function generated(g: Generator, bin: number, i: number): TraitEvent {
  const address = hash(g.seed, bin, i);
  const at = g.times ? g.times(bin * BIN, (bin + 1) * BIN)[i]! : (bin + even(address, 1)) * BIN;
  const length = g.length(at, even(address, 2));
  return { id: `${bin}.${i}`, at, length, x: even(address, 3), y: even(address, 4), scale: 1, seed: hash(address, 5), pinned: false, placed: false };
}

const countIn = (k: Kernels, g: Generator, bin: number): number =>
  g.times ? g.times(bin * BIN, (bin + 1) * BIN).length : poisson(Math.min(MOST_IN_BIN, g.rate(bin * BIN) * BIN), even(g.seed, bin, -1), k.exp);

/**
 * Events that begin in [from, to), with the user's changes, by time. Costs what lies in the range, wherever that is.
 * @param withMuted also those turned off, with scale 0
 */
export function eventsBetween(k: Kernels, g: Generator, changes: EventChanges, from: number, to: number, withMuted = false): TraitEvent[] {
  const muted = new Set(changes.muted);
  const changed = changes.changed ?? {};
  const found: TraitEvent[] = [];
  const take = (event: TraitEvent): void => {
    if (event.at < from || event.at >= to) return;
    if (muted.has(event.id)) {
      if (withMuted) found.push({ ...event, scale: 0 });
    } else found.push(event);
  };
  for (let bin = Math.max(0, Math.floor(from / BIN)); bin < Math.ceil(to / BIN); bin++) {
    const count = countIn(k, g, bin);
    for (let i = 0; i < count; i++) if (!changed[`${bin}.${i}`]) take(generated(g, bin, i));
  }
  // Changed ones may have been moved out of their bin.
  for (const [id, change] of Object.entries(changed)) {
    const [bin, i] = id.split('.').map(Number) as [number, number];
    if (Number.isInteger(bin) && Number.isInteger(i) && i < countIn(k, g, bin))
      take({ ...generated(g, bin, i), ...change, placed: change.x !== undefined || change.y !== undefined });
  }
  for (const pin of changes.pinned ?? []) {
    const seed = hash(
      g.seed,
      [...pin.id].reduce((h, c) => Math.imul(h, 31) + c.charCodeAt(0), 7),
    );
    take({ x: 0.5, y: 0.5, scale: 1, length: g.length(pin.at, even(seed, 2)), ...pin, seed, pinned: true, placed: true });
  }
  return found.sort((a, b) => a.at - b.at || (a.id < b.id ? -1 : 1));
}

/** Events that show on a picture. */
export function eventsAt(k: Kernels, g: Generator, changes: EventChanges, picture: number): ActiveEvent[] {
  const period = 1 / g.picturesPerSecond;
  const longest = Math.max(g.longest, ...(changes.pinned ?? []).map((p) => p.length ?? 0));
  return eventsBetween(k, g, changes, (picture - 1) * period - longest, (picture + 1) * period).flatMap((event) => {
    const first = Math.floor(event.at * g.picturesPerSecond + 1e-9);
    const of = Math.max(1, Math.round(event.length * g.picturesPerSecond));
    const age = picture - first;
    return age >= 0 && age < of && event.scale > 0 ? [{ ...event, age, of }] : [];
  });
}
