/** Shots and reels in the real interface: renamed, ordered, copied, deleted and put back; a look given to other shots; a face kept clean by a zone that moves with it. */
import { execFileSync } from 'node:child_process';
import { mkdtemp, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { ElementHandle, Page } from 'puppeteer-core';
import { EMPTY_LOOK, type Look } from '@tin-ghost/core';
import { dress, handsOn, openWorn, stageUp, until, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('shots');
  ({ page } = stage);
});
afterAll(() => stage?.down());

const { named, press, undoNote, kept } = handsOn(() => page);
const reelId = (): string => stage.demo.id;
const shotsNow = async (): Promise<{ id: string; name: string; look: Look }[]> => (await stage.app.api(`/reels/${reelId()}`)).shots;
const namesNow = async (): Promise<string[]> => (await shotsNow()).map(({ name }) => name);
const entry = (n: number): Promise<ElementHandle> => page.waitForSelector(`aside[aria-label="Shots"] ol li:nth-child(${n}) a`).then((found) => found as ElementHandle);
const shifted = async (key: 'ArrowLeft' | 'ArrowRight'): Promise<void> => {
  await page.keyboard.down('Shift');
  await page.keyboard.press(key);
  await page.keyboard.up('Shift');
};
const rightClick = async (n: number): Promise<void> => (await entry(n)).click({ button: 'right' });
const choose = async (item: string): Promise<void> => (await page.waitForSelector(`::-p-xpath(//*[@role="menuitem"][starts-with(normalize-space(), "${item}")])`))!.click();

describe('shots of a reel', () => {
  test('are renamed by a key, moved by keys and by hand, and the order is kept', async () => {
    await openWorn(stage, 0, 'none', []);
    const before = await namesNow();
    await (await entry(2)).focus();
    await page.keyboard.press('F2');
    await named(`Name of ${before[1]}`, 'textbox');
    await page.keyboard.type('The man with the cap');
    await page.keyboard.press('Enter');
    await until(async () => (await namesNow())[1] === 'The man with the cap');
    await (await entry(2)).focus();
    await page.keyboard.down('Alt');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.up('Alt');
    await until(async () => (await namesNow())[2] === 'The man with the cap');
    await page.waitForSelector('aside[aria-label="Shots"] ol li:nth-child(3) img[alt="The man with the cap"]');
    // Back to its place by hand.
    const box = (await (await entry(3)).boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x, y - box.height - 10, { steps: 8 });
    // The one whose place it takes makes room.
    await page.waitForFunction(() => /translate3d\(0px, [1-9]/.test(document.querySelector<HTMLElement>('aside[aria-label="Shots"] ol li:nth-child(2)')!.style.transform));
    await page.mouse.up();
    await until(async () => (await namesNow())[1] === 'The man with the cap');
    expect((await namesNow()).filter((_, i) => i !== 1)).toEqual(before.filter((_, i) => i !== 1));
  });

  test('are copied and deleted by their menu, several at once, and come back', async () => {
    const before = await namesNow();
    await rightClick(1);
    await choose('Duplicate');
    await until(async () => (await namesNow()).length === 5);
    expect((await namesNow())[1]).toBe(`${before[0]} copy`);
    // The copy lies on the bench.
    await page.waitForFunction((name) => document.querySelector('h1')?.textContent === name, {}, `${before[0]} copy`);
    await pictureOf(page);
    // Two are chosen; what is done to one is done to both.
    await page.keyboard.down('Control');
    await (await entry(3)).click();
    await page.keyboard.up('Control');
    await rightClick(3);
    await choose('Delete 2 shots');
    await until(async () => (await namesNow()).length === 3);
    expect(await namesNow()).toEqual([before[0], before[2], before[3]]);
    await undoNote();
    await until(async () => (await namesNow()).length === 5);
    expect(await namesNow()).toEqual([before[0], `${before[0]} copy`, before[1], before[2], before[3]]);
    await page.waitForSelector(`aside[aria-label="Shots"] img[alt="${before[0]} copy"]`);
    await (await entry(2)).focus();
    await page.keyboard.press('Delete');
    await until(async () => (await namesNow()).length === 4);
    // Two copied at once, each after its own.
    await page.waitForSelector(`aside[aria-label="Shots"] ol li:nth-child(4)`);
    await (await entry(1)).click();
    await page.waitForFunction((name) => document.querySelector('h1')?.textContent === name, {}, before[0]!);
    await pictureOf(page);
    await page.keyboard.down('Control');
    await (await entry(2)).click();
    await page.keyboard.up('Control');
    await rightClick(2);
    await choose('Duplicate 2 shots');
    await until(async () => (await namesNow()).length === 6);
    expect(await namesNow()).toEqual([before[0], `${before[0]} copy`, before[1], `${before[1]} copy`, before[2], before[3]]);
    for (const { id, name } of await shotsNow()) if (name.endsWith(' copy')) await stage.app.api(`/shots/${id}`, { method: 'DELETE' });
    expect(await namesNow()).toEqual(before);
  });

  test('are trimmed by I and O where the playhead stands, which stays on its moment', async () => {
    await openWorn(stage, 3, 'none', []);
    await page.keyboard.press('End');
    for (let i = 0; i < 2; i++) await shifted('ArrowLeft');
    const seen = await pictureOf(page);
    await page.keyboard.press('o');
    await page.keyboard.press('Home');
    await shifted('ArrowRight');
    const first = await pictureOf(page);
    await page.keyboard.press('i');
    expect((await pictureOf(page)).hash).toBe(first.hash);
    await kept();
    const { preparation, medium } = await stage.app.api(`/shots/${(await shotsNow())[3]!.id}`);
    const rate = medium.footage.rate.num / medium.footage.rate.den;
    const { frames } = medium.footage;
    expect(preparation.trim).toEqual({ from: Math.round(rate), to: frames - 2 * Math.round(rate) });
    await page.waitForSelector(`canvas[aria-label^="Picture 1 of ${frames - 3 * Math.round(rate)},"]`);
    await page.keyboard.press('End');
    await page.waitForSelector(`canvas[aria-label^="Picture ${frames - 3 * Math.round(rate)} of"]`);
    expect((await pictureOf(page)).hash).toBe(seen.hash);
    for (let i = 0; i < 2; i++) await press('Undo');
    await kept();
    expect((await stage.app.api(`/shots/${(await shotsNow())[3]!.id}`)).preparation.trim).toBeUndefined();
  });

  test('take a look from one of them, each with a seed of its own, and give it back', async () => {
    await openWorn(stage, 0, 'super8', [{ trait: 'dust', settings: { count: 40 } }, { trait: 'grain' }]);
    const [own, ...others] = await shotsNow();
    await rightClick(1);
    await choose('Apply its look to all others');
    const dressed = (look: Look): boolean => look.lives[0]?.traits.map(({ trait }) => trait).join() === 'dust,grain';
    await until(async () => (await shotsNow()).every(({ look }) => dressed(look)));
    const seeds = (await shotsNow()).map(({ look }) => look.seed);
    expect(new Set(seeds).size).toBe(4);
    expect((await shotsNow())[0]!.look).toEqual(own!.look);
    await undoNote();
    await until(async () => (await shotsNow()).slice(1).every(({ look }, i) => JSON.stringify(look) === JSON.stringify(others[i]!.look)));
    // By keys: copied from one, laid on another, which is on the bench: taken back as any change.
    await (await entry(1)).focus();
    await page.keyboard.down('Control');
    await page.keyboard.press('c');
    await page.keyboard.up('Control');
    await (await entry(4)).click();
    await page.waitForFunction((name) => document.querySelector('h1')?.textContent === name, {}, others[2]!.name);
    await pictureOf(page);
    await (await entry(4)).focus();
    await page.keyboard.down('Control');
    await page.keyboard.press('v');
    await page.keyboard.up('Control');
    await kept();
    expect(dressed((await shotsNow())[3]!.look)).toBe(true);
    expect((await shotsNow())[3]!.look.seed).not.toBe(own!.look.seed);
    await press('Undo');
    await kept();
    expect((await shotsNow())[3]!.look).toEqual(others[2]!.look);
  });
});

test('a version on another gauge stands beside the one it was made from after two clicks, and both are kept', async () => {
  const grain = { trait: 'grain', settings: { rms: 30, size: 9 } };
  await openWorn(stage, 2, 'super8', [grain]);
  const id = stage.demo.shots[2]!.id;
  const canvases = (): Promise<string[]> =>
    page.$$eval('canvas[aria-label^="Picture"], canvas[aria-label^="Compared with"]', (all) =>
      all.map((canvas) => canvas.getContext('2d')!.getImageData(60, 60, 60, 60).data.join()),
    );
  await press('Version');
  await choose('This look on 16 mm');
  await page.waitForSelector('canvas[aria-label^="Compared with"]');
  await pictureOf(page);
  await until(async () => {
    const [now, other] = await canvases();
    return other !== undefined && now !== other && !/^0,0,0,255(,0,0,0,255)*$/.test(other);
  });
  await kept();
  const shot = await stage.app.api(`/shots/${id}`);
  expect([shot.look.lives[0].carrier, shot.versions.length, shot.versions[0].lives[0].carrier, shot.versions[1]]).toEqual(['film16', 2, 'super8', null]);
  // The first is shown again by a click; what was done to the second stays with it, and all can be taken back.
  await (await page.waitForSelector(`::-p-xpath(//*[@aria-label="Versions of the look"]//button[@aria-pressed="false"])`))!.click();
  await kept();
  const back = await stage.app.api(`/shots/${id}`);
  expect([back.look.lives[0].carrier, back.versions[0], back.versions[1].lives[0].carrier]).toEqual(['super8', null, 'film16']);
  await press('Undo');
  await press('Undo');
  await kept();
  expect((await stage.app.api(`/shots/${id}`)).versions).toEqual([]);
});

test('all shots of a reel are struck, a file each and as one film, in three actions from the bench, with a word when they are done', async () => {
  const frames = 6;
  for (const [i, { id }] of (await shotsNow()).entries()) {
    const { revision, preparation } = await stage.app.api(`/shots/${id}`);
    const look = { schema: 'tin-ghost/look@2', name: `Worn ${i}`, seed: i, shape: 'file', lives: [{ carrier: 'none', traits: [{ trait: 'noise', settings: { amount: 0.1 } }] }] };
    const body = JSON.stringify({ look, preparation: { ...preparation, trim: { from: 0, to: frames } }, revision });
    await stage.app.api(`/shots/${id}/look`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body });
  }
  const all = await shotsNow();
  await page.goto(`${stage.app.address}/reels/${reelId()}/shots/${all[0]!.id}`);
  await pictureOf(page);
  await press('Strike prints');
  const what = await named('What');
  const both = await what.evaluate((select) => [...(select as HTMLSelectElement).options].find(({ text }) => /^All \d+ shots, a file each and one film$/.test(text))!.value);
  await what.select(both);
  expect(await page.$eval('[data-estimate]', (p) => p.textContent)).toMatch(new RegExp(`^${all.length + 1} files, about [\\d.]+ [kM]B`));
  await press('Strike');
  // One stays where one is; the word comes there.
  await page.waitForSelector(`::-p-text(All ${all.length + 1} prints are done)`, { timeout: 120_000 });
  expect(page.url()).toContain('/shots/');
  const prints: { shots: number; state: string; done: number; total: number }[] = (await stage.app.api('/prints')).slice(0, all.length + 1);
  expect(prints.map(({ state }) => state)).toEqual(prints.map(() => 'done'));
  expect(prints.map(({ shots }) => shots).sort()).toEqual([...all.map(() => 1), all.length].sort());
  const film = prints.find(({ shots }) => shots > 1)!;
  expect(film.total).toBeGreaterThanOrEqual(all.length * (frames - 2));
});

describe('reels on the shelf', () => {
  const reels = async (): Promise<string[]> => (await stage.app.api('/reels')).map(({ name }: { name: string }) => name);

  test('are renamed, copied, deleted with a way back, and put back from the bin', async () => {
    await page.goto(stage.app.address);
    const [name] = await reels();
    await press(`Rename ${name}`);
    const field = await named(`Name of ${name}`, 'textbox');
    await field.click({ count: 3 });
    await field.type('Line 14');
    await page.keyboard.press('Enter');
    await until(async () => (await reels()).includes('Line 14'));
    await press('Duplicate Line 14');
    await until(async () => (await reels()).includes('Line 14 copy'));
    await press('Delete Line 14 copy');
    await until(async () => !(await reels()).includes('Line 14 copy'));
    await undoNote();
    await until(async () => (await reels()).includes('Line 14 copy'));
    await page.waitForSelector('::-p-aria([name="Delete Line 14 copy"])');
    await press('Delete Line 14 copy');
    await (await page.waitForSelector('section[aria-label="Bin"] ::-p-aria([name="Put back Line 14 copy"])'))!.click();
    await until(async () => (await reels()).includes('Line 14 copy'));
    expect((await stage.app.api('/bin')).reels).toEqual([]);
  });

  test('are moved on the shelf by hand and by keys, and moved back', async () => {
    const [first, second] = await reels();
    const row = async (name: string): Promise<{ x: number; y: number; height: number }> =>
      (await (await page.waitForSelector(`::-p-xpath(//li[@data-reel][.//a[normalize-space()="${name}"]])`))!.boundingBox())!;
    const [from, to] = [await row(first!), await row(second!)];
    await page.mouse.move(from.x + 200, from.y + 20);
    await page.mouse.down();
    await page.mouse.move(from.x + 200, from.y + 40, { steps: 3 });
    await page.mouse.move(to.x + 200, to.y + to.height / 2, { steps: 6 });
    await page.mouse.up();
    await until(async () => (await reels()).join() === [second, first].join());
    await page.waitForFunction((name) => document.querySelector('li[data-reel] a')?.textContent === name, {}, second!);
    await (await page.waitForSelector(`::-p-xpath(//li[@data-reel]//a[normalize-space()="${first}"])`))!.focus();
    await page.keyboard.down('Alt');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.up('Alt');
    await until(async () => (await reels()).join() === [first, second].join());
    // One note, of the last move.
    await page.waitForSelector('::-p-text(is number 1 on the shelf)');
    expect(await page.$$eval('li[data-sonner-toast]', (notes) => notes.filter((note) => note.textContent.includes('on the shelf')).length)).toBe(1);
    await undoNote();
    await until(async () => (await reels()).join() === [second, first].join());
  });
});

test('a reel goes to programs that cut, as OTIO and as EDL, with what is trimmed and how fast', async () => {
  const folder = await mkdtemp(join(stage.folder, 'cut-'));
  const client = await page.createCDPSession();
  await client.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
  const made = await stage.app.api('/reels', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name: 'To cut' }) });
  await dress(stage, 1, { ...EMPTY_LOOK, name: 'Plain' }, { trim: { from: 25, to: 75 }, speed: 0.5 });
  await page.goto(`${stage.app.address}/`);
  const reel = await stage.app.api(`/reels/${reelId()}`);
  const empty = await page.waitForSelector(`button[aria-label="Export ${made.name}"]`);
  expect(await empty!.evaluate((e) => e.disabled)).toBe(true);
  for (const [entry, ending] of [
    ['Cut as OTIO', 'otio'],
    ['Cut as EDL', 'edl'],
  ] as const) {
    await press(`Export ${reel.name}`);
    await choose(entry);
    await until(async () => (await readdir(folder)).includes(`${reel.name}.${ending}`));
  }
  const otio = JSON.parse(await readFile(join(folder, `${reel.name}.otio`), 'utf8'));
  const clips = otio.tracks.children[0].children as { name: string; source_range: { start_time: { value: number }; duration: { value: number } }; metadata: object }[];
  expect(clips.map(({ name }) => name)).toEqual(reel.shots.map(({ name }: { name: string }) => name));
  expect([clips[1]!.source_range.start_time.value, clips[1]!.source_range.duration.value]).toEqual([25, 100]);
  expect(clips[1]!.metadata).toMatchObject({ tin_ghost: { look: { name: 'Plain' } } });
  const edl = await readFile(join(folder, `${reel.name}.edl`), 'utf8');
  expect(edl.split('\r\n').filter((line) => /^\d{3} /.test(line))).toHaveLength(reel.shots.length);
  const { rate } = reel.shots[1].medium.footage;
  expect(edl).toContain(`M2   AX       0${(rate.num / rate.den / 2).toFixed(1)}`);

  // And comes back: with its footage here, its shots are as they were.
  await (await cutField()).uploadFile(join(folder, `${reel.name}.otio`));
  await page.waitForFunction(
    (n) => document.querySelectorAll('[data-cut-file="here"]').length === n,
    {},
    new Set(reel.shots.map(({ medium }: { medium: { name: string } }) => medium.name)).size,
  );
  await press('Import');
  await page.waitForFunction(() => location.pathname.startsWith('/reels/'));
  await pictureOf(page);
  const back = await stage.app.api(`/reels/${/reels\/([^/]+)/.exec(page.url())![1]}`);
  const told = ({ name, look, preparation, medium }: { name: string; look: Look; preparation: object; medium: { id: string } }) => ({ name, look, preparation, medium: medium.id });
  expect(back.id).not.toBe(reel.id);
  expect(back.shots.map(told)).toEqual(reel.shots.map(told));
});

const cutField = async (): Promise<ElementHandle<HTMLInputElement>> => (await page.waitForSelector('input[aria-label="Cut to import"]')) as ElementHandle<HTMLInputElement>;

test('a cut by EDL comes in with the files that are handed over; one that is missing is found by hand, and what is left out is told', async () => {
  const folder = await mkdtemp(join(stage.folder, 'edl-'));
  const clip = (name: string, colour: string): string => {
    execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', `color=${colour}:s=320x180:r=25:d=4`, '-timecode', '10:00:00:00', join(folder, name)]);
    return join(folder, name);
  };
  const [red, blue] = [clip('red.mov', '0xc02020'), clip('other.mov', '0x2020c0')];
  const lines = [
    'TITLE: TWO TRAMS',
    'FCM: NON-DROP FRAME',
    '001  TRAM01  V  C  10:00:01:00 10:00:02:00 01:00:00:00 01:00:01:00',
    '* FROM CLIP NAME: RED.MOV',
    '* SCENE: 4 B',
    '002  AX  V  D  012 10:00:02:00 10:00:03:10 01:00:01:00 01:00:02:10',
    '* TO CLIP NAME: lost.mov',
    '003  AX  V  C  00:00:00:00 00:00:01:00 01:00:02:10 01:00:03:10',
    '* FROM CLIP NAME: nowhere.mov',
  ];
  await writeFile(join(folder, 'two.edl'), lines.join('\r\n'));
  await page.goto(`${stage.app.address}/`);
  await (await cutField()).uploadFile(join(folder, 'two.edl'), red);
  await page.waitForSelector('[data-cut-file]');
  expect(await page.$$eval('[data-cut-file]', (rows) => rows.map((row) => (row as HTMLElement).dataset.cutFile))).toEqual(['file', 'missing', 'missing']);
  await ((await page.$('input[aria-label="File for lost.mov"]')) as ElementHandle<HTMLInputElement>).uploadFile(blue);
  await page.waitForFunction(() => document.querySelectorAll('[data-cut-file="file"]').length === 2);
  await press('Import');
  await page.waitForSelector('[data-cut-notes]', { timeout: 60_000 });
  expect(await page.$$eval('[data-cut-notes] li', (all) => all.map((li) => li.textContent))).toEqual([
    'Not shown here, but exported again: transitions, which are cuts here.',
    'nowhere.mov is missing: its shot is left out.',
  ]);
  await press('Open the reel');
  await page.waitForFunction(() => location.pathname.startsWith('/reels/'));
  await pictureOf(page);
  const { name, shots } = await stage.app.api(`/reels/${/reels\/([^/]+)/.exec(page.url())![1]}`);
  expect([name, shots.map((shot: { name: string; preparation: object; medium: { name: string } }) => [shot.name, shot.preparation, shot.medium.name])]).toEqual([
    'TWO TRAMS',
    [
      ['RED.MOV', { trim: { from: 25, to: 50 } }, 'red.mov'],
      ['lost.mov', { trim: { from: 50, to: 85 } }, 'other.mov'],
    ],
  ]);
  // It goes out again with what is nothing to us.
  const client = await page.createCDPSession();
  await client.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
  await page.goto(`${stage.app.address}/`);
  await press('Export TWO TRAMS');
  await choose('Cut as EDL');
  await until(async () => (await readdir(folder)).includes('TWO TRAMS.edl'));
  const out = await readFile(join(folder, 'TWO TRAMS.edl'), 'utf8');
  expect(out.split('\r\n').slice(3, 6)).toEqual(['001  TRAM01   V     C        10:00:01:00 10:00:02:00 01:00:00:00 01:00:01:00', '* FROM CLIP NAME: RED.MOV', '* SCENE: 4 B']);
  expect(out.split('\r\n')).toEqual(expect.arrayContaining(['002  AX       V     D    012 10:00:02:00 10:00:03:10 01:00:01:00 01:00:02:10', '* TO CLIP NAME: lost.mov']));
});
