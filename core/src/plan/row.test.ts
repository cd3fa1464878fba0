/** One row of a picture alone is the row of the whole picture, and costs as little where nothing is done to it. */
import { beforeAll, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { Look } from '../look/look';
import { AS_SHOT, type Preparation } from '../shot/preparation';
import { lookOf, newEngine, randomFrame, YUV420 } from '../testing';
import { Plan } from './plan';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const shaped = (look: Look): Look => ({ ...look, shape: 'carrier' });
const LOOKS: [string, Look, Preparation][] = [
  ['unworn, in the file’s shape', lookOf([], 'vhs'), AS_SHOT],
  ['unworn, with bars at its sides', shaped(lookOf([], 'vhs')), AS_SHOT],
  ['unworn, framed', lookOf([]), { ...AS_SHOT, framing: { x: 0.45, y: 0.4, scale: 1.3, turn: 0 } }],
  ['unworn, turned', lookOf([]), { ...AS_SHOT, framing: { x: 0.5, y: 0.5, scale: 1.4, turn: 4 } }],
  ['unworn, in another light', lookOf([]), { ...AS_SHOT, primaries: 'bt2020' }],
  ['worn', lookOf([{ trait: 'gate-weave' }, { trait: 'grain' }]), AS_SHOT],
];

test.each(LOOKS)('%s', (_, look, preparation) => {
  for (const [width, height] of [
    [320, 180],
    [500, 700],
  ] as const) {
    const frames = [1, 2, 3].map((seed) => randomFrame(320, 180, YUV420, seed));
    const options = { source: frames[0]!, target: { width, height, encoding: 'rgba' }, rate: 24, preparation, bandRows: 8 } as const;
    const [whole, alone] = [new Plan(engine, look, options), new Plan(engine, look, options)];
    frames.forEach((frame, n) => {
      const [rgba] = whole.render(n, frame);
      // From one picture to the next upwards, downwards and in place.
      for (const y of [height >> 1, height - 1, 9, 0, 1 + (height >> 1), height - 1]) expect(alone.renderRow(n, frame, y)).toEqual(rgba!.slice(y * width * 4, (y + 1) * width * 4));
      // Nor does it leave anything behind for whole pictures.
      expect(alone.render(n, frame)).toEqual([rgba]);
    });
    whole.dispose();
    alone.dispose();
  }
});

test('goes through one band of many', () => {
  let asked = 0;
  const frame = randomFrame(320, 180, YUV420);
  const plan = new Plan(engine, lookOf([], 'vhs'), { source: frame, target: { width: 160, height: 90, encoding: 'rgba' }, rate: 24, bandRows: 4, clock: () => asked++ });
  plan.render(0, frame);
  const bands = Math.ceil(90 / 4);
  expect(asked).toBeGreaterThanOrEqual(2 * bands);
  const whole = asked;
  plan.renderRow(0, frame, 45);
  expect((asked - whole) * bands).toBe(whole);
  plan.dispose();
});

test.each([-1, 90, 4.5, NaN])('there is no row %d', (y) => {
  const frame = randomFrame(160, 90, YUV420);
  const plan = new Plan(engine, lookOf([]), { source: frame, target: { width: 160, height: 90, encoding: 'rgba' }, rate: 24 });
  expect(() => plan.renderRow(0, frame, y)).toThrow(`a picture of 90 rows has no row ${y}`);
  plan.dispose();
});
