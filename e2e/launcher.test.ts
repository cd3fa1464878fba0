/** `npm start` itself: whatever dies is started again, whatever is ended ends, and nothing stays in the way of the next. */
import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync, readFileSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import pg from 'pg';

const root = dirname(dirname(fileURLToPath(import.meta.url)));
let data: string;
const launched: ChildProcess[] = [];

interface Launched {
  readonly child: ChildProcess;
  /** All that it has printed. */
  readonly said: () => string;
  /** Its exit code, or the signal's name. */
  readonly gone: Promise<number | string | null>;
}

function launch(env: Record<string, string> = {}): Launched {
  const child = spawn(process.execPath, [join(root, 'scripts/start.mjs')], {
    env: { ...process.env, TIN_GHOST_DATA: data, TIN_GHOST_DEMO: '0', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  launched.push(child);
  let text = '';
  for (const stream of [child.stdout, child.stderr]) stream.setEncoding('utf8').on('data', (more: string) => (text += more));
  return { child, said: () => text, gone: new Promise((done) => child.once('exit', (code, signal) => done(signal ?? code))) };
}

async function until<T>(what: string, look: () => T | Promise<T>, seconds = 40): Promise<NonNullable<T>> {
  for (let i = 0; i < seconds * 10; i++) {
    const found = await look();
    if (found) return found;
    await pause(100);
  }
  throw new Error(`waited in vain for ${what}`);
}

const addressOf = (launcher: Launched): Promise<string> => until('an address', () => /Tin Ghost is at (\S+)/.exec(launcher.said())?.[1]);
const note = (): { pid: number; server: number } => JSON.parse(readFileSync(join(data, 'running.json'), 'utf8'));
const folderOfCluster = (): string => readFileSync(join(data, 'cluster-folder'), 'utf8');
/** The database's process; 0 while there is none. */
const postgres = (): number => {
  const file = join(folderOfCluster(), 'postmaster.pid');
  return existsSync(file) ? Number(readFileSync(file, 'utf8').split('\n')[0]) : 0;
};
const answers = (address: string): Promise<boolean> =>
  fetch(`${address}/api/reels`).then(
    (response) => response.status === 200,
    () => false,
  );
const alive = (pid: number): boolean => existsSync(`/proc/${pid}`) && !readFileSync(`/proc/${pid}/stat`, 'utf8').includes(') Z ');

beforeAll(async () => {
  data = await mkdtemp(join(tmpdir(), 'tin-ghost-launch-'));
});
afterAll(async () => {
  for (const child of launched) if (child.exitCode === null && child.signalCode === null) child.kill('SIGKILL');
  await pause(1500);
  const folder = existsSync(join(data, 'cluster-folder')) ? folderOfCluster() : data;
  for (const place of [folder, data]) await rm(place, { recursive: true, force: true, maxRetries: 5 });
});

describe('what dies', () => {
  let launcher: Launched;
  let address: string;
  beforeAll(async () => {
    launcher = launch();
    address = await addressOf(launcher);
    await fetch(`${address}/api/reels`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"name":"kept through all of it"}' });
  });

  test('a server that is killed is started again, at the same address', async () => {
    const { server } = note();
    process.kill(server, 'SIGKILL');
    await until('the end of it', () => !alive(server));
    await until('another', () => answers(address));
    expect(note().server).not.toBe(server);
    expect(launcher.said()).toMatch(/the server was ended by SIGKILL; it is started again/);
  });

  test('a database that is killed is started again, and the server lives through it', async () => {
    const { server } = note();
    const before = postgres();
    process.kill(before, 'SIGKILL');
    await until('another', async () => ![0, before].includes(postgres()) && (await answers(address)));
    expect(note().server).toBe(server);
    expect(launcher.said()).toMatch(/the database was ended by SIGKILL; it is started again/);
  });

  test('another start on the same data says where the first one is, and harms nothing', async () => {
    const second = launch();
    expect(await second.gone).toBe(1);
    expect(second.said()).toContain(`Tin Ghost is running already on ${data}, at ${address}`);
    expect(await answers(address)).toBe(true);
  });

  /** Starts on data of its own, in vain. @returns all that was said */
  async function startInVain(env: Record<string, string>): Promise<string> {
    const other = await mkdtemp(join(tmpdir(), 'tin-ghost-launch-'));
    const second = launch({ TIN_GHOST_DATA: other, ...env });
    expect(await second.gone).toBe(1);
    const folder = readFileSync(join(other, 'cluster-folder'), 'utf8');
    for (const place of [folder, other]) await rm(place, { recursive: true, force: true, maxRetries: 5 });
    return second.said();
  }
  const STACK = /^\s+at /m;

  test('a port that is taken is said in words', async () => {
    const taken = createServer().listen(0, '127.0.0.1');
    await until('the port', () => taken.listening);
    const { port } = taken.address() as { port: number };
    const said = await startInVain({ PORT: String(port) });
    taken.close();
    expect(said).toContain(`Port ${port} is taken by another program`);
    expect(said).not.toContain('EADDRINUSE');
    expect(said).not.toMatch(STACK);
  });

  test.each([
    [{}, 'TIN_GHOST_HOST is 0.0.0.0, which others can reach: that needs TIN_GHOST_PASSWORD.'],
    [{ TIN_GHOST_PASSWORD: 'tram' }, 'TIN_GHOST_PASSWORD has 4 characters; 10 are the least.'],
  ])(
    'without a good password it lets nobody else in, and says why in words: %j',
    async (env, why) => {
      const said = await startInVain({ TIN_GHOST_HOST: '0.0.0.0', ...env });
      expect(said).toContain(why);
      expect(said).not.toMatch(STACK);
    },
    90_000,
  );

  test('the database lets nobody in without the password, and the application owns nothing but its own', async () => {
    const secrets = JSON.parse(readFileSync(join(data, 'database-passwords.json'), 'utf8')) as Record<string, string>;
    const command = readFileSync(`/proc/${postgres()}/cmdline`, 'utf8').split('\0');
    const port = Number(command[command.indexOf('-p') + 1]);
    const enter = async (user: string, password: string, database: string, sql: string): Promise<unknown> => {
      const client = new pg.Client({ host: '127.0.0.1', port, user, password, database });
      try {
        await client.connect();
        return (await client.query(sql)).rows;
      } finally {
        await client.end().catch(() => undefined);
      }
    };
    for (const user of ['tinghost_admin', 'tinghost', 'postgres']) await expect(enter(user, 'guessed', 'postgres', 'select 1')).rejects.toThrow(/password|role/);
    const own = secrets.tinghost!;
    expect(await enter('tinghost', own, 'tinghost', 'select name from reels')).toEqual([{ name: 'kept through all of it' }]);
    for (const sql of ['create database other', 'create role other', 'copy reels to program $$true$$', 'alter role tinghost superuser'])
      await expect(enter('tinghost', own, 'tinghost', sql)).rejects.toThrow(/permission|must be|superuser/i);
  });

  test('a launcher that is killed takes server and database with it; the next one just starts', async () => {
    const { server } = note();
    const database = postgres();
    launcher.child.kill('SIGKILL');
    await until('the end of both', () => !alive(server) && !alive(database), 15);
    launcher = launch({ PORT: new URL(address).port });
    expect(await addressOf(launcher)).toBe(address);
    expect(await (await fetch(`${address}/api/reels`)).json()).toMatchObject([{ name: 'kept through all of it' }]);
  });

  test.each(['SIGINT', 'SIGTERM'] as const)(
    '%s ends all of it, also while the server is dead',
    async (signal) => {
      const { server } = note();
      const database = postgres();
      process.kill(server, 'SIGKILL');
      await until('the end of it', () => !alive(server));
      launcher.child.kill(signal);
      expect(await Promise.race([launcher.gone, pause(15_000, 'never')])).toBe(0);
      expect([alive(server), alive(database)]).toEqual([false, false]);
      launcher = launch();
      address = await addressOf(launcher);
      expect(await answers(address)).toBe(true);
    },
    90_000,
  );

  test('what is kept goes into one file and comes out of it, and neither overwrites anything', async () => {
    const other = await mkdtemp(join(tmpdir(), 'tin-ghost-restored-'));
    const file = join(other, 'night.tar');
    const tool = (what: string, env = {}): Promise<{ code: number | null; said: string }> =>
      new Promise((done) => {
        const child = spawn(process.execPath, [join(root, 'scripts/backup.mjs'), what, file], {
          env: { ...process.env, TIN_GHOST_DATA: data, ...env },
          stdio: ['ignore', 'pipe', 'pipe'],
        });
        let said = '';
        for (const stream of [child.stdout, child.stderr]) stream.setEncoding('utf8').on('data', (more: string) => (said += more));
        child.once('exit', (code) => done({ code, said }));
      });
    interface Kept {
      id: string;
      shots: { medium: { id: string; state: string } }[];
    }
    const state = async (at: string) => {
      const reels = (await (await fetch(`${at}/api/reels`)).json()) as Kept[];
      const media = reels.flatMap(({ shots }) => shots).map(({ medium }) => medium);
      const proxies = await Promise.all(media.map(async ({ id }) => Buffer.from(await (await fetch(`${at}/api/media/${id}/proxy`)).arrayBuffer()).toString('base64')));
      return { reels, media, proxies };
    };
    const card = { upper: [0.2, 0, 0], lower: [0, 0, 0.4], seconds: 1, width: 96, height: 54, rate: { num: 25, den: 1 } };
    const [reel] = (await state(address)).reels;
    await fetch(`${address}/api/reels/${reel!.id}/cards`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(card) });
    await until('the footage', async () => (await state(address)).media[0]?.state === 'ready');
    const before = await state(address);
    expect(before.proxies[0]!.length).toBeGreaterThan(1000);
    expect(await tool('backup')).toMatchObject({ code: 1, said: expect.stringMatching(/is running on .*end it first/) });
    launcher.child.kill('SIGTERM');
    await launcher.gone;
    expect(await tool('backup')).toMatchObject({ code: 0 });
    expect(await tool('backup')).toMatchObject({ code: 1, said: expect.stringMatching(/overwrites nothing/) });
    expect(await tool('restore')).toMatchObject({ code: 1, said: expect.stringMatching(/is not empty/) });
    const TIN_GHOST_DATA = join(other, 'data');
    expect(await tool('restore', { TIN_GHOST_DATA })).toMatchObject({ code: 0 });
    const restored = launch({ TIN_GHOST_DATA });
    expect(await state(await addressOf(restored))).toEqual(before);
    restored.child.kill('SIGTERM');
    await restored.gone;
    const cluster = readFileSync(join(TIN_GHOST_DATA, 'cluster-folder'), 'utf8');
    for (const place of [cluster, other]) await rm(place, { recursive: true, force: true, maxRetries: 5 });
  });
});
