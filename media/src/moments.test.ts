/** Prints of looks that read more pictures than the one they show: every frame as it is alone. */
import { execFile } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { LOOK_SCHEMA, type Look, type TraitUse } from '@tin-ghost/core';
import { decode } from './decode';
import type { Footage } from './footage';
import { renderFrame } from './frame';
import { probe } from './probe';
import { strike } from './strike';

const run = promisify(execFile);
let folder: string;
let footage: Footage;

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-moments-'));
  const clip = join(folder, 'moving.mkv');
  await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=128x96:d=0.8:r=25', '-pix_fmt', 'gbrp', '-c:v', 'ffv1', clip]);
  footage = await probe(clip);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const lookOf = (...lives: { carrier: string; traits: TraitUse[] }[]): Look => ({ schema: LOOK_SCHEMA, shape: 'file', name: 'test', seed: 3, lives });

test.each([
  ['a tube that remembers', lookOf({ carrier: 'none', traits: [{ trait: 'phosphor', settings: { tube: 'green', green: 200 } }] })],
  ['fields between two frames', lookOf({ carrier: 'vhs', traits: [{ trait: 'interlace', settings: { moments: 'between' } }, { trait: 'tape-noise' }] })],
  [
    'film on tape on a tube',
    lookOf(
      { carrier: 'super8', traits: [{ trait: 'cadence' }, { trait: 'gate-weave' }] },
      { carrier: 'vhs625', traits: [{ trait: 'interlace' }] },
      {
        carrier: 'broadcast625',
        traits: [
          { trait: 'interlace', settings: { shown: 'turn' } },
          { trait: 'phosphor', settings: { green: 80 } },
        ],
      },
    ),
  ],
])('%s', async (_name, look) => {
  const file = join(folder, 'print.mkv');
  const struck = await strike({ footage, look, file, container: 'mkv', threads: 2, from: 3, to: 17 });
  expect(struck.frames).toBe(14);
  const print = await probe(file);
  const planes: Buffer[][] = [];
  for await (const frame of decode(print, { from: 0, to: 14 })) planes.push(frame.planes.map((p) => Buffer.from(p)));
  expect(planes).toHaveLength(14);
  for (const n of [3, 4, 9, 16]) {
    const alone = await renderFrame(footage, look, n);
    expect(alone.map((plane, i) => Buffer.from(plane).equals(planes[n - 3]![i]!))).toEqual([true, true, true]);
  }
  await rm(file);
});
