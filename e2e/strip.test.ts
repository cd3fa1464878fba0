/** The strip by hand: longer and shorter, scrolled, a range looped, the shot trimmed by its ends, a moment typed, a motion drawn, an event moved. */
import { expect, test } from '@jest/globals';
import type { Page } from 'puppeteer-core';
import { handsOn, openWorn, staged } from './hands';
import { pictureOf } from './stage.mjs';

const stage = staged('strip');
const page = (): Page => stage().page;

const { named, press, dragIn, kept } = handsOn(page);
const boxOf = async (selector: string) => (await (await page().waitForSelector(selector))!.boundingBox())!;
const bench = (traits: Parameters<typeof openWorn>[3] = []) => openWorn(stage(), 0, 'super8', traits);
const frameNow = (): Promise<number> => page().$eval('[aria-label="Moment in the shot"]', (e) => Number(e.getAttribute('aria-valuenow')) - 1);
const frames = (): Promise<number> => page().$eval('[aria-label="Moment in the shot"]', (e) => Number(e.getAttribute('aria-valuemax')));
const rulerText = (): Promise<string[]> => page().$$eval('[aria-label="Moment in the shot"] .mono', (all) => all.map((mark) => mark.textContent));
/** The room in which the shot lies, and pixels of its filmstrip. */
const filmstrip = () =>
  page().evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('canvas[data-footage]')!;
    const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, 36);
    return Array.from({ length: canvas.width }, (_, x) => data[4 * (18 * canvas.width + x)]!);
  });
const shotNow = () => stage().app.api(`/shots/${stage().demo.shots[0]!.id}`);

test('the wheel makes the strip longer about the pointer, what is clicked then is that moment, and one press shows all again', async () => {
  await bench();
  const room = await boxOf('[aria-label="Moment in the shot"]');
  const whole = await filmstrip();
  expect(new Set(whole).size).toBeGreaterThan(10);
  const x = room.x + room.width * 0.6;
  await page().mouse.click(x, room.y + 50);
  const at = await frameNow();
  expect(Math.abs(at - 0.6 * 200)).toBeLessThanOrEqual(1);
  await page().mouse.move(x, room.y + 50);
  await page().keyboard.down('Control');
  for (let i = 0; i < 6; i++) await page().mouse.wheel({ deltaY: -120 });
  await page().keyboard.up('Control');
  // Eight times as long: a second of an eight-second shot fills the room, and the ruler shows frames.
  await page().waitForFunction(() => Number(document.querySelector('[role="scrollbar"]')?.getAttribute('aria-valuenow')) > 40);
  expect(await filmstrip()).not.toEqual(whole);
  expect((await rulerText()).some((text) => /^\d:\d\d$/.test(text))).toBe(true);
  await page().mouse.click(x, room.y + 50);
  expect(await frameNow()).toBe(at);
  // A frame is 30 pixels wide now.
  await page().mouse.click(x + (10 * room.width * 8) / 200, room.y + 50);
  expect(Math.abs((await frameNow()) - at - 10)).toBeLessThanOrEqual(1);
  // Played out of what is seen, it turns by itself.
  await page().keyboard.press('Home');
  expect(await page().$eval('[role="scrollbar"]', (e) => e.getAttribute('aria-valuenow'))).toBe('0');
  await press('All of the shot');
  expect(await filmstrip()).toEqual(whole);
});

test('a range is drawn below the ruler, its end is moved, and only it is played', async () => {
  await bench();
  const row = await boxOf('[data-loop-row]');
  const drag = async (from: number, to: number): Promise<void> => {
    await page().mouse.move(row.x + from * row.width, row.y + 6);
    await page().mouse.down();
    await page().mouse.move(row.x + ((from + to) / 2) * row.width, row.y + 6);
    await page().mouse.move(row.x + to * row.width, row.y + 6);
    await page().mouse.up();
  };
  const range = () =>
    page().$eval('[data-loop]', (e) => [
      parseFloat((e as HTMLElement).style.left) * 2,
      (parseFloat((e as HTMLElement).style.left) + parseFloat((e as HTMLElement).style.width)) * 2,
    ]);
  await drag(0.4, 0.5);
  expect((await range()).map(Math.round)).toEqual([80, 100]);
  await drag(0.5, 0.45);
  expect((await range()).map(Math.round)).toEqual([80, 90]);
  await page().keyboard.press('t');
  await page().keyboard.type('80');
  await page().keyboard.press('Enter');
  await page().keyboard.press('Space');
  await page().waitForFunction(() => /\d+ of 25 fps/.test(document.body.textContent ?? ''));
  const seen = new Set<number>();
  for (let i = 0; i < 60; i++) {
    seen.add(await frameNow());
    await new Promise((later) => setTimeout(later, 25));
  }
  await page().keyboard.press('Space');
  expect(Math.min(...seen)).toBeGreaterThanOrEqual(80);
  expect(Math.max(...seen)).toBeLessThan(90);
  expect(seen.size).toBeGreaterThan(4);
  await page().mouse.click(row.x + 0.2 * row.width, row.y + 6, { count: 2 });
  await page().waitForSelector('[data-loop]', { hidden: true });
});

test('the ends of the shot are dragged in and out again, one step of undo each, and what is seen stays the same moment', async () => {
  await bench();
  await page().keyboard.press('t');
  await page().keyboard.type('4:00');
  await page().keyboard.press('Enter');
  const before = await pictureOf(page());
  const room = await boxOf('[aria-label="Moment in the shot"]');
  await dragIn((await page().$('[data-trim="out"]'))!, { x: 0.5, y: 0.5 }, { x: -room.width / 4, y: 0 });
  await page().waitForFunction(() => document.querySelector('[aria-label="Moment in the shot"]')?.getAttribute('aria-valuemax') === '150');
  await dragIn((await page().$('[data-trim="in"]'))!, { x: 0.5, y: 0.5 }, { x: room.width / 3, y: 0 });
  await page().waitForFunction(() => document.querySelector('[aria-label="Moment in the shot"]')?.getAttribute('aria-valuemax') === '100');
  await kept();
  expect((await shotNow()).preparation.trim).toEqual({ from: 50, to: 150 });
  // The moment of four seconds into the footage is two seconds into what is left; the same picture, as nothing is worn.
  await page().keyboard.press('t');
  await page().keyboard.type('2:00');
  await page().keyboard.press('Enter');
  expect((await pictureOf(page())).hash).toBe(before.hash);
  await dragIn((await page().$('[data-trim="in"]'))!, { x: 0.5, y: 0.5 }, { x: -room.width / 4, y: 0 });
  await page().waitForFunction(() => document.querySelector('[aria-label="Moment in the shot"]')?.getAttribute('aria-valuemax') === '125');
  expect((await pictureOf(page())).hash).toBe((await pictureOf(page())).hash);
  await press('Undo');
  await press('Undo');
  await press('Undo');
  expect(await frames()).toBe(200);
  await kept();
  expect((await shotNow()).preparation.trim).toBeUndefined();
});

test('what is typed is gone to, what means no moment is not, and Escape leaves all as it was', async () => {
  await bench();
  const go = async (text: string): Promise<number> => {
    await page().keyboard.press('t');
    await page().waitForSelector('input[aria-label="Go to"]');
    await page().keyboard.type(text);
    await page().keyboard.press('Enter');
    return frameNow();
  };
  expect(await go('00:00:03:12')).toBe(87);
  expect(await go('+10')).toBe(97);
  expect(await go('99:00')).toBe(199);
  await page().keyboard.press('t');
  await page().keyboard.type('soon');
  await page().keyboard.press('Enter');
  await page().waitForSelector('input[aria-label="Go to"][aria-invalid="true"]');
  await page().keyboard.press('Escape');
  await page().waitForSelector('input[aria-label="Go to"]', { hidden: true });
  expect(await frameNow()).toBe(199);
});

test('a motion lies on the strip in step with the footage: a key set there is at the moment above it', async () => {
  await bench([{ trait: 'flicker', settings: { amount: 2 } }]);
  await press('Flicker, strength 100 %');
  await press('Motion of Amount: steady');
  const curve = (await page().waitForSelector('[aria-label="Motion on the strip"] svg'))!;
  const room = await boxOf('[aria-label="Moment in the shot"]');
  const box = (await curve.boundingBox())!;
  expect(Math.abs(box.x - room.x)).toBeLessThan(1);
  expect(Math.abs(box.width - room.width)).toBeLessThan(1);
  await page().keyboard.press('t');
  await page().keyboard.type('4:00');
  await page().keyboard.press('Enter');
  await press('Longer strip');
  // In the middle of what is seen, whatever that is.
  await curve.click({ count: 2 });
  await kept();
  const { motions } = (await shotNow()).look.lives[0].traits[0];
  const [key] = motions.amount.keys;
  await page().mouse.click(box.x + box.width / 2, room.y + 50);
  expect(Math.abs((await frameNow()) - key.at * 25)).toBeLessThanOrEqual(1);
  await page().keyboard.press('Home');
  const still = await pictureOf(page());
  await press('Key here');
  await page().waitForFunction(() => document.querySelectorAll('[aria-label="Motion on the strip"] rect').length === 2);
  await kept();
  const after = (await shotNow()).look.lives[0].traits[0].motions.amount.keys;
  expect(after).toHaveLength(2);
  expect(after[0].at).toBe(0);
  // A key of what was there anyway changes nothing of that frame.
  expect((await pictureOf(page())).hash).toBe(still.hash);
});

test('a chosen event is moved by keys on its lane', async () => {
  await bench([{ trait: 'burn', settings: { rate: 0 }, events: { pinned: [{ id: 'hand-1', at: 2 }] } }]);
  const lane = (await page().waitForSelector('canvas[data-lane="burn"][data-events="1"]'))!;
  await lane.focus();
  await page().keyboard.press('ArrowRight');
  expect(await frameNow()).toBe(50);
  await page().keyboard.down('Alt');
  for (let i = 0; i < 3; i++) await page().keyboard.press('ArrowRight');
  await page().keyboard.up('Alt');
  await kept();
  expect(await frameNow()).toBe(53);
  expect((await shotNow()).look.lives[0].traits[0].events.pinned[0].at).toBeCloseTo(2.12, 6);
  expect(await named('Undo')).toBeTruthy();
});
