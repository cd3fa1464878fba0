/** An editor's jobs by real clicks and keys, none in more of them than it may take; judged by pixels and by what the server keeps. */
import { execFileSync } from 'node:child_process';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { beforeEach, expect, test } from '@jest/globals';
import type { ElementHandle, KeyInput } from 'puppeteer-core';
import { EMPTY_LOOK, Score, type Look, type TraitUse } from '@tin-ghost/core';
import { newEngine } from '@tin-ghost/media';
import { dress, handsOn, openWorn, staged, until } from './hands';
import { pictureOf } from './stage.mjs';

const stage = staged('jobs');
const { dragIn, kept, named, press } = handsOn(() => stage().page);
const page = () => stage().page;

/** Clicks, drags, drops, and keys, since the job began. */
let actions = 0;
beforeEach(() => void (actions = 0));
const click = async (element: ElementHandle | null, count = 1): Promise<void> => {
  actions++;
  await element!.click({ count });
};
const key = async (name: KeyInput, ...held: KeyInput[]): Promise<void> => {
  actions++;
  for (const one of held) await page().keyboard.down(one);
  await page().keyboard.press(name);
  for (const one of held) await page().keyboard.up(one);
};
const button = (text: string, within = ''): Promise<ElementHandle> =>
  page()
    .waitForSelector(`::-p-xpath(${within}//button[normalize-space()="${text}"])`)
    .then((found) => found as ElementHandle);
const tags = (): Promise<ElementHandle[]> => page().$$('[data-use]');
/** A look of the list beside the picture. */
const lookNamed = (name: string): Promise<ElementHandle> =>
  page()
    .waitForSelector(`::-p-xpath(//aside[@id="card"]//button[starts-with(normalize-space(), "${name}")])`)
    .then((found) => found as ElementHandle);
const shotNow = async (i: number): Promise<{ look: Look }> => stage().app.api(`/shots/${stage().demo.shots[i]!.id}`);
const useNow = async (i: number, trait: string): Promise<TraitUse> => (await shotNow(i)).look.lives[0]!.traits.find((use) => use.trait === trait)!;

/** Drops a file on the page, as a hand would. */
const drop = (name: string, bytes: Buffer): Promise<void> => {
  actions++;
  return page().evaluate(
    (file, content) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([Uint8Array.from(atob(content), (c) => c.charCodeAt(0))], file));
      for (const type of ['dragenter', 'dragover', 'drop'])
        document.querySelector('main')!.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: transfer }));
    },
    name,
    bytes.toString('base64'),
  );
};

test('dusk as Super 8 from a look, three settings changed, judged at 1:1 while it plays: ten actions', async () => {
  await openWorn(stage(), 1, 'none', []);
  const clean = await pictureOf(page());
  await click(await lookNamed('Home gauge'));
  await kept();
  const looked = await pictureOf(page());
  expect(looked.hash).not.toBe(clean.hash);
  let before = looked.hash;
  for (const i of [0, 1, 2]) {
    await click((await tags())[i]!);
    const slider = (await page().waitForSelector('[data-card] [role="slider"]')) as ElementHandle;
    actions++;
    await dragIn(slider, { x: 0.5, y: 0.5 }, { x: -40, y: 0 });
    await kept();
    const now = await pictureOf(page());
    expect(now.hash).not.toBe(before);
    before = now.hash;
  }
  expect((await shotNow(1)).look.lives[0]!.carrier).toBe('super8');
  await page().evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await key('1');
  await key('Space');
  await page().waitForFunction(() => /\d+ of \d+ fps/.test(document.body.textContent ?? ''), { timeout: 60_000 });
  expect(actions).toBeLessThanOrEqual(10);
  await key('Space');
});

test('the same by keys alone, in under forty', async () => {
  await openWorn(stage(), 1, 'none', []);
  const find = async (text: string): Promise<void> => {
    await key('k', 'Control');
    await page().waitForSelector('[cmdk-input]');
    await page().keyboard.type(text);
    actions += text.length;
    // What is found stands there before it is taken.
    await page().waitForSelector('[cmdk-item][data-selected="true"]');
    await key('Enter');
    await page().waitForSelector('[cmdk-input]', { hidden: true });
  };
  await find('sunday');
  await kept();
  let before = (await pictureOf(page())).hash;
  for (const name of ['grain', 'weave', 'halation']) {
    // Its card, with the focus on its strength.
    await find(name.slice(0, 4));
    await page().waitForFunction(() => document.activeElement?.matches('[data-card] [role="slider"]'));
    await key('Home');
    await kept();
    const now = await pictureOf(page());
    expect(now.hash).not.toBe(before);
    before = now.hash;
  }
  await key('1');
  await key('l');
  await page().waitForFunction(() => /\d+ of \d+ fps/.test(document.body.textContent ?? ''), { timeout: 60_000 });
  await key('k');
  expect(actions).toBeLessThan(40);
});

test('that look on the other three shots, a seed of its own for each, one adapted: four actions', async () => {
  const { demo } = stage();
  await openWorn(stage(), 0, 'super8', [{ trait: 'grain' }, { trait: 'dust', settings: { count: 30 } }]);
  const entry = (n: number): Promise<ElementHandle> =>
    page()
      .waitForSelector(`aside[aria-label="Shots"] ol li:nth-child(${n}) a`)
      .then((found) => found as ElementHandle);
  actions++;
  await (await entry(1)).click({ button: 'right' });
  await click(await page().waitForSelector('::-p-xpath(//*[@role="menuitem"][starts-with(normalize-space(), "Apply its look to all others")])'));
  await until(async () => (await shotNow(3)).look.lives[0]?.traits[1]?.trait === 'dust');
  const looks = await Promise.all(demo.shots.map((_, i) => shotNow(i)));
  expect(new Set(looks.map(({ look }) => look.seed)).size).toBe(4);
  for (const { look } of looks) expect(look.lives[0]!.traits.map(({ trait }) => trait)).toEqual(['grain', 'dust']);
  await click(await entry(2));
  await page().waitForFunction((id) => location.pathname.endsWith(id), {}, demo.shots[1]!.id);
  const worn = await pictureOf(page());
  // Off by a double click.
  await click(await page().waitForSelector('button[aria-label^="Dust,"]'), 2);
  await kept();
  expect((await pictureOf(page())).hash).not.toBe(worn.hash);
  expect((await useNow(1, 'dust')).on).toBe(false);
  expect((await useNow(2, 'dust')).on).not.toBe(false);
  expect(actions).toBeLessThanOrEqual(4);
});

test('a slip and a splice at 00:00:03:00, one of them moved by keys, a scratch clicked in the picture and muted: eight actions', async () => {
  const uses: TraitUse[] = [
    { trait: 'scratches', settings: { count: 60, life: 3, wander: 0, broken: 0, width: 60, depth: 1 } },
    { trait: 'splices', settings: { count: 0 } },
    { trait: 'frame-slip', settings: { count: 0 } },
  ];
  await openWorn(stage(), 1, 'super8', uses);
  const rate = 30;
  // To 00:00:03:00 by a click on the strip.
  const moment = (await (await page().waitForSelector('[aria-label="Moment in the shot"]'))!.boundingBox())!;
  const frames = Number(await page().$eval('[aria-label="Moment in the shot"]', (slider) => slider.getAttribute('aria-valuemax')));
  actions++;
  await page().mouse.click(moment.x + (moment.width * (3 * rate + 0.5)) / frames, moment.y + 50);
  await page().waitForFunction(() => document.querySelector('[aria-label="Time"]')?.textContent === '00:00:03:00');
  for (const name of ['Frame slip', 'Splices']) {
    await click(await page().waitForSelector(`[data-use][aria-label^="${name},"]`));
    await click(await button('Pin one here'));
    await kept();
  }
  await page().evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page().waitForSelector('canvas[data-lane="splices"][data-events="1"][data-current]');
  await key('ArrowRight', 'Alt');
  await kept();
  expect((await useNow(1, 'frame-slip')).events!.pinned).toEqual([{ id: 'hand-1', at: 3 }]);
  expect((await useNow(1, 'splices')).events!.pinned).toEqual([{ id: 'hand-1', at: 3 + 1 / rate }]);

  // One that shows on this picture, by itself at its place.
  const { look } = await shotNow(1);
  const n = 3 * rate + 1;
  const shown = new Score(await newEngine(), look, { rate }).shown(n).filter(({ trait }) => trait === 'scratches');
  const [scratch] = shown.filter(({ id, x }) => x > 0.2 && x < 0.8 && shown.every((other) => other.id === id || Math.abs(other.x - x) > 0.03));
  expect(scratch).toBeDefined();
  const before = await pictureOf(page());
  const picture = (await (await page().waitForSelector('canvas[aria-label^="Picture"]'))!.boundingBox())!;
  actions++;
  await page().mouse.click(picture.x + picture.width * scratch!.x, picture.y + picture.height * 0.6);
  await page().waitForSelector('[data-card][aria-label*="Scratches"]');
  await key('Delete');
  await kept();
  expect((await useNow(1, 'scratches')).events!.muted).toEqual([scratch!.id]);
  expect((await pictureOf(page())).hash).not.toBe(before.hash);
  expect(actions).toBeLessThanOrEqual(8);
});

test('a speck is clicked in the picture at 1:1, where it is panned; a drag, and a click where nothing is, choose nothing', async () => {
  const speck = { id: 'hand-1', at: 0, x: 0.45, y: 0.45, length: 6, scale: 2 };
  await openWorn(stage(), 1, 'super8', [{ trait: 'grain' }, { trait: 'dust', settings: { count: 0 }, events: { pinned: [speck] } }]);
  await key('1');
  await page().waitForFunction(() => document.querySelector<HTMLCanvasElement>('canvas[aria-label^="Picture"][data-ready]')?.width === 1280);
  await pictureOf(page());
  const picture = (await (await page().waitForSelector('canvas[aria-label^="Picture"]'))!.boundingBox())!;
  const at = (x: number, y: number): [number, number] => [picture.x + picture.width * x, picture.y + picture.height * y];
  const looked = async (): Promise<void> => {
    await pause(300);
    await page().waitForSelector('[data-busy]', { hidden: true });
  };
  await page().mouse.click(...at(0.55, 0.52));
  await looked();
  await page().mouse.move(...at(speck.x, speck.y));
  await page().mouse.down();
  await page().mouse.move(at(speck.x, speck.y)[0] + 20, at(speck.x, speck.y)[1], { steps: 3 });
  await page().mouse.move(...at(speck.x, speck.y), { steps: 3 });
  await page().mouse.move(at(speck.x, speck.y)[0] + 12, at(speck.x, speck.y)[1], { steps: 3 });
  await page().mouse.up();
  await looked();
  expect(await page().$('[data-card]')).toBeNull();
  await page().mouse.click(at(speck.x, speck.y)[0] + 12, at(speck.x, speck.y)[1]);
  await page().waitForSelector('[data-card][aria-label="Card of Dust"]');
  expect(await page().$eval('[data-card] section[aria-label="Event"]', (panel) => panel.innerText)).toMatch(/pinned/i);
});

test('a face is kept clean: an ellipse drawn on the picture, which moves with it by two keys: five actions', async () => {
  // A print's noise without any place in it that is clean by chance.
  await openWorn(stage(), 1, 'none', [{ trait: 'noise', settings: { amount: 0.4 } }]);
  const picture = (await (await page().waitForSelector('canvas[aria-label^="Picture"]'))!.boundingBox())!;
  const at = (x: number, y: number): [number, number] => [picture.x + picture.width * x, picture.y + picture.height * y];
  const drag = async (from: [number, number], to: [number, number]): Promise<void> => {
    await page().mouse.move(...at(...from));
    await page().mouse.down();
    await page().mouse.move(...at(...to), { steps: 5 });
    await page().mouse.up();
    await kept();
  };
  /** Mean distance from the clean picture about a place, in codes of 255. */
  const worn = async (x: number, y: number): Promise<number> => {
    const read = async (as: string): Promise<number[]> => {
      await page().waitForSelector(`canvas[aria-label$="${as}"]`);
      await pictureOf(page());
      return page().evaluate(
        (px, py) => {
          const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label^="Picture"][data-ready]')!;
          return [...canvas.getContext('2d')!.getImageData(canvas.width * px - 6, canvas.height * py - 6, 12, 12).data];
        },
        x,
        y,
      );
    };
    const dirty = await read('worn');
    await page().keyboard.press('w');
    const clean = await read('as shot');
    await page().keyboard.press('w');
    await page().waitForSelector('canvas[aria-label$="worn"]');
    await pictureOf(page());
    return dirty.reduce((sum, v, i) => sum + Math.abs(v - clean[i]!), 0) / dirty.length;
  };
  const zone = async () => (await shotNow(1)).look.lives[0]!.traits[0]!.zone!;

  await click(await page().waitForSelector('::-p-xpath(//section[@aria-label="Chain"]//button[normalize-space()="Noise"])'));
  await click(await button('Draw'));
  await page().waitForSelector('[data-sheet]');
  actions++;
  await drag([0.1, 0.2], [0.4, 0.8]);
  // Two seconds on he has gone to the right.
  const moment = (await (await page().waitForSelector('[aria-label="Moment in the shot"]'))!.boundingBox())!;
  const frames = Number(await page().$eval('[aria-label="Moment in the shot"]', (slider) => slider.getAttribute('aria-valuemax')));
  actions++;
  await page().mouse.click(moment.x + (moment.width * (2 * 30 + 0.5)) / frames, moment.y + 50);
  await page().waitForFunction(() => document.querySelector('[aria-label="Time"]')?.textContent === '00:00:02:00');
  await pictureOf(page());
  actions++;
  await drag([0.25, 0.5], [0.75, 0.5]);
  expect(actions).toBeLessThanOrEqual(5);

  const { kind, keys } = await zone();
  expect([kind, keys!.map((key) => key.at)]).toEqual(['quiet', [0, 2]]);
  for (const [i, x] of [0.25, 0.75].entries()) {
    expect(keys![i]!.x).toBeCloseTo(x, 2);
    expect(keys![i]!.across).toBeCloseTo(0.15, 2);
    expect(keys![i]!.down).toBeCloseTo(0.3, 2);
  }
  expect(await worn(0.75, 0.5)).toBe(0);
  expect(await worn(0.25, 0.5)).toBeGreaterThan(4);
  await page().evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await key('ArrowLeft', 'Shift');
  // Half way in time it is half way in place.
  await page().waitForFunction(() => document.querySelector('[aria-label="Time"]')?.textContent === '00:00:01:00');
  expect(await worn(0.5, 0.5)).toBe(0);
  expect(await worn(0.75, 0.5)).toBeGreaterThan(4);

  // Its handles size it, and at 1:1 what is dragged is the ellipse, not the picture.
  const before = (await zone()).keys!.length;
  const handle = (await (await page().waitForSelector('[data-zone] [data-handle="0"]'))!.boundingBox())!;
  await page().mouse.move(handle.x + handle.width / 2, handle.y + handle.height / 2);
  await page().mouse.down();
  await page().mouse.move(handle.x + handle.width / 2 + picture.width * 0.1, handle.y + handle.height / 2, { steps: 5 });
  await page().mouse.up();
  await kept();
  expect((await zone()).keys).toHaveLength(before + 1);
  expect((await zone()).keys![1]!.across).toBeCloseTo(0.25, 2);
  await key('1');
  await page().waitForFunction(() => document.querySelector<HTMLCanvasElement>('canvas[aria-label^="Picture"][data-ready]')?.width === 1280);
  const placeOf = async () => (await (await page().waitForSelector('canvas[aria-label^="Picture"]'))!.boundingBox())!;
  const lies = await placeOf();
  const y = (await zone()).keys![1]!.y;
  await dragIn((await page().waitForSelector('[data-zone]')) as ElementHandle, { x: 0.5, y: 0.5 }, { x: 0, y: lies.height * 0.1 });
  await kept();
  expect(await placeOf()).toEqual(lies);
  expect((await zone()).keys![1]!.y).toBeCloseTo(y + 0.1, 2);

  // Escape leaves what was to be drawn. It is drawn on the worn picture, whatever was seen before.
  await page().keyboard.press('w');
  await page().waitForSelector('canvas[aria-label$="as shot"]');
  await press('Wipe');
  await page().waitForSelector('[data-zone]', { hidden: true });
  await press('Draw');
  await page().waitForSelector('[data-sheet]');
  await page().waitForSelector('[data-zone]');
  await page().waitForSelector('canvas[aria-label$="worn"]');
  const was = await zone();
  await page().keyboard.press('Escape');
  await page().waitForSelector('[data-sheet]', { hidden: true });
  expect(await zone()).toEqual(was);
  await press('Alone');
  await page().keyboard.press('f');
});

test('a look is put in the stockroom, exported, imported by a drop, and laid on another reel', async () => {
  const { app, folder, demo } = stage();
  await openWorn(stage(), 0, 'film16', [{ trait: 'grain' }]);
  const name = (await page().waitForSelector('input[aria-label="Name of the look"]')) as ElementHandle<HTMLInputElement>;
  await name.click({ count: 3 });
  await name.type('Last night');
  await page().keyboard.press('Enter');
  await kept();
  await press('Put in stockroom');
  await page().waitForFunction(async () => ((await (await fetch('/api/looks')).json()) as { look: { name: string } }[]).some(({ look }) => look.name === 'Last night'));
  const client = await page().createCDPSession();
  await client.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
  await (await named('Export look', 'link')).click();
  let file: string | undefined;
  await until(async () => {
    file = (await readdir(folder)).find((one) => one.startsWith('Last night') && one.endsWith('.json'));
    return file !== undefined;
  });
  const { id: other } = await app.api(`/reels/${demo.id}/copy`, { method: 'POST' });
  await page().goto(`${app.address}/stockroom`);
  await page().waitForSelector('main > ul h2');
  await drop('From elsewhere.json', await readFile(join(folder, file!)));
  await page().waitForFunction(() => [...document.querySelectorAll('main > ul h2')].some((h) => h.textContent === 'Last night 2'));
  await press('Apply to a reel, Last night 2');
  const { name: called } = await app.api(`/reels/${other}`);
  await (await page().waitForSelector(`::-p-xpath(//*[@role="menuitem"][starts-with(normalize-space(), "${called},")])`))!.click();
  await page().waitForSelector('::-p-text(each with a seed of its own)');
  const laid: { look: Look }[] = (await app.api(`/reels/${other}`)).shots;
  for (const { look } of laid) expect([look.name, look.lives[0]!.carrier, look.lives[0]!.traits.map(({ trait }) => trait).join()]).toEqual(['Last night 2', 'film16', 'grain']);
  expect((await shotNow(0)).look.name).toBe('Last night');
});

test('where it cannot keep its rate it says what costs most, and in draft it keeps half of it, small', async () => {
  // More than two processors wear thirty times a second.
  const traits: TraitUse[] = ['softness', 'halation', 'grain', 'gate-weave'].map((trait) => ({ trait }));
  const heavy = Array.from({ length: 6 }, () => ({ carrier: 'super8', traits }));
  await dress(stage(), 1, { ...EMPTY_LOOK, lives: heavy });
  const { app, demo } = stage();
  await page().goto(`${app.address}/reels/${demo.id}/shots/${demo.shots[1]!.id}`);
  await pictureOf(page());
  await key('1');
  await key('Space');
  await page().waitForFunction(() => /(Softness|Halation|Grain|Gate weave) costs most, [1-9]\d? %/.test(document.querySelector('[aria-label="Playing"]')?.textContent ?? ''), {
    timeout: 60_000,
  });
  await press('Draft');
  await page().waitForFunction(() => /of 30 fps at (480|320) wide/.test(document.querySelector('[aria-label="Playing"]')?.textContent ?? ''));
  expect(await page().$eval('[aria-label="Playing"]', (bar) => / costs most/.test(bar.textContent ?? ''))).toBe(false);
  expect(Number(await page().$eval('[aria-label="Playing"] [title*="of 30 fps"]', (rate) => /^(\d+) of/.exec(rate.textContent)![1]))).toBeLessThanOrEqual(16);
  await press('Draft');
  await key('Space');
});

test('in full screen the picture has its transport with it', async () => {
  await openWorn(stage(), 1, 'super8', [{ trait: 'grain' }]);
  const before = (await (await page().waitForSelector('canvas[aria-label^="Picture"]'))!.boundingBox())!;
  await key('g');
  await page().waitForFunction(() => document.fullscreenElement !== null);
  await page().waitForFunction((width) => document.querySelector('canvas[aria-label^="Picture"]')!.getBoundingClientRect().width > width + 100, {}, before.width);
  expect(await page().evaluate(() => document.fullscreenElement!.querySelector('[aria-label="Playing"]')!.getBoundingClientRect().bottom <= innerHeight)).toBe(true);
  await click(await page().waitForSelector('[aria-label="Play"]'));
  await page().waitForFunction(() => document.querySelector('[data-clock]')?.textContent !== '00:00:00:00');
  await click(await page().waitForSelector('[aria-label="Pause"]'));
  await key('g');
  await page().waitForFunction(() => document.fullscreenElement === null);
});

test('what each setting does is read on the card without a pointer over it', async () => {
  await openWorn(stage(), 1, 'super8', [{ trait: 'dust' }]);
  await click(await page().waitForSelector('[data-use="0 0"]'));
  const card = (): Promise<string> => page().$eval('[data-card]', (one) => (one as HTMLElement).innerText);
  expect(await card()).not.toContain('Median width of a speck on the film');
  await press('Explain');
  await page().waitForFunction(() => document.querySelector<HTMLElement>('[data-card]')!.innerText.includes('Median width of a speck on the film'));
  expect(await card()).toContain('Mean count on a picture');
  await press('Explain');
});

test('a card that is opened by keys has the focus, and Escape gives it back to its tag', async () => {
  await openWorn(stage(), 1, 'super8', [{ trait: 'grain' }, { trait: 'dust' }]);
  await (await page().waitForSelector('[data-use="0 1"]'))!.focus();
  await key('Enter');
  await page().waitForFunction(() => document.activeElement?.matches('[data-card][aria-label="Card of Dust"] [role="slider"]'));
  // In a field Escape is for what is typed there, which is not taken.
  await (await named('Size, µm', 'textbox')).click({ count: 3 });
  await page().keyboard.type('321');
  await key('Escape');
  await (await page().waitForSelector('[data-card] [role="slider"]'))!.focus();
  expect((await useNow(1, 'dust')).settings?.size).toBeUndefined();
  await key('Escape');
  await page().waitForFunction(() => document.activeElement?.matches('[data-use="0 1"]'));
  // A click leaves the keys with the picture.
  await click(await page().waitForSelector('[data-use="0 0"]'));
  await page().waitForSelector('[data-card][aria-label="Card of Grain"]');
  expect(await page().evaluate(() => document.activeElement?.closest('[data-card]') === null)).toBe(true);
});

test('a file of one’s own, from the empty shelf to a worn picture: three actions', async () => {
  const { app, folder } = stage();
  for (const { id } of await app.api('/reels')) await app.api(`/reels/${id}`, { method: 'DELETE' });
  await page().goto(app.address);
  await page().waitForSelector('h1');
  // It says what to do.
  await page().waitForFunction(() => /drop|footage/i.test(document.querySelector('main')!.innerText));
  const file = join(folder, 'own.mp4');
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=1', '-pix_fmt', 'yuv420p', file]);
  await drop('own.mp4', await readFile(file));
  const clean = await pictureOf(page());
  await click(await lookNamed('Home gauge'));
  await kept();
  expect((await pictureOf(page())).hash).not.toBe(clean.hash);
  expect(actions).toBeLessThanOrEqual(3);
});
