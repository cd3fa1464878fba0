import type { NumberSetting } from '@tin-ghost/core';

/** Finer near zero than far away: the value grows with this power of the slider's way. */
const POWER = 2;

/** Slider position 0..1 to a value, and back. Ranges without a zero in them are even. */
export function valueAt(s: NumberSetting, position: number): number {
  const { min, max } = s;
  if (min > 0 || max < 0) return min + position * (max - min);
  const zero = min === 0 ? 0 : max === 0 ? 1 : 0.5;
  const side = position >= zero ? max : min;
  const way = position >= zero ? (position - zero) / (1 - zero || 1) : (zero - position) / zero;
  return side * way ** POWER;
}

export function positionOf(s: NumberSetting, value: number): number {
  const { min, max } = s;
  if (min > 0 || max < 0) return (value - min) / (max - min);
  const zero = min === 0 ? 0 : max === 0 ? 1 : 0.5;
  if (value >= 0) return zero + (1 - zero) * (max === 0 ? 0 : (value / max) ** (1 / POWER));
  return zero - zero * (value / min) ** (1 / POWER);
}

/** Decimals that a step needs. */
export const decimalsOf = (step: number): number => Math.max(0, Math.ceil(-Math.log10(step) - 1e-9));

/** A value rounded to the setting's step and held within its range. */
export function settle(s: NumberSetting, value: number, fine = 1): number {
  const step = s.step / fine;
  const rounded = Math.round(value / step) * step;
  return Number(Math.max(s.min, Math.min(s.max, rounded)).toFixed(decimalsOf(step)));
}

/** The value that a key on a slider goes to: so far along its way, and a step at least. @param by of the way, in either direction */
export function movedByKey(s: NumberSetting, value: number, by: number): number {
  const moved = settle(s, valueAt(s, Math.max(0, Math.min(1, positionOf(s, value) + by))));
  return (moved - value) * by > 0 ? moved : settle(s, value + Math.sign(by) * s.step);
}
