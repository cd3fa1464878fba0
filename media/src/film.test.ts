/** Films of stills: each picture is the one that is rendered alone, whether it stands, moves or is worn. */
import { execFileSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { EMPTY_LOOK, type Look, type Preparation } from '@tin-ghost/core';
import type { Footage } from './footage';
import { renderFrame } from './frame';
import { probe } from './probe';
import { strike } from './strike';

let folder: string;
let still: Footage;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-film-'));
  const file = join(folder, 'still.png');
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=160x90', '-frames:v', '1', file]);
  still = await probe(file);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const worn: Look = { ...EMPTY_LOOK, lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }] }] };
const pan: Preparation = {
  moves: [
    { at: 0, x: 0.4, y: 0.5, scale: 2, turn: 0 },
    { at: 1, x: 0.6, y: 0.5, scale: 2, turn: 0 },
  ],
};

test.each([
  ['stands', EMPTY_LOOK, {}, 1],
  ['moves', EMPTY_LOOK, pan, 10],
  ['is worn', worn, {}, 10],
])('a still that %s', async (_, look, preparation, different) => {
  const out = await mkdtemp(join(folder, 'out-'));
  const pictures: Buffer[] = [];
  const onPicture = (planes: readonly Uint8Array[]): void => void pictures.push(Buffer.concat(planes));
  await strike({ footage: still, look, preparation, container: 'png', file: join(out, '%03d.png'), from: 3, to: 13, onPicture });
  expect(pictures).toHaveLength(10);
  expect(new Set(pictures.map((picture) => picture.toString('base64'))).size).toBe(different);
  for (const n of [3, 12]) expect(pictures[n - 3]!.equals(Buffer.concat(await renderFrame(still, look, n, { preparation })))).toBe(true);
});
