import { LOOK_LIMITS, type ColourSetting, type Key, type Look, type Motion, type NumberSetting, type Value } from '@tin-ghost/core';
import { settle } from '../../parts/scale';
import { changeMotion, changeSetting, traitUseAt, type UseAt } from './look-edits';

export type Moving = NumberSetting | ColourSetting;
export type KeyValue = Key['value'];

/** Keys nearer than this, in seconds, are one. */
const SAME_MOMENT = 1e-3;
const milliseconds = (seconds: number): number => Math.round(seconds * 1000) / 1000;

/** Span of what a motion may add: for a number half its range, for a colour all of it. */
export const mostAmount = (setting: Moving): number => (setting.kind === 'number' ? (setting.max - setting.min) / 2 : 1);

/** The motion that a setting begins with when a kind is chosen: it shows, and is not wild. @param of the first that may be followed */
export function begun(kind: Motion['motion'], setting: Moving, value: Value, seconds: number, of: string | undefined): Motion | undefined {
  const own = setting.kind === 'number' ? Math.abs(value as number) : 0.3;
  // A third of what it is, or a tenth of what it may be.
  const amount = setting.kind === 'number' ? settle({ ...setting, min: 0 }, own > 0 ? own / 3 : mostAmount(setting) / 5) || setting.step : 0.1;
  switch (kind) {
    case 'wander':
      return { motion: 'wander', speeds: [{ amount, rate: 1 }] };
    case 'jump':
      return { motion: 'jump', amount, spread: 'bell' };
    case 'keys':
      return { motion: 'keys', keys: [{ at: milliseconds(seconds), value: value as KeyValue }] };
    case 'follow':
      return of === undefined ? undefined : { motion: 'follow', of, gain: amount, decay: 0.3 };
  }
}

/** Keys with one at a moment: a new one, or that which stands there given another value. A look holds no more than so many; then a new one is not taken. */
export function withKey(keys: readonly Key[], at: number, value: KeyValue): Key[] {
  const moment = milliseconds(Math.max(0, at));
  const there = keys.findIndex((key) => Math.abs(key.at - moment) <= SAME_MOMENT);
  if (there >= 0) return keys.map((key, i) => (i === there ? { ...key, value } : key));
  if (keys.length >= LOOK_LIMITS.keys) return [...keys];
  return [...keys, { at: moment, value }].sort((a, b) => a.at - b.at);
}

/** Keys with one changed. One that would go past a neighbour stays short of it. */
export function changedKey(keys: readonly Key[], i: number, more: Partial<Key>): Key[] {
  const [before, after] = [keys[i - 1], keys[i + 1]];
  const low = before ? before.at + 2 * SAME_MOMENT : 0;
  const high = after ? after.at - 2 * SAME_MOMENT : Infinity;
  const next = { ...keys[i]!, ...more };
  return keys.map((key, k) => (k === i ? { ...next, at: milliseconds(Math.max(low, Math.min(high, next.at))) } : key));
}

/** Keys without one; undefined where none is left. */
export function withoutKey(keys: readonly Key[], i: number): Key[] | undefined {
  const rest = keys.filter((_, k) => k !== i);
  return rest.length ? rest : undefined;
}

/** The stretch of values that a curve is drawn in: what the curve takes, with room about it, within what the setting may be. */
export function rangeOf(setting: Moving, values: Iterable<number>, base: Value): readonly [number, number] {
  if (setting.kind === 'colour') return [0, 1];
  let [low, high] = [base as number, base as number];
  for (const v of values) [low, high] = [Math.min(low, v), Math.max(high, v)];
  const room = Math.max((high - low) * 0.25, (setting.max - setting.min) * 0.02, setting.step);
  return [Math.max(setting.min, low - room), Math.min(setting.max, high + room)];
}

/** Sets a setting at a moment: where keys move it, by a key there. undefined puts the default back. */
export function changeValue(look: Look, at: UseAt, key: string, value: Value | undefined, seconds: number): Look {
  const motion = traitUseAt(look, at)?.motions?.[key];
  if (motion?.motion !== 'keys' || value === undefined) return changeSetting(look, at, key, value);
  return changeMotion(look, at, key, { ...motion, keys: withKey(motion.keys, seconds, value as KeyValue) });
}

/** The motions that settings had, of each kind: what is tried and left again is there when it is come back to. */
export class TriedMotions {
  private readonly kept = new Map<string, Motion>();

  /** @param setting names the setting among all of all shots */
  leave(setting: string, motion: Motion | undefined): void {
    if (motion) this.kept.set(`${setting} ${motion.motion}`, motion);
  }

  comeBack(setting: string, kind: Motion['motion']): Motion | undefined {
    return this.kept.get(`${setting} ${kind}`);
  }
}
