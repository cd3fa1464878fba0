import type { Kernels } from '../engine';
import { bell, even, hash } from '../random/random';
import { wander } from './wander';

/** How a setting changes in time. Amounts are in the setting's own unit; what is made is added to the setting, keys replace it. */
export type Motion =
  | { readonly motion: 'wander'; readonly speeds: readonly { readonly amount: number; readonly rate: number }[] }
  | { readonly motion: 'jump'; readonly amount: number; readonly rate?: number; readonly spread?: 'even' | 'bell' }
  | { readonly motion: 'keys'; readonly keys: readonly Key[]; readonly loop?: number }
  | { readonly motion: 'follow'; readonly of: string; readonly gain: number; readonly delay?: number; readonly decay?: number };

/** A value at a moment (seconds), and how it goes on to the next. */
export interface Key {
  readonly at: number;
  readonly value: number | readonly [number, number, number];
  readonly ease?: 'hold' | 'line' | 'smooth';
}

export interface Moment {
  readonly picture: number;
  readonly seconds: number;
}

/** Value of one number between keys; at rest before the first and after the last. */
export function keyed(keys: readonly Key[], seconds: number, part: number, loop?: number): number {
  const at = loop ? ((seconds % loop) + loop) % loop : seconds;
  const of = (key: Key): number => (typeof key.value === 'number' ? key.value : key.value[part]!);
  const next = keys.findIndex((key) => key.at > at);
  if (next === 0) return of(keys[0]!);
  if (next < 0) return of(keys.at(-1)!);
  const [a, b] = [keys[next - 1]!, keys[next]!];
  const t = (at - a.at) / (b.at - a.at);
  const ease = a.ease ?? 'smooth';
  if (ease === 'hold') return of(a);
  const s = ease === 'line' ? t : t * t * (3 - 2 * t);
  return of(a) + (of(b) - of(a)) * s;
}

/**
 * A number of a setting at a moment.
 * @param seed of this setting of this use @param part 0, or the channel of a colour
 * @param activity of the trait that is followed
 */
export function moved(
  k: Kernels,
  motion: Motion,
  base: number,
  moment: Moment,
  seed: number,
  part: number,
  activity: (of: string, delay: number, decay: number) => number,
): number {
  switch (motion.motion) {
    case 'wander':
      return motion.speeds.reduce((sum, { amount, rate }, i) => sum + amount * wander(k, hash(seed, part, i), moment.seconds, rate), base);
    case 'jump': {
      const n = motion.rate ? Math.floor(moment.seconds * motion.rate + 1e-9) : moment.picture;
      const drawn = motion.spread === 'even' ? 2 * even(seed, part, n) - 1 : bell(seed, part, n);
      return base + motion.amount * drawn;
    }
    case 'keys':
      return keyed(motion.keys, moment.seconds, part, motion.loop);
    case 'follow':
      return base + motion.gain * activity(motion.of, motion.delay ?? 0, motion.decay ?? 0);
  }
}
