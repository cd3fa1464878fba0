/** A card made from nothing, read back as footage is. */
import { mkdtemp, readdir, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { decode, probe, writeCard } from './index';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-cards-'));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

test.each([
  [25, 1, 4, 100],
  [24000, 1001, 4, 96],
  [120, 1, 0.5, 60],
  [12, 1, 0.5, 6],
])('at %i/%i for %d s has %i pictures, each in its time and the same to the bit: even from one colour to the other', async (num, den, seconds, frames) => {
  const file = join(folder, 'card.mkv');
  await writeCard({ upper: [1, 0.5, 0], lower: [0, 0.5, 1], seconds, width: 64, height: 36, rate: { num, den }, file });
  expect(await readdir(folder)).toEqual(['card.mkv']);
  const footage = await probe(file);
  expect(footage).toMatchObject({ width: 64, height: 36, frames });
  expect(footage.rate.num * den).toBe(num * footage.rate.den);
  const seen = new Set<string>();
  let count = 0;
  for await (const { planes } of decode(footage, { from: 0, to: frames })) {
    count++;
    seen.add(Buffer.concat(planes).toString('base64'));
  }
  expect([count, seen.size]).toEqual([frames, 1]);
  const codes = new Uint16Array(new Uint8Array(Buffer.from([...seen][0]!, 'base64')).buffer);
  const red = (row: number): number => codes[row * 64]!;
  expect([red(0), red(35)]).toEqual([65535, 0]);
  for (let row = 1; row < 36; row++) expect(Math.abs(red(row - 1) - red(row) - 65535 / 35)).toBeLessThan(1.01);
});
