import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { mean, newEngine, rms } from '../testing';
import { keyed, moved, type Motion } from './motion';
import { wander } from './wander';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** Share of the power of a signal sampled at `rate` that lies below `limit`, by a discrete Fourier transform. */
function powerBelow(samples: number[], rate: number, limit: number): number {
  let [below, all] = [0, 0];
  for (let k = 1; k < samples.length / 2; k++) {
    let [re, im] = [0, 0];
    samples.forEach((v, i) => {
      re += v * Math.cos((2 * Math.PI * k * i) / samples.length);
      im -= v * Math.sin((2 * Math.PI * k * i) / samples.length);
    });
    const power = re * re + im * im;
    all += power;
    if ((k * rate) / samples.length < limit) below += power;
  }
  return below / all;
}

const none = (): number => 0;
const at = (seconds: number, picture = Math.round(seconds * 24)) => ({ seconds, picture });

describe('wander', () => {
  test.each([0.5, 2, 8])('has zero mean, unit RMS and nothing above %d Hz', (rate) => {
    const samples = Array.from({ length: 4096 }, (_, i) => wander(engine.kernels, 7, (i / 4096) * (2000 / rate), rate));
    expect(Math.abs(mean(samples))).toBeLessThan(0.05);
    expect(rms(samples)).toBeGreaterThan(0.95);
    expect(rms(samples)).toBeLessThan(1.05);
    const fine = Array.from({ length: 1024 }, (_, i) => wander(engine.kernels, 7, (i / 16) * (1 / rate), rate));
    expect(powerBelow(fine, 16 * rate, 1.3 * rate)).toBeGreaterThan(0.97);
  });

  test('is smooth, and the same at a moment however one comes to it', () => {
    for (let t = 0; t < 20; t += 0.37) expect(Math.abs(wander(engine.kernels, 3, t + 1e-4, 1) - wander(engine.kernels, 3, t, 1))).toBeLessThan(2e-3);
    expect(wander(engine.kernels, 3, 3600.25, 1)).toBe(wander(engine.kernels, 3, 3600.25, 1));
    expect(wander(engine.kernels, 3, 1.5, 0)).toBe(0);
  });
});

describe('motions of a setting', () => {
  const move = (motion: Motion, seconds: number, picture?: number, part = 0): number => moved(engine.kernels, motion, 10, at(seconds, picture), 5, part, none);

  test('several wanders together have the RMS of their sum of squares', () => {
    const motion: Motion = {
      motion: 'wander',
      speeds: [
        { amount: 3, rate: 0.7 },
        { amount: 4, rate: 5 },
      ],
    };
    const samples = Array.from({ length: 6000 }, (_, i) => move(motion, i * 0.31));
    expect(mean(samples)).toBeCloseTo(10, 0);
    expect(rms(samples) / 5).toBeGreaterThan(0.95);
    expect(rms(samples) / 5).toBeLessThan(1.05);
  });

  test('a jump is new on each picture, even or bell-shaped, or at a rate', () => {
    const even = Array.from({ length: 4000 }, (_, n) => move({ motion: 'jump', amount: 2, spread: 'even' }, n / 24, n));
    expect(Math.max(...even)).toBeLessThanOrEqual(12);
    expect(Math.min(...even)).toBeGreaterThanOrEqual(8);
    expect(rms(even)).toBeCloseTo(2 / Math.sqrt(3), 1);
    const bell = Array.from({ length: 4000 }, (_, n) => move({ motion: 'jump', amount: 2 }, n / 24, n));
    expect(rms(bell)).toBeCloseTo(2, 1);
    const slow: Motion = { motion: 'jump', amount: 2, rate: 4 };
    expect(move(slow, 1.01)).toBe(move(slow, 1.24));
    expect(move(slow, 1.01)).not.toBe(move(slow, 1.26));
  });

  test('keys hold, go along lines or smoothly, rest before and after, and loop', () => {
    const keys = [
      { at: 1, value: 0, ease: 'line' as const },
      { at: 2, value: 4, ease: 'hold' as const },
      { at: 3, value: 1, ease: 'smooth' as const },
      { at: 5, value: 9 },
    ];
    const of = (t: number, loop?: number) => keyed(keys, t, 0, loop);
    expect([of(0), of(1.25), of(2), of(2.9), of(3), of(4), of(99)]).toEqual([0, 1, 4, 4, 1, 5, 9]);
    expect(of(7.25, 6)).toBe(1);
    expect(keyed([{ at: 0, value: [0.1, 0.2, 0.3] }], 5, 2)).toBe(0.3);
  });

  test('follow adds what the other does, with gain and delay', () => {
    const followed = moved(engine.kernels, { motion: 'follow', of: 'splices', gain: 2, delay: 0.5, decay: 0.25 }, 10, at(2), 1, 0, (of, delay, decay) => {
      expect([of, delay, decay]).toEqual(['splices', 0.5, 0.25]);
      return 0.75;
    });
    expect(followed).toBe(11.5);
  });
});
