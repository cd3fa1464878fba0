import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { newEngine, rms } from '../testing';
import { CloudPlane } from './cloud-plane';
import { clouds, patches } from './clouds';
import { speck } from './speck';
import type { Shape } from './stamp';
import { anyWay, centred, fibre, stroke } from './stroke';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** How much of each pixel of a row a shape covers, from the left of its box on. */
function rowOf(shape: Shape, y: number): Float32Array {
  const { left, right } = shape.box;
  const count = right - left;
  const [at, numbers] = [engine.allocate((count + 8) * 4), engine.allocate(4096)];
  engine.floats(numbers, 1024).set(shape.numbers ?? []);
  const covers = engine.floats(at, count + 4);
  const any = shape.cover({ count, left, y, kernels: engine.kernels, at, covers, numbers });
  const row = any ? covers.slice(0, count) : new Float32Array(count);
  engine.release(at);
  engine.release(numbers);
  return row;
}

/** What a shape covers, in pixels. */
function area(shape: Shape): number {
  let sum = 0;
  for (let y = shape.box.top; y < shape.box.bottom; y++) sum += rowOf(shape, y).reduce((a, b) => a + b, 0);
  return sum;
}

describe('a stroke', () => {
  const line = { xs: [20, 120], ys: [30, 105] };
  test.each([0.3, 0.7, 1, 3, 8])('%d pixels wide covers its length by its width, at any place and slope', (width) => {
    const long = Math.hypot(100, 75);
    // Round ends cover half a disc more at each.
    expect(area(stroke(line, width, 1)) / (long * width + (Math.PI / 4) * Math.max(1, width) * width)).toBeCloseTo(1, 1);
  });

  test('stays within its box', () => {
    const { box } = stroke(line, 5, 4);
    expect(box.left).toBeLessThanOrEqual(20 - 5);
    expect(box.bottom).toBeGreaterThanOrEqual(105 + 5);
  });
});

describe('a fibre', () => {
  const length = ({ xs, ys }: { xs: readonly number[]; ys: readonly number[] }): number => xs.slice(1).reduce((sum, x, i) => sum + Math.hypot(x - xs[i]!, ys[i + 1]! - ys[i]!), 0);
  test('is as long as it is said to be, however it bends; without curl it is straight', () => {
    for (const curl of [0, 0.5, 1]) {
      const line = fibre(engine.kernels, 7, { x: 0, y: 0, way: anyWay(7) }, 90, curl);
      expect(length(line)).toBeCloseTo(90, 3);
      const apart = Math.hypot(line.xs.at(-1)!, line.ys.at(-1)!);
      if (curl === 0) expect(apart).toBeCloseTo(90, 3);
      else expect(apart).toBeLessThan(88);
    }
  });

  test('is put with the middle of its box at a place', () => {
    const { xs, ys } = centred(fibre(engine.kernels, 3, { x: 5, y: 5, way: 1 }, 60, 0.6), 200, 100);
    expect((Math.max(...xs) + Math.min(...xs)) / 2).toBeCloseTo(200, 6);
    expect((Math.max(...ys) + Math.min(...ys)) / 2).toBeCloseTo(100, 6);
  });
});

test('specks are lognormal about their size, and no two alike', () => {
  const sizes = Array.from({ length: 300 }, (_, seed) => Math.sqrt(area(speck({ seed, x: 200, y: 200 }, 12, 0, engine.kernels.exp))));
  const logs = sizes.map(Math.log);
  expect(rms(logs)).toBeGreaterThan(0.4);
  expect(rms(logs)).toBeLessThan(0.75);
  expect(new Set(sizes).size).toBe(300);
  const sorted = [...sizes].sort((a, b) => a - b);
  // The side of a square of its area is a little less than a speck's width.
  expect(sorted[150]! / 12).toBeGreaterThan(0.6);
  expect(sorted[150]! / 12).toBeLessThan(1.2);
});

describe('patches', () => {
  test('are smooth, within -1 to 1, and have the RMS that traits reckon with', () => {
    const two = Array.from({ length: 40_000 }, (_, i) => clouds(11, (i % 200) * 0.37, Math.floor(i / 200) * 0.41, 2));
    expect(Math.max(...two.map(Math.abs))).toBeLessThanOrEqual(1);
    expect(rms(two)).toBeCloseTo(0.319, 1);
    for (let x = 0; x < 8; x += 0.01) expect(Math.abs(patches(5, x + 0.01, 1.3) - patches(5, x, 1.3))).toBeLessThan(0.04);
  });

  test('a plane of them holds what they are, up to what its grid loses', () => {
    const plane = new CloudPlane(engine, 200, 120);
    const at = plane.at(9, 40, 0.3, -0.7, 2);
    const values = engine.floats(at, 200 * 120);
    let worst = 0;
    for (let y = 0; y < 120; y += 7)
      for (let x = 0; x < 200; x += 7) worst = Math.max(worst, Math.abs(values[y * 200 + x]! - clouds(9, (x + 0.5) / 40 + 0.3, (y + 0.5) / 40 - 0.7, 2)));
    expect(worst).toBeLessThan(0.08);
    expect(plane.at(9, 40, 0.3, -0.7, 2)).toBe(at);
    plane.release();
  });
});
