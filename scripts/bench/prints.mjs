import { spawnSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { table } from './clock.mjs';

/** Each shipped look as a 1080p print against encoding that print once more from itself with the same settings. */
export async function measure({ core, media, root }) {
  const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-bench-'));
  const footage = await media.probe(join(root, 'demo/footage/1-arrival-at-dusk.mp4'));
  const lines = [];
  try {
    for (const { id, look } of core.shippedLooks) {
      const file = join(folder, `${id}.mp4`);
      const from = performance.now();
      await media.strike({ footage, look, file, container: 'mp4' });
      const ours = performance.now() - from;
      const settings = media.codec({ container: 'mp4', width: footage.width, height: footage.height, file, encoding: media.encodingFor('mp4', 8) });
      const again = performance.now();
      const run = spawnSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', '-i', file, ...settings, join(folder, 'again.mp4')], { encoding: 'utf8' });
      if (run.status !== 0) throw new Error(run.stderr);
      const theirs = performance.now() - again;
      lines.push([id, (ours / 1000).toFixed(1), (theirs / 1000).toFixed(1), (ours / theirs).toFixed(2), (footage.frames / (ours / 1000)).toFixed(1)]);
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
  return `## Prints\n\n${footage.frames} pictures of 1920x1080 as MP4 on all cores, against encoding the finished print once more with the same settings, which is the encoder’s own cost on worn pictures.\n\n${table(['look', 'print s', 'encoded again s', 'ratio', 'pictures a second'], lines)}\n`;
}
