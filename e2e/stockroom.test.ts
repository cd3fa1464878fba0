/** The stockroom in the real interface: looks are found, doubled, renamed, and laid on a whole reel. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { Page } from 'puppeteer-core';
import { handsOn, stageUp, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('stockroom');
  ({ page } = stage);
  await page.goto(`${stage.app.address}/stockroom`);
  await page.waitForSelector('main > ul h2');
}, 180_000);
afterAll(() => stage?.down());

const { press, named } = handsOn(() => page);
const names = (): Promise<string[]> => page.$$eval('main > ul h2', (all) => all.map((h) => h.textContent));

test('looks are narrowed by words, carrier and colour, and seen live', async () => {
  const all = (await names()).length;
  await (await named('Search looks')).type('16 mm');
  await page.waitForFunction((n) => document.querySelectorAll('main > ul h2').length < n, {}, all);
  expect((await names()).some((name) => name.startsWith('Classroom print'))).toBe(true);
  await (await named('Colour')).select('black and white');
  await page.waitForFunction(() => ![...document.querySelectorAll('main > ul h2')].some((h) => h.textContent.startsWith('Classroom print')));
  // What is left is grey on the picture itself.
  await page.waitForSelector('main > ul canvas[data-ready]');
  const [r, g, b] = await page.$eval('main > ul canvas[data-ready]', (canvas) => [...canvas.getContext('2d')!.getImageData(200, 120, 1, 1).data]);
  expect(Math.max(r!, g!, b!) - Math.min(r!, g!, b!)).toBeLessThan(40);
  await (await named('Search looks')).type(' nothing of the kind');
  await press('Show all');
  await page.waitForFunction((n) => document.querySelectorAll('main > ul h2').length === n, {}, all);
});

test('a look is doubled with a number, renamed, and laid on all shots of a reel, each with a seed of its own', async () => {
  // One of them was on the bench before; it is given and gives back the look as the others do.
  await page.goto(`${stage.app.address}/reels/${stage.demo.id}/shots/${stage.demo.shots[0]!.id}`);
  await pictureOf(page);
  await (await page.waitForSelector('nav a[href="/stockroom"]'))!.click();
  await press('Duplicate Home gauge');
  await press('Rename Home gauge 2');
  await page.keyboard.type('Our own');
  await page.keyboard.press('Enter');
  await page.waitForFunction(() => [...document.querySelectorAll('main > ul h2')].some((h) => h.textContent === 'Our own'));
  await press('Apply to a reel, Our own');
  await (await page.waitForSelector('[role="menuitem"]'))!.click();
  await page.waitForSelector('::-p-text(each with a seed of its own)');
  const shots: { look: { name: string; seed: number } }[] = (await stage.app.api(`/reels/${stage.demo.id}`)).shots;
  expect(shots.map(({ look }) => look.name)).toEqual(shots.map(() => 'Our own'));
  expect(new Set(shots.map(({ look }) => look.seed)).size).toBe(shots.length);
  await press('Undo');
  for (let i = 0; i < 50; i++) {
    const now: { look: { name: string } }[] = (await stage.app.api(`/reels/${stage.demo.id}`)).shots;
    if (now.every(({ look }) => look.name !== 'Our own')) return;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('it was not taken back');
});
