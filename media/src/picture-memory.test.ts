import { expect, test } from '@jest/globals';
import { PictureMemory } from './picture-memory';

test('memory that was given back is taken again, once; the rest is new', () => {
  const memory = new PictureMemory(12);
  const [a, b] = [memory.take(), memory.take()];
  expect(a.length).toBe(12);
  expect(a.buffer).not.toBe(b.buffer);
  // Planes of one picture share its memory; said twice it is there once.
  expect(memory.give([a.subarray(0, 8), a.subarray(8)])).toBe(true);
  memory.give([a]);
  const again = [memory.take(), memory.take()];
  expect(again.map(({ buffer }) => buffer === a.buffer)).toEqual([true, false]);
  expect(again[0]).toHaveLength(12);
});

test('what is of another size, or was handed to another thread, is not', () => {
  const memory = new PictureMemory(12);
  const gone = memory.take();
  structuredClone(gone.buffer, { transfer: [gone.buffer] });
  expect(memory.give([gone])).toBe(false);
  expect(memory.give([new Uint8Array(16).subarray(0, 12)])).toBe(false);
  expect(memory.give([])).toBe(false);
  expect(memory.take().buffer.byteLength).toBe(12);
});

test('however many are given, no more are kept than a print has under way', () => {
  const memory = new PictureMemory(12);
  const given = Array.from({ length: 1000 }, () => new Uint8Array(12));
  for (const planes of given) memory.give([planes]);
  const known = new Set<ArrayBufferLike>(given.map(({ buffer }) => buffer));
  expect(given.filter(() => known.has(memory.take().buffer)).length).toBeLessThanOrEqual(32);
});
