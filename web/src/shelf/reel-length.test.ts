import { expect, test } from '@jest/globals';
import type { Footage } from '@tin-ghost/contract';
import { reelLength } from './reel-length';

const footage = { rate: { num: 25, den: 1 } } as unknown as Footage;
const ready = (frames: number) => ({ frames, medium: { state: 'ready', footage } as const });

test('shots one after another, in minutes and seconds', () => {
  expect(reelLength([ready(25 * 8), ready(25 * 4)])).toBe('0:12');
  expect(reelLength([ready(25 * 61)])).toBe('1:01');
  expect(reelLength([])).toBe('0:00');
});

test('what lacks a fraction of a minute is a minute, not sixty seconds', () => {
  expect(reelLength([ready(25 * 60 - 5)])).toBe('1:00');
});

test('no length while one is still being imported; a file that cannot be read takes no time', () => {
  expect(reelLength([ready(50), { frames: null, medium: { state: 'working', footage: null } }])).toBeNull();
  expect(reelLength([ready(50), { frames: null, medium: { state: 'failed', footage: null } }])).toBe('0:02');
});
