import { expect, test } from '@jest/globals';
import { rulerMarks, runsOf, snapped, takenPart } from './strip-places';

test('the part of the footage that the shot takes', () => {
  expect(takenPart(200, { preparation: {}, frames: 200 })).toEqual({ from: 0, to: 1 });
  expect(takenPart(200, { preparation: { trim: { from: 50, to: 150 } }, frames: 100 })).toEqual({ from: 0.25, to: 0.75 });
  // Half speed: twice as many pictures of the same part.
  expect(takenPart(200, { preparation: { trim: { from: 50, to: 150 }, speed: 0.5 }, frames: 200 })).toEqual({ from: 0.25, to: 0.75 });
  // Three times as fast, a rest of one picture is never shown.
  expect(takenPart(200, { preparation: { speed: 3 }, frames: 66 }).to).toBeCloseTo(0.99);
});

test('runs of pictures that are ready, whatever their order', () => {
  expect(runsOf(new Set([7, 2, 0, 1, 6]))).toEqual([
    { from: 0, to: 3 },
    { from: 6, to: 8 },
  ]);
  expect(runsOf(new Set())).toEqual([]);
});

test('a ruler is never crowded, and says frames where it shows them', () => {
  for (const [from, to] of [
    [0, 0.4],
    [3, 4],
    [0, 8],
    [10, 90],
    [0, 3600],
    [5400, 5500],
  ] as const) {
    const marks = rulerMarks(from, to, 25);
    expect(marks.length).toBeGreaterThanOrEqual(4);
    expect(marks.length).toBeLessThanOrEqual(15);
    expect(new Set(marks.map(({ text }) => text)).size).toBe(marks.length);
    for (const { seconds } of marks) expect(seconds >= from - 1e-9 && seconds < to).toBe(true);
  }
  expect(rulerMarks(0, 8, 25)[3]).toEqual({ seconds: 3, text: '3 s' });
  expect(rulerMarks(3, 3.4, 25).map(({ text }) => text)).toEqual(['3:00', '3:01', '3:02', '3:03', '3:04', '3:05', '3:06', '3:07', '3:08', '3:09']);
  expect(rulerMarks(3590, 3700, 25).map(({ text }) => text)).toContain('1:00:00');
});

test('the nearest mark holds what comes near it, and nothing else', () => {
  expect(snapped(1.02, [0, 1, 2], 0.01)).toBe(1);
  expect(snapped(1.08, [0, 1, 2], 0.01)).toBe(1.08);
  expect(snapped(0.52, [0.5, 0.53], 0.01)).toBe(0.53);
});
