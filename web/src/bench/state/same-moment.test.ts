import { describe, expect, test } from '@jest/globals';
import { sameMoment } from './same-moment';

describe('the playhead', () => {
  test('stays on the same frame of the footage when what is taken of it changes', () => {
    expect(sameMoment({}, { trim: { from: 20, to: 90 } }, 50)).toBe(30);
    expect(sameMoment({ trim: { from: 20, to: 90 } }, {}, 30)).toBe(50);
    expect(sameMoment({ trim: { from: 20, to: 90 } }, { trim: { from: 20, to: 60 } }, 12)).toBe(12);
  });

  test('stays on it when its speed changes', () => {
    expect(sameMoment({}, { speed: 0.5 }, 40)).toBe(80);
    expect(sameMoment({ speed: 0.5, trim: { from: 10, to: 50 } }, { speed: 2, trim: { from: 10, to: 50 } }, 40)).toBe(10);
  });

  test('goes to the first frame where its moment is no longer taken', () => {
    expect(sameMoment({}, { trim: { from: 60, to: 90 } }, 50)).toBe(0);
  });
});
