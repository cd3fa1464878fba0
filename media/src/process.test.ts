import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@jest/globals';
import { FFMPEG, run } from './process';

test('a file that is left without its end is an error, though ffmpeg ends with 0', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-process-'));
  const made = (rate: number) =>
    run('ffmpeg', [...FFMPEG, '-f', 'lavfi', '-i', `testsrc2=s=96x96:r=${rate}`, '-frames:v', '3', '-timecode', '00:00:00:00', join(folder, 'film.mov')]);
  try {
    await made(25);
    // Timecode counts to 255 a second.
    await expect(made(300)).rejects.toThrow('its size or its kind cannot be worked on');
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});
