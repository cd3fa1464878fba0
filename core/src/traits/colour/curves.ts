import type { Engine } from '../../engine';
import { SampledCurve } from '../../frame/sampled-curve';
import type { Curve } from '../settings';

export const straight: Curve = [
  [0, 0],
  [1, 1],
];
export const isStraight = (curve: Curve): boolean => curve.every(([x, y]) => x === y) && curve[0]![0] === 0 && curve.at(-1)![0] === 1;

/**
 * The smooth line through points that never swings past them: cubic pieces whose slopes are held so that each stays monotone (F. N. Fritsch
 * and R. E. Carlson, 1980). Before the first and after the last point it is level.
 * @returns a function of a value 0..1
 */
export function through(curve: Curve): (v: number) => number {
  const n = curve.length;
  const width = (i: number): number => curve[i + 1]![0] - curve[i]![0];
  const secant = (i: number): number => (curve[i + 1]![1] - curve[i]![1]) / width(i);
  const slopes = curve.map((_, i) => {
    if (i === 0) return secant(0);
    if (i === n - 1) return secant(n - 2);
    const [a, b] = [secant(i - 1), secant(i)];
    return a * b <= 0 ? 0 : (a + b) / 2;
  });
  // A piece whose ends are steeper against it than a circle of three would swing past them.
  for (let i = 0; i < n - 1; i++) {
    const s = secant(i);
    if (s === 0) {
      slopes[i] = slopes[i + 1] = 0;
      continue;
    }
    const [a, b] = [slopes[i]! / s, slopes[i + 1]! / s];
    const far = a * a + b * b;
    if (far <= 9) continue;
    const held = (3 * s) / Math.sqrt(far);
    [slopes[i], slopes[i + 1]] = [held * a, held * b];
  }
  return (v) => {
    if (v <= curve[0]![0]) return curve[0]![1];
    if (v >= curve[n - 1]![0]) return curve[n - 1]![1];
    let i = 0;
    while (curve[i + 1]![0] < v) i++;
    const h = width(i);
    const t = (v - curve[i]![0]) / h;
    const u = 1 - t;
    return curve[i]![1] * (1 + 2 * t) * u * u + slopes[i]! * h * t * u * u + curve[i + 1]![1] * t * t * (3 - 2 * t) - slopes[i + 1]! * h * t * t * u;
  };
}

/** A place for a function of 0..1, sampled so that every 10-bit value lies on a sample; see `goingOn` for what lies outside. */
export const curveTable = (engine: Engine): SampledCurve => new SampledCurve(engine, -0.25, 1.5, 1024);

/** A function of 0..1 that goes on with a slope of 1 from its ends. */
export function goingOn(of: (v: number) => number): (v: number) => number {
  const [first, last] = [of(0), of(1)];
  return (v) => (v < 0 ? first + v : v > 1 ? last + (v - 1) : of(v));
}
