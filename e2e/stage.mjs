// The whole application on data of its own, and a browser before it: what end-to-end tests, screenshots and the bench share.
import { fork } from 'node:child_process';
import { once } from 'node:events';
import { cp, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { fileURLToPath } from 'node:url';
import pg from 'pg';
import puppeteer from 'puppeteer-core';

/** A page that is asked what it shows answers within so long, or is taken for dead. */
const ANSWERED_WITHIN_MS = 3000;
/** So long is waited for what a page should come to show: longer than it takes on a machine that is busy with others. */
const WAITED_MS = 60_000;
/** So many of the last things that went wrong are told. */
const TOLD_TROUBLES = 20;

const root = dirname(dirname(fileURLToPath(import.meta.url)));

/**
 * Starts the built server with the demo reel and waits until all footage is ready.
 * @param databaseUrl an empty database, or one that goes with `from`
 * @param options `from`: folder of footage to begin with, which is copied; `keep`: its own folder outlives it
 * @returns { address, media, api, close }: `media` is the folder of footage and prints; `api(path)` reads JSON
 */
export async function openApp(databaseUrl, { from, keep = false } = {}) {
  const media = await mkdtemp(join(tmpdir(), 'tin-ghost-stage-'));
  if (from) await cp(from, media, { recursive: true });
  const server = fork(join(root, 'server/dist/main.mjs'), [], { env: { ...process.env, TIN_GHOST_ROOT: root, TIN_GHOST_MEDIA: media, DATABASE_URL: databaseUrl, PORT: '0' } });
  const close = async () => {
    if (server.exitCode === null) {
      const gone = once(server, 'exit');
      server.kill('SIGTERM');
      await gone;
    }
    if (!keep) await rm(media, { recursive: true, force: true, maxRetries: 5 });
  };
  try {
    const [{ address }] = await once(server, 'message');
    const api = async (path, init) => {
      const response = await fetch(`${address}/api${path}`, init);
      return response.status === 204 ? undefined : response.json();
    };
    await demoIn(api);
    return { address, media, api, close };
  } catch (error) {
    await close();
    throw error;
  }
}

/** Waits until the footage of the demo reel, the references and the plates are ready: imports that still run would take the time of what is tried. */
async function demoIn(api) {
  for (let i = 0; ; i++) {
    const [shots, references, plates] = [(await api('/reels')).flatMap((reel) => reel.shots), await api('/references'), await api('/plates')];
    const all = [...shots, ...references, ...plates];
    if (shots.length > 0 && references.length > 0 && plates.length > 0 && all.every((one) => one.medium.state === 'ready')) return;
    const failed = all.find((one) => one.medium.state === 'failed');
    if (failed || i > 1200) throw new Error(`the demo reel did not come in: ${failed?.medium.error ?? 'too slow'}`);
    await pause(100);
  }
}

/** Runs SQL on a server's own database. @param url of the server @param sql one statement */
export async function withDatabase(url, sql) {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    await client.query(sql);
  } finally {
    await client.end();
  }
}

/** Notes of a page what no test waits for: that it died, that its code failed, what it could not load. @param note takes a line */
function listen(page, note) {
  page.on('error', (error) => note(`died: ${error.message}`));
  page.on('pageerror', (error) => note(`threw: ${error.stack ?? error}`));
  page.on('requestfailed', (request) => note(`did not load ${request.url()}: ${request.failure()?.errorText}`));
  page.on('response', (response) => void (response.status() >= 400 && note(`was answered ${response.status()}: ${response.url()}`)));
}

/** What all pages of a browser show, and what went wrong in them last. */
async function shownIn(browser, troubles) {
  const shows = (page) =>
    Promise.race([
      page.evaluate(() => `${location.href} (${document.visibilityState}) shows: ${document.body.innerText.replaceAll(/\s+/g, ' ').slice(0, 800)}`),
      pause(ANSWERED_WITHIN_MS).then(() => `${page.url()} does not answer`),
    ]).catch((error) => `${page.url()} does not answer: ${error.message}`);
  return [...(await Promise.all((await browser.pages()).map(shows))), ...troubles.slice(-TOLD_TROUBLES)].join('\n');
}

/** Headless Chromium with an empty profile. @returns { browser, shown, close }: `shown()` tells what its pages show */
export async function openBrowser() {
  const profile = await mkdtemp(join(tmpdir(), 'tin-ghost-profile-'));
  const browser = await puppeteer.launch({
    executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
    userDataDir: profile,
    headless: true,
    protocolTimeout: 120_000,
    defaultViewport: { width: 1280, height: 800 },
    args: [
      '--headless',
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
      '--autoplay-policy=no-user-gesture-required',
    ],
  });
  const troubles = [];
  browser.on('targetcreated', async (target) => {
    const page = await target.page();
    if (!page) return;
    page.setDefaultTimeout(WAITED_MS);
    listen(page, (line) => troubles.push(`${new Date().toISOString()} ${line}`));
  });
  return {
    browser,
    shown: () => shownIn(browser, troubles),
    async close() {
      await browser.close();
      await rm(profile, { recursive: true, force: true, maxRetries: 5 });
    },
  };
}

/** Waits until the picture on the bench is there and no longer changes; returns its pixels' hash, size and means. */
export const pictureOf = (page, label = 'Picture') =>
  page.evaluate(async (start) => {
    const find = () => document.querySelector(`canvas[aria-label^="${start}"][data-ready]`);
    const read = (canvas) => {
      const { data } = canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height);
      let h = 0x811c9dc5;
      const sums = [0, 0, 0];
      for (let i = 0; i < data.length; i++) {
        h = Math.imul(h ^ data[i], 0x01000193);
        if (i % 4 < 3) sums[i % 4] += data[i];
      }
      const pixels = data.length / 4;
      return { hash: (h >>> 0).toString(16), width: canvas.width, height: canvas.height, means: sums.map((s) => s / pixels) };
    };
    let last = '';
    for (let same = 0, i = 0; i < 400; i++) {
      await new Promise((done) => setTimeout(done, 60));
      const canvas = find();
      if (!canvas) continue;
      const now = read(canvas);
      same = now.hash === last ? same + 1 : 0;
      last = now.hash;
      if (same >= 3) return now;
    }
    throw new Error('the picture did not settle');
  }, label);
