import { expect, test } from '@jest/globals';
import { timecode, typedFrame } from './footage';

test('a time code that is typed is the frame that shows it', () => {
  for (const rate of [24, 25, 30000 / 1001]) for (const frame of [0, 7, 75, 1800, 90_123, 500_000]) expect(typedFrame(timecode(frame, rate), rate, 0)).toBe(frame);
});

test('parts may be left out, digits go in pairs, seconds are seconds', () => {
  const typed = (text: string): number | undefined => typedFrame(text, 25, 100);
  expect(typed('3:12')).toBe(87);
  expect(typed('312')).toBe(87);
  expect(typed('12')).toBe(12);
  expect(typed(' 1:00:00 ')).toBe(1500);
  expect(typed('2.5 s')).toBe(63);
  expect(typed('3s')).toBe(75);
  expect(typed('+10')).toBe(110);
  expect(typed('+30')).toBe(130);
  expect(typed('-1:00')).toBe(75);
  expect(typed('-2 s')).toBe(50);
});

test('what means no frame is none', () => {
  for (const text of ['', 'abc', '1:2:3:4:5', '12:', ':', '+', '1e9', '999999999']) expect(typedFrame(text, 25, 0)).toBeUndefined();
});
