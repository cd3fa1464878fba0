import { beforeEach, expect, jest, test } from '@jest/globals';
import { forgetPlaying, keepWithin, moveMoments, setLoop, showFrame, tellReady, tellReport, usePlayback } from './playback';

beforeEach(() => {
  jest.useFakeTimers();
  forgetPlaying();
  jest.runAllTimers();
});

test('what is ready is told a few times a second, and then the newest', () => {
  let told = 0;
  const stop = usePlayback.subscribe(() => told++);
  for (let i = 1; i <= 100; i++) {
    tellReady(new Set(Array.from({ length: i }, (_, n) => n)));
    jest.advanceTimersByTime(10);
  }
  jest.runAllTimers();
  stop();
  expect(told).toBeGreaterThanOrEqual(3);
  expect(told).toBeLessThanOrEqual(5);
  expect(usePlayback.getState().ready.size).toBe(100);
});

test('what another shot told is forgotten, also what was still to be told', () => {
  tellReady(new Set([1, 2]));
  jest.runAllTimers();
  tellReport({ shown: 25, width: 960 });
  tellReady(new Set([1, 2, 3]));
  forgetPlaying();
  expect(usePlayback.getState()).toMatchObject({ ready: new Set(), report: null });
  jest.runAllTimers();
  expect(usePlayback.getState().ready.size).toBe(0);
  // The next shot is told as ever.
  tellReady(new Set([7]));
  jest.runAllTimers();
  expect([...usePlayback.getState().ready]).toEqual([7]);
});

test('with another trim the loop stays on its moments, and goes where nothing of it is left', () => {
  showFrame(60);
  setLoop({ from: 50, to: 80 });
  moveMoments((frame) => Math.max(0, frame - 40));
  expect(usePlayback.getState()).toMatchObject({ frame: 20, loop: { from: 10, to: 40 } });
  keepWithin({ frames: 30 });
  expect(usePlayback.getState()).toMatchObject({ frame: 20, loop: { from: 10, to: 30 } });
  keepWithin({ frames: 8 });
  expect(usePlayback.getState()).toMatchObject({ frame: 7, loop: null });
  setLoop({ from: 2, to: 6 });
  moveMoments(() => 0);
  expect(usePlayback.getState().loop).toBeNull();
});
