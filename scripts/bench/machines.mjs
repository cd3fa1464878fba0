// Two workers against one, each on a core of its own, with one thread; and a print in segments against one made in a single go.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { startCluster } from '../cluster.mjs';
import { openApp } from '../../e2e/stage.mjs';
import { table } from './clock.mjs';

const ROUNDS = 3;
/** Of 8 s of film: four segments. */
const SLOWED = 0.25;
const FILE = 'demo/footage/1-arrival-at-dusk.mp4';
/** Pictures of the programs apart, at so many a second that the shot has them; their starts should not count for much. */
const APART = { pictures: 600, rate: 75 };
const SIZE = { width: 640, height: 360 };

export async function measure({ core, media, root }) {
  const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-bench-'));
  const cluster = await startCluster(join(folder, 'data'));
  process.env.TIN_GHOST_STRIKES = '0';
  const app = await openApp(cluster.adminUrl);
  const look = core.shippedLook('home-gauge');
  const send = (method, path, body) => app.api(path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  try {
    const [reel] = await app.api('/reels');
    const { id, revision } = await app.api(`/shots/${reel.shots[0].id}`);
    await send('PUT', `/shots/${id}/look`, { look, preparation: { speed: SLOWED }, revision });

    /** Seconds that workers, each held to a core, take for a print. */
    const struck = async (cores) => {
      const env = { ...process.env, DATABASE_URL: cluster.adminUrl, TIN_GHOST_MEDIA: app.media, TIN_GHOST_THREADS: '1' };
      const workers = cores.map((core) =>
        spawn('taskset', ['-c', String(core), process.execPath, join(root, 'server/dist/worker-main.mjs')], { env, stdio: ['ignore', 'pipe', 'inherit'] }),
      );
      await Promise.all(workers.map((worker) => once(worker.stdout, 'data')));
      const from = performance.now();
      const { id: print } = await send('POST', '/prints', { shotId: id, format: 'mp4', ...SIZE });
      while ((await app.api(`/prints/${print}`)).state !== 'done') await pause(100);
      const seconds = (performance.now() - from) / 1000;
      for (const worker of workers) {
        const gone = once(worker, 'exit');
        worker.kill();
        await gone;
      }
      return seconds;
    };
    /** Seconds that programs which know nothing of each other take, each for an equal share of the pictures, each held to a core. */
    const apart = async (cores) => {
      const from = performance.now();
      await Promise.all(
        cores.map(async (core, i) => {
          const share = [Math.round((i * APART.pictures) / cores.length), Math.round(((i + 1) * APART.pictures) / cores.length)];
          const args = [
            'render',
            '--in',
            join(root, FILE),
            '--look',
            'home-gauge',
            '--out',
            join(folder, `apart-${i}.mp4`),
            '--size',
            `${SIZE.width}x${SIZE.height}`,
            '--threads',
            '1',
          ];
          const range = ['--fps', String(APART.rate), '--from', String(share[0]), '--to', String(share[1])];
          const [code] = await once(spawn('taskset', ['-c', String(core), process.execPath, join(root, 'cli/bin/tinghost.mjs'), ...args, ...range], { stdio: 'ignore' }), 'exit');
          if (code !== 0) throw new Error(`the command line ended with ${code}`);
        }),
      );
      return (performance.now() - from) / 1000;
    };
    const turns = [];
    for (let round = 0; round < ROUNDS; round++) {
      const [one, two] = [await struck([0]), await struck([0, 1])];
      const programs = (await apart([0])) / (await apart([0, 1]));
      console.log(`  ${(one / two).toFixed(2)} times; programs apart ${programs.toFixed(2)}`);
      turns.push({ one, two, programs });
    }
    const { one, two, programs } = turns.sort((a, b) => a.one / a.two - b.one / b.two)[(ROUNDS - 1) / 2];
    const workers = ['one worker on one core', 'two, each on a core of its own'].map((what, i) => [what, [one, two][i].toFixed(1), (one / [one, two][i]).toFixed(2)]);

    const footage = await media.probe(join(root, FILE));
    const film = media.filmOf({ footage, look, preparation: { speed: SLOWED }, container: 'mp4', ...SIZE });
    const whole = async () => media.strike({ footage, look, preparation: { speed: SLOWED }, container: 'mp4', ...SIZE, file: join(folder, 'whole.mp4') });
    const segments = media.segmentsOf(film.frames, 25).map((segment, i) => ({ ...segment, file: join(folder, `segment-${i}`) }));
    const parts = async () => {
      const ended = [];
      for (const segment of segments) await new Promise((free) => ended.push(media.strikeSegment(film, segment, { file: segment.file, onRendered: free })));
      await Promise.all(ended);
      await media.joinSegments(film, { segments, file: join(folder, 'joined.mp4') });
    };
    const ratios = [];
    for (let round = 0; round < ROUNDS; round++) {
      const from = performance.now();
      await whole();
      const between = performance.now();
      await parts();
      ratios.push((performance.now() - between) / (between - from));
    }
    const ratio = ratios.sort((a, b) => a - b)[(ROUNDS - 1) / 2];
    return `## Machines\n\nA print of ${film.frames} pictures of ${SIZE.width}x${SIZE.height}, Home gauge, ${segments.length} segments, MP4, from its order to its end, server and database beside it on the same cores: the middle of ${ROUNDS} turns.\n\n${table(['who', 's', 'times one'], workers)}\n\nTwo programs that know nothing of each other, each on a core of its own with half of the pictures, were ${programs.toFixed(2)} times as fast as one in the same turn, their starts included.\n\nThe same on all cores, in segments and joined, takes ${ratio.toFixed(2)} times what it takes in one go.\n`;
  } finally {
    await app.close();
    await cluster.stop();
    await rm(folder, { recursive: true, force: true });
  }
}
