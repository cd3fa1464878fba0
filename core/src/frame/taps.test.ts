/** The weights of filters, as they are before any picture. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { newEngine } from '../testing';
import { bellTaps, discTaps } from './blur';
import { cubicTaps, FLAT, flatTaps, NARROW } from './resample';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const sum = (values: ArrayLike<number>): number => Array.from(values).reduce((a, b) => a + b, 0);
/** Sum of the weights times a power of their distance from the middle. */
const moment = (taps: Float32Array, power: number): number => sum(taps.map((t, i) => t * (i - (taps.length - 1) / 2) ** power));

describe('a bell', () => {
  // Both sides of each width at which it is made another way.
  test.each([0.25, 0.4, 0.55, 0.69, 0.71, 0.8, 0.82, 0.92, 0.94, 1.07, 1.3, 1.64, 2.5])('of sigma %d sums to 1, is the same on both sides, and is as wide as it says', (sigma) => {
    const taps = bellTaps(sigma, engine.kernels.exp);
    expect(sum(taps)).toBeCloseTo(1, 5);
    expect(Array.from(taps).reverse()).toEqual(Array.from(taps));
    expect(Math.abs(Math.sqrt(moment(taps, 2)) / sigma - 1)).toBeLessThan(0.01);
    // Of a bell the fourth moment is three times the second's square.
    expect(moment(taps, 4) / (3 * moment(taps, 2) ** 2)).toBeGreaterThan(0.85);
    expect(moment(taps, 4) / (3 * moment(taps, 2) ** 2)).toBeLessThan(1.05);
  });

  test.each([0.4, 0.75, 0.82, 0.92, 1.05, 1.5])('of sigma %d lets through what a bell does at a quarter of the sampling rate and below', (sigma) => {
    const taps = bellTaps(sigma, engine.kernels.exp);
    for (const turn of [0.1, 0.3, 0.6, 1, Math.PI / 2]) {
      const through = sum(taps.map((t, i) => t * Math.cos(turn * (i - (taps.length - 1) / 2))));
      expect(Math.abs(through - Math.exp((-sigma * sigma * turn * turn) / 2))).toBeLessThan(0.025);
    }
  });

  test('narrower than a fifth of a pixel is left out', () => {
    expect(Array.from(bellTaps(0.19, engine.kernels.exp))).toEqual([1]);
  });

  test('grows without a leap', () => {
    let before = bellTaps(0.3, engine.kernels.exp);
    for (let sigma = 0.305; sigma < 2; sigma += 0.005) {
      const now = bellTaps(sigma, engine.kernels.exp);
      expect(Math.abs(now[(now.length - 1) / 2]! - before[(before.length - 1) / 2]!)).toBeLessThan(0.035);
      before = now;
    }
  });
});

describe('a disc', () => {
  test.each([0.8, 1.5, 3.3, 6])('of radius %d is even inside and nothing outside', (radius) => {
    const rows = discTaps(radius);
    const whole = rows.flatMap((row, y) => row.map((v, x) => ({ x, y, v })));
    expect(whole.reduce((all, { x, y, v }) => all + v * (x ? 2 : 1) * (y ? 2 : 1), 0)).toBeCloseTo(1, 6);
    const full = 1 / (Math.PI * radius * radius);
    for (const { x, y, v } of whole) {
      const [far, near] = [Math.hypot(x + 0.5, y + 0.5), Math.hypot(Math.max(0, x - 0.5), Math.max(0, y - 0.5))];
      if (far < radius) expect(v / full).toBeCloseTo(1, 1);
      if (near > radius) expect(v).toBe(0);
      expect(v).toBeLessThan(full * 1.06);
    }
  });
});

describe('taps of a resampling', () => {
  test('are one for samples that fall on those of the source, and take just those', () => {
    for (const [from, first] of [
      [0, 0],
      [3, 3],
      [-2, -2],
    ] as const) {
      const { taps, starts, weights } = cubicTaps(7, from, 1);
      expect(taps).toBe(1);
      expect(Array.from(starts)).toEqual([0, 1, 2, 3, 4, 5, 6].map((x) => x + first));
      expect(Array.from(weights)).toEqual(new Array(7).fill(1));
    }
  });

  test.each([
    ['flat', FLAT, 5.5, 0.1, 8, 42],
    ['narrow', NARROW, 3.6, 0.02, 9.5, 50],
  ] as const)('by a sinc, %s, leave what a line raster must keep and nothing of its mirror images', (_, window, kept, most, images, down) => {
    // A wave on the raster, made 64 times as fine: every phase of the filter.
    const FINE = 64;
    const { taps, starts, weights } = flatTaps(FINE, 0, 1 / FINE, engine.kernels.sin, window);
    /** What is left of a wave of so many MHz, in dB, at that frequency itself: of the filter's own response. */
    const response = (megahertz: number): number => {
      let sum = 0;
      for (let x = 0; x < FINE; x++)
        for (let k = 0; k < taps; k++) sum += weights[x * taps + k]! * Math.cos((2 * Math.PI * megahertz * (starts[x]! + k - ((x + 0.5) / FINE - 0.5))) / 13.5);
      return 20 * Math.log10(Math.abs(sum / FINE) + 1e-9);
    };
    for (let f = 0.1; f <= kept; f += 0.1) expect(Math.abs(response(f))).toBeLessThan(most);
    for (let f = images; f <= 27; f += 0.1) expect(response(f)).toBeLessThan(-down);
  });

  test('between two samples are the cubic’s four', () => {
    const { taps, starts, weights } = cubicTaps(1, 0.5, 1);
    expect([taps, starts[0]]).toEqual([4, -1]);
    [-0.0625, 0.5625, 0.5625, -0.0625].forEach((w, i) => expect(weights[i]).toBeCloseTo(w, 6));
  });

  test.each([
    [0.25, 1],
    [0, 2],
    [0.3, 2.7],
    [-1.2, 0.4],
    [0, 1 / 3],
    [5.5, 1],
  ])('from %d by %d sum to 1 and keep a ramp a ramp', (from, step) => {
    const { count, taps, starts, weights } = cubicTaps(20, from, step);
    for (let x = 0; x < count; x++) {
      const row = weights.subarray(x * taps, (x + 1) * taps);
      expect(sum(row)).toBeCloseTo(1, 5);
      const place = sum(row.map((w, k) => w * (starts[x]! + k + 0.5)));
      // Widened against aliasing and cut to whole samples, it may lean by a little.
      expect(Math.abs(place - (from + (x + 0.5) * step))).toBeLessThan(step > 1 ? 0.05 : 1e-4);
    }
  });
});
