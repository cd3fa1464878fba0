/** Measures on lines of a raster, which the tests of tape and air share. Not part of the product. */
import type { Engine } from './engine';
import type { TraitUse } from './look/look';
import { lookOf, mean, painted, wearFloat } from './testing';

// Taken once: in hot loops each look-up of a global costs.
const { PI, cos, floor, hypot, log10, sin } = Math;

/** Microseconds of the visible part of a line: 720 samples at 13.5 MHz. */
export const LINE_US = 720 / 13.5;
export const STANDARDS = [
  ['vhs', 486],
  ['vhs625', 576],
] as const;
export const AIR = [
  ['broadcast', 486],
  ['broadcast625', 576],
] as const;
export const dB = (ratio: number): number => 20 * log10(ratio);
/** Y' by BT.601, as tape holds it. */
export const luma = ([r, g, b]: readonly Float32Array[]): Float32Array => r!.map((v, i) => 0.299 * v + 0.587 * g![i]! + 0.114 * b![i]!);
/** Wears a picture by an engine that is there when it is called, and gives its luma. */
export const lumaWornBy =
  (engine: () => Engine) =>
  (traits: TraitUse[], carrier: string, width: number, height: number, paint: (x: number, y: number) => number, n = 0): Float32Array =>
    luma(wearFloat(engine(), lookOf(traits, carrier), painted(width, height, paint), n, 25));
/** Amplitude of a sine of `cycles` a line in the middle of rows. */
export function amplitude(plane: Float32Array, width: number, cycles: number, rows: readonly number[]): number {
  const [from, to] = [floor(width * 0.2), floor(width * 0.8)];
  return mean(
    rows.map((y) => {
      let [re, im, sum] = [0, 0, 0];
      for (let x = from; x < to; x++) {
        const w = 0.5 - 0.5 * cos((2 * PI * (x - from)) / (to - from));
        const turn = (2 * PI * cycles * (x + 0.5)) / width;
        re += w * plane[y * width + x]! * cos(turn);
        im += w * plane[y * width + x]! * sin(turn);
        sum += w;
      }
      return (2 * hypot(re, im)) / sum;
    }),
  );
}
export const sine =
  (megahertz: number, width: number, level = 0.2) =>
  (x: number) =>
    0.5 + level * sin((2 * PI * megahertz * LINE_US * x) / width);
/** Where an edge from dark to bright stands on a row, in samples. */
export function edgeOf(plane: Float32Array, width: number, y: number, from: number, to: number): number {
  for (let x = from; x < to; x++) {
    const [a, b] = [plane[y * width + x]!, plane[y * width + x + 1]!];
    if (a < 0.5 && b >= 0.5) return x + (0.5 - a) / (b - a);
  }
  return NaN;
}
