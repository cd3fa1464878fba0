/** Several processes at one reel's prints, as the pages show them; and the page that asks for a password. */
import { fork, spawn, type ChildProcess } from 'node:child_process';
import { once } from 'node:events';
import { dirname, join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { handsOn, stageUp, type Stage } from './hands';

const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));
let stage: Stage;
const children: ChildProcess[] = [];
beforeAll(async () => {
  stage = await stageUp('machines');
});
afterAll(async () => {
  for (const child of children.filter(({ exitCode }) => exitCode === null)) {
    const gone = once(child, 'exit');
    child.kill('SIGTERM');
    await gone;
  }
  await stage?.down();
});

const { press } = handsOn(() => stage.page);
const environment = (): NodeJS.ProcessEnv => ({
  ...process.env,
  NODE_OPTIONS: '',
  DATABASE_URL: process.env.TEST_DATABASE_URL!.replace(/[^/]*$/, `machines_${process.pid}`),
  TIN_GHOST_MEDIA: stage.app.media,
});

test('two machines are seen at work, and prints rest, go on, and go first', async () => {
  const { app, page, demo } = stage;
  const worker = spawn(process.execPath, [join(ROOT, 'server/dist/worker-main.mjs')], { env: { ...environment(), TIN_GHOST_THREADS: '1' }, stdio: ['ignore', 'pipe', 'inherit'] });
  children.push(worker);
  await once(worker.stdout, 'data');
  const order = (shot: number, width: number, height: number) =>
    app.api('/prints', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ shotId: demo.shots[shot]!.id, format: 'mp4', width, height, from: 0, to: 110 }),
    }) as Promise<{ id: string; name: string }>;
  const early = [];
  for (const shot of [0, 3, 2, 1, 0, 3]) early.push(await order(shot, 480, 270));
  await page.goto(`${app.address}/machines`);
  // Both have a print, each another part of it, and their progress moves.
  await page.waitForFunction(() => document.querySelectorAll('[data-machine] progress').length === 2);
  const rows = () => page.$$eval('[data-machine]', (all) => all.map((row) => (row as HTMLElement).innerText.replace(/\s+/g, ' ')));
  const seen = await rows();
  expect(seen).toHaveLength(2);
  for (const row of seen) expect(row).toMatch(/, frames \d+ to \d+/);
  const work = seen.map((row) => /\b([A-Z][^,]+, [^,]+(?:, [a-z]+)?, frames \d+ to \d+)/.exec(row)![1]);
  expect(new Set(work).size).toBe(2);
  await page.waitForFunction(() => /\d fps/.test(document.querySelector('tfoot')!.innerText));

  // The last that was ordered stands at the top of the page, and is waiting: those before it are large.
  const large: { id: string }[] = [];
  for (const shot of [2, 1]) large.push(await order(shot, 1280, 720));
  const last = await order(0, 480, 270);
  await page.goto(`${app.address}/prints`);
  await page.waitForSelector('[data-print]');
  const first = () => page.$eval('[data-print]', (row) => ({ state: (row as HTMLElement).dataset.print, words: (row as HTMLElement).innerText }));
  const until = async (state: string): Promise<void> =>
    void (await page.waitForFunction((wanted) => document.querySelector<HTMLElement>('[data-print]')!.dataset.print === wanted, { timeout: 60_000 }, state));
  expect((await first()).state).toBe('waiting');
  await press('Pause');
  await until('paused');
  expect((await first()).words).toMatch(/Paused, 0 of \d+ frames are done/);
  // Those before it rest while it is moved, or a fast machine would be done with them by then.
  const all = (act: 'pause' | 'resume') => Promise.all(large.map(({ id }) => app.api(`/prints/${id}/${act}`, { method: 'POST' })));
  await all('pause');
  await press('Move to top');
  await all('resume');
  await press('Resume');
  await until('done');
  // It went before those that had been ordered earlier.
  const states = Object.fromEntries(((await app.api('/prints')) as { id: string; state: string }[]).map(({ id, state }) => [id, state]));
  expect(large.some(({ id }) => states[id] !== 'done')).toBe(true);
  // Its picture is of the print, not of the footage.
  const poster = await page.$eval('[data-print="done"] img', (image) => image.src);
  expect(poster).toContain(`/api/prints/${last.id}/poster`);
  await page.waitForFunction(() => (document.querySelector<HTMLImageElement>('[data-print="done"] img')?.naturalWidth ?? 0) > 100);
  for (let i = 0; i < 600 && !((await app.api('/prints')) as { state: string }[]).every(({ state }) => state === 'done'); i++) await pause(200);
  expect(((await app.api('/prints')) as { state: string }[]).map(({ state }) => state)).toEqual([...early, ...large, last].map(() => 'done'));
});

test('a server behind a password asks for it, says when it is another, and opens', async () => {
  const server = fork(join(ROOT, 'server/dist/main.mjs'), [], {
    env: { ...environment(), TIN_GHOST_ROOT: ROOT, TIN_GHOST_DEMO: '0', TIN_GHOST_STRIKES: '0', TIN_GHOST_PASSWORD: 'the last tram home', PORT: '0' },
  });
  children.push(server);
  const [{ address }] = (await once(server, 'message')) as [{ address: string }];
  const { page } = stage;
  await page.goto(address);
  await page.waitForSelector('input[type="password"]');
  await page.type('input[type="password"]', 'the first tram home');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => document.querySelector('[role="alert"]')?.textContent === 'this is not the password');
  expect(await page.evaluate(() => document.body.innerText)).not.toContain('Orrin Vale');
  await page.$eval('input[type="password"]', (input) => input.select());
  await page.type('input[type="password"]', 'the last tram home');
  await press('Open');
  await page.waitForFunction((name) => document.body.innerText.includes(name), {}, (stage.demo as unknown as { name: string }).name);
  expect(await page.$eval('nav[aria-label="Places"]', (nav) => nav.innerText)).toContain('Prints');
  await press('Log out');
  await page.waitForSelector('input[type="password"]');
  expect(await page.evaluate(async () => (await fetch('/api/reels')).status)).toBe(401);
});
