/** Workers in processes and folders of their own, with a bucket between them: what the tests of them stand on. */
import { execFileSync, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { mkdtemp, readdir, rm, writeFile } from 'node:fs/promises';
import { createServer, type AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import S3rver from 's3rver';
import { afterAll, afterEach, beforeAll, expect } from '@jest/globals';
import { LOOK_SCHEMA, type Look } from '@tin-ghost/core';
import { probe, strike } from '@tin-ghost/media';
import { TestServer, until, type Answer } from './testing';

const PROGRAM = fileURLToPath(new URL('../dist/worker-main.mjs', import.meta.url));
const SECONDS = 32;
const FPS = 12;
const look: Look = { schema: LOOK_SCHEMA, shape: 'file', name: 'Worn', seed: 9, lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }, { trait: 'dust' }] }] };

/** Pictures of the print that is ordered. */
export const PICTURES = SECONDS * FPS;

const hashesOf = (file: string): string[] =>
  execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', '0', '-f', 'framemd5', '-'], { encoding: 'utf8', maxBuffer: 1e8 })
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => `${line.split(',')[0]} ${line.split(',').at(-1)!.trim()}`);

/** A server that strikes nothing itself, its bucket, and workers about them. */
class Workers {
  folder!: string;
  under!: TestServer;
  bucket!: S3rver;
  private bucketPort!: number;
  private shot!: string;
  /** Hashes of the pictures of the print made in one go. */
  private whole!: string[];
  private readonly running = new Set<ChildProcess>();
  private folders = 0;

  /** @param name of its database */
  async up(name: string): Promise<void> {
    this.folder = await mkdtemp(join(tmpdir(), 'tin-ghost-workers-'));
    const probing = createServer().listen(0, '127.0.0.1');
    await once(probing, 'listening');
    this.bucketPort = (probing.address() as AddressInfo).port;
    probing.close();
    await this.openBucket();
    // The stand-in's keys.
    Object.assign(process.env, { AWS_ACCESS_KEY_ID: 'S3RVER', AWS_SECRET_ACCESS_KEY: 'S3RVER' });
    this.under = new TestServer(`${name}_${process.pid}`, { strikes: false, bucket: this.storeAddress });
    const { under } = this;
    await under.up();
    const reel = await under.newReel();
    await under.send(await under.clip(['-f', 'lavfi', '-i', `testsrc2=s=160x90:r=${FPS}:d=${SECONDS}`, '-f', 'lavfi', '-i', `sine=d=${SECONDS}`, '-shortest'], 'night.mp4'), {
      filename: 'night.mp4',
      reel,
    });
    [{ id: this.shot }] = (await under.settled(reel)) as [{ id: string }];
    await under.call('PUT', `/shots/${this.shot}/look`, { look, revision: 0 });
    const file = join(this.folder, 'whole.mkv');
    await strike({ footage: await probe(join(under.folder, 'night.mp4'), 'night.mp4'), look, container: 'mkv', file });
    this.whole = hashesOf(file);
    expect(new Set(this.whole).size).toBeGreaterThan(100);
  }

  async down(): Promise<void> {
    await this.under.down();
    await this.bucket.close();
    await rm(this.folder, { recursive: true, force: true });
  }

  get storeAddress(): string {
    return `s3://tram/line-14?endpoint=http://127.0.0.1:${this.bucketPort}`;
  }

  async openBucket(): Promise<void> {
    this.bucket = new S3rver({
      address: '127.0.0.1',
      port: this.bucketPort,
      silent: true,
      directory: join(this.folder, 'bucket'),
      configureBuckets: [{ name: 'tram', configs: [] }],
    });
    await this.bucket.run();
  }

  /** A folder for a worker, which is not there yet. */
  newFolder(): string {
    return join(this.folder, `worker-${++this.folders}`);
  }

  /** A worker with a folder of its own, or with that of one that was killed. @param within a program that starts it @returns once it takes work */
  async begin(own = this.newFolder(), ...within: string[]): Promise<ChildProcess> {
    const [program, ...args] = [...within, process.execPath, PROGRAM];
    const worker = spawn(program, args, {
      stdio: ['ignore', 'pipe', 'inherit'],
      env: { ...process.env, DATABASE_URL: this.under.databaseUrl, TIN_GHOST_MEDIA: own, TIN_GHOST_STORE: this.storeAddress, TIN_GHOST_THREADS: '1', NODE_OPTIONS: '' },
    });
    this.running.add(worker);
    await once(worker.stdout, 'data');
    return worker;
  }

  async end(worker: ChildProcess, signal: NodeJS.Signals = 'SIGTERM'): Promise<void> {
    this.running.delete(worker);
    if (worker.exitCode !== null || worker.signalCode !== null) return;
    const gone = once(worker, 'exit');
    worker.kill(signal);
    await gone;
  }

  async endAll(): Promise<void> {
    await Promise.all([...this.running].map((worker) => this.end(worker)));
  }

  readonly order = async (): Promise<string> => (await this.under.call('POST', '/prints', { shotId: this.shot, format: 'mkv' })).body.id;
  readonly machines = async (): Promise<Answer['body'][]> => (await this.under.call('GET', '/machines')).body;
  readonly print = async (id: string): Promise<Answer['body']> => (await this.under.call('GET', `/prints/${id}`)).body;

  /** The print ends as the one made in one go, and nothing of its making is left: neither in the tables, nor in the bucket, nor in any folder. */
  readonly endsRight = async (id: string): Promise<void> => {
    const { under, folder } = this;
    expect(await under.printEnd(id, 150)).toMatchObject({ state: 'done', error: null, done: PICTURES });
    const file = join(folder, `${id}.mkv`);
    await writeFile(file, Buffer.from(await (await fetch(`${under.address}/api/prints/${id}/file`)).arrayBuffer()));
    expect(hashesOf(file)).toEqual(this.whole);
    expect(await under.rows(`select * from print_segments where print_id = '${id}'`)).toEqual([]);
    const left = async (): Promise<string[]> => (await readdir(folder, { recursive: true })).filter((name) => name.includes(`segments/${id}/`) && !name.includes('._S3rver'));
    await until(async () => (await left()).length === 0);
  };
}

/** Those that a file's tests share. @param name of their database */
export function workersOf(name: string): Workers {
  const workers = new Workers();
  beforeAll(() => workers.up(name));
  afterEach(() => workers.endAll());
  afterAll(() => workers.down());
  return workers;
}
