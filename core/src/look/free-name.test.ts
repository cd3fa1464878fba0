import { expect, test } from '@jest/globals';
import { freeName } from './free-name';

test('a name that is taken gets the least number that is free; one that is not stays, also with a number of its own', () => {
  const taken = new Set(['Reel', 'Reel 2', 'Take 7']);
  expect(['Reel', 'Reel 2', 'Tape', 'Take 7', 'Reel 9'].map((name) => freeName(name, taken))).toEqual(['Reel 3', 'Reel 3', 'Tape', 'Take 2', 'Reel 9']);
  expect(freeName('x'.repeat(160), new Set(['x'.repeat(160)])).length).toBeLessThanOrEqual(160);
});
