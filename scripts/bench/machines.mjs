// Two workers against one, each on a core of its own, with one thread; and a print in segments against one made in a single go.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { text } from 'node:stream/consumers';
import { setTimeout as pause } from 'node:timers/promises';
import { startCluster } from '../cluster.mjs';
import { openApp } from '../../e2e/stage.mjs';
import { table } from './clock.mjs';

const ROUNDS = 3;
/** Of 8 s of film: four segments. */
const SLOWED = 0.25;
/** So many of it in a row are a film of twelve. */
const IN_A_ROW = 3;
const FILE = 'demo/footage/1-arrival-at-dusk.mp4';
const LOOK = 'home-gauge';
const SIZE = { width: 640, height: 360 };

export async function measure({ core, media, root }) {
  const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-bench-'));
  const cluster = await startCluster(join(folder, 'data'));
  process.env.TIN_GHOST_STRIKES = '0';
  const app = await openApp(cluster.adminUrl);
  const look = core.shippedLook(LOOK);
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
      const { id: print } = await send('POST', '/prints', { shotId: id, following: Array(IN_A_ROW - 1).fill(id), format: 'mp4', ...SIZE });
      while ((await app.api(`/prints/${print}`)).state !== 'done') await pause(100);
      const seconds = (performance.now() - from) / 1000;
      for (const worker of workers) {
        const gone = once(worker, 'exit');
        worker.kill();
        await gone;
      }
      return seconds;
    };
    /** Pictures a second that programs which only wear pictures make together, each held to a core: what the cores give at the most. */
    const bare = async (cores) => {
      const rates = cores.map(async (core) => {
        const loop = spawn('taskset', ['-c', String(core), process.execPath, join(root, 'scripts/bench/wear-loop.mjs'), root, LOOK], { stdio: ['ignore', 'pipe', 'inherit'] });
        return Number(await text(loop.stdout));
      });
      return (await Promise.all(rates)).reduce((sum, rate) => sum + rate);
    };
    const turns = [];
    for (let round = 0; round < ROUNDS; round++) {
      turns.push({ one: await struck([0]), two: await struck([0, 1]), rate: await bare([0]), rates: await bare([0, 1]) });
      console.log(
        `  ${Object.entries(turns.at(-1))
          .map(([what, n]) => `${what} ${n.toFixed(1)}`)
          .join(', ')}`,
      );
    }
    const [one, two] = ['one', 'two'].map((who) => Math.min(...turns.map((turn) => turn[who])));
    const most = Math.max(...turns.map(({ rates }) => rates)) / Math.max(...turns.map(({ rate }) => rate));
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
    return `## Machines\n\nA print of ${IN_A_ROW * film.frames} pictures of ${SIZE.width}x${SIZE.height}, Home gauge, ${IN_A_ROW * segments.length} segments, MP4, from its order to its end, server and database beside it on the same cores: the best of ${ROUNDS} turns each.\n\n${table(['who', 's', 'times one'], workers)}\n\nTwo programs that only wear pictures of that size by that look, each on a core of its own, made ${most.toFixed(2)} times as many a second as one (the best of the same turns): more these two cores do not give.\n\n${film.frames} of them on all cores, in segments and joined, takes ${ratio.toFixed(2)} times what it takes in one go.\n`;
  } finally {
    await app.close();
    await cluster.stop();
    await rm(folder, { recursive: true, force: true });
  }
}
