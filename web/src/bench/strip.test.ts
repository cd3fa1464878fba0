import { expect, test } from '@jest/globals';
import { runsOf } from './strip';

test('pictures that are ready become runs', () => {
  expect(runsOf(new Set())).toEqual([]);
  expect(runsOf(new Set([5, 3, 4, 9, 0]))).toEqual([
    { from: 0, to: 1 },
    { from: 3, to: 6 },
    { from: 9, to: 10 },
  ]);
});
