import type { Engine } from '../../engine';
import { SampledCurve } from '../../frame/sampled-curve';
import { MID_GREY_DENSITY } from '../grey';

/** White lies so far over mid-grey, film's black so far below it, in log10 of exposure. */
const TO_WHITE = MID_GREY_DENSITY;
const TO_BLACK = 2.25;

interface Maths {
  exp(x: number): number;
  log(x: number): number;
}

/** How a film answers exposure. Toe and shoulder 0 (sharp) to 1 (long). */
export interface Response {
  readonly contrast: number;
  readonly toe: number;
  readonly shoulder: number;
}

/** The smaller of two numbers with a rounded corner: soft over about `s`. */
function softMin(k: Maths, a: number, b: number, s: number): number {
  return Math.min(a, b) - s * k.log(1 + k.exp(-Math.abs(a - b) / s));
}

/**
 * The characteristic curve: density for density, mid-grey kept. Straight with a slope of `contrast` in the middle, led into a
 * shoulder toward white and into a toe toward black, neither of which is ever quite reached (F. Hurter and V. C. Driffield's curve).
 */
export function characteristic(k: Maths, density: number, { contrast, toe, shoulder }: Response): number {
  const [high, low] = [0.02 + 0.3 * shoulder, 0.02 + 0.45 * toe];
  const bright = (u: number): number => softMin(k, u, TO_WHITE, high);
  const dark = (v: number): number => -softMin(k, -v, TO_BLACK, low);
  const through = (u: number): number => dark(bright(u));
  // The corners' roundness lowers the middle a little; it is put back, white kept where it is.
  const rest = through(0);
  return MID_GREY_DENSITY - ((through(contrast * (MID_GREY_DENSITY - density)) - rest) * TO_WHITE) / (TO_WHITE - rest);
}

/** A place for a function of density, from three stops and more over white to beyond any print's black. */
export const densityTable = (engine: Engine): SampledCurve => new SampledCurve(engine, -1.2, 4.2, 256);
