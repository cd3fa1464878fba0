/** Adding a trait: what fits is seen on this picture and tried on it, and nothing changes before it is taken. */
import { expect, test } from '@jest/globals';
import type { Page } from 'puppeteer-core';
import { handsOn, openWorn, staged } from './hands';
import { pictureOf } from './stage.mjs';

const stage = staged('adding');
const page = (): Page => stage().page;

const { named, press, kept } = handsOn(page);
const shotNow = () => stage().app.api(`/shots/${stage().demo.shots[1]!.id}`);
/** The offers that stand there, by the trait they are of. */
const offered = (): Promise<string[]> =>
  page().$$eval('[aria-label^="What can be added"] canvas', (all) => all.map((e) => e.getAttribute('aria-label')!.replace(' on this picture', '')));
const search = async (words: string): Promise<void> => {
  const field = await named('Search traits', 'searchbox');
  await field.click({ count: 3 });
  await field.type(words);
};

test('it leaves the picture free; what is pointed at is seen on it, as slight or as ruined, and gone when the pointer leaves', async () => {
  await openWorn(stage(), 1, 'super8', []);
  const clean = await pictureOf(page());
  const before = (await shotNow()).revision;
  await press('Add to Years');
  const panel = (await (await page().waitForSelector('[aria-label="What can be added to Years"]'))!.boundingBox())!;
  const picture = (await (await page().$('canvas[aria-label^="Picture"]'))!.boundingBox())!;
  expect(panel.y).toBeGreaterThanOrEqual(picture.y + picture.height);
  expect(panel.width).toBeGreaterThan(600);
  await (await named('Dust, slight', 'button')).hover();
  await page().waitForFunction(() => document.body.textContent?.includes('tried, not added'));
  const slight = await pictureOf(page());
  expect(slight.hash).not.toBe(clean.hash);
  await (await named('Dust, ruined', 'button')).hover();
  let ruined = await pictureOf(page());
  for (let i = 0; i < 50 && ruined.hash === slight.hash; i++) {
    await new Promise((later) => setTimeout(later, 100));
    ruined = await pictureOf(page());
  }
  expect(ruined.hash).not.toBe(slight.hash);
  // The thumbnail plays under the pointer.
  const thumb = () =>
    page().$eval('canvas[aria-label="Dust on this picture"]', (e) => {
      const canvas = e;
      return Array.from(
        canvas
          .getContext('2d')!
          .getImageData(0, 0, canvas.width, canvas.height)
          .data.filter((_, i) => i % 97 === 0),
      ).join();
    });
  const thumbs = new Set<string>();
  for (let i = 0; i < 40 && thumbs.size < 3; i++) {
    thumbs.add(await thumb());
    await new Promise((later) => setTimeout(later, 100));
  }
  expect(thumbs.size).toBeGreaterThanOrEqual(3);
  await page().mouse.move(picture.x + 10, picture.y + 10);
  await page().waitForFunction(() => !document.body.textContent?.includes('tried, not added'));
  expect((await pictureOf(page())).hash).toBe(clean.hash);
  await page().keyboard.press('Escape');
  await page().waitForSelector('[aria-label="What can be added to Years"]', { hidden: true });
  expect((await shotNow()).revision).toBe(before);
  expect(await page().evaluate(() => document.activeElement?.getAttribute('aria-label'))).toBe('Add to Years');
});

test('what it does is found over all acts; a ready setting is added as one step of undo', async () => {
  await openWorn(stage(), 1, 'super8', []);
  const clean = await pictureOf(page());
  await press('Add to Years');
  await search('dust');
  await page().waitForFunction(() => document.querySelector('section[aria-label="Found"]') !== null);
  const found = await offered();
  expect(found).toContain('Dust');
  expect(found.length).toBeLessThan(12);
  await search('unsteady');
  await page().waitForFunction(() => [...document.querySelectorAll('[aria-label^="What can be added"] canvas')].some((e) => e.getAttribute('aria-label')?.startsWith('Flicker')));
  await (await named('Flicker, ruined', 'button')).click();
  await page().waitForSelector('[aria-label="What can be added to Years"]', { hidden: true });
  await kept();
  const [use] = (await shotNow()).look.lives[0].traits;
  expect(use).toMatchObject({ trait: 'flicker', act: 'years', settings: { amount: 12 } });
  expect((await pictureOf(page())).hash).not.toBe(clean.hash);
  await press('Undo');
  await kept();
  expect((await shotNow()).look.lives[0].traits).toHaveLength(0);
  expect((await pictureOf(page())).hash).toBe(clean.hash);
});

test('the picture can be gone through while something is offered', async () => {
  await openWorn(stage(), 1, 'super8', []);
  await press('Add to Machine');
  await press('One frame on');
  await page().waitForSelector('canvas[aria-label^="Picture 2 of"]');
  expect(await page().$('[aria-label="What can be added to Machine"]')).not.toBeNull();
  await page().click('h1');
  await page().waitForSelector('[aria-label="What can be added to Machine"]', { hidden: true });
});
