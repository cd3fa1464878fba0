import { expect, test } from '@jest/globals';
import { runsOf, takenPart } from './strip-places';

test('pictures that are ready become runs', () => {
  expect(runsOf(new Set())).toEqual([]);
  expect(runsOf(new Set([5, 3, 4, 9, 0]))).toEqual([
    { from: 0, to: 1 },
    { from: 3, to: 6 },
    { from: 9, to: 10 },
  ]);
});

test('a trimmed shot shows its part of the footage over the whole strip', () => {
  expect(takenPart(200, { preparation: {}, frames: 200 })).toEqual({ left: '0%', width: '100%' });
  expect(takenPart(200, { preparation: { trim: { from: 50, to: 100 } }, frames: 50 })).toEqual({ left: '-100%', width: '400%' });
  expect(takenPart(200, { preparation: { trim: { from: 50, to: 100 }, speed: 0.5 }, frames: 100 })).toEqual({ left: '-100%', width: '400%' });
});
