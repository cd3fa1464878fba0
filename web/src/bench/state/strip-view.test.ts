import { beforeEach, expect, test } from '@jest/globals';
import { followOnStrip, scrollStrip, showStrip, useStripView, wholeStrip, zoomStrip } from './strip-view';

const seen = (): readonly [number, number] => {
  const { zoom, from } = useStripView.getState();
  return [from, from + 1 / zoom];
};
const hour = { frames: 90_000 };
beforeEach(wholeStrip);

test('what the pointer is on stays under it, whatever the size', () => {
  zoomStrip(hour, 10, 0.3);
  const at = (0.3 - seen()[0]) * useStripView.getState().zoom;
  expect(at).toBeCloseTo(0.3, 9);
  zoomStrip(hour, 7, 0.3);
  expect((0.3 - seen()[0]) * useStripView.getState().zoom).toBeCloseTo(0.3, 9);
});

test('never more than the shot, nor less than sixteen frames', () => {
  zoomStrip(hour, 0.1, 0.5);
  expect(seen()).toEqual([0, 1]);
  zoomStrip(hour, 1e9, 0.5);
  expect((seen()[1] - seen()[0]) * hour.frames).toBeCloseTo(16, 6);
  wholeStrip();
  zoomStrip({ frames: 1 }, 2, 0);
  expect(seen()).toEqual([0, 1]);
});

test('it scrolls by shares of what is seen and stops at both ends', () => {
  showStrip(hour.frames, 0.2, 0.4);
  scrollStrip(0.5);
  expect(seen()[0]).toBeCloseTo(0.3, 9);
  scrollStrip(50);
  expect(seen()[1]).toBeCloseTo(1, 9);
  scrollStrip(-50);
  expect(seen()[0]).toBe(0);
});

test('it turns when the playhead has run out of it, either way, and not before', () => {
  showStrip(hour.frames, 0.2, 0.3);
  followOnStrip(0.29);
  expect(seen()[0]).toBeCloseTo(0.2, 9);
  for (const share of [0.31, 0.1]) {
    followOnStrip(share);
    expect(seen()[0]).toBeLessThanOrEqual(share);
    expect(seen()[1]).toBeGreaterThanOrEqual(share);
    expect(seen()[1] - seen()[0]).toBeCloseTo(0.1, 9);
  }
});
