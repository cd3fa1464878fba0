import { beforeAll, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { EMPTY_LOOK, type Look, type TraitUse } from '../look/look';
import { lookOf, newEngine } from '../testing';
import { traceSetting } from './trace';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});
const RATE = 24;
const all = Array.from({ length: 240 }, (_, n) => n);
const traced = (use: TraitUse, key: string, pictures = all): number[][] => traceSetting(engine, lookOf([use]), RATE, 0, 0, key, pictures).map((row) => [...row]);

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
  const [row] = traceSetting(engine, look, RATE, 0, 1, 'stops', all);
  expect(all.slice(1).filter((n) => row![n] === row![n - 1])).toHaveLength(60);
});

test('a setting that cannot move and a trait that is not there are refused by name', () => {
  expect(() => traced({ trait: 'dyes' }, 'stock')).toThrow('"stock" of dyes is no setting that moves');
  expect(() => traceSetting(engine, lookOf([]), RATE, 0, 0, 'stops', [0])).toThrow(RangeError);
});
