/** Counting against its plain twin. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { countPixels, newEngine } from '../testing';
import { COLUMNS, LEVELS, percentile, Scope } from './scope';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** Bytes that look random, opaque. */
function rgba(width: number, height: number, paint?: (i: number) => readonly [number, number, number]): Uint8Array {
  const out = new Uint8Array(width * height * 4);
  let h = 9;
  for (let i = 0; i < width * height; i++) {
    h = (Math.imul(h, 1664525) + 1013904223) >>> 0;
    out.set([...(paint?.(i) ?? [h >>> 24, (h >>> 16) & 255, (h >>> 8) & 255]), 255], i * 4);
  }
  return out;
}

const count = (pixels: Uint8Array, width: number, height: number) => countPixels(engine, pixels, width, height);

/** BT.709 luma and colour differences of 8-bit values, rounded as whole numbers. */
function differences(r: number, g: number, b: number): { y: number; cb: number; cr: number } {
  const y = Math.floor((13933 * r + 46871 * g + 4732 * b + 32768) / 65536);
  const scaled = (v: number, by: number): number => Math.min(255, 128 + Math.floor((v * by + 32768) / 65536));
  return { y, cb: scaled(b - y, 35318), cr: scaled(r - y, 41616) };
}

function plainly(pixels: Uint8Array, width: number, height: number) {
  const step = Math.max(1, Math.ceil(Math.sqrt((width * height) / 30_000)));
  const waves = [0, 1, 2, 3].map(() => new Array<number>(LEVELS * COLUMNS).fill(0));
  const vector = new Array<number>(LEVELS * LEVELS).fill(0);
  const bins = [0, 1, 2, 3].map(() => new Array<number>(256).fill(0));
  let counted = 0;
  for (let y = 0; y < height; y += step)
    for (let x = 0; x < width; x += step) {
      const [r, g, b] = pixels.subarray((y * width + x) * 4, (y * width + x) * 4 + 3);
      const d = differences(r!, g!, b!);
      const column = Math.floor((x * COLUMNS) / width);
      [d.y, r!, g!, b!].forEach((v, i) => {
        waves[i]![((255 - v) >> 1) * COLUMNS + column]!++;
        bins[i]![v]!++;
      });
      vector[((255 - d.cr) >> 1) * LEVELS + (d.cb >> 1)]!++;
      counted++;
    }
  return { waves, vector, bins, counted };
}

describe.each([
  [40, 30],
  [128, 7],
  [333, 101],
  [640, 360],
])('a picture of %d x %d', (width, height) => {
  test('is counted as by hand: waveforms, vector and histograms', () => {
    const pixels = rgba(width, height);
    const got = count(pixels, width, height);
    const wanted = plainly(pixels, width, height);
    expect(got.pixels).toBe(wanted.counted);
    got.waves.forEach((wave, i) => expect(Array.from(wave)).toEqual(wanted.waves[i]!.map((n) => Math.min(255, n))));
    expect(Array.from(got.vector)).toEqual(wanted.vector.map((n) => Math.min(255, n)));
    got.bins.forEach((bins, i) => expect(Array.from(bins)).toEqual(wanted.bins[i]));
  });
});

test('a place that holds all pixels is held at 255, and its histogram counts them all', () => {
  const got = count(
    rgba(200, 150, () => [255, 255, 255]),
    200,
    150,
  );
  expect(got.pixels).toBe(30_000);
  expect(Array.from(got.waves[0].subarray(0, COLUMNS))).toEqual(new Array(COLUMNS).fill(234).map((_, c) => Math.min(255, wide(c) * 150)));
  expect(Math.max(...got.vector)).toBe(255);
  expect(got.bins[0][255]).toBe(30_000);
  expect(percentile(got.bins[0], 0.5)).toBeGreaterThan(0.99);
  function wide(column: number): number {
    return Array.from({ length: 200 }, (_, x) => Math.floor((x * COLUMNS) / 200)).filter((c) => c === column).length;
  }
});

test('one picture after another leaves nothing of the first', () => {
  const scope = new Scope(engine);
  const at = engine.allocate(64 * 64 * 4);
  engine.bytes(at, 64 * 64 * 4).set(rgba(64, 64));
  scope.count(at, 64, 64);
  engine.bytes(at, 64 * 64 * 4).set(rgba(64, 64, () => [10, 10, 10]));
  const { waves, bins } = scope.count(at, 64, 64);
  expect(bins[1].reduce((all, n, level) => all + (level === 10 ? 0 : n), 0)).toBe(0);
  expect(waves[2].reduce((all, n, i) => all + (Math.floor(i / COLUMNS) === (255 - 10) >> 1 ? 0 : n), 0)).toBe(0);
  engine.release(at);
  scope.release();
});
