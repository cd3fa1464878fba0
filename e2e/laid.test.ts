/** What is laid over the picture, in the real interface: captions typed and placed by hand, plates chosen, brought and turned, spells on the strip; the same bits as in Node. */
import { execFileSync } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { ElementHandle, Page } from 'puppeteer-core';
import type { StoredPlate } from '@tin-ghost/contract';
import { Plan, type Look, type TraitUse } from '@tin-ghost/core';
import { decodeOne, fontsFor, newEngine, plateInfo, probe, type Footage } from '@tin-ghost/media';
import { handsOn, hashOf, openWorn, stageUp, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('laid');
  ({ page } = stage);
});
afterAll(() => stage?.down());

const { named, press, kept, dragIn } = handsOn(() => page);
const lookNow = async (shot: number): Promise<Look> => (await stage.app.api(`/shots/${stage.demo.shots[shot]!.id}`)).look;
const useNow = async (shot: number, index = 0): Promise<TraitUse> => (await lookNow(shot)).lives[0]!.traits[index]!;
const proxyOf = (medium: string): Promise<Footage> => probe(join(stage.app.media, 'media', medium, 'proxy.mp4'));
/** Opens the card of a use by its tag in the chain. */
const openTag = async (name: string): Promise<void> => (await page.waitForSelector(`::-p-xpath(//section[@aria-label="Chain"]//button[normalize-space()="${name}"])`))!.click();

test('has the same bits in the browser as in Node', async () => {
  const traits: TraitUse[] = [
    { trait: 'caption', settings: { text: 'The last tram\n{clock} {rec}', font: 'script', outline: 0.4, copies: 8, shadow: 0.6, jitter: 0.3 }, act: 'lens' },
    { trait: 'plate', settings: { plate: 'leak', mode: 'screen', scale: 80, turn: 12, seam: 6 } },
    { trait: 'plate', settings: { plate: 'paper-grunge', mode: 'multiply', black: 5 } },
  ];
  await openWorn(stage, 1, 'super8', traits);
  for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
  const shown = await pictureOf(page);
  const look = await lookNow(1);
  const footage = await proxyOf(stage.demo.shots[1]!.medium.id);
  const plates: StoredPlate[] = await stage.app.api('/plates');
  const files: Record<string, Footage> = {};
  for (const id of ['leak', 'paper-grunge']) files[id] = await proxyOf(plates.find(({ key }) => key === id)!.medium.id);
  const source = await decodeOne(footage, 0);
  const { width, height } = source;
  const rate = footage.rate.num / footage.rate.den;
  const infos = Object.fromEntries(Object.entries(files).map(([id, plate]) => [id, { ...plateInfo(plate), rate: 24, frames: id === 'leak' ? plate.frames : 120 }]));
  const fonts = await fontsFor(look, async () => undefined);
  const plan = new Plan(await newEngine(), look, { source, target: { width, height, encoding: 'rgba' }, rate, fonts, plates: infos });
  const given = new Map(await Promise.all(plan.sourcePictures(3).map(async (n) => [n, await decodeOne(footage, n)] as const)));
  const laid = new Map(await Promise.all(plan.platePictures(3).map(async ({ plate, picture }) => [`${plate}:${picture}`, await decodeOne(files[plate]!, picture)] as const)));
  expect(laid.size).toBe(2);
  const [pixels] = plan.render(
    3,
    (n) => given.get(n)!,
    undefined,
    undefined,
    (plate, picture) => laid.get(`${plate}:${picture}`)!,
  );
  expect(shown.hash).toBe(hashOf(pixels!));
  plan.dispose();
});

describe('a caption', () => {
  /** Its frame over the picture. */
  const frame = async (): Promise<ElementHandle<Element>> => (await page.waitForSelector('[data-laid="caption"]'))!;
  const boxOf = async (selector: string): Promise<{ x: number; y: number; width: number; height: number }> => (await (await page.waitForSelector(selector))!.boundingBox())!;

  test('is added, typed as one change, and told what its font lacks', async () => {
    await openWorn(stage, 0, 'none', []);
    const clean = await pictureOf(page);
    await press('Add to Lens');
    await (await page.waitForSelector('::-p-xpath(//button[.//canvas[@aria-label="Caption on this picture"]])'))!.click();
    await page.waitForSelector('[data-laid="caption"]');
    expect((await pictureOf(page)).hash).not.toBe(clean.hash);
    const field = await named('Text', 'textbox');
    await field.click({ count: 3 });
    await field.type('Orrin Vale 😀');
    await page.waitForSelector('::-p-xpath(//p[contains(., "Not in this font") and contains(., "😀")])');
    await page.keyboard.press('Tab');
    await kept();
    expect((await useNow(0)).settings).toMatchObject({ text: 'Orrin Vale 😀' });
    await press('Undo');
    await kept();
    expect((await useNow(0)).settings?.text ?? 'The last tram').toBe('The last tram');
    await press('Redo');
  });

  test('is dragged to its place, where it snaps to the middle and not with Alt; its corner scales it', async () => {
    await page.waitForSelector('[data-laid="caption"]');
    const picture = await boxOf('canvas[aria-label^="Picture"]');
    await dragIn(await frame(), { x: 0.5, y: 0.5 }, { x: 0.2 * picture.width, y: 0.3 * picture.height });
    await kept();
    expect((await useNow(0)).settings).toMatchObject({ x: expect.closeTo(70, 0), y: expect.closeTo(80, 0) });
    // Back to nearly the middle: it takes its place there.
    await dragIn(await frame(), { x: 0.5, y: 0.5 }, { x: -0.2 * picture.width + 4, y: -0.3 * picture.height - 3 });
    await kept();
    expect((await useNow(0)).settings).toMatchObject({ x: 50, y: 50 });
    await page.keyboard.down('Alt');
    await dragIn(await frame(), { x: 0.5, y: 0.5 }, { x: 4, y: 0 });
    await page.keyboard.up('Alt');
    await kept();
    const off = (await useNow(0)).settings!.x as number;
    expect(off).toBeGreaterThan(50.2);
    expect(off).toBeLessThan(51.5);
    const before = await boxOf('[data-laid="caption"]');
    const corner = await boxOf('[data-laid="caption"] [data-handle="scale"]:last-of-type');
    await page.mouse.move(corner.x + corner.width / 2, corner.y + corner.height / 2);
    await page.mouse.down();
    await page.mouse.move(corner.x + corner.width / 2 - before.width / 4, corner.y + corner.height / 2 + before.height / 4, { steps: 5 });
    await page.mouse.up();
    await kept();
    expect((await useNow(0)).settings!.size as number).toBeGreaterThan(9);
  });

  test('acts in a spell: drawn in its time alone, its bar moved and trimmed on the strip', async () => {
    await press('Spell');
    await page.waitForSelector('[data-spell="0"]');
    await kept();
    expect((await useNow(0)).when).toEqual([{ from: 0, to: 2, in: 0.4, out: 0.4 }]);
    const lane = await boxOf('[data-spells="caption"]');
    const bar = (await page.$('[data-spells="caption"] [role="slider"]'))!;
    await dragIn(bar, { x: 0.5, y: 0.5 }, { x: lane.width / 8, y: 0 });
    await kept();
    const [moved] = (await useNow(0)).when!;
    expect(moved!.from).toBeCloseTo(1, 1);
    expect(moved!.to - moved!.from).toBeCloseTo(2, 6);
    await dragIn((await page.$('[data-spells="caption"] [data-part="to"]'))!, { x: 0.5, y: 0.5 }, { x: lane.width / 8, y: 0 });
    await kept();
    expect((await useNow(0)).when![0]!.to).toBeCloseTo(4, 1);
    // Before it begins the picture is clean.
    await page.click('body');
    await page.keyboard.press('Home');
    const early = await pictureOf(page);
    const footage = await proxyOf(stage.demo.shots[0]!.medium.id);
    const source = await decodeOne(footage, 0);
    const plan = new Plan(await newEngine(), { ...(await lookNow(0)), lives: [] }, { source, target: { width: source.width, height: source.height, encoding: 'rgba' }, rate: 25 });
    expect(early.hash).toBe(hashOf(plan.render(0, source)[0]!));
    plan.dispose();
    await press('Undo');
    await press('Undo');
    await kept();
    expect((await useNow(0)).when![0]).toEqual({ from: 0, to: 2, in: 0.4, out: 0.4 });
  });

  test('runs its fields with the picture; a clock that is none is told and not taken', async () => {
    await openWorn(stage, 0, 'none', [{ trait: 'caption', settings: { text: '{counter}', font: 'display', size: 20 } }]);
    const hashes: string[] = [];
    for (let i = 0; i < 3; i++) {
      hashes.push(await page.evaluate(() => document.title).then(async () => (await pictureOf(page)).hash));
      await page.keyboard.down('Shift');
      await page.keyboard.press('ArrowRight');
      await page.keyboard.up('Shift');
    }
    expect(new Set(hashes).size).toBe(3);
    await openTag('Caption');
    const clock = await named('Fields, clock from', 'textbox');
    await clock.click({ count: 3 });
    await clock.type('late');
    expect(await page.$eval('input[aria-label="Fields, clock from"]', (e) => e.getAttribute('aria-invalid'))).toBe('true');
    await page.keyboard.press('Tab');
    await clock.click({ count: 3 });
    await clock.type('23:52');
    await page.keyboard.press('Tab');
    await kept();
    expect((await useNow(0)).settings!.clockFrom).toBe('23:52');
  });
});

describe('a plate', () => {
  const choose = async (name: string): Promise<void> => {
    const field = (await page.waitForSelector('select[aria-label="Plate"]'))!;
    const value = await field.evaluate((e, wanted) => [...e.options].find((o) => o.textContent === wanted)!.value, name);
    await page.select('select[aria-label="Plate"]', value);
  };

  test('is chosen with the blend it is meant for, and seen', async () => {
    await openWorn(stage, 2, 'super8', [{ trait: 'plate' }]);
    const clean = await pictureOf(page);
    await openTag('Plate');
    await choose('Paper grunge');
    await page.waitForSelector('[data-laid="plate"]');
    await kept();
    expect((await useNow(2)).settings).toMatchObject({ plate: 'paper-grunge', mode: 'multiply' });
    const dark = await pictureOf(page);
    expect(dark.hash).not.toBe(clean.hash);
    await choose('Leak');
    await kept();
    expect((await useNow(2)).settings).toMatchObject({ plate: 'leak', mode: 'screen' });
    expect((await pictureOf(page)).hash).not.toBe(dark.hash);
  });

  test('of one’s own is imported from the card, laid as it is where it has alpha, and turned by its handle', async () => {
    const file = join(stage.folder, 'badge.png');
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-f',
      'lavfi',
      '-i',
      "color=yellow:s=200x200,format=rgba,geq=r='r(X,Y)':g='g(X,Y)':b='b(X,Y)':a='255*lt(hypot(X-100,Y-100),90)'",
      '-frames:v',
      '1',
      file,
    ]);
    const field = (await page.waitForSelector('input[aria-label="Plate, file"]')) as ElementHandle<HTMLInputElement>;
    await field.uploadFile(file);
    await page.waitForFunction(() => document.querySelector<HTMLSelectElement>('select[aria-label="Plate"]')?.selectedOptions[0]?.textContent === 'badge');
    await kept();
    expect((await useNow(2)).settings).toMatchObject({ mode: 'normal', plate: expect.stringMatching(/^[0-9a-f]{64}$/) });
    const fit = (await page.waitForSelector('::-p-xpath(//label[span="Fit"]//select)'))!;
    await fit.select('contain');
    await kept();
    // A yellow disc over the middle.
    await page.waitForFunction(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label^="Picture"]')!;
      const [r, g, b] = canvas.getContext('2d')!.getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data;
      return r! > 230 && g! > 230 && b! < 40;
    });
    const handle = (await (await page.waitForSelector('[data-laid="plate"] [data-handle="turn"]'))!.boundingBox())!;
    const [x, y] = [handle.x + handle.width / 2, handle.y + handle.height / 2];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 120, y + 20, { steps: 6 });
    await page.mouse.up();
    await kept();
    const turn = (await useNow(2)).settings!.turn as number;
    expect(turn).toBeGreaterThan(10);
    expect(turn).toBeLessThan(80);
    await press('Undo');
    await kept();
    expect((await useNow(2)).settings!.turn ?? 0).toBe(0);
  });

  test('shows its flashes on the strip; each is moved to a moment of its own, trimmed and removed', async () => {
    // Three images, of which the middle one flashes: brought as images, they are one plate.
    const images = [1, 2, 3].map((n) => join(stage.folder, `flash-${n}.png`));
    images.forEach((file, i) => execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', `color=${i === 1 ? 'white' : 'black'}:s=64x36`, '-frames:v', '1', file]));
    await openWorn(stage, 2, 'none', [{ trait: 'plate', settings: { mode: 'screen', fit: 'stretch' } }]);
    await openTag('Plate');
    const field = (await page.waitForSelector('input[aria-label="Plate, file"]')) as ElementHandle<HTMLInputElement>;
    await field.uploadFile(...images);
    await page.waitForFunction(() => document.querySelector<HTMLSelectElement>('select[aria-label="Plate"]')?.selectedOptions[0]?.textContent === 'flash');
    const bars = (): Promise<ElementHandle[]> => page.$$('[data-plate-parts] [role="slider"]');
    await page.waitForSelector('[data-plate-parts] [role="slider"]');
    await (await page.waitForSelector('::-p-xpath(//label[span="Blend"]//select)'))!.select('screen');
    await (await page.waitForSelector('::-p-xpath(//label[span="Keep"]//select)'))!.select('flashes');
    await kept();
    // One picture of the plate, again and again: all is white.
    const white = (): Promise<boolean> =>
      page.evaluate(() => {
        const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label^="Picture"]')!;
        return [0.1, 0.5, 0.9].every((at) =>
          canvas
            .getContext('2d')!
            .getImageData(canvas.width * at, canvas.height * at, 1, 1)
            .data.slice(0, 3)
            .every((v) => v > 250),
        );
      });
    await page.waitForFunction(() => document.querySelectorAll('[data-plate-parts] [role="slider"]').length === 1);
    await pictureOf(page);
    expect(await white()).toBe(true);
    // Moved on by six of its pictures, its first is dark and the seventh flashes.
    await (await bars())[0]!.focus();
    for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight');
    await kept();
    const written = (await useNow(2)).settings!;
    expect(written).toMatchObject({ keep: 'all', parts: expect.stringMatching(/^[\d.]+-[\d.]+@[\d.]+$/) });
    await pictureOf(page);
    expect(await white()).toBe(false);
    const rate = await page.evaluate(
      (id) => fetch('/api/plates').then(async (r) => (await r.json()).find((p: { key: string }) => p.key === id).medium.footage.rate),
      written.plate as string,
    );
    const at = Number((written.parts as string).split('@')[1]);
    expect(at).toBeCloseTo((6 * rate.den) / rate.num, 3);
    // By hand it goes on; the last of its parts stays.
    const before = (await (await bars())[0]!.boundingBox())!;
    await dragIn((await bars())[0]!, { x: 0.5, y: 0.5 }, { x: 90, y: 0 });
    await kept();
    expect((await (await bars())[0]!.boundingBox())!.x - before.x).toBeGreaterThan(70);
    await (await bars())[0]!.focus();
    await page.keyboard.press('Delete');
    await page.waitForSelector('::-p-text(The last part stays)');
    expect(await bars()).toHaveLength(1);
    await press('Undo');
    await kept();
    expect((await useNow(2)).settings!.parts).toBe(written.parts);
    const own = ((await stage.app.api('/plates')) as StoredPlate[]).find(({ name }) => name === 'flash')!;
    await stage.app.api(`/plates/${own.id}`, { method: 'DELETE' });
  });

  test('that is not on this machine is told, and the look still opens', async () => {
    await openWorn(stage, 2, 'super8', [{ trait: 'plate', settings: { plate: 'a'.repeat(64) } }, { trait: 'vignette' }]);
    await openTag('Plate');
    await page.waitForSelector('::-p-xpath(//p[contains(., "This plate is not on this machine")])');
  });

  test('lies in the stockroom, is renamed there and deleted', async () => {
    await page.goto(`${stage.app.address}/stockroom`);
    await page.waitForSelector('section[aria-label="Plates"] li:nth-child(7)');
    const name = await named('Name of badge', 'textbox');
    await name.click({ count: 3 });
    await name.type('Line badge');
    await page.keyboard.press('Enter');
    await named('Delete Line badge', 'button');
    const own = ((await stage.app.api('/plates')) as StoredPlate[]).find(({ shipped }) => !shipped)!;
    expect(own.name).toBe('Line badge');
    await press('Delete Line badge');
    await page.waitForFunction(() => document.querySelectorAll('section[aria-label="Plates"] li').length === 6);
    expect((await stage.app.api('/plates')) as StoredPlate[]).toHaveLength(6);
  });
});

test('a look is seen on the shots of its reel side by side, each as it is by itself', async () => {
  const traits: TraitUse[] = [{ trait: 'caption', settings: { text: 'Depot', size: 30 } }];
  await openWorn(stage, 2, 'none', traits);
  const other = await pictureOf(page);
  await openWorn(stage, 1, 'none', traits);
  const alone = await pictureOf(page);
  await press('On all shots');
  await page.waitForFunction(() => document.querySelectorAll('canvas[aria-label^="The look on"][data-ready]').length === 4);
  const names = await page.$$eval('canvas[aria-label^="The look on"]', (found) => found.map((canvas) => canvas.getAttribute('aria-label')!));
  const seen = [];
  for (const name of names) seen.push((await pictureOf(page, name)).hash);
  // This one first, then the others in their order; on another it is what it is there alone.
  expect(seen[0]).toBe(alone.hash);
  expect(seen[2]).toBe(other.hash);
  expect(new Set(seen).size).toBe(4);
  // Each leads to its shot.
  await (await page.waitForSelector('a[title="To this shot"]'))!.click();
  await page.waitForFunction((id) => location.pathname.endsWith(id), {}, stage.demo.shots[0]!.id);
});

test('a font of one’s own is imported from the card and drawn', async () => {
  await openWorn(stage, 0, 'none', [{ trait: 'caption', settings: { text: 'Depot', size: 20 } }]);
  const before = await pictureOf(page);
  await openTag('Caption');
  const file = join(stage.folder, 'own.woff');
  await writeFile(file, await readFile(join(import.meta.dirname, '../node_modules/@fontsource/michroma/files/michroma-latin-400-normal.woff')));
  const field = (await page.waitForSelector('input[aria-label="Font, file"]')) as ElementHandle<HTMLInputElement>;
  await field.uploadFile(file);
  await page.waitForFunction(() => document.querySelector<HTMLSelectElement>('select[aria-label="Font"]')?.selectedOptions[0]?.textContent === 'own.woff');
  await kept();
  expect((await pictureOf(page)).hash).not.toBe(before.hash);
  expect((await useNow(0)).settings!.font).toMatch(/^[0-9a-f]{64}$/);
});

test('a preset takes the place of all but the text', async () => {
  await openWorn(stage, 0, 'vhs625', [{ trait: 'caption', settings: { text: 'Orrin Vale', turn: 30 } }]);
  await openTag('Caption');
  await page.waitForSelector('select[aria-label="Preset"]');
  await page.select('select[aria-label="Preset"]', 'Subtitle');
  await kept();
  expect((await useNow(0)).settings).toEqual({ text: 'Orrin Vale', font: 'grotesque', size: 4, y: 90, outline: 0.25, leading: 170 });
  await page.select('select[aria-label="Preset"]', 'Camera, recording');
  await kept();
  expect((await useNow(0)).settings).toMatchObject({ text: '{rec} REC   {battery}\n{counter}', font: 'display', align: 'right' });
});

test('a shot is made from nothing: a card of plain colour, of the size and rate of the reel', async () => {
  await press('Plain card');
  const seconds = await page.waitForSelector('[aria-label="Plain card"] label input[type="number"]');
  await seconds!.click({ count: 3 });
  await seconds!.type('2');
  await page.$eval('[aria-label="Plain card"] input[type="color"]', (e) => {
    const field = e;
    Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value')!.set!.call(field, '#ff8000');
    field.dispatchEvent(new Event('input', { bubbles: true }));
  });
  await press('Add the card');
  await page.waitForFunction(
    (before) => location.pathname.includes('/shots/') && !before.includes(location.pathname),
    {},
    stage.demo.shots.map(({ id }) => `/reels/${stage.demo.id}/shots/${id}`),
  );
  await page.waitForSelector('canvas[aria-label^="Picture"]');
  await pictureOf(page);
  const id = page.url().split('/').at(-1)!;
  const shot = await stage.app.api(`/shots/${id}`);
  expect(shot).toMatchObject({ name: 'Card', medium: { footage: { width: 1920, height: 1080, frames: 50, rate: { num: 25, den: 1 } } } });
  const top = await page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label^="Picture"]')!;
    return [...canvas.getContext('2d')!.getImageData(canvas.width / 2, 2, 1, 1).data];
  });
  [255, 128, 0].forEach((v, i) => expect(Math.abs(top[i]! - v)).toBeLessThan(6));
  await stage.app.api(`/shots/${id}`, { method: 'DELETE' });
});
