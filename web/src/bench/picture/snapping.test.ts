import { expect, test } from '@jest/globals';
import { snapped, snapPlaces } from './snapping';

test('what comes near a third, the middle or an edge takes its place there, and the line is told', () => {
  expect(snapped(49.2, snapPlaces, 1)).toEqual({ value: 50, line: 50 });
  expect(snapped(33, snapPlaces, 1)).toEqual({ value: 100 / 3, line: 100 / 3 });
  expect(snapped(95.9, snapPlaces, 1)).toEqual({ value: 95, line: 95 });
  expect(snapped(40, snapPlaces, 1)).toEqual({ value: 40 });
  expect(snapped(50, snapPlaces, 0)).toEqual({ value: 50, line: 50 });
  expect(snapped(50.01, snapPlaces, 0)).toEqual({ value: 50.01 });
});
