import { expect, test } from '@jest/globals';
import { COLUMNS, LEVELS, type Counts } from '@tin-ghost/core';
import { scopeBuffers, scopeData } from './scope-data';

const bins = (at: Record<number, number>): Uint32Array => Object.entries(at).reduce((all, [level, n]) => ((all[Number(level)] = n), all), new Uint32Array(256));

function counts(luma: Uint32Array): Counts {
  const plane = (): Uint8Array => new Uint8Array(LEVELS * COLUMNS);
  return { waves: [plane(), plane(), plane(), plane()], vector: new Uint8Array(LEVELS * LEVELS), bins: [luma, bins({ 0: 90, 10: 10 }), bins({ 255: 100 }), bins({})], pixels: 100 };
}

test('a histogram is drawn to its highest level between the ends; what is clipped at an end does not press it flat', () => {
  const { bins: drawn } = scopeData(counts(bins({ 0: 900, 20: 40, 21: 20, 255: 50 })), { below: 0, above: 0 });
  const [luma, red, green, blue] = drawn;
  expect([luma![0], luma![20], luma![21], luma![22], luma![255]]).toEqual([1, 1, 0.5, 0, 1]);
  expect([red![0], red![10]]).toEqual([1, 1]);
  // A picture that is clipped whole, and one that has nothing: no division by nothing.
  expect([green![255], green![254]]).toEqual([1, 0]);
  expect(blue!.every((v) => v === 0)).toBe(true);
});

test('readings are the levels below which 1, 50 and 99 of a hundred lie', () => {
  const { low, median, high, below, above, pixels } = scopeData(counts(bins({ 26: 2, 128: 96, 230: 2 })), { below: 0.25, above: 0.5 });
  expect(Math.abs(low - 26 / 255)).toBeLessThan(0.5 / 255);
  expect(Math.abs(median - 128 / 255)).toBeLessThan(0.5 / 255);
  expect(Math.abs(high - 230 / 255)).toBeLessThan(0.5 / 255);
  expect([below, above, pixels]).toEqual([0.25, 0.5, 100]);
});

test('all its memory can be handed over at once: nothing shares a buffer', () => {
  const data = scopeData(counts(bins({ 1: 1 })), { below: 0, above: 0 });
  const buffers = scopeBuffers(data);
  expect(buffers).toHaveLength(9);
  expect(new Set(buffers).size).toBe(9);
  const moved = structuredClone(data, { transfer: buffers });
  expect(moved.bins[0]![1]).toBe(1);
  expect(data.vector.byteLength).toBe(0);
});
