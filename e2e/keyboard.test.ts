/** The bench by its keys alone: anything found by typing, played both ways, and what was done told in words. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Page } from 'puppeteer-core';
import { handsOn, openWorn, stageUp, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('keyboard');
  ({ page } = stage);
});
afterAll(() => stage?.down());

const { kept, resting } = handsOn(() => page);
let pressed = 0;
const press = async (...keys: Parameters<Page['keyboard']['press']>[0][]): Promise<void> => {
  for (const key of keys) await page.keyboard.press(key);
  pressed += keys.length;
};
const held = async (key: 'Control' | 'Shift', other: Parameters<Page['keyboard']['press']>[0]): Promise<void> => {
  await page.keyboard.down(key);
  await page.keyboard.press(other);
  await page.keyboard.up(key);
  pressed++;
};
const type = async (text: string): Promise<void> => {
  await page.keyboard.type(text);
  pressed += text.length;
};
const find = async (text: string): Promise<void> => {
  await held('Control', 'k');
  await page.waitForSelector('[cmdk-input]');
  await type(text);
  await press('Enter');
  await page.waitForSelector('[cmdk-input]', { hidden: true });
};
const shotNow = async () => stage.app.api(`/shots/${stage.demo.shots[1]!.id}`);
const frameNow = (): Promise<number> => page.$eval('canvas[aria-label^="Picture"]', (canvas) => Number(/^Picture (\d+) of/.exec(canvas.getAttribute('aria-label')!)![1]));

test('a look is put on, a trait added, a card opened and the picture judged at 1:1 while it plays, in under 60 keys and no click', async () => {
  await openWorn(stage, 1, 'none', []);
  pressed = 0;
  await find('sunday');
  await pictureOf(page);
  await kept();
  expect((await shotNow()).look.name).toContain('Sunday reel');
  await find('add stains');
  await kept();
  const { look } = await shotNow();
  expect(look.lives[0].traits.some(({ trait }: { trait: string }) => trait === 'stains')).toBe(true);
  await find('open grain');
  await page.waitForFunction(() => document.querySelector('aside[aria-label="Card"] h2')?.textContent?.includes('Grain'));
  await press('1', 'l');
  await page.waitForFunction(() => /of \d+ fps/.test(document.body.textContent ?? ''));
  await press('k');
  expect(pressed).toBeLessThan(60);
});

test('J, K and L play back, stop and play, faster with each press', async () => {
  await openWorn(stage, 1, 'none', []);
  await press('End');
  await page.waitForFunction(() => /^Picture 180 of 180/.test(document.querySelector('canvas[aria-label^="Picture"]')!.getAttribute('aria-label')!));
  await press('j');
  await page.waitForFunction(() => document.body.textContent?.includes('1× backwards'));
  await press('j', 'j');
  await page.waitForFunction(() => document.body.textContent?.includes('4× backwards'));
  // It comes to the first frame and rests there.
  await page.waitForFunction(() => /^Picture 1 of 180/.test(document.querySelector('canvas[aria-label^="Picture"]')!.getAttribute('aria-label')!));
  await press('l', 'l');
  await page.waitForFunction(() => document.body.textContent?.includes('2×'));
  await page.waitForFunction(() => Number(/^Picture (\d+) of/.exec(document.querySelector('canvas[aria-label^="Picture"]')!.getAttribute('aria-label')!)![1]) > 10);
  await press('k');
  const at = await frameNow();
  await new Promise((resolve) => setTimeout(resolve, 300));
  expect(await frameNow()).toBe(at);
});

test('hints for the first minute go as they are followed, and stay away', async () => {
  await page.evaluate(() => localStorage.removeItem('tin-ghost/hints'));
  await openWorn(stage, 1, 'super8', [{ trait: 'grain' }]);
  const count = (): Promise<number> => page.$$eval('[aria-label="Hints"] li', (all) => all.length);
  await page.waitForSelector('[aria-label="Hints"] li');
  expect(await count()).toBe(3);
  await page.keyboard.down('b');
  await page.waitForFunction(() => document.querySelectorAll('[aria-label="Hints"] li').length === 2);
  await page.keyboard.up('b');
  await find('open grain');
  await find('add dust');
  await page.waitForFunction(() => !document.querySelector('[aria-label="Hints"]'));
  await page.reload();
  await pictureOf(page);
  expect(await count()).toBe(0);
});

test('the wheel and keys enlarge the picture from fitted to 4:1 and back, each pixel of the original a square of the screen', async () => {
  await openWorn(stage, 1, 'none', []);
  const width = (): Promise<number> => page.$eval('canvas[aria-label^="Picture"]', (canvas) => Math.round(canvas.getBoundingClientRect().width * devicePixelRatio));
  const box = await resting('canvas[aria-label^="Picture"]');
  const at = { x: box.x + box.width / 4, y: box.y + box.height / 4 };
  await page.mouse.move(at.x, at.y);
  /** Which place of the picture lies under the pointer, across and down. */
  const under = (): Promise<number[]> =>
    page.$eval(
      'canvas[aria-label^="Picture"]',
      (canvas, { x, y }) => {
        const { left, top, width, height } = canvas.getBoundingClientRect();
        return [(x - left) / width, (y - top) / height];
      },
      at,
    );
  for (const wanted of [1280, 2560, 5120, 5120]) {
    await page.mouse.wheel({ deltaY: -120 });
    await page.waitForFunction((w) => Math.round(document.querySelector('canvas[aria-label^="Picture"]')!.getBoundingClientRect().width * devicePixelRatio) === w, {}, wanted);
    for (const share of await under()) expect(Math.abs(share - 0.25)).toBeLessThan(0.004);
  }
  await press('2');
  expect(await width()).toBe(2560);
  const left = (): Promise<number> => page.$eval('canvas[aria-label^="Picture"]', (canvas) => Math.round(canvas.getBoundingClientRect().left));
  const before = await left();
  await page.keyboard.down('Alt');
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.up('Alt');
  expect((await left()) - before).toBe(80);
  await press('f');
  await page.waitForFunction(() => document.querySelector('canvas[aria-label^="Picture"]')!.getBoundingClientRect().width < 1000);
});

test('what was done is told in words, and any state is a step away, back and on', async () => {
  await openWorn(stage, 1, 'super8', [{ trait: 'grain', settings: { rms: 11 } }]);
  await find('open grain');
  await press('x');
  await find('add flicker');
  await kept();
  await (await page.waitForSelector('::-p-xpath(//header//button[normalize-space()="History"])'))!.press('Enter');
  const words = (): Promise<string[]> => page.$$eval('[aria-label="What was done to this shot"] li', (all) => all.map((li) => li.textContent));
  await page.waitForSelector('[aria-label="What was done to this shot"] li');
  expect((await words()).slice(0, 2)).toEqual(['Flicker added', 'Grain off']);
  const oldest = (await words()).length;
  await (await page.waitForSelector(`[aria-label="What was done to this shot"] li:nth-child(${oldest}) button`))!.press('Enter');
  await kept();
  expect((await shotNow()).look.lives[0].traits).toEqual([{ trait: 'grain', settings: { rms: 11 } }]);
  await (await page.waitForSelector('[aria-label="What was done to this shot"] li:nth-child(1) button'))!.press('Enter');
  await kept();
  expect((await shotNow()).look.lives[0].traits.map(({ trait }: { trait: string }) => trait)).toEqual(['grain', 'flicker']);
});

test('letters are turned off, a key is changed and kept in the browser, and a key of another action is refused', async () => {
  await openWorn(stage, 1, 'none', []);
  await press('v');
  await page.waitForSelector('canvas[data-scope]');
  await press('v');
  await page.waitForSelector('canvas[data-scope]', { hidden: true });
  const openKeys = async (): Promise<void> => {
    await page.click('button[aria-label="Keys"]');
    await page.waitForSelector('[aria-label="Actions and their keys"]');
  };
  const keyOf = (action: string) => page.$eval(`button[aria-label^="Key of ${action}:"]`, (e) => e.textContent);
  await openKeys();
  await page.click('button[aria-label^="Key of Scopes:"]');
  await press('l');
  await page.waitForFunction(() => document.querySelector('[role="alert"]')?.textContent?.includes('Play, faster with each press'));
  await held('Control', 'j');
  expect(await keyOf('Scopes')).toBe('Ctrl J');
  // What the buttons say of their keys follows.
  const titles = () => page.$$eval('[data-picture-room] button', (all) => all.map((e) => e.title));
  expect(await titles()).toContain('Scopes beside the card (Ctrl J)');
  await page.click('input[type="checkbox"]');
  expect(await keyOf('Sound')).toBe('none');
  expect(await titles()).toEqual(expect.arrayContaining(['Sound', 'Play and pause (Space)']));
  await page.keyboard.press('Escape');
  await page.waitForSelector('[aria-label="Actions and their keys"]', { hidden: true });
  await page.reload();
  await pictureOf(page);
  await press('v', '1', 'd');
  expect(await page.$('canvas[data-scope]')).toBeNull();
  expect(await page.evaluate(() => document.documentElement.dataset.lights)).toBe('up');
  await held('Control', 'j');
  await page.waitForSelector('canvas[data-scope]');
  await held('Control', 'j');
  await openKeys();
  await (await page.waitForSelector('::-p-xpath(//button[contains(., "Reset all")])'))!.click();
  expect(await keyOf('Scopes')).toBe('V');
  await page.keyboard.press('Escape');
  await press('v');
  await page.waitForSelector('canvas[data-scope]');
  await press('v');
});

test('the columns are made wider and narrower by keys and by hand, within limits, and stay so', async () => {
  await openWorn(stage, 1, 'none', []);
  const width = () => page.$eval('aside[aria-label="Card"]', (e) => e.getBoundingClientRect().width);
  const before = await width();
  await page.focus('[role="separator"][aria-label="Width of the card"]');
  await press('ArrowLeft', 'ArrowLeft');
  expect(await width()).toBe(before + 32);
  const edge = (await (await page.$('[role="separator"][aria-label="Width of the card"]'))!.boundingBox())!;
  await page.mouse.move(edge.x + 4, edge.y + 300);
  await page.mouse.down();
  await page.mouse.move(edge.x - 900, edge.y + 300, { steps: 4 });
  await page.mouse.up();
  expect(await width()).toBe(560);
  await page.reload();
  await pictureOf(page);
  expect(await width()).toBe(560);
  await page.mouse.click((await (await page.$('[role="separator"][aria-label="Width of the card"]'))!.boundingBox())!.x + 4, 400, { count: 2 });
  expect(await width()).toBe(before);
});

test('the first Tabs lead past what stands before the picture, the chain, the strip and the card', async () => {
  await openWorn(stage, 1, 'none', []);
  const parts: (string | null)[] = [];
  for (const [i, name] of ['To the picture', 'To the chain', 'To the strip', 'To the card'].entries()) {
    // The first by the first Tab of all; the others by going on from it.
    if (i === 0) await page.keyboard.press('Tab');
    else await page.$eval('nav[aria-label="Skip to"] button', (button) => button.focus());
    for (let n = 0; n < i; n++) await page.keyboard.press('Tab');
    const focused = await page.evaluate(() => {
      const { width, height } = document.activeElement!.getBoundingClientRect();
      return { name: document.activeElement!.textContent, seen: width > 50 && height > 15 };
    });
    expect(focused).toEqual({ name, seen: true });
    await page.keyboard.press('Enter');
    await page.keyboard.press('Tab');
    parts.push(
      await page.evaluate(
        () =>
          document.activeElement!.closest('section[aria-label="Chain"], section[aria-label="Strip"], aside[aria-label="Card"], main')?.getAttribute('aria-label') ??
          document.activeElement!.closest('main')?.tagName ??
          null,
      ),
    );
  }
  expect(parts).toEqual(['MAIN', 'Chain', 'Strip', 'Card']);
});

test('a toolbar is one stop of Tab: arrows lead along it, and after a click they are the picture’s', async () => {
  await openWorn(stage, 1, 'super8', [{ trait: 'grain' }, { trait: 'dust' }, { trait: 'flicker' }]);
  const bars = await page.$$eval('[role="toolbar"]', (all) => all.map((e) => e.getAttribute('aria-label')));
  expect(bars).toEqual(expect.arrayContaining(['Actions', 'What is shown', 'How it is compared', 'Zoom', 'Playing', 'Traits of life 1', 'Length of the strip']));
  const focused = () => page.evaluate(() => document.activeElement!.closest('[role="toolbar"]')?.getAttribute('aria-label') ?? document.activeElement!.tagName);
  await page.evaluate(() => (document.activeElement as HTMLElement).blur());
  const stops: string[] = [];
  for (let i = 0; i < 120 && stops.at(-1) !== 'BODY'; i++) {
    await page.keyboard.press('Tab');
    stops.push(await focused());
  }
  for (const bar of bars) expect([bar, stops.filter((stop) => stop === bar).length]).toEqual([bar, 1]);

  const named = (name: string) => page.waitForFunction((n) => [document.activeElement!.getAttribute('aria-label'), document.activeElement!.textContent].includes(n), {}, name);
  const at = await frameNow();
  await page.focus('[aria-label="Playing"] button');
  for (const [key, name] of [
    ['ArrowRight', 'Play'],
    ['ArrowRight', 'One frame on'],
    ['End', 'Sound'],
    ['ArrowRight', 'Sound'],
    ['Home', 'One frame back'],
  ] as const) {
    await press(key);
    await named(name);
  }
  expect(await frameNow()).toBe(at);

  await page.click('[aria-label="One frame on"]');
  await page.waitForFunction((n) => document.querySelector('canvas[aria-label^="Picture"]')!.getAttribute('aria-label')!.startsWith(`Picture ${n} of`), {}, at + 1);
  await press('ArrowRight', 'ArrowRight');
  await page.waitForFunction((n) => document.querySelector('canvas[aria-label^="Picture"]')!.getAttribute('aria-label')!.startsWith(`Picture ${n} of`), {}, at + 3);
  await named('One frame on');
});

test('arrows and page keys on a slider move its value from either end, each a step that is undone', async () => {
  await openWorn(stage, 1, 'super8', [{ trait: 'grain', settings: { rms: 11 } }]);
  await find('open grain');
  const thumb = '[role="slider"][aria-label="Strength"]';
  const strength = async () => (await shotNow()).look.lives[0].traits[0].strength ?? 1;
  const is = (value: number) => page.waitForFunction((s, v) => document.querySelector(s)?.getAttribute('aria-valuetext') === v, {}, thumb, `${value} %`);
  await page.waitForSelector(thumb);
  await page.focus(thumb);
  await press('End', 'ArrowLeft');
  await is(99);
  await press('PageDown');

  await is(97);
  await press('Home');
  await is(0);
  await press('ArrowLeft');
  await press('ArrowRight');
  await is(1);
  await kept();
  expect(await strength()).toBe(0.01);
  // The arrow at the end of the way changed nothing, so there is nothing of it to take back.
  await held('Control', 'z');
  await is(0);
  await held('Control', 'z');

  await is(97);
});
