import { describe, expect, test } from '@jest/globals';
import { secondsLeft } from './time-left';

describe('time left', () => {
  test('is told by what was done since it was first seen', () => {
    expect(secondsLeft({ at: 0, progress: 0 }, { at: 10_000, progress: 0.25 })).toBeCloseTo(30, 9);
    expect(secondsLeft({ at: 5000, progress: 0.5 }, { at: 15_000, progress: 0.75 })).toBeCloseTo(10, 9);
    expect(secondsLeft({ at: 0, progress: 0 }, { at: 4000, progress: 1 })).toBe(0);
  });

  test('is not told before it can be known, nor where it began anew', () => {
    expect(secondsLeft({ at: 0, progress: 0 }, { at: 20_000, progress: 0.01 })).toBeUndefined();
    expect(secondsLeft({ at: 0, progress: 0 }, { at: 500, progress: 0.5 })).toBeUndefined();
    expect(secondsLeft({ at: 0, progress: 0.6 }, { at: 9000, progress: 0.1 })).toBeUndefined();
  });
});
