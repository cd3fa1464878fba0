/** Footage on the bench while it is imported: worked on from its first frame, before its proxy is made. */
import { execFileSync } from 'node:child_process';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { expect, test } from '@jest/globals';
import type { ElementHandle } from 'puppeteer-core';
import { EMPTY_LOOK, Plan, type Look } from '@tin-ghost/core';
import { newEngine, probe, proxyPicture } from '@tin-ghost/media';
import { handsOn, hashOf, staged, until } from './hands';
import { pictureOf } from './stage.mjs';

const stage = staged('importing');
const { named, press, kept } = handsOn(() => stage().page);

interface ShotNow {
  readonly id: string;
  readonly look: Look;
  readonly medium: { readonly id: string; readonly state: string; readonly progress: number };
}
const shotsOf = async (reel: string): Promise<ShotNow[]> => (await stage().app.api(`/reels/${reel}`)).shots;
const fileField = async (): Promise<ElementHandle<HTMLInputElement>> =>
  (await stage().page.waitForSelector('input[aria-label="Footage files"]')) as ElementHandle<HTMLInputElement>;

/** Makes an empty reel and opens it. @returns its id */
async function newReel(name: string): Promise<string> {
  const { app, page } = stage();
  const { id } = await app.api('/reels', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name }) });
  await page.goto(`${app.address}/reels/${id}`);
  return id;
}
/** Waits until a reel has so many shots. @throws where they do not come */
async function counts(reel: string, shots: number): Promise<void> {
  for (let n = 0; (await shotsOf(reel)).length < shots; n++) {
    if (n === 600) throw new Error(`reel ${reel} has ${(await shotsOf(reel)).length} shots, not ${shots}: ${await stage().page.evaluate(() => document.body.innerText)}`);
    await pause(50);
  }
}
/** Makes a reel, opens it, and gives it files one after the other, as a person chooses them. @returns the reel's id */
async function reelOf(name: string, ...files: string[]): Promise<string> {
  const id = await newReel(name);
  for (const [i, file] of files.entries()) {
    await (await fileField()).uploadFile(file);
    await counts(id, i + 1);
  }
  return id;
}

function film(name: string, pictures: string, ...rest: string[]): string {
  const file = join(stage().folder, name);
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', pictures, ...rest, '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', file]);
  return file;
}
/** Ten minutes, whose import outlasts what is done meanwhile. */
function longFilm(): string {
  const part = film('part.mp4', 'testsrc2=s=640x360:r=25:d=30');
  const file = join(stage().folder, 'long.mp4');
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-stream_loop', '19', '-i', part, '-c', 'copy', file]);
  return file;
}

test('files that are chosen while the screen behind the dialog changes arrive too', async () => {
  const short = film('one.mp4', 'testsrc2=s=320x180:r=25:d=1');
  const reel = await newReel('Meanwhile');
  const field = await fileField();
  await field.uploadFile(short);
  // The first shot has come, and the empty reel's button, whose dialog is still open, is no longer on the page.
  await stage().page.waitForFunction((one) => !one.isConnected, {}, field);
  await field.uploadFile(short);
  await counts(reel, 2);
});

test('footage that waits for another is worked on from its first frame: seen, stepped through, given a look; then it plays with it', async () => {
  const { app, page } = stage();
  const short = film('short.mp4', 'testsrc2=s=1280x720:r=25:d=2', '-f', 'lavfi', '-i', 'sine=440:d=2');
  const reel = await reelOf('Early', longFilm(), short);
  const [long, own] = (await shotsOf(reel)) as [ShotNow, ShotNow];
  await page.goto(`${app.address}/reels/${reel}/shots/${own.id}`);
  const first = await pictureOf(page);
  expect([first.width, first.height]).toEqual([960, 540]);
  expect((await shotsOf(reel))[1]!.medium).toMatchObject({ state: 'working', progress: 0 });
  expect(await page.$eval('[data-importing]', (told) => told.textContent)).toBe('waiting');

  // It is the picture of the footage, to the bit.
  const footage = await probe(short);
  const pictureAt = async (n: number): Promise<string> => {
    const frame = await proxyPicture(footage, n);
    const plan = new Plan(await newEngine(), EMPTY_LOOK, { source: frame, target: { width: 960, height: 540, encoding: 'rgba' }, rate: 25 });
    return hashOf(plan.render(0, frame)[0]!);
  };
  expect(first.hash).toBe(await pictureAt(0));
  await page.keyboard.press('End');
  expect((await pictureOf(page)).hash).toBe(await pictureAt(49));
  await page.keyboard.press('Home');
  expect((await pictureOf(page)).hash).toBe(first.hash);

  // What needs all of it says so.
  expect(await (await named('Play', 'button')).evaluate((button) => (button as HTMLButtonElement).disabled)).toBe(true);
  await page.keyboard.press('Space');
  await page.waitForSelector('::-p-text(It plays once the footage is imported)');
  expect(await (await named('Strike prints', 'button')).evaluate((button) => (button as HTMLButtonElement).disabled)).toBe(true);

  // A look from the list of looks, on the picture and kept.
  await (await page.waitForSelector('::-p-xpath(//aside[@id="card"]//button[contains(., "Night tube")])'))!.click();
  await kept();
  const worn = await pictureOf(page);
  expect(worn.hash).not.toBe(first.hash);
  expect((await shotsOf(reel))[1]).toMatchObject({ look: { name: 'Night tube' }, medium: { state: 'working' } });

  // The other's import is cancelled, and its turn comes.
  await page.goto(`${app.address}/reels/${reel}/shots/${long.id}`);
  await press('Cancel import');
  await page.waitForFunction((gone) => !location.pathname.includes(gone), {}, long.id);
  await page.waitForSelector('[aria-label="Play"]:not([disabled])', { timeout: 60_000 });
  expect(await page.$('[data-importing]')).toBeNull();
  const proxied = await pictureOf(page);
  // The proxy's coding changes no picture by more than can be seen.
  for (const i of [0, 1, 2]) expect(Math.abs(proxied.means[i]! - worn.means[i]!)).toBeLessThan(1);
  await page.keyboard.press('Space');
  await page.waitForFunction(() => document.querySelector('[data-clock]')?.textContent !== '00:00:00:00');
  await press('Pause');
});

test('news of an import that come faster than the screen is drawn do it no harm: the last of them is told', async () => {
  const { page } = stage();
  const followed = await page.evaluateOnNewDocument(() => {
    const Plain = EventSource;
    window.EventSource = class extends Plain {
      constructor(url: string | URL) {
        super(url);
        Object.assign(window, { followed: this });
      }
    };
  });
  const thrown: unknown[] = [];
  page.on('pageerror', (error) => thrown.push(error));
  const reel = await reelOf('Often', longFilm());
  await pictureOf(page);
  await page.removeScriptToEvaluateOnNewDocument(followed.identifier);
  const [{ medium }] = (await shotsOf(reel)) as [ShotNow];
  // Where a page has been held up its news wait in a row, and nothing else has a turn between them but what each leads to at once.
  const told = await page.evaluate(async (id) => {
    const { followed } = window as unknown as { followed: EventSource };
    for (let n = 0; n < 300; n++) {
      followed.dispatchEvent(new MessageEvent('message', { data: JSON.stringify({ type: 'media', id, state: 'working', progress: 0.5 + n / 1000, error: null }) }));
      for (let turn = 0; turn < 5; turn++) await Promise.resolve();
    }
    return document.querySelector('[data-importing]')?.textContent;
  }, medium.id);
  expect(thrown).toEqual([]);
  expect(told).toContain('importing, 79 %');
  await press('Cancel import');
  await page.waitForFunction(() => document.body.innerText.includes('Footage goes here'));
});

test('an import tells how long it goes on while its picture is seen, and is cancelled: nothing is left of it', async () => {
  const { app, page } = stage();
  const reel = await reelOf('Long', longFilm());
  expect((await pictureOf(page)).width).toBe(640);
  await page.waitForFunction(() => /importing, \d+ %, \d+ (s|min) left/.test(document.querySelector('[data-importing]')?.textContent ?? ''));
  await press('Cancel import');
  await page.waitForFunction(() => document.body.innerText.includes('Footage goes here'));
  expect(await shotsOf(reel)).toEqual([]);
  expect((await app.api('/bin')).shots).toEqual([]);
  // Its folder goes, and the server imports on.
  const folders = async (): Promise<number> => (await readdir(join(app.media, 'media'))).length;
  const media = new Set(
    [...(await app.api('/reels')).flatMap((one: { shots: { medium: { id: string } }[] }) => one.shots), ...(await app.api('/references')), ...(await app.api('/plates'))].map(
      ({ medium }) => medium.id,
    ),
  );
  await until(async () => (await folders()) === media.size);
});
