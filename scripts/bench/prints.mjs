import { spawn, spawnSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MEASURED_LOOKS, table } from './clock.mjs';

/** Lengths of prints whose memory is measured, seconds. */
const LENGTHS = [10, 60, 600];

/** Pictures of a print, and how often each is struck and encoded again, in turns: a machine shared with others is slow by spells. */
const PICTURES = 120;
const ROUNDS = 3;

/** Each shipped look as a 1080p print against encoding that print once more from itself with the same settings. */
export async function measure({ core, media, root }) {
  const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-bench-'));
  const footage = await media.probe(join(root, 'demo/footage/1-arrival-at-dusk.mp4'));
  const lines = [];
  let memory;
  try {
    memory = [];
    for (const seconds of LENGTHS) memory.push(await mostMemory(root, folder, seconds));
    for (const { id, look } of core.shippedLooks.filter((shipped) => MEASURED_LOOKS.includes(shipped.id))) {
      const file = join(folder, `${id}.mp4`);
      const settings = media.codec({ coding: 'h264', width: footage.width, height: footage.height, file, encoding: media.encodingFor('h264', 8) });
      const turns = [];
      for (let round = 0; round < ROUNDS; round++) {
        const from = performance.now();
        await media.strike({ footage, look, file, container: 'mp4', to: PICTURES });
        const struck = performance.now();
        const run = spawnSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', '-i', file, ...settings, join(folder, 'again.mp4')], { encoding: 'utf8' });
        if (run.status !== 0) throw new Error(run.stderr);
        turns.push({ ours: (struck - from) / 1000, theirs: (performance.now() - struck) / 1000 });
      }
      const { ours, theirs } = turns.sort((a, b) => a.ours / a.theirs - b.ours / b.theirs)[(ROUNDS - 1) / 2];
      lines.push([id, ours.toFixed(1), theirs.toFixed(1), (ours / theirs).toFixed(2), (PICTURES / ours).toFixed(1)]);
    }
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
  return `## Prints\n\n${PICTURES} pictures of 1920x1080 as MP4 on all cores, against encoding the finished print once more with the same settings, which is the encoder’s own cost on worn pictures: the middle of ${ROUNDS} turns.\n\n${table(['look', 'print s', 'encoded again s', 'ratio', 'pictures a second'], lines)}\n\nMost memory of a print of ${LENGTHS.map((s, i) => `${s} s: ${memory[i]} MB`).join('; ')} (320x180, Home gauge, resident, the command line with its threads).\n`;
}

/** Megabytes that a print of some length takes at the most. */
export async function mostMemory(root, folder, seconds) {
  const clip = join(folder, `${seconds}.mp4`);
  spawnSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', `testsrc2=s=320x180:r=24:d=${seconds}`, '-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', clip]);
  const child = spawn(process.execPath, [join(root, 'cli/bin/tinghost.mjs'), 'render', '--in', clip, '--look', 'home-gauge', '--out', join(folder, `${seconds}-worn.mp4`)], {
    stdio: 'inherit',
  });
  let most = 0;
  const watch = setInterval(() => {
    const found = /VmHWM:\s+(\d+) kB/.exec(readFileSync(`/proc/${child.pid}/status`, 'utf8'));
    if (found) most = Number(found[1]);
  }, 100);
  const code = await new Promise((done) => child.once('exit', done));
  clearInterval(watch);
  if (code !== 0) throw new Error(`the print ended with ${code}`);
  return Math.round(most / 1024);
}
