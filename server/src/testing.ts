/** A server on a database and a folder of its own, and what tests ask of it. */
import { execFileSync } from 'node:child_process';
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import { isUnderWay } from '@tin-ghost/contract';
import { holdAgainstDescription } from './described';
import { startServer, type ServerOptions } from './server';

const MIGRATIONS = fileURLToPath(new URL('../migrations', import.meta.url));

export interface Answer {
  status: number;
  // eslint-disable-next-line @typescript-eslint/no-explicit-any -- answers of many shapes are looked into
  body: any;
}

export const ffmpeg = (...args: string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', ...args]);

/** Headers of the upload protocol. */
export const TUS = { 'tus-resumable': '1.0.0' };
const metadataText = (metadata: Record<string, string>): string =>
  Object.entries(metadata)
    .map(([k, v]) => `${k} ${Buffer.from(v).toString('base64')}`)
    .join(',');

/** Waits until something holds: longer than it takes on a machine that is busy with others. */
export async function until(what: () => boolean | Promise<boolean>, seconds = 60): Promise<void> {
  for (let i = 0; i < seconds * 20; i++) {
    if (await what()) return;
    await pause(50);
  }
  throw new Error(`it did not come about in ${seconds} s: ${what.toString()}`);
}

export class TestServer {
  folder = '';
  databaseUrl = '';
  private running: Awaited<ReturnType<typeof startServer>> | undefined;

  /** @param database a name of its own for each file of tests */
  constructor(
    private readonly database: string,
    private readonly options: Pick<ServerOptions, 'strikes' | 'bucket' | 'host' | 'password' | 'names'> = {},
  ) {}

  async up(): Promise<void> {
    this.folder = await mkdtemp(join(tmpdir(), 'tin-ghost-server-'));
    await this.withAdmin(`create database ${this.database}`);
    this.databaseUrl = process.env.TEST_DATABASE_URL!.replace(/[^/]*$/, this.database);
    await this.boot();
  }

  async down(): Promise<void> {
    await this.stop();
    await this.withAdmin(`drop database ${this.database} with (force)`);
    await rm(this.folder, { recursive: true, force: true });
  }

  async boot(): Promise<void> {
    const own = { databaseUrl: this.databaseUrl, mediaFolder: this.media, migrations: MIGRATIONS };
    this.running = await startServer({ ...own, threads: 1, ...this.options, port: 0, pages: (_q, r) => void r.status(404).end() });
  }

  async stop(): Promise<void> {
    await this.running?.close();
    this.running = undefined;
  }

  async restart(): Promise<void> {
    await this.stop();
    await this.boot();
  }

  get address(): string {
    return this.running!.address;
  }

  /** Folder of the server's store. */
  get media(): string {
    return join(this.folder, 'media');
  }

  async withAdmin(sql: string): Promise<void> {
    const client = new pg.Client({ connectionString: process.env.TEST_DATABASE_URL! });
    await client.connect();
    try {
      await client.query(sql);
    } finally {
      await client.end();
    }
  }

  /** Does something while the server's database takes no connections, and has ended those there were. */
  async withoutDatabase(work: () => Promise<void>): Promise<void> {
    await this.withAdmin(`alter database ${this.database} connection limit 0; alter database ${this.database} allow_connections false`);
    await this.withAdmin(`select pg_terminate_backend(pid) from pg_stat_activity where datname = '${this.database}'`);
    try {
      await work();
    } finally {
      await this.withAdmin(`alter database ${this.database} allow_connections true`);
      await this.withAdmin(`alter database ${this.database} connection limit -1`);
    }
  }

  /** Rows that SQL on the server's own database gives. */
  async rows(sql: string): Promise<Record<string, unknown>[]> {
    const client = new pg.Client({ connectionString: this.databaseUrl });
    await client.connect();
    try {
      return (await client.query<Record<string, unknown>>(sql)).rows;
    } finally {
      await client.end();
    }
  }

  async call(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Answer> {
    const response = await fetch(`${this.address}/api${path}`, {
      method,
      headers: { ...(body === undefined ? {} : { 'content-type': 'application/json' }), ...headers },
      body: body === undefined ? undefined : typeof body === 'string' ? body : JSON.stringify(body),
    });
    const text = await response.text();
    const type = response.headers.get('content-type');
    const answer = { status: response.status, body: text && type?.includes('json') ? JSON.parse(text) : text || undefined };
    holdAgainstDescription(method, path, answer.status, type, answer.body);
    return answer;
  }

  async newReel(): Promise<string> {
    return (await this.call('POST', '/reels', { name: 'Reel' })).body.id;
  }

  /** Begins an upload. @returns its address */
  async beginUpload(bytes: number, metadata: Record<string, string>): Promise<URL> {
    const made = await fetch(`${this.address}/api/uploads`, { method: 'POST', headers: { ...TUS, 'upload-length': String(bytes), 'upload-metadata': metadataText(metadata) } });
    if (made.status !== 201) throw new Error(`${made.status} ${await made.text()}`);
    return new URL(made.headers.get('location')!, this.address);
  }

  /** Sends bytes of an upload from a place on. */
  sendPart(place: URL, bytes: Buffer, from: number): Promise<Response> {
    return fetch(place, { method: 'PATCH', headers: { ...TUS, 'upload-offset': String(from), 'content-type': 'application/offset+octet-stream' }, body: new Uint8Array(bytes) });
  }

  /** Sends bytes in two parts. @returns the upload's id */
  async send(bytes: Buffer, metadata: Record<string, string>): Promise<string> {
    const place = await this.beginUpload(bytes.length, metadata);
    const half = Math.floor(bytes.length / 2);
    for (const [from, to] of [
      [0, half],
      [half, bytes.length],
    ] as const) {
      // Nothing to send: an empty upload is finished as soon as it is made.
      if (from === to) continue;
      const part = await this.sendPart(place, bytes.subarray(from, to), from);
      if (part.status !== 204) throw new Error(`${part.status} ${await part.text()}`);
    }
    return place.pathname.split('/').at(-1)!;
  }

  /** What is at an address, once it is as wished; a server that cannot answer for the moment is asked again, as the page does. */
  async once(path: string, wished: (body: Answer['body']) => boolean, seconds = 60): Promise<Answer['body']> {
    let last: Answer;
    await until(async () => {
      last = await this.call('GET', path);
      if (last.status !== 200 && last.status !== 503) throw new Error(`${path}: ${last.status} ${JSON.stringify(last.body)}`);
      return last.status === 200 && wished(last.body);
    }, seconds);
    return last!.body;
  }

  /** The shots of a reel, once all their footage is ready or has failed. */
  async settled(reel: string): Promise<Answer['body'][]> {
    const ended = (s: { medium: { state: string } }): boolean => ['ready', 'failed'].includes(s.medium.state);
    return (await this.once(`/reels/${reel}`, ({ shots }) => shots.length > 0 && shots.every(ended))).shots;
  }

  /** A print, once it has ended. */
  printEnd(id: string, seconds = 60): Promise<Answer['body']> {
    return this.once(`/prints/${id}`, ({ state }) => !isUnderWay(state), seconds);
  }

  /** A file that ffmpeg makes in the test's folder. */
  async clip(args: string[], file = 'clip.mp4'): Promise<Buffer> {
    const path = join(this.folder, file);
    ffmpeg(...args, path);
    return readFile(path);
  }

  aClip(): Promise<Buffer> {
    return this.clip(['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=1', '-f', 'lavfi', '-i', 'sine=d=1']);
  }
}
