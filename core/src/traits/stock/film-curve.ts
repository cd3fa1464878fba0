import type { Engine } from '../../engine';
import { SampledCurve } from '../../frame/sampled-curve';
import { MID_GREY_DENSITY } from '../grey';

/** Densities that a curve comes to. Where a look says nothing of them: white, and a black that is a hundredth of a display's signal. */
export interface Ends {
  readonly white: number;
  readonly black: number;
}
const USUAL: Ends = { white: 0, black: 4.8 };

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
 * @param ends densities at which black and white lie
 */
export function curveOf(k: Maths, { contrast, toe, shoulder }: Response, ends: Ends = USUAL): (density: number) => number {
  const [toWhite, toBlack] = [MID_GREY_DENSITY - ends.white, ends.black - MID_GREY_DENSITY];
  const [high, low] = [0.02 + 0.3 * shoulder, 0.02 + 0.45 * toe];
  const bright = (u: number): number => softMin(k, u, toWhite, high);
  const dark = (v: number): number => -softMin(k, -v, toBlack, low);
  const through = (u: number): number => dark(bright(u));
  // The corners' roundness lowers the middle a little and takes of its slope; both are put back, white kept where it is.
  const rest = through(0);
  const back = toWhite / (toWhite - rest);
  const slope = (back * (through(NEAR) - through(-NEAR))) / (2 * NEAR);
  return (density) => MID_GREY_DENSITY - (through((contrast / slope) * (MID_GREY_DENSITY - density)) - rest) * back;
}

/** So far from mid-grey its slope is read. */
const NEAR = 0.01;

/** A place for a function of density, from three stops and more over white to beyond any print's black. */
export const densityTable = (engine: Engine): SampledCurve => new SampledCurve(engine, -1.2, 8.8, 512);
