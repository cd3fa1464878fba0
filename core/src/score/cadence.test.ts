import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { EMPTY_LOOK, type Look, type TraitUse } from '../look/look';
import { shippedLooks } from '../looks';
import { countingOf, newEngine } from '../testing';
import { countPictures, heldPicture } from './cadence';
import { Plan } from '../plan/plan';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});
const lookOf = (...traits: TraitUse[]): Look => ({ ...EMPTY_LOOK, lives: [{ carrier: 'super8', traits }] });
const held = (look: Look, rate: number, count: number): number[] => Array.from({ length: count }, (_, n) => heldPicture(look, n, rate));
const at18: TraitUse = { trait: 'cadence', settings: { rate: 18 } };

describe('a picture that is held', () => {
  test('is the first of those that show the same picture of the carrier', () => {
    // Of four pictures three are taken: floor(n 18 / 24).
    expect(held(lookOf(at18, { trait: 'grain' }), 24, 9)).toEqual([0, 0, 2, 3, 4, 4, 6, 7, 8]);
    expect(new Set(held(lookOf(at18), 24, 240)).size).toBe(180);
    expect(held(lookOf({ trait: 'grain' }), 24, 5)).toEqual([0, 1, 2, 3, 4]);
    // Off, or faster than the file, it holds nothing.
    expect(held(lookOf({ ...at18, on: false }), 24, 5)).toEqual([0, 1, 2, 3, 4]);
    expect(held(lookOf(at18), 16, 5)).toEqual([0, 1, 2, 3, 4]);
  });

  test('is none where something on the screen goes on: a drift, a motion, a spell', () => {
    const all = [0, 1, 2, 3, 4];
    expect(held(lookOf(at18, { trait: 'scanlines' }), 24, 5)).toEqual(all);
    expect(held(lookOf(at18, { trait: 'gate-frame', motions: { across: { motion: 'jump', amount: 1 } } }), 24, 5)).toEqual(all);
    expect(held(lookOf(at18, { trait: 'gate-frame', when: [{ from: 0, to: 1, in: 1 }] }), 24, 5)).toEqual(all);
    expect(held(lookOf(at18, { trait: 'gate-frame' }), 24, 5)).not.toEqual(all);
    expect(held(lookOf(at18, { trait: 'scanlines', on: false }), 24, 5)).not.toEqual(all);
  });
});

test.each(shippedLooks.map(({ id, look }) => [id, look] as const))('%s: what is called held is the same bits', (_id, look) => {
  const encoding = { layout: 'rgb', bits: 8, subX: 0, subY: 0, matrix: 'bt709', range: 'full' } as const;
  const [width, height] = [64, 48];
  const source = { width, height, encoding };
  const plan = new Plan(engine, look, { source, target: source, rate: 25 });
  const frame = (n: number) => ({ ...source, planes: [0, 1, 2].map((p) => Uint8Array.from({ length: width * height }, (_, i) => (i * 7 + n * 31 + p * 50) % 256)) });
  const worn = (n: number): string =>
    plan
      .render(n, frame(countPictures(look, n, countingOf(look, 25)).source))
      .map((p) => Buffer.from(p).toString('base64'))
      .join();
  for (let n = 1; n < 14; n++) {
    const first = heldPicture(look, n, 25);
    if (first !== n) expect(worn(n)).toBe(worn(first));
  }
  plan.dispose();
});
