/** Events on the strip and carriers of the chain, by real clicks and keys, judged by pixels and by what the server keeps. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ElementHandle, Page } from 'puppeteer-core';
import type { Look, TraitUse } from '@tin-ghost/core';
import { handsOn, openWorn, stageUp, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('e2e_film');
  page = stage.page;
});
afterAll(() => stage?.down());

const { named, press, kept, fill } = handsOn(() => page);
const shot = () => stage.demo.shots[1]!;
const lookNow = async (): Promise<Look> => (await stage.app.api(`/shots/${shot().id}`)).look;
const useNow = async (i = 0): Promise<TraitUse> => (await lookNow()).lives[0]!.traits[i]!;
const SECONDS = 6;

const opened = (traits: TraitUse[]): Promise<void> => openWorn(stage, 1, 'super8', traits);

const lane = (trait: string) => page.waitForSelector(`canvas[data-lane="${trait}"]`) as Promise<ElementHandle<HTMLCanvasElement>>;
const eventsIn = (trait: string, count: number) => page.waitForSelector(`canvas[data-lane="${trait}"][data-events="${count}"][data-current]`);
/** Where a moment lies on a lane. */
async function placeOf(trait: string, seconds: number): Promise<{ x: number; y: number }> {
  const box = (await (await lane(trait)).boundingBox())!;
  return { x: box.x + (box.width * seconds) / SECONDS, y: box.y + box.height / 2 };
}
/** How many places of a lane are inked in the accent of what is chosen. */
const chosenInk = async (trait: string): Promise<number> =>
  (await lane(trait)).evaluate((canvas) => {
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
    let count = 0;
    for (let i = 0; i < data.length; i += 4) if (data[i]! > 140 && data[i + 1]! < 90 && data[i + 2]! < 60 && data[i + 3]! > 200) count++;
    return count;
  });

test('a burn is pinned where the lane is double-clicked; it shows, is moved by a drag, and undone', async () => {
  await opened([{ trait: 'burn', settings: { rate: 0 } }]);
  await eventsIn('burn', 0);
  const spot = await placeOf('burn', 2);
  await page.mouse.click(spot.x, spot.y, { count: 2 });
  await kept();
  await eventsIn('burn', 1);
  const pinned = (await useNow()).events!.pinned!;
  expect(pinned).toHaveLength(1);
  expect(Math.abs(pinned[0]!.at - 2)).toBeLessThan(0.06);
  expect(await chosenInk('burn')).toBeGreaterThan(20);
  // A second later the film burns in the middle; as shot it does not.
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.down('Shift');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.up('Shift');
  const burning = await pictureOf(page);
  await page.keyboard.press('w');
  const clean = await pictureOf(page);
  await page.keyboard.press('w');
  expect(burning.means[1]).toBeGreaterThan(clean.means[1] + 30);
  // Moved by a second and a half.
  await eventsIn('burn', 1);
  const from = await placeOf('burn', 2.02);
  const to = await placeOf('burn', 3.52);
  await page.mouse.move(from.x, from.y);
  await page.mouse.down();
  for (let i = 1; i <= 5; i++) await page.mouse.move(from.x + ((to.x - from.x) * i) / 5, from.y);
  await page.mouse.up();
  await kept();
  expect(Math.abs((await useNow()).events!.pinned![0]!.at - 3.5)).toBeLessThan(0.1);
  await press('Undo');
  await kept();
  expect((await useNow()).events!.pinned![0]!.at).toBeCloseTo(pinned[0]!.at, 5);
  // Where it is and how strong, by number; then it is taken away.
  await eventsIn('burn', 1);
  const again = await placeOf('burn', 2.5);
  await page.mouse.click(again.x, again.y);
  await fill('Across, % W', '20');
  await kept();
  expect((await useNow()).events!.pinned![0]!.x).toBeCloseTo(0.2, 3);
  await press('Remove this event');
  await kept();
  expect((await useNow()).events).toBeUndefined();
  await eventsIn('burn', 0);
});

test('an event that came by itself is muted by key, its others stay; it comes back as it was', async () => {
  await opened([{ trait: 'flash', settings: { rate: 60, length: 20 } }]);
  const canvas = await lane('flash');
  await page.waitForFunction(() => Number(document.querySelector('canvas[data-lane="flash"][data-current]')?.getAttribute('data-events')) > 2);
  await canvas.focus();
  await page.keyboard.press('ArrowRight');
  const flashed = await pictureOf(page);
  await page.keyboard.press('Delete');
  await kept();
  const { muted } = (await useNow()).events!;
  expect(muted).toHaveLength(1);
  expect((await useNow()).trait).toBe('flash');
  const without = await pictureOf(page);
  expect(without.means[0]).toBeLessThan(flashed.means[0] - 20);
  await press('As it came');
  await kept();
  expect((await useNow()).events).toBeUndefined();
  expect((await pictureOf(page)).hash).toBe(flashed.hash);
});

test('keys go from event to event and pin one at the picture; the chain tells of another carrier’s changes', async () => {
  await opened([{ trait: 'cue-dots', settings: { first: 1, gap: 2 } }, { trait: 'gate-weave', settings: { sideways: 0.3, upDown: 0.4 } }, { trait: 'cadence' }]);
  await eventsIn('cue-dots', 2);
  await (await lane('cue-dots')).focus();
  const at = () => page.$eval('[aria-label="Moment in the shot"]', (e) => Number(e.getAttribute('aria-valuenow')) - 1);
  await page.keyboard.press('ArrowRight');
  expect(await at()).toBe(30);
  await page.keyboard.press('ArrowRight');
  expect(await at()).toBe(90);
  await page.keyboard.press('ArrowLeft');
  expect(await at()).toBe(30);
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('Home');
  await (await lane('cue-dots')).focus();
  await page.keyboard.press('Enter');
  await kept();
  expect((await useNow()).events!.pinned).toEqual([{ id: 'hand-1', at: 0 }]);
  await eventsIn('cue-dots', 3);

  await (await named('Carrier of life 1')).select('film35');
  await page.waitForFunction(() => /became 0\.08 % of the height.*18 to 24 pictures a second/.test(document.body.textContent ?? ''));
  await kept();
  const { carrier, traits } = (await lookNow()).lives[0]!;
  expect(carrier).toBe('film35');
  expect(traits[1]!.settings).toMatchObject({ sideways: 0.06, upDown: 0.08 });
  expect(traits[2]!.settings).toEqual({ rate: 24 });
  await press('Undo');
  await kept();
  expect((await lookNow()).lives[0]!.carrier).toBe('super8');
});
