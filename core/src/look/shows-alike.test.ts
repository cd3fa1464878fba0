import { beforeAll, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { lookOf, newEngine, randomFrame, sameBits, wear, YUV420 } from '../testing';
import type { TraitUse } from './look';
import { showsAlike } from './shows-alike';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const grain: TraitUse = { trait: 'grain', settings: { rms: 20 } };
const weave: TraitUse = { trait: 'gate-weave', motions: { sideways: { motion: 'follow', of: 'exposure', gain: 1 } } };
const exposure = (amount: number): TraitUse => ({ trait: 'exposure', motions: { stops: { motion: 'wander', speeds: [{ amount, rate: 3 }] } } });
const dust = (count: number): TraitUse => ({ trait: 'dust', settings: { count } });
const off = (use: TraitUse): TraitUse => ({ ...use, on: false });

const frame = randomFrame(96, 72, YUV420);
/** Whether some pictures of two looks are the same in every bit. */
const samePictures = (a: TraitUse[], b: TraitUse[]): boolean => [0, 5, 17].every((n) => sameBits(wear(engine, lookOf(a), frame, n), wear(engine, lookOf(b), frame, n)));
const alike = (a: TraitUse[], b: TraitUse[]): boolean => showsAlike(lookOf(a), lookOf(b));

test('what is off may be set otherwise, and the pictures are the same', () => {
  const [few, many] = [
    [off(dust(2)), dust(30), grain],
    [off({ ...dust(40), blend: 'screen', when: [{ from: 0, to: 1 }] }), dust(30), grain],
  ];
  expect(alike(few, many)).toBe(true);
  expect(samePictures(few, many)).toBe(true);
});

test('so it is where another follows what is off: nothing moves it', () => {
  const [little, much] = [
    [off(exposure(0.2)), weave, grain],
    [off(exposure(3)), weave, grain],
  ];
  expect(alike(little, much)).toBe(true);
  expect(samePictures(little, much)).toBe(true);
  expect(samePictures([exposure(0.2), weave, grain], [exposure(3), weave, grain])).toBe(false);
});

test('what is on makes others', () => {
  expect(samePictures([dust(2), grain], [dust(40), grain])).toBe(false);
  expect(alike([dust(2), grain], [dust(40), grain])).toBe(false);
});

test('a use that is off keeps its place: the next of its trait is the second', () => {
  expect(samePictures([off(dust(2)), dust(40), grain], [dust(40), grain])).toBe(false);
  expect(alike([off(dust(2)), dust(40), grain], [dust(40), grain])).toBe(false);
  expect(alike([off(dust(2)), grain], [dust(2), grain])).toBe(false);
});
