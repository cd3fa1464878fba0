import { expect, test } from '@jest/globals';
import { footagePicture, trimmed } from './trim';

test('the moment that is seen stays when the trim changes', () => {
  const whole = {};
  // Picture 60 of 200 is seen; the shot begins 20 later and ends at 100: it is its picture 40.
  expect(trimmed(whole, 200, { from: 20, to: 100 }, 60)).toEqual({ trim: { from: 20, to: 100 }, n: 40 });
  // Where it is cut away, the nearest that is left.
  expect(trimmed(whole, 200, { from: 90, to: 100 }, 60)).toEqual({ trim: { from: 90, to: 100 }, n: 0 });
  expect(trimmed(whole, 200, { from: 0, to: 30 }, 60)).toEqual({ trim: { from: 0, to: 30 }, n: 29 });
  const slow = { trim: { from: 20, to: 100 }, speed: 0.5 };
  expect(footagePicture(slow, 200, 41)).toBe(40);
  expect(trimmed(slow, 200, { from: 10, to: 100 }, 41)).toEqual({ trim: { from: 10, to: 100 }, n: 60 });
});

test('a trim has one picture at least, lies within the footage, and is none where it is all of it', () => {
  expect(trimmed({}, 200, { from: 50, to: 20 }, 0).trim).toEqual({ from: 50, to: 51 });
  expect(trimmed({}, 200, { from: -5, to: 900 }, 0).trim).toBeUndefined();
  expect(trimmed({}, 1, { from: 3, to: 3 }, 0)).toEqual({ trim: undefined, n: 0 });
});
