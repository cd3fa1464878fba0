import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../../engine';
import { lookOf, mean, newEngine, signalFrame, wear } from '../../testing';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** Light of one column, top to bottom. */
function column(settings: Record<string, number>, width: number, height: number, level: number, n = 0): number[] {
  const [plane] = wear(engine, lookOf([{ trait: 'scanlines', settings }], 'none'), signalFrame('grey', width, height, level), n);
  return Array.from({ length: height }, (_, y) => plane![y * width + 3]! ** 2.4);
}

/** Amplitude and phase of the wave of `cycles` over the column, over its mean. */
function wave(values: number[], cycles: number): { depth: number; phase: number } {
  let [re, im] = [0, 0];
  values.forEach((v, y) => {
    const a = (2 * Math.PI * cycles * (y + 0.5)) / values.length;
    re += v * Math.cos(a);
    im += v * Math.sin(a);
  });
  return { depth: (2 * Math.hypot(re, im)) / values.length / mean(values), phase: Math.atan2(im, re) };
}

describe('scanlines', () => {
  test.each([540, 1080])('there are as many as set, at %d lines of picture', (height) => {
    const light = column({ lines: 120 }, 64, height, 0.4);
    const depths = Array.from({ length: 200 }, (_, i) => wave(light, i + 1).depth);
    expect(depths.indexOf(Math.max(...depths)) + 1).toBe(120);
  });

  test.each([540, 1080])('the beam has the width set, at %d lines of picture', (height) => {
    // A row of bells of sigma s has a fundamental of 2 exp(-2 pi^2 s^2), less what the pixel's own height takes.
    for (const width of [0.6, 0.9]) {
      const pixel = (Math.PI * 60) / height;
      const measured = wave(column({ lines: 60, width, widening: 0 }, 64, height, 0.4), 60).depth / (Math.sin(pixel) / pixel);
      const sigma = Math.sqrt(Math.log(2 / measured) / (2 * Math.PI ** 2));
      expect(sigma * 2.3548).toBeCloseTo(width, 2);
    }
  });

  test('bright lines are broader than dark ones and meet', () => {
    const depth = (level: number): number => wave(column({ lines: 60 }, 64, 540, level), 60).depth;
    expect(depth(0.2)).toBeGreaterThan(2 * depth(0.6));
    expect(depth(1)).toBeLessThan(0.08);
  });

  test('the mean light stays', () => {
    expect(mean(column({ lines: 60 }, 64, 540, 0.4))).toBeCloseTo(0.4 ** 2.4, 3);
  });

  test('locked lines stay where they are at any length; drifting ones move by lines a second', () => {
    const at = (drift: number, n: number): number => wave(column({ lines: 60, drift }, 64, 540, 0.4, n), 60).phase / (2 * Math.PI);
    expect(at(0, 1_000_000)).toBe(at(0, 0));
    // 0.25 lines a second over 24 pictures at 24 a second is a quarter of a line.
    expect((((at(0.25, 24) - at(0.25, 0)) % 1) + 1) % 1).toBeCloseTo(0.25, 3);
  });

  test('a picture too low for the lines shows none, not a false pattern', () => {
    const light = column({ lines: 480 }, 64, 540, 0.4);
    expect(Math.max(...light) - Math.min(...light)).toBeLessThan(1e-4);
  });
});
