import { beforeEach, expect, jest, test } from '@jest/globals';
import { StockColour } from '../traits/stock/stock-colour';
import { lookOf, newEngine, randomFrame, RGB16, sameBits, wearFloat } from '../testing';
import { makeAhead } from './ahead';

const look = lookOf([{ trait: 'dyes', settings: { stock: 'sunreel' } }]);
const frame = randomFrame(48, 36, RGB16);
const cubes = jest.spyOn(StockColour.prototype, 'cube');
beforeEach(() => {
  cubes.mockClear();
});

test('what was made ahead is not made again by a plan, and its picture is the same', async () => {
  const [engine, other] = [await newEngine(), await newEngine()];
  makeAhead(engine, look);
  expect(cubes).toHaveBeenCalledTimes(1);
  const worn = wearFloat(engine, look, frame);
  expect(cubes).toHaveBeenCalledTimes(1);
  expect(sameBits(wearFloat(other, look, frame), worn)).toBe(true);
  expect(cubes).toHaveBeenCalledTimes(2);
});

test('a trait that is off makes nothing ahead', async () => {
  makeAhead(await newEngine(), lookOf([{ trait: 'dyes', settings: { stock: 'sunreel' }, on: false }]));
  expect(cubes).not.toHaveBeenCalled();
});
