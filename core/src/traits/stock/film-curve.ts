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

/** A curve by its numbers: u = gain (mid-grey - density) is led into a shoulder (`toWhite`, soft over `high`) and a toe (`toBlack`, `low`), then `rest` is put back, by `back`. */
export interface CurveNumbers {
  readonly gain: number;
  readonly rest: number;
  readonly back: number;
  readonly toWhite: number;
  readonly toBlack: number;
  readonly high: number;
  readonly low: number;
}

/** What is led into the shoulder and the toe. */
function through(k: Maths, u: number, { toWhite, toBlack, high, low }: Pick<CurveNumbers, 'toWhite' | 'toBlack' | 'high' | 'low'>): number {
  return -softMin(k, -softMin(k, u, toWhite, high), toBlack, low);
}

/** @param ends densities at which black and white lie */
export function curveNumbers(k: Maths, { contrast, toe, shoulder }: Response, ends: Ends = USUAL): CurveNumbers {
  const shape = { toWhite: MID_GREY_DENSITY - ends.white, toBlack: ends.black - MID_GREY_DENSITY, high: 0.02 + 0.3 * shoulder, low: 0.02 + 0.45 * toe };
  // The corners' roundness lowers the middle a little and takes of its slope; both are put back, white kept where it is.
  const rest = through(k, 0, shape);
  const back = shape.toWhite / (shape.toWhite - rest);
  const slope = (back * (through(k, NEAR, shape) - through(k, -NEAR, shape))) / (2 * NEAR);
  return { ...shape, gain: contrast / slope, rest, back };
}

/**
 * The characteristic curve: density for density, mid-grey kept. Straight with a slope of `contrast` in the middle, led into a
 * shoulder toward white and into a toe toward black, neither of which is ever quite reached (F. Hurter and V. C. Driffield's curve).
 * @param ends densities at which black and white lie
 */
export function curveOf(k: Maths, response: Response, ends: Ends = USUAL): (density: number) => number {
  const numbers = curveNumbers(k, response, ends);
  return (density) => MID_GREY_DENSITY - (through(k, numbers.gain * (MID_GREY_DENSITY - density), numbers) - numbers.rest) * numbers.back;
}

/** So far from mid-grey its slope is read. */
const NEAR = 0.01;

/** A place for a function of density, from three stops and more over white to beyond any print's black. */
export const densityTable = (engine: Engine): SampledCurve => new SampledCurve(engine, -1.2, 8.8, 512);
