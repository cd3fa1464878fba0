/** How settings move: drawn, set and followed on the card by real clicks and keys, judged by pixels and by what the server keeps. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ElementHandle, Page } from 'puppeteer-core';
import type { Look, Motion, TraitUse } from '@tin-ghost/core';
import { handsOn, openWorn, stageUp, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('e2e_motion');
  page = stage.page;
});
afterAll(() => stage?.down());

const { named, press, kept, fill } = handsOn(() => page);
const shot = () => stage.demo.shots[3]!;
const usesNow = async (): Promise<readonly TraitUse[]> => ((await stage.app.api(`/shots/${shot().id}`)).look as Look).lives[0]!.traits;
const motionNow = async (i: number, key: string): Promise<Motion | undefined> => (await usesNow())[i]!.motions?.[key];

const opened = (traits: TraitUse[]): Promise<void> => openWorn(stage, 3, 'none', traits);
const choose = async (kind: string): Promise<void> => (await named(kind, 'radio')).click();
const curve = () => page.waitForSelector('svg[role="application"]') as Promise<ElementHandle<SVGSVGElement>>;
/** A place of the drawn curve, in shares of its width and height. */
async function spot(x: number, y: number): Promise<{ x: number; y: number }> {
  const box = (await (await curve()).boundingBox())!;
  return { x: box.x + box.width * x, y: box.y + box.height * y };
}
const brightness = async (): Promise<number> => (await pictureOf(page)).means.reduce((a, b) => a + b) / 3;

test('keys are set by double clicks on the curve; the picture darkens between them; one is moved, typed, undone and taken away', async () => {
  await opened([{ trait: 'exposure' }]);
  await press('Exposure, strength 100 %');
  await press('Motion of Exposure: steady');
  await choose('Keys');
  await kept();
  expect(await motionNow(0, 'stops')).toEqual({ motion: 'keys', keys: [{ at: 0, value: 0 }] });
  const before = await brightness();
  // A second key, far to the right, typed down to three stops less.
  const far = await spot(0.75, 0.5);
  await page.mouse.click(far.x, far.y, { count: 2 });
  await fill('Value, stops', '-3');
  await kept();
  const set = (await motionNow(0, 'stops')) as Extract<Motion, { motion: 'keys' }>;
  expect(set.keys).toHaveLength(2);
  expect(set.keys[1]!.value).toBe(-3);
  // The click went to that picture: it is at its darkest there, and bright where the first key stands.
  expect(await brightness()).toBeLessThan(before * 0.6);
  const start = await spot(0.02, 0.95);
  await page.mouse.click(start.x, start.y);
  expect(await brightness()).toBeGreaterThan(before * 0.9);
  await named('Exposure, strength 100 %, moves', 'button');
  // Dragged to the left; its value goes along with the hand.
  const low = await page.$$eval('svg[role="application"] rect', (all) => {
    const box = all[1]!.getBoundingClientRect();
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  });
  await page.mouse.move(low.x, low.y);
  await page.mouse.down();
  for (let i = 1; i <= 4; i++) await page.mouse.move(low.x - 40 * i, low.y - 4 * i);
  await page.mouse.up();
  await kept();
  const moved = (await motionNow(0, 'stops')) as Extract<Motion, { motion: 'keys' }>;
  expect(moved.keys[1]!.at).toBeLessThan(set.keys[1]!.at - 0.8);
  expect(moved.keys[1]!.value as number).toBeGreaterThan(-2.9);
  await press('Undo');
  await kept();
  expect(await motionNow(0, 'stops')).toEqual(set);
  // The slider's number sets a key where the picture stands.
  await page.keyboard.press('End');
  await fill('Exposure, stops', '1');
  await kept();
  expect(((await motionNow(0, 'stops')) as typeof set).keys).toHaveLength(3);
  await choose('Steady');
  await kept();
  expect((await usesNow())[0]!.motions).toBeUndefined();
});

test('a wander moves the picture from one moment to another, as far as its amount says', async () => {
  await opened([{ trait: 'exposure' }]);
  await press('Exposure, strength 100 %');
  await press('Motion of Exposure: steady');
  await choose('Wander');
  await fill('Swing, stops', '1');
  await fill('Rate, Hz', '4');
  await kept();
  expect(await motionNow(0, 'stops')).toEqual({ motion: 'wander', speeds: [{ amount: 1, rate: 4 }] });
  const seen: number[] = [];
  for (const x of [0.1, 0.25, 0.4, 0.55, 0.7, 0.85]) {
    const at = await spot(x, 0.9);
    await page.mouse.click(at.x, at.y);
    seen.push(await brightness());
  }
  expect(Math.max(...seen)).toBeGreaterThan(Math.min(...seen) * 1.25);
  // What is drawn reaches as far as what is seen: the curve is no straight line.
  const heights = await (await curve()).$eval('path', (path) => [...path.getAttribute('d')!.matchAll(/ ([\d.]+)/g)].map((m) => Number(m[1])));
  expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(30);
});

test('a setting follows what happens, and rests when that is taken from the look', async () => {
  await opened([{ trait: 'flash', settings: { rate: 30 } }, { trait: 'exposure' }]);
  await press('Exposure, strength 100 %');
  await press('Motion of Exposure: steady');
  await choose('Follow');
  await kept();
  expect(await motionNow(1, 'stops')).toMatchObject({ motion: 'follow', of: 'flash' });
  await press('Flash, strength 100 %');
  await press('Remove Flash');
  await kept();
  expect(await usesNow()).toEqual([{ trait: 'exposure' }]);
  await press('Undo');
  await kept();
  expect(await motionNow(1, 'stops')).toMatchObject({ motion: 'follow', of: 'flash' });
  expect(await page.$('[role="alert"]')).toBeNull();
});
