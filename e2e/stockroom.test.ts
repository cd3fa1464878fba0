/** The stockroom in the real interface: looks are found, doubled, renamed, and laid on a whole reel. */
import { execFileSync } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ElementHandle, Page } from 'puppeteer-core';
import { handsOn, stageUp, until, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('stockroom');
  ({ page } = stage);
  await page.goto(`${stage.app.address}/stockroom`);
  await page.waitForSelector('main > ul h2');
});
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
  const [r, g, b] = await page.$eval('main > ul canvas[data-ready]', (canvas) => [
    ...canvas.getContext('2d')!.getImageData(Math.round(0.357 * canvas.width), Math.round(0.38 * canvas.height), 1, 1).data,
  ]);
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
  await until(async () => {
    const now: { look: { name: string } }[] = (await stage.app.api(`/reels/${stage.demo.id}`)).shots;
    return now.every(({ look }) => look.name !== 'Our own');
  });
});

test('references of all reels come in by a button and by a drop on their half, are seen on the bench, and deleted', async () => {
  await page.goto(`${stage.app.address}/stockroom`);
  await page.waitForSelector('section[aria-label="References"] li');
  const png = (name: string): string => {
    const file = join(stage.folder, name);
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=s=64x48', '-frames:v', '1', file]);
    return file;
  };
  await ((await page.waitForSelector('input[aria-label="Reference files"]')) as ElementHandle<HTMLInputElement>).uploadFile(png('from the button.png'));
  const held = (name: string) => page.waitForSelector(`::-p-xpath(//section[@aria-label="References"]//li[.//h3[normalize-space()="${name}"]][.//img])`);
  await held('from the button');
  const bytes = [...(await readFile(png('from a drop.png')))];
  const dropAt = (x: number, kinds: readonly string[]): Promise<string> =>
    page.evaluate(
      (clientX, names, content) => {
        const dataTransfer = new DataTransfer();
        dataTransfer.items.add(new File([new Uint8Array(content)], 'from a drop.png'));
        for (const type of names) document.querySelector('main')!.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer, clientX, clientY: 300 }));
        return new Promise<string>((done) => setTimeout(() => done(document.querySelector('[data-drop-target]')?.textContent ?? ''), 60));
      },
      x,
      kinds,
      bytes,
    );
  expect(await dropAt(900, ['dragenter', 'dragover'])).toMatch(/plates.*References/);
  await dropAt(900, ['drop']);
  await held('from a drop');
  // The left half is for looks and plates.
  const plates = async (): Promise<number> => (await stage.app.api('/plates')).length;
  const before = await plates();
  await dropAt(200, ['dragenter', 'drop']);
  await until(async () => (await plates()) !== before);
  expect(await plates()).toBe(before + 1);

  await page.goto(`${stage.app.address}/reels/${stage.demo.id}/shots/${stage.demo.shots[0]!.id}`);
  await page.waitForSelector('section[aria-label="References"] [title*="from the button"]');
  await page.goto(`${stage.app.address}/stockroom`);
  for (const name of ['from the button', 'from a drop']) {
    await (await page.waitForSelector(`::-p-xpath(//section[@aria-label="References"]//button[@aria-label="Delete ${name}"])`))!.click();
    await page.waitForFunction((gone) => ![...document.querySelectorAll('section[aria-label="References"] h3')].some((h) => h.textContent === gone), {}, name);
  }
});
