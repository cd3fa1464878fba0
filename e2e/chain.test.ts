/** The chain by hand and by keys: traits copied, moved, named, and lives added, copied, moved and removed. */
import { expect, test } from '@jest/globals';
import type { KeyInput, Page } from 'puppeteer-core';
import { EMPTY_LOOK, type TraitUse } from '@tin-ghost/core';
import { handsOn, openDressed, openWorn, staged } from './hands';
import { pictureOf } from './stage.mjs';

const stage = staged('chain');
const page = (): Page => stage().page;

const { named, press, undoNote, kept, drag, resting, greyOf } = handsOn(page);
const livesNow = async (shot = 1): Promise<{ carrier: string; traits: TraitUse[] }[]> => {
  await kept();
  return (await stage().app.api(`/shots/${stage().demo.shots[shot]!.id}`)).look.lives;
};
const namesNow = async (shot = 1): Promise<string[][]> => (await livesNow(shot)).map(({ traits }) => traits.map(({ trait }) => trait));
const tag = async (name: string) => named(`${name}, strength 100 %`, 'button');
const withKey = async (held: 'Control' | 'Alt', key: KeyInput): Promise<void> => {
  await page().keyboard.down(held);
  await page().keyboard.press(key);
  await page().keyboard.up(held);
};
/** Of a life's menu. */
const choose = async (life: number, entry: string): Promise<void> => {
  await press(`What can be done with life ${life}`);
  await (await named(entry, 'menuitem')).click();
  await page().waitForSelector('[role="menu"]', { hidden: true });
};

test('a trait is copied on one shot and pasted on another by keys, and falls differently there', async () => {
  await openWorn(stage(), 2, 'super8', [{ trait: 'grain' }]);
  await openWorn(stage(), 1, 'super8', [{ trait: 'dust', settings: { count: 30 }, seed: 3 }]);
  await (await tag('Dust')).click();
  await withKey('Control', 'c');
  await (await page().$$('[aria-label="Shots"] a'))[2]!.click();
  await page().waitForFunction((name) => document.querySelector('h1')?.textContent === name, {}, stage().demo.shots[2]!.name);
  await (await tag('Grain')).click();
  const before = await pictureOf(page());
  await withKey('Control', 'v');
  await page().waitForSelector('[aria-label="Card of Dust"]');
  const { traits } = (await livesNow(2))[0]!;
  expect(traits.map(({ trait }) => trait)).toEqual(['grain', 'dust']);
  expect(traits[1]).toMatchObject({ settings: { count: 30 }, act: 'stock', seed: 4 });
  expect((await pictureOf(page())).hash).not.toBe(before.hash);
  await withKey('Control', 'z');
  expect(await namesNow(2)).toEqual([['grain']]);
});

test('a trait is moved along the chain by keys, past its neighbour and into the next act, which its card then says', async () => {
  await openWorn(stage(), 1, 'super8', [{ trait: 'grain' }, { trait: 'halation' }, { trait: 'dust' }]);
  await (await tag('Grain')).focus();
  await withKey('Alt', 'ArrowRight');
  await page().waitForFunction(() => document.activeElement?.getAttribute('data-use') === '0 2');
  // In its act it stands after halation; other acts' traits stay where they are.
  expect(await namesNow()).toEqual([['halation', 'dust', 'grain']]);
  await withKey('Alt', 'ArrowRight');
  await page().waitForFunction(() => document.querySelector('[aria-label="Card of Grain"]')?.textContent?.includes('here it acts in Years, on the real thing it belongs to Stock'));
  expect((await livesNow())[0]!.traits.find(({ trait }) => trait === 'grain')!.act).toBe('years');
  await withKey('Alt', 'ArrowLeft');
  await kept();
  expect((await livesNow())[0]!.traits.find(({ trait }) => trait === 'grain')!.act).toBeUndefined();
});

test('a tag has its menu: renamed, duplicated, removed with the way back', async () => {
  await openWorn(stage(), 1, 'super8', [{ trait: 'dust', settings: { count: 30 } }]);
  const clean = await pictureOf(page());
  await (await tag('Dust')).click({ button: 'right' });
  await (await named('Rename F2', 'menuitem')).click();
  await page().keyboard.type('Attic dirt');
  await page().keyboard.press('Enter');
  await tag('Attic dirt');
  expect((await pictureOf(page())).hash).toBe(clean.hash);
  await (await tag('Attic dirt')).focus();
  await withKey('Control', 'd');
  await page().waitForFunction(() => document.querySelectorAll('[data-use]').length === 2);
  expect(await namesNow()).toEqual([['dust', 'dust']]);
  expect((await pictureOf(page())).hash).not.toBe(clean.hash);
  await page().focus('[data-use="0 1"]');
  await page().keyboard.press('Delete');
  await page().waitForFunction(() => document.querySelectorAll('[data-use]').length === 1);
  expect((await pictureOf(page())).hash).toBe(clean.hash);
  await undoNote();
  expect(await namesNow()).toEqual([['dust', 'dust']]);
});

test('lives are added, copied, moved and removed by hand, and the picture is of that order', async () => {
  await openWorn(stage(), 1, 'super8', [{ trait: 'saturation', settings: { amount: 0 } }]);
  const grey = await pictureOf(page());
  await choose(1, 'Add a life after it');
  await page().select('select[aria-label="Carrier of life 2"]', 'film16');
  await press('What can be done with Stock');
  await page().keyboard.press('Escape');
  await (await tag('Saturation')).click();
  await withKey('Control', 'c');
  await choose(2, 'Paste traits');
  expect((await livesNow()).map(({ carrier, traits }) => [carrier, traits.length])).toEqual([
    ['super8', 1],
    ['film16', 1],
  ]);
  await choose(1, 'Move later');
  expect((await livesNow()).map(({ carrier }) => carrier)).toEqual(['film16', 'super8']);
  await choose(1, 'Duplicate');
  expect((await livesNow()).map(({ carrier }) => carrier)).toEqual(['film16', 'film16', 'super8']);
  await choose(1, 'Remove');
  await choose(1, 'Remove');
  expect((await livesNow()).map(({ carrier }) => carrier)).toEqual(['super8']);
  expect((await pictureOf(page())).hash).toBe(grey.hash);
  await choose(1, 'All of it off or on');
  await kept();
  expect((await pictureOf(page())).hash).not.toBe(grey.hash);
  for (let i = 0; i < 8; i++) await press('Undo');
  expect((await livesNow()).map(({ carrier, traits }) => [carrier, traits.length])).toEqual([['super8', 1]]);
  expect((await pictureOf(page())).hash).toBe(grey.hash);
});

test('a motion is copied from one setting to another', async () => {
  await openWorn(stage(), 1, 'super8', [{ trait: 'flicker', motions: { amount: { motion: 'wander', speeds: [{ amount: 1.5, rate: 3 }] } } }, { trait: 'gate-weave' }]);
  await (await named('Flicker, strength 100 %, moves', 'button')).click();
  await press('Motion of Amount: wander');
  await press('Copy motion');
  await (await tag('Gate weave')).click();
  await press('Motion of Up and down: steady');
  await press('Paste motion');
  await page().waitForSelector('[aria-label^="Gate weave, strength 100 %, moves"]');
  expect((await livesNow())[0]!.traits[1]!.motions).toEqual({ upDown: { motion: 'wander', speeds: [{ amount: 1.5, rate: 3 }] } });
});

test('the look is mixed with another by a slider, one step of undo, and is the other at its end', async () => {
  await openWorn(stage(), 1, 'super8', [{ trait: 'saturation', settings: { amount: 0 } }]);
  const before = await pictureOf(page());
  const looks: { id: string; look: { name: string } }[] = await stage().app.api('/looks');
  const other = looks.find(({ look }) => look.name.startsWith('Home tape, fresh')) ?? looks[5]!;
  await page().select('select[aria-label="Mix with"]', other.id);
  const thumb = await named(`Share of ${other.look.name}`, 'slider');
  await thumb.focus();
  for (let i = 0; i < 5; i++) await page().keyboard.press('PageUp');
  await page().waitForFunction(() => document.querySelector('[data-mix] output')?.textContent === '50 %');
  await kept();
  const half = await pictureOf(page());
  expect(half.hash).not.toBe(before.hash);
  expect((await stage().app.api(`/shots/${stage().demo.shots[1]!.id}`)).look.name).toContain(' and ');
  await page().keyboard.press('End');
  await kept();
  expect((await stage().app.api(`/shots/${stage().demo.shots[1]!.id}`)).look).toEqual(other.look);
  await page().keyboard.press('Home');
  await kept();
  expect((await pictureOf(page())).hash).toBe(before.hash);
});

test('a trait is seen alone, and as what it changes, strengthened', async () => {
  const dust = { trait: 'dust', settings: { count: 40, size: 200 }, seed: 3 };
  await openWorn(stage(), 1, 'super8', [dust]);
  const alone = await pictureOf(page());
  await openWorn(stage(), 1, 'super8', [{ trait: 'saturation', settings: { amount: 0.2 } }, dust]);
  const both = await pictureOf(page());
  expect(both.hash).not.toBe(alone.hash);
  await (await tag('Dust')).click();
  await press('Only this trait');
  expect((await pictureOf(page())).hash).toBe(alone.hash);
  expect(await page().evaluate(() => document.body.innerText)).toContain('this trait only');
  // What is seen is always of one moment: without the specks the two pictures are the same, and the footage moves.
  await page().evaluate(() => {
    const seen = { times: 0, most: 0 };
    const look = (): void => {
      const other = document.querySelector('[data-other="changes"]');
      const pictures = [...document.querySelectorAll<HTMLCanvasElement>('[data-picture-room] canvas[role="img"]')];
      if (other && getComputedStyle(other).visibility === 'visible' && pictures.length === 2) {
        const [a, b] = pictures.map((canvas) => canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height).data) as [Uint8ClampedArray, Uint8ClampedArray];
        const apart = Array.from({ length: 4000 }, (_, i) => Math.abs(a[Math.floor((i * a.length) / 16000) * 4]! - b[Math.floor((i * b.length) / 16000) * 4]!)).sort(
          (x, y) => x - y,
        );
        seen.times++;
        seen.most = Math.max(seen.most, apart[apart.length >> 1]!);
      }
      requestAnimationFrame(look);
    };
    look();
    Object.assign(window, { seen });
  });
  const seen = (): Promise<{ times: number; most: number }> => page().evaluate(() => (window as unknown as { seen: { times: number; most: number } }).seen);
  await press('What it changes');
  await page().waitForFunction(() => (window as unknown as { seen: { times: number } }).seen.times > 5);
  for (let i = 0; i < 20; i++) await page().keyboard.press('ArrowRight');
  await page().waitForSelector('canvas[aria-label^="Picture 21 of"][data-ready]');
  const before = (await seen()).times;
  await page().waitForFunction((times) => (window as unknown as { seen: { times: number } }).seen.times > times + 5, {}, before);
  expect((await seen()).most).toBeLessThan(2);
  await page().keyboard.press('Home');
  await page().waitForSelector('canvas[aria-label^="Picture 1 of"][data-ready]');
  const room = await resting('[data-other="changes"]');
  // Without the bars over the picture and under it.
  const greys = async (): Promise<number[]> => [...(await greyOf({ x: room.x, y: room.y + 40, width: room.width, height: room.height - 80 }))].sort((a, b) => a - b);
  const fitted = await greys();
  expect(fitted[fitted.length >> 1]).toBeLessThan(17);
  expect(fitted.at(-1)).toBeGreaterThan(120);
  // At 1:1, too, where the shot's original and its proxy differ by more than any dust.
  await page().keyboard.press('1');
  await page().waitForFunction(() => [...document.querySelectorAll<HTMLCanvasElement>('[data-picture-room] canvas[data-ready]')].map(({ width }) => width).join() === '1280,1280');
  const full = await greys();
  expect(full[full.length >> 1]).toBeLessThan(17);
  await page().keyboard.press('f');
  await press('What it changes');
  expect((await pictureOf(page())).hash).toBe(both.hash);
});

test('while a setting is dragged in what it changes, only the picture that has the trait is made anew', async () => {
  await openWorn(stage(), 1, 'super8', [{ trait: 'grain', settings: { rms: 10 } }]);
  // What the render workers are asked to make: with the trait, and without.
  await page().evaluate(() => {
    const asked = { having: 0, without: 0 };
    const post = Worker.prototype.postMessage;
    Worker.prototype.postMessage = function (this: Worker, ...message: Parameters<typeof post>) {
      const order = (message[0] as { order?: { kind: string; look: { lives: { traits: { on?: boolean }[] }[] } } } | undefined)?.order;
      if (order?.kind === 'wear') asked[order.look.lives[0]!.traits[0]!.on === false ? 'without' : 'having']++;
      post.apply(this, message);
    } as typeof post;
    Object.assign(window, { asked });
  });
  const asked = (): Promise<{ having: number; without: number }> => page().evaluate(() => (window as unknown as { asked: { having: number; without: number } }).asked);
  await (await tag('Grain')).click();
  await press('What it changes');
  await page().waitForSelector('[data-other="changes"] canvas[data-ready]');
  const room = await resting('[data-other="changes"]');
  const place = { x: room.x, y: room.y + 40, width: room.width, height: room.height - 80 };
  const mean = (values: Iterable<number>): number => [...values].reduce((sum, v, _, { length }) => sum + v / length, 0);
  const [little, first] = [mean(await greyOf(place)), await asked()];
  expect(first.without).toBeGreaterThan(0);
  await drag('Granularity', 60);
  await page().waitForFunction((having) => (window as unknown as { asked: { having: number } }).asked.having > having, {}, first.having);
  await page().waitForFunction(() => document.querySelectorAll('[data-picture-room] canvas[data-ready]').length === 2);
  expect(mean(await greyOf(place))).toBeGreaterThan(1.2 * little);
  expect((await asked()).without).toBe(first.without);
  // At another moment both are others.
  await press('One frame on');
  await page().waitForFunction((without) => (window as unknown as { asked: { without: number } }).asked.without > without, {}, first.without);
});

test('a moment of each frame is heard that is gone to by hand, where the sound is on', async () => {
  await openWorn(stage(), 0, 'super8', []);
  await pictureOf(page());
  await page().$eval('audio', (audio) => {
    const heard: number[] = [];
    Object.assign(window, { heard });
    audio.addEventListener('playing', () => heard.push(audio.currentTime));
  });
  const heard = (): Promise<number[]> => page().evaluate(() => (window as unknown as { heard: number[] }).heard);
  for (let i = 0; i < 10; i++) await page().keyboard.press('ArrowRight');
  await page().waitForFunction(() => (window as unknown as { heard: number[] }).heard.length > 0);
  await page().waitForFunction(() => document.querySelector('audio')!.paused);
  // Within what was gone through.
  for (const at of await heard()) expect(at).toBeLessThan(11 / 24 + 0.2);
  await press('Sound');
  const before = (await heard()).length;
  await page().keyboard.press('End');
  await pictureOf(page());
  expect((await heard()).length).toBe(before);
  expect(await page().$eval('audio', (audio) => audio.paused)).toBe(true);
  await press('Sound');
});

test('beside the scopes nothing lies over another: lives and acts in the chain, the bars over the picture', async () => {
  const { page } = stage();
  await openDressed(stage(), 1, {
    ...EMPTY_LOOK,
    lives: [
      { carrier: 'film16', traits: [{ trait: 'grain' }] },
      { carrier: 'none', traits: [{ trait: 'channel-offset' }, { trait: 'scanlines' }] },
    ],
  });
  await page.keyboard.press('v');
  await page.waitForSelector('canvas[data-scope]');
  await page.keyboard.press('c');
  await page.waitForSelector('[aria-label="Compare with"]');
  const overlaps = () =>
    page.evaluate(() => {
      const boxes = (selector: string) => [...document.querySelectorAll(selector)].map((e) => [e.getAttribute('aria-label')!, e.getBoundingClientRect()] as const);
      const lapping = (all: ReturnType<typeof boxes>): string[] =>
        all.flatMap(([name, a], i) =>
          all.slice(i + 1).flatMap(([other, b]) => (a.left < b.right - 1 && b.left < a.right - 1 && a.top < b.bottom - 1 && b.top < a.bottom - 1 ? [`${name} and ${other}`] : [])),
        );
      const picture = document.querySelector('[data-picture-room]')!.getBoundingClientRect();
      const outside = [...document.querySelectorAll('[data-picture-room] [role="toolbar"] button')].filter((e) => e.getBoundingClientRect().right > picture.right);
      return [
        ...lapping(boxes('#chain [role="toolbar"] > [role="group"], #chain select[aria-label^="Carrier"]')),
        ...lapping(boxes('[data-picture-room] [role="toolbar"]')),
        ...outside.map((e) => `${e.textContent} outside`),
      ];
    });
  expect(await overlaps()).toEqual([]);
  await page.setViewport({ width: 900, height: 700 });
  await page.waitForFunction(() => document.querySelector('[data-picture-room]')!.getBoundingClientRect().width < 400);
  expect(await overlaps()).toEqual([]);
  await page.setViewport({ width: 1280, height: 800 });
  await page.keyboard.press('v');
});
