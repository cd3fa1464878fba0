/** A watched folder as it is used: started, fed, ended, started again. */
import { execFileSync, spawn, spawnSync, type ChildProcess } from 'node:child_process';
import { copyFile, mkdir, mkdtemp, readdir, readFile, rm, stat, utimes, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, test } from '@jest/globals';

const PROGRAM = fileURLToPath(new URL('../bin/tinghost.mjs', import.meta.url));
let folder: string;
const at = (...names: string[]): string => join(folder, ...names);
const OPTIONS = (): string[] => ['watch', '--in', at('in'), '--out', at('out'), '--look', 'home-gauge', '--size', '64x36', '--every', '1'];

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-watch-'));
  await Promise.all(['in', 'out'].map((name) => mkdir(at(name))));
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=64x36:r=24:d=0.25', at('tram.mkv')]);
});
afterAll(() => rm(folder, { recursive: true, force: true }));

const results = async (): Promise<string[]> => (await readdir(at('out'))).filter((name) => !name.startsWith('.')).sort();
const begin = (): ChildProcess => spawn(process.execPath, [PROGRAM, ...OPTIONS()], { stdio: ['ignore', 'ignore', 'inherit'] });
const ended = (child: ChildProcess, signal: NodeJS.Signals): Promise<number | null> => {
  const gone = new Promise<number | null>((resolve) => child.once('exit', (code) => resolve(code)));
  child.kill(signal);
  return gone;
};
const until = async (holds: () => Promise<boolean>): Promise<void> => {
  for (let i = 0; i < 300; i++) {
    if (await holds()) return;
    await pause(100);
  }
  throw new Error('it did not come to that');
};
const once = (): string => execFileSync(process.execPath, [PROGRAM, ...OPTIONS(), '--once'], { encoding: 'utf8' });

test('each file that arrives is worn once, through an end and a new start; what cannot be is told once and goes on when it is mended', async () => {
  const first = begin();
  await copyFile(at('tram.mkv'), at('in', 'one.mkv'));
  await until(async () => (await results()).includes('one.mp4'));
  const made = (await stat(at('out', 'one.mp4'))).mtimeMs;
  await copyFile(at('tram.mkv'), at('in', 'two.mkv'));
  await writeFile(at('in', 'notes.txt'), 'the last tram leaves at ten');
  // Killed between a result and its record, it would make that result again.
  await until(async () => {
    const record = JSON.parse(await readFile(at('out', '.tin-ghost-watch.json'), 'utf8')) as Record<string, { begun?: true }>;
    return 'notes.txt' in record && record['two.mkv'] !== undefined && !record['two.mkv'].begun;
  });
  await ended(first, 'SIGKILL');

  await copyFile(at('tram.mkv'), at('in', 'three.mkv'));
  // Taken away by whoever uses it: it does not come again.
  await rm(at('out', 'two.mp4'));
  expect(once()).toMatch(/^three\.mkv: three\.mp4\n$/);
  expect(await results()).toEqual(['one.mp4', 'three.mp4']);
  expect((await stat(at('out', 'one.mp4'))).mtimeMs).toBe(made);
  expect(JSON.parse(await readFile(at('out', '.tin-ghost-watch.json'), 'utf8'))['notes.txt'].error).toMatch(/not footage/);

  // Two of one name but for their ending: neither result is written over, nor what lay there before.
  await writeFile(at('out', 'four.mp4'), 'somebody’s own');
  await copyFile(at('tram.mkv'), at('in', 'four.mkv'));
  await copyFile(at('tram.mkv'), at('in', 'three.mov'));
  expect(once().trim().split('\n')).toEqual(['four.mkv: four.mkv.mp4', 'three.mov: three.mov.mp4']);
  expect(await readFile(at('out', 'four.mp4'), 'utf8')).toBe('somebody’s own');

  await copyFile(at('tram.mkv'), at('in', 'one.mkv'));
  await utimes(at('in', 'one.mkv'), new Date(), new Date(Date.now() + 5000));
  expect(once()).toMatch(/^one\.mkv: /);
  expect(once()).toBe('');
});

test('going through once ends with 1 where a file could not be worn, and with 0 when it comes to nothing new', async () => {
  await writeFile(at('in', 'letter.txt'), 'the depot closes at noon');
  const went = (): { status: number | null; stdout: string; stderr: string } => spawnSync(process.execPath, [PROGRAM, ...OPTIONS(), '--once'], { encoding: 'utf8' });
  const first = went();
  expect([first.status, first.stderr]).toEqual([1, 'tinghost watch: one file was not worn\n']);
  expect(first.stdout).toMatch(/^letter\.txt: not worn: /);
  expect(went()).toMatchObject({ status: 0, stdout: '', stderr: '' });
});

test('it ends when it is asked to, and nothing half-made is left', async () => {
  const parts = async (): Promise<string[]> => (await readdir(at('out'))).filter((name) => name.includes('.part'));
  const long = at('in', 'long.mkv');
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=24:d=60', '-preset', 'ultrafast', long]);
  const child = begin();
  // In the middle of its work.
  await until(async () => (await parts()).length > 0);
  expect(await ended(child, 'SIGTERM')).toBe(0);
  expect(await parts()).toEqual([]);
  expect(await results()).not.toContain('long.mp4');
  await rm(long);
});

test.each([
  [['--out', 'IN'], 2, /another folder/],
  [['--in', '/nowhere/at/all'], 1, /no such folder/],
  [['--coding', 'prores'], 2, /--coding in mp4/],
  [['--as', 'png'], 2, /--as is mp4, webm, mov, mxf, mkv, gif, webp, wav, not "png"/],
  [['--look', 'no-such-look'], 1, /no-such-look/],
])('wrongly asked is told: %j', async (more, code, words) => {
  await copyFile(at('tram.mkv'), at('in', 'five.mkv'));
  const args = [...OPTIONS(), '--once', ...more.map((word) => (word === 'IN' ? at('in') : word))];
  const ran = await new Promise<{ code: number | null; err: string }>((resolve) => {
    const child = spawn(process.execPath, [PROGRAM, ...args], { stdio: ['ignore', 'ignore', 'pipe'] });
    let err = '';
    child.stderr.on('data', (chunk: Buffer) => (err += chunk.toString()));
    child.once('exit', (exit) => resolve({ code: exit, err }));
  });
  expect(ran.code).toBe(code);
  expect(ran.err).toMatch(words);
});
