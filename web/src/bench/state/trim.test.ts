import { expect, test } from '@jest/globals';
import { footageFrame, heldTrim } from './trim';

test('a frame of the shot is one of the footage by its trim and speed', () => {
  expect(footageFrame({}, 200, 60)).toBe(60);
  expect(footageFrame({ trim: { from: 20, to: 100 }, speed: 0.5 }, 200, 41)).toBe(40);
  expect(footageFrame({ speed: 2 }, 200, 100)).toBe(199);
});

test('a trim has one frame at least, lies within the footage, and is none where it is all of it', () => {
  expect(heldTrim(200, 50, 20)).toEqual({ from: 50, to: 51 });
  expect(heldTrim(200, 900, 901)).toEqual({ from: 199, to: 200 });
  expect(heldTrim(200, -5, 900)).toBeUndefined();
  expect(heldTrim(1, 3, 3)).toBeUndefined();
});
