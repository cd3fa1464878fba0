/** Planes resampled in parts, whichever way goes first, against sums written out. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { newEngine, randomFrame, RGB8 } from '../testing';
import { cubicTaps, flatTaps, NARROW, Resampler, whole, type Taps } from './resample';
import { floatStride } from './surface';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const plane = (width: number, height: number): Float32Array => Float32Array.from(randomFrame(width, height, RGB8).planes[0]!.subarray(0, width * height), (v) => v / 255);

/** The weights of a target's samples on those of the source, edges continued. */
const sums = ({ count, taps, starts, weights }: Taps, of: (x: number) => number, last: number): number[] =>
  Array.from({ length: count }, (_, x) => {
    let sum = 0;
    for (let k = 0; k < taps; k++) sum += weights[x * taps + k]! * of(Math.max(0, Math.min(last, starts[x]! + k)));
    return sum;
  });

function written(values: Float32Array, width: number, height: number, across: Taps, down: Taps): number[] {
  const rows = Array.from({ length: height }, (_, y) => sums(across, (x) => values[y * width + x]!, width - 1));
  const columns = rows[0]!.map((_, x) => sums(down, (y) => rows[y]![x]!, height - 1));
  return Array.from({ length: across.count * down.count }, (_, i) => columns[i % across.count]![Math.floor(i / across.count)]!);
}

/** @param parts where the result is cut: each is made by itself, in this order */
function resampled(values: Float32Array, width: number, height: number, across: Taps, down: Taps, parts: readonly (readonly [number, number])[]): Float32Array {
  const [stride, wide] = [floatStride(width), floatStride(across.count + 16)];
  const src = engine.allocate(stride * height + 64);
  const dst = engine.allocate(wide * down.count + 64);
  const resampler = new Resampler(engine, width, height);
  try {
    for (let y = 0; y < height; y++) engine.floats(src + y * stride, width).set(values.subarray(y * width, (y + 1) * width));
    resampler.aim(across, down);
    for (const [from, to] of parts) resampler.runFrom(dst + from * wide, wide, whole(src, stride, height), from, to);
    const all = new Float32Array(across.count * down.count);
    for (let y = 0; y < down.count; y++) all.set(engine.floats(dst + y * wide, across.count), y * across.count);
    return all;
  } finally {
    resampler.release();
    engine.release(src);
    engine.release(dst);
  }
}

const sin = (x: number): number => engine.kernels.sin(x);

describe('a plane', () => {
  test.each([
    ['to twice the width and more height', 37, 23, () => [flatTaps(74, 0, 0.5, sin), cubicTaps(43, 0, 23 / 43)]],
    ['to twice the width by the shorter filter', 40, 23, () => [flatTaps(80, 0, 0.5, sin, NARROW), cubicTaps(43, 0, 23 / 43)]],
    ['to a width that is not twice its own, and more height', 37, 23, () => [flatTaps(61, 0, 37 / 61, sin), cubicTaps(43, 0, 23 / 43)]],
    ['to less width and height', 61, 43, () => [flatTaps(37, 0, 61 / 37, sin), cubicTaps(23, 0, 43 / 23)]],
    ['to twice the width and the same height', 37, 23, () => [flatTaps(74, 0, 0.5, sin), cubicTaps(23, 0, 1)]],
    ['of one row and one column', 1, 1, () => [flatTaps(2, 0, 0.5, sin), cubicTaps(3, 0, 1 / 3)]],
  ] as const)('%s is what its taps say, whole and in parts', (_, width, height, taps) => {
    const [across, down] = taps() as [Taps, Taps];
    const values = plane(width, height);
    const all = resampled(values, width, height, across, down, [[0, down.count]]);
    const wanted = written(values, width, height, across, down);
    expect(Math.max(...all.map((v, i) => Math.abs(v - wanted[i]!)))).toBeLessThan(3e-6);
    const thirds = [0, 1, 2, 3].map((i) => Math.round((i * down.count) / 3));
    const parts = [0, 1, 2].map((i) => [thirds[i]!, thirds[i + 1]!] as const);
    expect(resampled(values, width, height, across, down, parts)).toEqual(all);
    // In whatever order they are asked for.
    expect(resampled(values, width, height, across, down, [parts[2]!, parts[0]!, parts[1]!])).toEqual(all);
  });

  test('that takes the place of another is read anew', () => {
    const [across, down] = [flatTaps(32, 0, 0.5, sin), cubicTaps(24, 0, 0.5)];
    const stride = floatStride(16);
    const src = engine.allocate(stride * 12 + 64);
    const dst = engine.allocate(floatStride(48) * 24 + 64);
    const resampler = new Resampler(engine, 16, 12);
    resampler.aim(across, down);
    const first = (level: number): number => {
      engine.floats(src, (stride / 4) * 12).fill(level);
      resampler.run(dst, floatStride(48), src, stride);
      return engine.floats(dst, 1)[0]!;
    };
    expect(first(0.25)).toBeCloseTo(0.25, 5);
    expect(first(0.75)).toBeCloseTo(0.75, 5);
    resampler.release();
    engine.release(src);
    engine.release(dst);
  });
});
