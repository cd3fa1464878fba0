/** Motes counted and measured on black, as light, at two sizes of picture. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../../engine';
import type { TraitUse } from '../../look/look';
import { Score } from '../../score/score';
import { light, lookOf, mean, newEngine, painted, wearFloat } from '../../testing';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const { abs, floor, max, sqrt } = Math;
const RATE = 24;
const motes = (settings: TraitUse['settings'], more: Partial<TraitUse> = {}): TraitUse => ({ trait: 'motes', settings, ...more });
/** One in the middle, from its first picture on, alone. */
const alone = (settings: TraitUse['settings']): TraitUse =>
  motes({ count: 0.0001, depth: 0, swirl: 0, twinkle: 0, ...settings }, { events: { pinned: [{ id: 'mine', at: 0, x: 0.5, y: 0.5, length: 4 }] } });
const worn = (use: TraitUse, height: number, n: number): Float32Array =>
  wearFloat(
    engine,
    lookOf([use], 'none'),
    painted((height * 16) / 9, height, () => 0),
    n,
    RATE,
  )[1]!.map(light);

/** Width at half the brightness, and the middle, of what shines. */
function measured(plane: Float32Array, width: number): { wide: number; x: number; y: number; peak: number } {
  const peak = plane.reduce((a, b) => max(a, b), 0);
  let [sum, x, y] = [0, 0, 0];
  plane.forEach((v, i) => {
    sum += v;
    x += v * ((i % width) + 0.5);
    y += v * (floor(i / width) + 0.5);
  });
  [x, y] = [x / sum, y / sum];
  const row = plane.subarray(floor(y) * width, (floor(y) + 1) * width);
  const passes: number[] = [];
  for (let i = 1; i < width; i++) if (row[i - 1]! < peak / 2 !== row[i]! < peak / 2) passes.push(i - 1 + (peak / 2 - row[i - 1]!) / (row[i]! - row[i - 1]!));
  return { wide: passes.at(-1)! - passes[0]!, x, y, peak };
}

test.each([10, 60, 300])('%d in the picture are so many on the mean', (count) => {
  const look = lookOf([motes({ count })], 'none');
  const score = new Score(engine, look, { rate: RATE });
  const seen = Array.from({ length: 40 }, (_, i) => score.at(240 + i * 97).live[0]!.events.length);
  // Of a Poisson count, whose mean of 40 falls within three of its sigmas.
  expect(abs(mean(seen) / count - 1)).toBeLessThan(3 / sqrt(40 * count) + 0.02);
});

describe.each([540, 1080])('at %d lines', (height) => {
  const width = (height * 16) / 9;
  test.each([1, 4])('one of %d % H is so wide at half its brightness, as bright as set', (size) => {
    const { wide, x, y, peak } = measured(worn(alone({ size, amount: 1, colour: [1, 1, 1] }), height, 48), width);
    expect(wide / ((size / 100) * height)).toBeGreaterThan(0.97);
    expect(wide / ((size / 100) * height)).toBeLessThan(1.03);
    expect(x / width).toBeCloseTo(0.5, 3);
    expect(y / height).toBeCloseTo(0.5, 3);
    expect(peak / (2 * 0.18)).toBeGreaterThan(0.9);
    expect(peak / (2 * 0.18)).toBeLessThan(1.1);
  });

  test('drifts so far in a second, the way it is told', () => {
    const use = alone({ size: 2, drift: 12, way: 30 });
    const [a, b] = [36, 60].map((n) => measured(worn(use, height, n), width));
    const [dx, dy] = [(b!.x - a!.x) / height, (b!.y - a!.y) / height];
    expect(sqrt(dx * dx + dy * dy)).toBeCloseTo(0.12, 3);
    expect((Math.atan2(dy, dx) * 180) / Math.PI).toBeCloseTo(30, 0);
  });
});

test('twinkling takes as much light away as set, at the most', () => {
  const peaks = (twinkle: number): number[] => Array.from({ length: 50 }, (_, n) => measured(worn(alone({ size: 4, twinkle }), 270, 20 + n), 480).peak);
  const [still, half] = [peaks(0), peaks(0.5)];
  const ratios = half.map((v, i) => v / still[i]!);
  expect(Math.min(...ratios)).toBeGreaterThan(0.49);
  expect(Math.min(...ratios)).toBeLessThan(0.75);
  expect(Math.max(...ratios)).toBeLessThan(1.001);
});

test('near ones are larger: at a depth of 1 the widths reach from a quarter to four times, without it all are alike', () => {
  const widths = (depth: number): number[] =>
    Array.from({ length: 30 }, (_, i) => {
      const use = motes(
        { count: 0.0001, depth, swirl: 0, twinkle: 0, drift: 0, size: 3, amount: 3 },
        { seed: i, events: { pinned: [{ id: `mote ${i}`, at: 0, x: 0.5, y: 0.5, length: 4 }] } },
      );
      return measured(worn(use, 270, 48), 480).wide / (0.03 * 270);
    });
  const even = widths(0);
  const deep = widths(1);
  expect(Math.max(...even) - Math.min(...even)).toBeLessThan(0.05);
  expect(Math.min(...deep)).toBeLessThan(0.45);
  expect(Math.min(...deep)).toBeGreaterThan(0.24);
  expect(Math.max(...deep)).toBeGreaterThan(2.2);
  expect(Math.max(...deep)).toBeLessThan(4.1);
});
