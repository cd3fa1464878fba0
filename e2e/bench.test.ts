/** The real interface, driven by real clicks and keys, on real footage, judged by its pixels and its files. */
import { execFileSync } from 'node:child_process';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { ElementHandle, Page } from 'puppeteer-core';
import { EMPTY_LOOK, Plan, shippedLook, type Look, type RawFrame } from '@tin-ghost/core';
import { decodeOne, newEngine, probe, renderFrame } from '@tin-ghost/media';
import { dress, handsOn, hashOf, openDressed, openWorn, stageUp, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
let app: Stage['app'];
let folder: string;
let demo: Stage['demo'];

beforeAll(async () => {
  stage = await stageUp('e2e');
  ({ page, app, folder, demo } = stage);
});
afterAll(() => stage?.down());

const { named, press, drag, kept, fill, greyOf } = handsOn(() => page);
/** Grey about the picture. */
const SURROUND = 62;
const openShot = (i: number) => page.goto(`${app.address}/reels/${demo.id}/shots/${demo.shots[i]!.id}`);
const shotLook = async (id: string): Promise<Look> => (await app.api(`/shots/${id}`)).look;

describe('the picture', () => {
  test('has the same bits in the browser’s worker as in Node, for each look the demo begins with', async () => {
    const engine = await newEngine();
    const { shots } = JSON.parse(await readFile('demo/reel.json', 'utf8')) as { shots: { look: string }[] };
    for (const [i, { look: id }] of shots.entries()) {
      const worn = (await app.api(`/shots/${demo.shots[i]!.id}`)).look;
      await openDressed(stage, i, shippedLook(id)!);
      const shown = await pictureOf(page);
      const proxy = join(app.media, 'media', demo.shots[i]!.medium.id, 'proxy.mp4');
      const footage = await probe(proxy);
      const source = await decodeOne(footage, 0);
      const { width, height } = source;
      const plan = new Plan(engine, shippedLook(id)!, { source, target: { width, height, encoding: 'rgba' }, rate: footage.rate.num / footage.rate.den });
      expect({ width: shown.width, height: shown.height, hash: shown.hash }).toEqual({ width, height, hash: hashOf(plan.render(0, source)[0]!) });
      plan.dispose();
      await dress(stage, i, worn);
    }
  });

  test('keeps its place as the page is opened again: what stands below it comes later, in the room it took last', async () => {
    await openShot(0);
    await pictureOf(page);
    const { identifier } = await page.evaluateOnNewDocument(() => {
      const seen = new Set<string>();
      const look = (): void => {
        const transport = document.querySelector('[role="toolbar"][aria-label="Playing"]');
        if (transport) seen.add(`${Math.round(transport.getBoundingClientRect().top)} ${document.querySelector('#chain') ? 'above its chain' : 'alone'}`);
        requestAnimationFrame(look);
      };
      look();
      Object.assign(window, { seen });
    });
    await page.reload();
    await pictureOf(page);
    const seen = await page.evaluate(() => [...(window as unknown as { seen: Set<string> }).seen]);
    await page.removeScriptToEvaluateOnNewDocument(identifier);
    expect(seen.at(-1)).toMatch(/above its chain$/);
    expect(new Set(seen.map((place) => parseInt(place))).size).toBe(1);
  });

  test('in a slip, seen through an opened gate, has its neighbours about it: the same bits as in Node', async () => {
    const shot = demo.shots[1]!;
    const { look: before } = await app.api(`/shots/${shot.id}`);
    const slip = { trait: 'frame-slip', settings: { count: 0, far: 0.5, length: 0.5, way: 'up' }, events: { pinned: [{ id: 'mine', at: 0 }] } };
    const traits = [slip, { trait: 'gate-frame', settings: { scale: 70, open: 1 } }];
    await openWorn(stage, 1, 'super8', traits);
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
    const shown = await pictureOf(page);
    const { look } = await app.api(`/shots/${shot.id}`);
    const footage = await probe(join(app.media, 'media', shot.medium.id, 'proxy.mp4'));
    const given = new Map(await Promise.all([2, 3, 4].map(async (n) => [n, await decodeOne(footage, n)] as const)));
    const source = given.get(3)!;
    const { width, height } = source;
    const plan = new Plan(await newEngine(), look, { source, target: { width, height, encoding: 'rgba' }, rate: footage.rate.num / footage.rate.den });
    expect(plan.sourcePictures(3).sort()).toEqual([2, 3, 4]);
    expect(shown.hash).toBe(hashOf(plan.render(3, (n) => given.get(n)!)[0]!));
    expect(shown.hash).not.toBe(hashOf(plan.render(3, source)[0]!));
    plan.dispose();
    await dress(stage, 1, before);
  });

  test('at 1:1 is the original’s own size and the print’s own bits', async () => {
    await openShot(1);
    await pictureOf(page);
    await page.keyboard.press('1');
    await page.waitForFunction(() => document.querySelector<HTMLCanvasElement>('canvas[aria-label^="Picture"][data-ready]')?.width === 1280);
    await page.waitForFunction(() => document.querySelector<HTMLCanvasElement>('canvas[aria-label^="Picture"]')?.width === 1280);
    const shown = await pictureOf(page);
    const footage = await probe('demo/footage/2-conductor.mp4');
    const source: RawFrame = await decodeOne(footage, 0);
    const engine = await newEngine();
    const plan = new Plan(engine, await shotLook(demo.shots[1]!.id), { source, target: { width: 1280, height: 720, encoding: 'rgba' }, rate: 30 });
    expect(shown.hash).toBe(hashOf(plan.render(0, source)[0]!));
    plan.dispose();
    await page.keyboard.press('f');
  });

  test('before is the clean picture, as long as the key is held', async () => {
    await openShot(0);
    const worn = await pictureOf(page);
    await page.keyboard.down('b');
    await page.waitForSelector('canvas[aria-label$="as shot"]');
    const before = await pictureOf(page);
    await page.keyboard.up('b');
    await page.waitForSelector('canvas[aria-label$="worn"]');
    expect(before.hash).not.toBe(worn.hash);
    expect((await pictureOf(page)).hash).toBe(worn.hash);
  });

  test('has nothing lying over it while the pointer is elsewhere or rests, still and playing; pointer and keys bring the bars back', async () => {
    await openShot(0);
    await pictureOf(page);
    const room = (await (await page.waitForSelector('[data-picture-room]'))!.boundingBox())!;
    const over = (): Promise<unknown> => page.mouse.move(room.x + room.width / 2, room.y + room.height / 2 + Math.random() * 20);
    const away = (): Promise<unknown> => page.mouse.move(room.x + room.width + 150, room.y + 200);
    const bars = async (seen: boolean): Promise<void> => {
      await page.waitForFunction((opacity) => getComputedStyle(document.querySelector('[data-view-bar]')!).opacity === opacity, {}, seen ? '1' : '0');
      // A place of the bar of views, left of the picture: of a button, black or white, or of the surround.
      const clip = { x: room.x + 15, y: room.y + 13, width: 4, height: 4 };
      const pixels = await greyOf(clip);
      const grey = pixels.reduce((sum, v) => sum + v, 0) / pixels.length;
      expect(Math.abs(grey - SURROUND) > 20).toBe(seen);
    };
    await over();
    await bars(true);
    await bars(false);
    // On a bar it may rest.
    await page.mouse.move(room.x + 30, room.y + 24);
    await pause(3500);
    await bars(true);
    await away();
    await bars(false);
    // What is not the worn picture says so.
    await page.keyboard.press('w');
    await bars(true);
    await page.keyboard.press('w');
    await bars(false);
    for (let tabs = 0; !(await page.$('[data-view-bar] :focus')); tabs++) {
      expect(tabs).toBeLessThan(30);
      await page.keyboard.press('Tab');
    }
    await bars(true);
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await bars(false);
    await over();
    await bars(true);
    await page.keyboard.press('Space');
    await bars(false);
    await over();
    await bars(true);
    await page.keyboard.press('Space');
    await away();
    await bars(false);
  });

  test('steps by single pictures and comes back to the same one', async () => {
    await openShot(0);
    const first = await pictureOf(page);
    await page.keyboard.press('ArrowRight');
    await page.waitForSelector('canvas[aria-label^="Picture 2 of 200"]');
    const second = await pictureOf(page);
    await page.keyboard.press('ArrowLeft');
    await page.waitForSelector('canvas[aria-label^="Picture 1 of 200"]');
    expect(second.hash).not.toBe(first.hash);
    expect((await pictureOf(page)).hash).toBe(first.hash);
    expect(await page.$eval('output[aria-label="Time"]', (e) => e.textContent)).toBe('00:00:00:00');
    await page.keyboard.press('End');
    await page.waitForSelector('canvas[aria-label^="Picture 200 of 200"]');
  });

  test('plays, tells its rate, marks what is ready, and stops on a picture', async () => {
    await openShot(3);
    await pictureOf(page);
    await press('Loop');
    await page.keyboard.press('Space');
    await page.waitForFunction(() => document.querySelectorAll('.bg-moss').length > 0);
    await page.waitForFunction(() => /\d+ of 25 fps at \d+ wide/.test(document.body.textContent ?? ''));
    const at = () => page.$eval('[aria-label="Moment in the shot"]', (e) => Number(e.getAttribute('aria-valuenow')));
    const seen = new Set<number>();
    for (let i = 0; i < 200 && seen.size < 20; i++) {
      seen.add(await at());
      await pause(30);
    }
    expect(seen.size).toBeGreaterThanOrEqual(20);
    expect(Math.max(...seen)).toBeLessThanOrEqual(50);
    await page.keyboard.press('Space');
    await page.waitForSelector(`canvas[aria-label^="Picture ${await at()} of 200"][data-ready]`);
  });

  test('the line on the strip stands at the picture; another shot begins with nothing ready', async () => {
    await openShot(3);
    await pictureOf(page);
    /** Where the line is drawn and where it should be, in shares of the strip. */
    const line = () =>
      page.evaluate(() => {
        const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-playhead]')!;
        const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, 1);
        const inked = Array.from({ length: canvas.width }, (_, x) => x).filter((x) => data[4 * x + 3]! > 0);
        const slider = document.querySelector('[aria-label="Moment in the shot"]')!;
        const [now, all] = [Number(slider.getAttribute('aria-valuenow')), Number(slider.getAttribute('aria-valuemax'))];
        return { count: inked.length, drawn: (inked[0]! + 0.5) / canvas.width, wanted: (now - 0.5) / all, red: data[4 * inked[0]!]!, green: data[4 * inked[0]! + 1]! };
      });
    const box = (await (await page.$('[aria-label="Moment in the shot"]'))!.boundingBox())!;
    for (const share of [0.1, 0.62, 0.97]) {
      await page.mouse.click(box.x + share * box.width, box.y + 50);
      await pictureOf(page);
      const { count, drawn, wanted, red, green } = await line();
      expect(count).toBe(1);
      expect(Math.abs(drawn - wanted)).toBeLessThan(0.003);
      expect(Math.abs(drawn - share)).toBeLessThan(0.01);
      expect(red).toBeGreaterThan(green + 60);
    }
    await page.keyboard.press('Space');
    await page.waitForFunction(() => document.querySelectorAll('.bg-moss').length > 0);
    const [first] = await page.$$('[aria-label="Shots"] a');
    await first!.click();
    await page.waitForFunction((name) => document.querySelector('h1')?.textContent === name, {}, demo.shots[0]!.name);
    await pictureOf(page);
    await pause(600);
    expect(await page.$$eval('.bg-moss', (all) => all.length)).toBe(0);
  });

  test('with the pointer on a gap shows how it looks at that point of the chain', async () => {
    await openShot(0);
    const worn = await pictureOf(page);
    const gap = (await page.$('[aria-label="Stock, life 1"] [title="The picture at this point"]'))!;
    await gap.hover();
    await page.waitForFunction(() => document.body.textContent?.includes('at this point of the chain'));
    const there = await pictureOf(page);
    expect(there.hash).not.toBe(worn.hash);
    await page.mouse.move(600, 200);
    await page.waitForFunction(() => !document.body.textContent?.includes('at this point of the chain'));
    expect((await pictureOf(page)).hash).toBe(worn.hash);
  });
});

describe('from a file to a print', () => {
  let clip: string;
  let reel: string;
  let shotId: string;
  beforeAll(() => {
    clip = join(folder, "it's a 'test' clip.mov");
    const args = ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=s=642x360:r=25:d=2', '-f', 'lavfi', '-i', 'sine=f=700:d=2', '-af', 'volume=enable=lt(t\\,1):volume=0'];
    execFileSync('ffmpeg', [...args, '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-c:a', 'aac', clip]);
  });

  test('a new reel takes the file in', async () => {
    await page.goto(app.address);
    await (await named('Name of the new reel')).type('Trial');
    await press('New reel');
    await page.waitForFunction(() => document.body.textContent?.includes('Footage goes here'));
    reel = new URL(page.url()).pathname.split('/')[2]!;
    const input = (await page.$('input[type="file"]')) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(clip);
    // What it shows before its proxy is made is tried elsewhere.
    await page.waitForSelector('[aria-label="Play"]:not([disabled])');
    const shown = await pictureOf(page);
    expect(shown.width).toBe(642);
    const [shot] = (await app.api(`/reels/${reel}`)).shots;
    shotId = shot.id;
    const original = (await readdir(join(app.media, 'media', shot.medium.id))).find((name) => name.startsWith('original'))!;
    expect(await readFile(join(app.media, 'media', shot.medium.id, original))).toEqual(await readFile(clip));
  });

  test('a trait is added from the chain, a setting dragged, and the pixels change; undo takes it back', async () => {
    const clean = await pictureOf(page);
    await press('Add to Stock');
    await (await page.waitForSelector('::-p-text(Red, green and blue do not line up.)'))!.click();
    await page.waitForSelector('[aria-label^="Channel offset, strength"]');
    await kept();
    const added = await pictureOf(page);
    expect(added.hash).not.toBe(clean.hash);
    await drag('Red across', 22);
    await kept();
    const dragged = await pictureOf(page);
    expect(dragged.hash).not.toBe(added.hash);
    const value = (await shotLook(shotId)).lives[0]!.traits[0]!.settings!.redAcross as number;
    expect(value).toBeGreaterThan(0.12);
    // One drag is one step back.
    await page.keyboard.down('Control');
    await page.keyboard.press('z');
    await page.keyboard.up('Control');
    await kept();
    expect((await pictureOf(page)).hash).toBe(added.hash);
    await press('Redo');
    await kept();
    expect((await pictureOf(page)).hash).toBe(dragged.hash);
  });

  test('a number takes a sum, steps by arrows, and keeps within its range', async () => {
    const field = await named('Blue across, % W', 'textbox');
    const set = async (text: string): Promise<number> => {
      await field.click();
      await field.type(text);
      await page.keyboard.press('Enter');
      await page.waitForFunction(() => document.querySelector('[data-keeping="keeping"]'));
      await kept();
      return (await shotLook(shotId)).lives[0]!.traits[0]!.settings!.blueAcross as number;
    };
    expect(await set('0.3*2-0.1')).toBeCloseTo(0.5, 5);
    expect(await set('99')).toBe(5);
    await field.click();
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowDown');
    await page.keyboard.up('Shift');
    await pause(100);
    await kept();
    expect((await shotLook(shotId)).lives[0]!.traits[0]!.settings!.blueAcross).toBeCloseTo(4.9, 5);
  });

  test('a reload finds everything as it was', async () => {
    const before = await pictureOf(page);
    const look = await shotLook(shotId);
    await page.reload();
    expect((await pictureOf(page)).hash).toBe(before.hash);
    expect(await shotLook(shotId)).toEqual(look);
  });

  const closedAndOpened = async (): Promise<void> => {
    const url = page.url();
    await page.close();
    page = await stage.browser.newPage();
    await page.goto(url);
    await pictureOf(page);
    await kept();
  };

  test('a tab closed in the middle of a change loses nothing', async () => {
    await (await page.waitForSelector('[aria-label^="Channel offset, strength"]'))!.click();
    await drag('Green across', 15);
    await closedAndOpened();
    expect((await shotLook(shotId)).lives[0]!.traits[0]!.settings!.greenAcross).toBeGreaterThan(0);
  });

  test('a tab closed before the server’s answer knows its own change again', async () => {
    await (await page.waitForSelector('[aria-label^="Channel offset, strength"]'))!.click();
    const value = async () => (await shotLook(shotId)).lives[0]!.traits[0]!.settings!.greenAcross as number;
    const network = await page.createCDPSession();
    await network.send('Fetch.enable', { patterns: [{ urlPattern: '*/look', requestStage: 'Response' }] });
    const arrived = new Promise((resolve) => network.once('Fetch.requestPaused', resolve));
    await drag('Green across', 10);
    await arrived;
    const first = await value();
    await drag('Green across', 10);
    const shown = Number(await (await named('Green across, % W', 'textbox')).evaluate((field) => (field as HTMLInputElement).value));
    await closedAndOpened();
    expect(await value()).toBeCloseTo(shown, 2);
    expect(shown).toBeGreaterThan(first + 0.1);
  });

  test.each([
    ['mp4', 'h264', 'h264'],
    ['webm', 'vp9', 'vp9'],
    ['mp4', 'h265', 'hevc'],
    ['mov', 'dnxhr', 'dnxhd'],
  ])('a print in %s, %s, has the right size, rate, pictures, and its sound in step', async (format, coding, codec) => {
    await page.goto(`${app.address}/reels/${reel}`);
    await pictureOf(page);
    await kept();
    await press('Strike prints');
    await (await named('Format')).select(`${format}/${coding}`);
    const rated = coding === 'h264';
    if (rated) {
      await (await named('Quality')).select('rate');
      // Out of its limits it is the limit; less than one is taken.
      await fill('Bit rate', '-3');
      expect(await page.$eval('[data-estimate]', (e) => e.textContent)).toMatch(/^1 file, about 25 kB/);
      await fill('Bit rate', '0.5');
      expect(await page.$eval('[data-estimate]', (e) => e.textContent)).toMatch(/^1 file, about 125 kB/);
      await fill('Bit rate', '3');
      expect(await page.$eval('[data-estimate]', (e) => e.textContent)).toMatch(/^1 file, about 750 kB/);
    }
    if (coding === 'dnxhr') {
      expect(await page.$('select[aria-label="Depth"]')).toBeNull();
      await (await named('Quality')).select('master');
      expect(await page.$eval('select[aria-label="Depth"]', (e) => [e.value, e.textContent])).toEqual(['10', 'HQX, 10 bitsHQ, 8 bits']);
      await (await named('Depth')).select('8');
    }
    if (coding === 'h265') {
      await fill('File name', '{shot} {data}');
      expect(await page.$eval('[role="dialog"] [role="alert"]', (e) => e.textContent)).toBe('{data} cannot be filled in, only {reel} {number} {shot} {look}.');
      expect(await page.$eval('[role="dialog"] button:last-of-type', (e) => e.disabled)).toBe(true);
      await fill('File name', 'L14_{number}');
      expect(await page.$eval('[data-file-name]', (e) => e.textContent)).toBe('L14_01.mp4');
    }
    await press('Strike');
    // It closes when the server has the order; a note of the print before may still offer the way.
    await page.waitForSelector('[role="dialog"]', { hidden: true });
    await press('To the prints');
    const row = await page
      .waitForFunction(
        (wanted) => [...document.querySelectorAll('li[data-print="done"]')].find((li) => li.textContent?.includes(wanted)),
        { timeout: 60_000 },
        { h264: '3 Mbit/s', h265: 'MP4 H.265', vp9: 'WebM VP9', dnxhr: 'MOV DNxHR 8 bits' }[coding]!,
      )
      .catch(async (error: Error) => {
        throw new Error(`${error.message}; the prints: ${JSON.stringify(await app.api('/prints'))}`);
      });
    const href = await (row as unknown as ElementHandle<HTMLElement>).evaluate((li) => li.querySelector('a')!.href);
    const answer = await fetch(href);
    // By its pattern, or by the shot and its look, without what a file system may refuse.
    const called = coding === 'h265' ? 'L14_01' : 'it_s a _test_ clip, New look';
    expect(answer.headers.get('content-disposition')!.replaceAll('"', '')).toContain(`filename=${called}.${format}`);
    const file = join(folder, `print.${format}`);
    await writeFile(file, Buffer.from(await answer.arrayBuffer()));
    const { streams } = JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-of', 'json', file], { encoding: 'utf8' }));
    expect(streams[0]).toMatchObject({ codec_name: codec, width: 642, height: 360, r_frame_rate: '25/1', nb_read_frames: '50' });
    if (coding === 'dnxhr') expect(streams[0]).toMatchObject({ profile: 'DNXHR HQ', pix_fmt: 'yuv422p' });
    // The tone begins after one second of silence, in the print as in the clip.
    const pcm = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', 'a', '-ac', '1', '-ar', '8000', '-f', 's16le', 'pipe:1']);
    const samples = new Int16Array(pcm.buffer, pcm.byteOffset, pcm.length >> 1);
    const from = samples.findIndex((v) => Math.abs(v) > 1500) / 8000;
    expect(Math.abs(from - 1)).toBeLessThan(0.03);
    // Worn: red and green of the print no longer line up as they did in the clip.
    const worn = await decodeOne(await probe(file), 25);
    const clean = await decodeOne(await probe(clip), 25);
    expect(hashOf(worn.planes[1]!)).not.toBe(hashOf(clean.planes[1]!));
  });

  test('the frame that is seen is struck as a still, to the bit; its wear alone is told with what is left out of it', async () => {
    await page.goto(`${app.address}/reels/${reel}`);
    await pictureOf(page);
    await kept();
    await press('Strike prints');
    await (await named('Picture')).select('alpha');
    await page.waitForFunction(() => [...document.querySelectorAll('[role="alert"]')].some((e) => e.textContent?.includes('no wear in this look that can be laid over a picture')));
    expect(await page.$eval('[role="dialog"] button:last-of-type', (e) => e.disabled)).toBe(true);
    await page.keyboard.press('Escape');
    const [bare] = (await app.api(`/reels/${reel}`)).shots as { id: string; look: Look; revision: number }[];
    const [life] = bare!.look.lives;
    const dusty = { ...bare!.look, lives: [{ ...life!, traits: [...life!.traits, { trait: 'dust', settings: { count: 30 } }] }] };
    const headers = { 'content-type': 'application/json' };
    await app.api(`/shots/${bare!.id}/look`, { method: 'PUT', headers, body: JSON.stringify({ look: dusty, revision: bare!.revision }) });
    await page.reload();
    await pictureOf(page);
    for (let i = 0; i < 7; i++) await page.keyboard.press('ArrowRight');
    await press('Strike prints');
    await (await named('Picture')).select('alpha');
    const told = await (await page.waitForSelector('[data-ground]'))!.evaluate((e) => e.textContent);
    expect(told).toMatch(/^Laid over the same picture by “normal”.*Left out.*Channel offset/);
    // Nothing without a place for alpha is offered.
    const offered = await page.$$eval('select[aria-label="Format"] option', (all) => all.map((option) => option.value));
    expect(offered).toEqual(['webm/vp9', 'mov/prores4444', 'png/png', 'tiff/tiff']);
    await (await named('Picture')).select('worn');
    const whats = await page.$$eval('select[aria-label="What"] option', (all) => all.map((option) => [option.value, option.textContent]));
    await (await named('What')).select(whats.find(([, label]) => label === 'This frame, 8')![0]!);
    const fileName = (): Promise<string> => page.$eval('[data-file-name]', (e) => e.textContent);
    expect(await fileName()).toMatch(/\.png$/);
    await (await named('What')).select('0');
    await (await named('Format')).select('png/png');
    expect(await fileName()).toMatch(/\.zip$/);
    await (await named('What')).select(whats.find(([, label]) => label === 'This frame, 8')![0]!);
    await (await named('Depth')).select('8');
    await press('Strike');
    await press('To the prints');
    const row = await page.waitForFunction(() => [...document.querySelectorAll('li[data-print="done"]')].find((li) => li.textContent?.includes('PNG, 642 × 360, frame 8')), {
      timeout: 60_000,
    });
    const href = await (row as unknown as ElementHandle<HTMLElement>).evaluate((li) => li.querySelector('a')!.href);
    const file = join(folder, 'still.png');
    await writeFile(file, Buffer.from(await (await fetch(href)).arrayBuffer()));
    const [shot] = (await app.api(`/reels/${reel}`)).shots as { look: Look }[];
    const wanted = await renderFrame(await probe(clip), shot!.look, 7);
    const still = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-pix_fmt', 'gbrp', '-f', 'rawvideo', 'pipe:1'], { maxBuffer: 1e8 });
    expect(still.equals(Buffer.concat([wanted[1]!, wanted[2]!, wanted[0]!]))).toBe(true);
  });
});

describe('what goes wrong is said where one looks', () => {
  test('a text named .mp4: the reason stands at its shot, the others stay', async () => {
    const bad = join(folder, 'notes.mp4');
    await writeFile(bad, 'this is no film');
    await openShot(0);
    await pictureOf(page);
    const input = (await page.$('input[type="file"]')) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(bad);
    await page.waitForFunction(() => document.querySelector('aside[aria-label="Shots"] [role="alert"]')?.textContent?.includes('a text or a list, not footage'));
    const shots = (await app.api(`/reels/${demo.id}`)).shots as { medium: { state: string } }[];
    expect(shots.map((s) => s.medium.state)).toEqual(['ready', 'ready', 'ready', 'ready', 'failed']);
  });

  test('a server that does not answer: the change is held in the browser and arrives later', async () => {
    await openShot(2);
    await pictureOf(page);
    await (await page.waitForSelector('[aria-label^="Channel offset, strength"]'))!.click();
    await page.setOfflineMode(true);
    await drag('Red down', 12);
    await page.waitForSelector('[data-keeping="held"]');
    expect(await page.$eval('[role="alert"]', (e) => e.textContent)).toMatch(/held in this browser/);
    await page.setOfflineMode(false);
    await kept();
    expect((await shotLook(demo.shots[2]!.id)).lives[0]!.traits[0]!.settings!.redDown).toBeGreaterThan(0);
  });

  test('two tabs: neither change is lost before one is chosen', async () => {
    const id = demo.shots[3]!.id;
    await openShot(3);
    await pictureOf(page);
    const { revision } = await app.api(`/shots/${id}`);
    const other: Look = { ...EMPTY_LOOK, name: 'From elsewhere', lives: [{ carrier: 'film16', traits: [{ trait: 'grain' }] }] };
    await app.api(`/shots/${id}/look`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ look: other, revision }) });
    await (await page.waitForSelector('[aria-label^="Grain, strength"]'))!.click();
    await drag('Granularity', 10);
    await page.waitForFunction(() => document.body.textContent?.includes('also changed elsewhere'));
    expect((await shotLook(id)).name).toBe('From elsewhere');
    await press('Keep this one');
    await kept();
    expect((await shotLook(id)).name).toBe('Night tube');
  });

  test('an address that is none', async () => {
    await page.goto(`${app.address}/nowhere`);
    expect(await (await page.waitForSelector('main'))!.evaluate((e) => e.textContent)).toMatch(/nothing here/);
  });
});
