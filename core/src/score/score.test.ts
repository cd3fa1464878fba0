import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { EMPTY_LOOK, type Look, type TraitUse } from '../look/look';
import { lookOf, newEngine } from '../testing';
import { Score, type Need, type ScoredShot } from './score';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});
const RATE = 24;
const all = Array.from({ length: 240 }, (_, n) => n);
const traced = (use: TraitUse, key: string, pictures = all): number[][] => new Score(engine, lookOf([use]), { rate: RATE }).trace(0, 0, key, pictures).map((row) => [...row]);

test('at rest a setting is what it is set to, or its default', () => {
  expect(new Set(traced({ trait: 'vignette', settings: { amount: 1.5 } }, 'amount')[0])).toEqual(new Set([1.5]));
  expect(traced({ trait: 'exposure' }, 'stops', [0, 9])).toEqual([[0, 0]]);
});

test('between keys it goes on as they say, and is held within what it may be', () => {
  const keys = [
    { at: 0, value: 0, ease: 'line' as const },
    { at: 2, value: 3, ease: 'hold' as const },
    { at: 4, value: -1 },
  ];
  const [row] = traced({ trait: 'exposure', motions: { stops: { motion: 'keys', keys } } }, 'stops');
  expect(row![24]).toBeCloseTo(1.5, 5);
  expect(row![48]).toBeCloseTo(3, 5);
  expect(row![95]).toBeCloseTo(3, 5);
  expect(row![96]).toBeCloseTo(-1, 5);
  const [wild] = traced({ trait: 'exposure', settings: { stops: 5 }, motions: { stops: { motion: 'jump', amount: 4 } } }, 'stops');
  expect(Math.max(...wild!)).toBe(6);
});

test('a wander has the RMS that is set, about the setting; a colour moves in each of its channels', () => {
  const many = Array.from({ length: 6000 }, (_, n) => n);
  const [row] = traced({ trait: 'exposure', settings: { stops: 1 }, motions: { stops: { motion: 'wander', speeds: [{ amount: 0.5, rate: 4 }] } } }, 'stops', many);
  const mean = row!.reduce((a, b) => a + b) / row!.length;
  const rms = Math.sqrt(row!.reduce((sum, v) => sum + (v - mean) ** 2, 0) / row!.length);
  expect(Math.abs(mean - 1)).toBeLessThan(0.05);
  expect(Math.abs(rms / 0.5 - 1)).toBeLessThan(0.1);
  const colours = traced({ trait: 'vignette', settings: { colour: [0.5, 0.5, 0.5] }, motions: { colour: { motion: 'jump', amount: 0.1 } } }, 'colour');
  expect(colours).toHaveLength(3);
  expect(colours[0]).not.toEqual(colours[1]);
});

test('what is held with the carrier is held here: at 18 in 24 a quarter of the pictures say what the one before said', () => {
  const look: Look = {
    ...EMPTY_LOOK,
    lives: [
      {
        carrier: 'super8',
        traits: [
          { trait: 'cadence', settings: { rate: 18 } },
          { trait: 'exposure', motions: { stops: { motion: 'jump', amount: 1 } } },
        ],
      },
    ],
  };
  const [row] = new Score(engine, look, { rate: RATE }).trace(0, 1, 'stops', all);
  expect(all.slice(1).filter((n) => row![n] === row![n - 1])).toHaveLength(60);
});

test('a setting that cannot move and a trait that is not there are refused by name', () => {
  expect(() => traced({ trait: 'dyes' }, 'stock')).toThrow('"stock" of dyes is no setting that moves');
  expect(() => new Score(engine, lookOf([]), { rate: RATE }).trace(0, 0, 'stops', [0])).toThrow(RangeError);
});

describe('what a picture of the file needs of the footage', () => {
  const score = (look: Look = EMPTY_LOOK): Score => new Score(engine, look, { rate: RATE });
  const shown = (of: Score, n: number, shot: Omit<ScoredShot, 'frames'>): unknown => of.needs(n, { frames: 240, ...shot }).map(({ picture, parts }) => [picture, parts]);

  test('the picture that stands at its moment, counted at another rate than the footage’s, for ever', () => {
    expect(shown(score(), 7, { step: [1, 1] })).toEqual([[7, [{ picture: 7, share: 1 }]]]);
    // 24 of the footage to 25 of the file; 23.976 to 59.94 over six hours of either.
    expect([24, 25, 26].map((n) => score().need(n, { frames: 240, step: [24, 25] }).parts[0]!.picture)).toEqual([23, 24, 24]);
    const long = { frames: 600_000, step: [24000 * 1001, 60000 * 1001] as const };
    expect([0, 1, 2, 3, 5].map((n) => score().need(1_294_700 + n, long).parts[0]!.picture - 517_880)).toEqual([0, 0, 0, 1, 2]);
  });

  test('after the shot’s end its last, within what was trimmed, and as slow as asked', () => {
    const preparation = { trim: { from: 10, to: 20 }, speed: 0.5 };
    expect([0, 1, 2, 19, 500].map((n) => score().need(n, { frames: 240, step: [1, 1], preparation }).parts[0]!.picture)).toEqual([10, 10, 11, 19, 19]);
    const [{ parts }] = score().needs(3, { frames: 240, step: [1, 1], preparation: { ...preparation, between: 'blend' } }) as [Need];
    expect(parts).toEqual([
      { picture: 11, share: 0.5 },
      { picture: 12, share: 0.5 },
    ]);
  });

  test('what is held, and held at which picture', () => {
    const look = lookOf([{ trait: 'cadence', settings: { rate: 12 } }]);
    expect([0, 1, 2, 3, 4].map((n) => score(look).held(n))).toEqual([0, 0, 2, 2, 4]);
    expect([0, 1, 2, 3, 4].map((n) => score(look).sourcePictures(n))).toEqual([[0], [0], [2], [2], [4]]);
  });

  test('takes no memory of the engine', () => {
    const before = engine.reservedBytes;
    const of = score(lookOf([{ trait: 'dust' }, { trait: 'grain' }, { trait: 'gate-weave' }]));
    of.needs(40, { frames: 240, step: [1, 1] });
    expect(of.events(0, 4).length).toBeGreaterThan(0);
    expect(engine.reservedBytes).toBe(before);
  });
});
