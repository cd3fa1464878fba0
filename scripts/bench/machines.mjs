// Two workers against one, each on a core of its own, with one thread; and a print in segments against one made in a single go.
import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { startCluster } from '../cluster.mjs';
import { openApp } from '../../e2e/stage.mjs';
import { middle, table } from './clock.mjs';

const ROUNDS = 3;
/** Of 8 s of film: four segments. */
const SLOWED = 0.25;
/** So many of it in a row are a film that nobody ends meanwhile. */
const IN_A_ROW = 40;
const FILE = 'demo/footage/1-arrival-at-dusk.mp4';
const LOOK = 'home-gauge';
const SIZE = { width: 640, height: 360 };

/** Who is at work in each part of a cycle, and for how long: workers and bare programs, by their cores. No worker stands still for so long that it would count as gone. */
const CYCLE = [
  { workers: [0], ms: 10_000 },
  { workers: [0, 1], ms: 10_000 },
  { workers: [1], ms: 10_000 },
  { workers: [0, 1], ms: 10_000 },
  { bare: [0], ms: 4000 },
  { bare: [0, 1], ms: 4000 },
  { workers: [0, 1], ms: 2000 },
  { bare: [1], ms: 4000 },
  { bare: [0, 1], ms: 4000 },
  { workers: [0, 1], ms: 2000 },
];
/** Parts that are counted: one of the two and both, of workers and of bare programs. */
const COUNTED = { workers: { one: [0, 2], two: [1, 3] }, bare: { one: [4, 7], two: [5, 8] } };
const CYCLES = 8;
const WARMING_MS = 20_000;

/** A program that is held to a core, with those it starts, and can be made to stand still. */
class Held {
  constructor(core, args, env) {
    this.child = spawn('taskset', ['-c', String(core), process.execPath, ...args], { env, stdio: ['ignore', 'pipe', 'inherit'], detached: true });
    this.said = 0;
    this.child.stdout.on('data', (bytes) => (this.said += bytes.length));
    this.begun = once(this.child.stdout, 'data');
  }

  signal(name) {
    process.kill(-this.child.pid, name);
  }

  async end() {
    const gone = once(this.child, 'exit');
    this.signal('SIGKILL');
    await gone;
  }
}

export async function measure({ core, media, root }) {
  const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-bench-'));
  const cluster = await startCluster(join(folder, 'data'));
  process.env.TIN_GHOST_STRIKES = '0';
  const app = await openApp(cluster.adminUrl);
  const look = core.shippedLook(LOOK);
  const send = (method, path, body) => app.api(path, { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  const held = { workers: [], bare: [] };
  try {
    const [reel] = await app.api('/reels');
    const { id, revision } = await app.api(`/shots/${reel.shots[0].id}`);
    await send('PUT', `/shots/${id}/look`, { look, preparation: { speed: SLOWED }, revision });
    const env = { ...process.env, DATABASE_URL: cluster.adminUrl, TIN_GHOST_MEDIA: app.media, TIN_GHOST_THREADS: '1' };
    held.workers = [0, 1].map((core) => new Held(core, [join(root, 'server/dist/worker-main.mjs')], env));
    held.bare = [0, 1].map((core) => new Held(core, [join(root, 'scripts/bench/wear-loop.mjs'), root, LOOK]));
    const all = [...held.workers, ...held.bare];
    await Promise.all(all.map(({ begun }) => begun));
    const { id: print } = await send('POST', '/prints', { shotId: id, following: Array(IN_A_ROW - 1).fill(id), format: 'mp4', ...SIZE });
    await pause(WARMING_MS);

    const counted = async ({ workers }) => (workers ? (await app.api(`/prints/${print}`)).done : held.bare.reduce((sum, { said }) => sum + said, 0));
    const rates = CYCLE.map(() => []);
    for (let cycle = 0; cycle < CYCLES; cycle++) {
      for (const [i, part] of CYCLE.entries()) {
        const at = [...(part.workers ?? []).map((n) => held.workers[n]), ...(part.bare ?? []).map((n) => held.bare[n])];
        for (const one of all) one.signal(at.includes(one) ? 'SIGCONT' : 'SIGSTOP');
        const [from, before] = [performance.now(), await counted(part)];
        await pause(part.ms);
        rates[i].push(((await counted(part)) - before) / (performance.now() - from));
      }
    }
    const { state } = await app.api(`/prints/${print}`);
    if (state !== 'striking') throw new Error(`the print is ${state} where it should be under way`);
    for (const one of all) await one.end();
    /** In each cycle, pictures a second: the mean of some of its parts. */
    const means = (parts) => Array.from({ length: CYCLES }, (_, cycle) => (1000 * parts.reduce((sum, i) => sum + rates[i][cycle], 0)) / parts.length);
    const rows = (who, parts) => {
      const [one, two] = [parts.one, parts.two].map((which) => middle(means(which)));
      return [
        [`one ${who} on one core (each of the two, in turn)`, one.toFixed(1), '1.00'],
        ['two, each on a core of its own', two.toFixed(1), (two / one).toFixed(2)],
      ];
    };
    const workers = [...rows('worker', COUNTED.workers), ...rows('program that only wears', COUNTED.bare)];

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
    return `## Machines\n\nPictures a second of a long print, ${SIZE.width}x${SIZE.height}, Home gauge, MP4, in segments, server and database beside it on the same cores; and of programs that do nothing but wear pictures of that size by that look, which is what the cores give at the most. All in turns of some seconds, ${CYCLES} times around, whose turn it is not standing still; the middle of what each time around gave.\n\n${table(['who', 'pictures a second', 'times one'], workers)}\n\n${film.frames} pictures on all cores, in segments and joined, take ${ratio.toFixed(2)} times what they take in one go.\n`;
  } finally {
    for (const one of [...held.workers, ...held.bare]) if (one.child.exitCode === null && one.child.signalCode === null) await one.end();
    await app.close();
    await cluster.stop();
    await rm(folder, { recursive: true, force: true });
  }
}
