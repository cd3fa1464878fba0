/**
 * Prints made by several processes with folders of their own, through a bucket, while workers are killed, cut off and paused, and database and store go
 * away. Whatever happens, the print is the one that is made in a single go, and nothing is left over.
 */
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import S3rver from 's3rver';
import { afterAll, afterEach, beforeAll, expect, test } from '@jest/globals';
import { LOOK_SCHEMA, type Look } from '@tin-ghost/core';
import { probe, strike } from '@tin-ghost/media';
import { engineOf } from './jobs/engine-fact';
import { connect } from './db/client';
import { Bucket } from './store/bucket';
import { startWorker } from './worker';
import { TestServer, type Answer } from './testing';

const PROGRAM = fileURLToPath(new URL('../dist/worker-main.mjs', import.meta.url));
const SECONDS = 32;
const FPS = 12;
const look: Look = { schema: LOOK_SCHEMA, shape: 'file', name: 'Worn', seed: 9, lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }, { trait: 'dust' }] }] };

let folder: string;
let bucketPort: number;
let bucket: S3rver;
let under: TestServer;
let shot: string;
/** Hashes of the pictures of the print made in one go. */
let whole: string[];

const openBucket = async (): Promise<void> => {
  bucket = new S3rver({ address: '127.0.0.1', port: bucketPort, silent: true, directory: join(folder, 'bucket'), configureBuckets: [{ name: 'tram', configs: [] }] });
  await bucket.run();
};

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-workers-'));
  const probing = createServer().listen(0, '127.0.0.1');
  await once(probing, 'listening');
  bucketPort = (probing.address() as AddressInfo).port;
  probing.close();
  await openBucket();
  // The stand-in's keys.
  Object.assign(process.env, { AWS_ACCESS_KEY_ID: 'S3RVER', AWS_SECRET_ACCESS_KEY: 'S3RVER' });
  under = new TestServer(`workers_test_${process.pid}`, { strikes: false, bucket: storeAddress() });
  await under.up();
  const reel = await under.newReel();
  await under.send(await under.clip(['-f', 'lavfi', '-i', `testsrc2=s=160x90:r=${FPS}:d=${SECONDS}`, '-f', 'lavfi', '-i', `sine=d=${SECONDS}`, '-shortest'], 'night.mp4'), {
    filename: 'night.mp4',
    reel,
  });
  [{ id: shot }] = (await under.settled(reel)) as [{ id: string }];
  await under.call('PUT', `/shots/${shot}/look`, { look, revision: 0 });
  const file = join(folder, 'whole.mkv');
  await strike({ footage: await probe(join(under.folder, 'night.mp4'), 'night.mp4'), look, container: 'mkv', file });
  whole = hashesOf(file);
  expect(new Set(whole).size).toBeGreaterThan(100);
}, 180_000);

afterEach(async () => {
  await Promise.all([...running].map((worker) => end(worker)));
});

afterAll(async () => {
  await under.down();
  await bucket.close();
  await rm(folder, { recursive: true, force: true });
});

const storeAddress = (): string => `s3://tram/line-14?endpoint=http://127.0.0.1:${bucketPort}`;

const hashesOf = (file: string): string[] =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', '0', '-f', 'framemd5', '-'], { encoding: 'utf8', maxBuffer: 1e8 })
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => `${line.split(',')[0]} ${line.split(',').at(-1)!.trim()}`);

const running = new Set<ChildProcess>();
let folders = 0;

/** A worker with a folder of its own, or with that of one that was killed. @returns once it takes work */
async function begin(own = join(folder, `worker-${++folders}`)): Promise<ChildProcess> {
  const worker = spawn(process.execPath, [PROGRAM], {
    stdio: ['ignore', 'pipe', 'inherit'],
    env: { ...process.env, DATABASE_URL: under.databaseUrl, TIN_GHOST_MEDIA: own, TIN_GHOST_STORE: storeAddress(), TIN_GHOST_THREADS: '1', NODE_OPTIONS: '' },
  });
  running.add(worker);
  await once(worker.stdout, 'data');
  return worker;
}

async function end(worker: ChildProcess, signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
  running.delete(worker);
  if (worker.exitCode !== null || worker.signalCode !== null) return;
  const gone = once(worker, 'exit');
  worker.kill(signal);
  await gone;
}

const order = async (): Promise<string> => (await under.call('POST', '/prints', { shotId: shot, format: 'mkv' })).body.id;
const machines = async (): Promise<Answer['body'][]> => (await under.call('GET', '/machines')).body;
const print = async (id: string): Promise<Answer['body']> => (await under.call('GET', `/prints/${id}`)).body;

/** Waits until something holds. */
async function until(what: () => Promise<boolean>, seconds = 30): Promise<void> {
  for (let i = 0; i < seconds * 10; i++) {
    if (await what()) return;
    await pause(100);
  }
  throw new Error(`it did not come about in ${seconds} s: ${what.toString()}`);
}

/** The print ends as the one made in one go, and nothing of its making is left: neither in the tables, nor in the bucket, nor in any folder. */
async function endsRight(id: string): Promise<void> {
  expect(await under.printEnd(id, 150)).toMatchObject({ state: 'done', error: null, done: SECONDS * FPS });
  const file = join(folder, `${id}.mkv`);
  await writeFile(file, Buffer.from(await (await fetch(`${under.address}/api/prints/${id}/file`)).arrayBuffer()));
  expect(hashesOf(file)).toEqual(whole);
  expect(await under.rows(`select * from print_segments where print_id = '${id}'`)).toEqual([]);
  const left = async (): Promise<string[]> => (await readdir(folder, { recursive: true })).filter((name) => name.includes(`segments/${id}/`) && !name.includes('._S3rver'));
  await until(async () => (await left()).length === 0);
}

test('two workers share a print through the bucket, each has its part, and it is the print made in one go', async () => {
  await Promise.all([begin(), begin()]);
  const id = await order();
  const seen = new Map<string, Set<number>>();
  await until(async () => {
    for (const { id: worker, doing } of await machines())
      for (const { kind, from, name } of doing) {
        expect(name).toBe('night, Worn');
        if (kind === 'wear') seen.set(worker, (seen.get(worker) ?? new Set()).add(from));
      }
    return (await print(id)).state === 'done';
  }, 120);
  await endsRight(id);
  const parts = [...seen.values()].map((froms) => [...froms]);
  expect(parts.map((froms) => froms.length > 1)).toEqual([true, true]);
  // No segment was made twice.
  expect(new Set(parts.flat()).size).toBe(parts.flat().length);
}, 240_000);

test('three workers killed ten times each, at random moments: every print ends right', async () => {
  // A reproducible course of moments.
  let seed = 14;
  const random = (): number => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647;
  let [kills, killing] = [0, true];
  const killed = Promise.all(
    [1, 2, 3].map(async (n) => {
      const place = join(folder, `killed-${n}`);
      for (let i = 0; i < 10; i++) {
        const worker = await begin(place);
        await pause(150 + 900 * random());
        await end(worker, 'SIGKILL');
        kills++;
      }
      await begin(place);
    }),
  ).finally(() => (killing = false));
  const prints: string[] = [];
  do {
    prints.push(await order());
    await until(async () => !killing || (await print(prints.at(-1)!)).state === 'done', 300);
  } while (killing);
  await killed;
  expect(kills).toBe(30);
  for (const id of prints) await endsRight(id);
}, 600_000);

test('a worker that is cut off has its segment taken by another, and does no harm when it comes back', async () => {
  const cutOff = await begin();
  const id = await order();
  await until(async () => (await machines()).some(({ doing }) => doing.length > 0));
  cutOff.kill('SIGSTOP');
  const [{ worker_id: lost }] = (await under.rows(`select worker_id from print_segments where print_id = '${id}' and state = 'working'`)) as [{ worker_id: string }];
  await begin();
  await until(async () => !(await machines()).some((machine) => machine.id === lost), 30);
  await until(async () => (await print(id)).done > (SECONDS * FPS) / 2);
  cutOff.kill('SIGCONT');
  await endsRight(id);
}, 240_000);

test('the database away ten times', async () => {
  await Promise.all([begin(), begin()]);
  const id = await order();
  for (let i = 0; i < 10; i++) {
    await under.withoutDatabase(() => pause(400));
    await until(async () => (await under.call('GET', '/reels')).status === 200);
    await pause(250);
  }
  await endsRight(id);
}, 240_000);

test('the store away: it is said, and the print goes on when it is back', async () => {
  await Promise.all([begin(), begin()]);
  const id = await order();
  await until(async () => (await print(id)).done > 50);
  await bucket.close();
  await until(async () => /^the store cannot be reached; it is tried again every \d+ s$/.test((await print(id)).error ?? ''));
  expect((await print(id)).state).toBe('striking');
  await openBucket();
  await endsRight(id);
}, 240_000);

test('a print can rest, and go before others', async () => {
  await begin();
  const [first, second] = [await order(), await order()];
  await until(async () => (await print(first)).done > 0);
  expect((await under.call('POST', `/prints/${second}/next`)).status).toBe(200);
  await under.printEnd(second, 120);
  const { state, done } = await print(first);
  expect([state, done < SECONDS * FPS]).toEqual(['striking', true]);
  expect((await under.call('POST', `/prints/${first}/pause`)).body.state).toBe('paused');
  await until(async () => (await machines()).every(({ doing }) => doing.length === 0));
  const rested = (await print(first)).done;
  await pause(1500);
  expect(await print(first)).toMatchObject({ state: 'paused', done: rested });
  expect((await under.call('POST', `/prints/${second}/resume`)).status).toBe(409);
  expect((await under.call('POST', `/prints/${first}/resume`)).status).toBe(200);
  await endsRight(first);
  await endsRight(second);
}, 240_000);

test('a worker whose engine is not the server’s takes nothing: it is refused at the start, and ends where the server changes', async () => {
  const { db, close } = connect(under.databaseUrl);
  const engine = await engineOf(db);
  const worker = await begin();
  await under.rows("update facts set value = 'another' where key = 'engine'");
  const id = await order();
  await expect(startWorker({ databaseUrl: under.databaseUrl, mediaFolder: join(folder, 'refused') })).rejects.toThrow(/another version of the engine/);
  const [code] = (await once(worker, 'exit')) as [number];
  expect(code).toBe(3);
  expect(await print(id)).toMatchObject({ state: 'waiting', done: 0 });
  await under.rows(`update facts set value = '${engine}' where key = 'engine'`);
  await close();
  await begin();
  await endsRight(id);
}, 240_000);

test('what nobody refers to is removed from the bucket, and nothing else', async () => {
  const store = await Bucket.at(storeAddress());
  const file = join(under.folder, 'night.mp4');
  const before = (await store.list('')).sort();
  expect(before.length).toBeGreaterThan(3);
  const stray = '11111111-1111-4111-8111-111111111111';
  for (const key of [`media/${stray}/original.mp4`, `prints/${stray}.mp4`, `segments/${stray}/00001.part`]) await store.put(key, file);
  expect(await store.list('')).toHaveLength(before.length + 3);
  await under.restart();
  expect((await store.list('')).sort()).toEqual(before);
}, 60_000);
