/** Tape, air and tubes in the real interface: the same bits as in Node, events on their lane, what a carrier cannot do, and prints of its shape. */
import { execFileSync } from 'node:child_process';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Page } from 'puppeteer-core';
import { Plan, shippedLook, type Look } from '@tin-ghost/core';
import { decodeOne, newEngine, probe } from '@tin-ghost/media';
import { handsOn, hashOf, openDressed, openWorn, stageUp, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('tape');
  ({ page } = stage);
});
afterAll(() => stage?.down());

const { named, press, kept, resting } = handsOn(() => page);
const lookNow = async (shot: number): Promise<Look> => (await stage.app.api(`/shots/${stage.demo.shots[shot]!.id}`)).look;

const openLook = (shot: number, id: string): Promise<void> => openDressed(stage, shot, shippedLook(id)!);

describe('the picture', () => {
  test.each(['far-station', 'film-tape-tape-tube', 'super8-to-tape', 'green-terminal'])('of %s has the same bits in the browser as in Node', async (id) => {
    await openLook(1, id);
    for (let i = 0; i < 3; i++) await page.keyboard.press('ArrowRight');
    const shown = await pictureOf(page);
    const footage = await probe(join(stage.app.media, 'media', stage.demo.shots[1]!.medium.id, 'proxy.mp4'));
    const look = shippedLook(id)!;
    const rate = footage.rate.num / footage.rate.den;
    const source = await decodeOne(footage, 0);
    const { width, height } = source;
    const plan = new Plan(await newEngine(), look, { source, target: { width, height, encoding: 'rgba' }, rate });
    const given = new Map(await Promise.all(plan.sourcePictures(3).map(async (n) => [n, await decodeOne(footage, n)] as const)));
    expect({ width: shown.width, height: shown.height, hash: shown.hash }).toEqual({ width, height, hash: hashOf(plan.render(3, (n) => given.get(n)!)[0]!) });
    plan.dispose();
  });
});

describe('the line scope', () => {
  /** How high the worn and the clean line stand in the spectrum about a frequency: rows from the top, the lower the louder. */
  const heights = (megahertz: number): Promise<{ worn: number; clean: number }> =>
    page.evaluate((at) => {
      // The axes stand on the first, the lines on the one over it, as wide as the axis.
      const canvas = document.querySelector<HTMLCanvasElement>('[data-line="spectrum"] canvas:last-of-type')!;
      const scale = canvas.width / canvas.clientWidth;
      const x = (canvas.width * at) / 6.75;
      const { data, width, height } = canvas.getContext('2d')!.getImageData(x - 12 * scale, 0, 24 * scale, canvas.height);
      const topmost = (r: number, g: number, b: number): number => {
        for (let i = 0; i < width * height; i++) {
          const [p, q, s, a] = data.subarray(4 * i, 4 * i + 4);
          if (a! > 128 && Math.abs(p! - r) + Math.abs(q! - g) + Math.abs(s! - b) < 24) return Math.floor(i / width) / scale;
        }
        return height / scale;
      };
      return { worn: topmost(0x9c, 0x3b, 0x1e), clean: topmost(0x56, 0x5c, 0x5b) };
    }, megahertz);
  async function openLineScope(): Promise<void> {
    await page.keyboard.down('Shift');
    await page.keyboard.press('KeyV');
    await page.keyboard.up('Shift');
    await page.waitForSelector('[data-line="spectrum"] canvas');
  }
  const lineNumber = (): Promise<number> => page.$eval('input[aria-label="Line, lines"]', (e) => Number(e.value));

  test('shows the line under the pointer, what is lost of it, and goes on while playing', async () => {
    await openWorn(stage, 0, 'vhs625', [{ trait: 'luma-bandwidth', settings: { limit: 1 } }]);
    await openLineScope();
    const { height } = await pictureOf(page);
    const picture = await resting('canvas[aria-label^="Picture"]');
    await page.mouse.move(picture.x + picture.width / 2, picture.y + picture.height * 0.7);
    await page.waitForFunction((rows) => Math.abs(Number(document.querySelector<HTMLInputElement>('input[aria-label="Line, lines"]')!.value) - 0.7 * rows) < 4, {}, height);
    const mark = (await (await page.$('[data-line-mark]'))!.boundingBox())!;
    expect(Math.abs(mark.y - (picture.y + picture.height * 0.7))).toBeLessThan(2);
    // Below the limit both stand alike, above it what is worn has sunk.
    await page.waitForFunction(() => /%/.test(document.querySelector('[aria-label="Levels of the line"]')?.textContent ?? ''));
    const [low, high] = [await heights(0.4), await heights(3)];
    // Where they are alike the worn line hides the clean one.
    expect(low.worn - low.clean).toBeLessThan(12);
    expect(high.worn - high.clean).toBeGreaterThan(15);
    const before = await lineNumber();
    await page.focus('input[aria-label="Line, lines"]');
    await page.keyboard.press('ArrowUp');
    expect(await lineNumber()).toBe(before + 1);
    await page.select('select[aria-label="What is shown of the line"]', 'red');
    const drawn = (): Promise<string> => page.$eval('[data-line="signal"] canvas:last-of-type', (c) => c.toDataURL());
    const still = await drawn();
    await press('Play');
    await page.waitForFunction((was) => document.querySelector<HTMLCanvasElement>('[data-line="signal"] canvas:last-of-type')!.toDataURL() !== was, {}, still);
    await press('Pause');
    // A chart tells what stands under the pointer, of both.
    const chart = await resting('[data-line="spectrum"]');
    await page.mouse.move(chart.x + 34 + ((chart.width - 44) * 3) / 6.75, chart.y + chart.height / 2);
    const told = await page.waitForFunction(
      () => /^3\.\d\d MHz.*clean -?[\d.]+ dB.*worn -?[\d.]+ dB$/s.exec(document.querySelector('[data-line="spectrum"]')!.textContent ?? '')?.[0],
    );
    expect(await told.jsonValue()).toMatch(/MHz/);
    await page.keyboard.press('Escape');
  });

  /** While it plays: how many pictures were drawn in which the clean line of the spectrum shows, and in which it does not. @param meanwhile is done again and again */
  async function clean(pictures: number, meanwhile?: () => Promise<void>): Promise<{ seen: number; unseen: number }> {
    await press('Play');
    let going = true;
    const counting = page.evaluate(async (wanted) => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-line="spectrum"] canvas:last-of-type')!;
      const counts = { seen: 0, unseen: 0 };
      for (let before = ''; counts.seen + counts.unseen < wanted;) {
        await new Promise((done) => requestAnimationFrame(done));
        const now = canvas.toDataURL();
        if (now === before) continue;
        before = now;
        const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
        let grey = 0;
        for (let i = 0; i < data.length; i += 4) if (data[i + 3]! > 128 && Math.abs(data[i]! - 0x56) + Math.abs(data[i + 1]! - 0x5c) + Math.abs(data[i + 2]! - 0x5b) < 24) grey++;
        counts[grey > 20 ? 'seen' : 'unseen']++;
      }
      return counts;
    }, pictures);
    const ending = counting.finally(() => (going = false));
    while (going && meanwhile) await meanwhile();
    const counted = await ending;
    await press('Pause');
    return counted;
  }

  test('while it plays each picture comes with its own clean line', async () => {
    // What nothing is done to lies over its clean line: another one, or another picture's, would show.
    await openWorn(stage, 0, 'vhs625', []);
    await openLineScope();
    const picture = await resting('canvas[aria-label^="Picture"]');
    const point = (at: number): Promise<void> => page.mouse.move(picture.x + picture.width / 2, picture.y + picture.height * at);
    await point(0.31);
    expect(await clean(8)).toEqual({ seen: 0, unseen: 8 });
    await openWorn(stage, 0, 'vhs625', [{ trait: 'luma-bandwidth', settings: { limit: 1 } }]);
    await openLineScope();
    await resting('canvas[aria-label^="Picture"]');
    await point(0.6);
    expect((await clean(12)).seen).toBeGreaterThanOrEqual(10);
    // Also while the line never rests.
    let moves = 0;
    const { seen } = await clean(30, async () => {
      await point(0.3 + (moves++ % 20) / 50);
      await new Promise((done) => setTimeout(done, 30));
    });
    expect(seen).toBeGreaterThanOrEqual(10);
    expect(moves).toBeGreaterThan(10);
  });
});

describe('the bench', () => {
  test('a dropout is pinned at this frame, seen, and muted', async () => {
    await openWorn(stage, 0, 'vhs625', [{ trait: 'dropouts', settings: { count: 0, length: 60, compensated: false } }, { trait: 'tape-noise' }]);
    await (await page.waitForSelector('button[aria-label^="Dropouts,"]'))!.click();
    const before = await pictureOf(page);
    await press('Pin one here');
    await page.waitForSelector('canvas[data-lane="dropouts"][data-events="1"]');
    expect((await pictureOf(page)).hash).not.toBe(before.hash);
    await kept();
    expect((await lookNow(0)).lives[0]!.traits[0]!.events?.pinned).toHaveLength(1);
    await page.keyboard.down('Control');
    await page.keyboard.press('KeyZ');
    await page.keyboard.up('Control');
    expect((await pictureOf(page)).hash).toBe(before.hash);
  });

  test('on a carrier without a recorder tape noise is off, says so, cannot be turned on, and is not offered', async () => {
    await openWorn(stage, 0, 'vhs625', [{ trait: 'tape-noise' }, { trait: 'saturation' }]);
    await page.select('select[aria-label="Carrier of life 1"]', 'super8');
    await (await page.waitForSelector('button[aria-label="Tape noise, off"]'))!.click();
    await page.waitForFunction(() => /Tape noise needs a tape recorder; Super 8 has none/.test(document.querySelector('[aria-label="Card of Tape noise"]')?.textContent ?? ''));
    expect(await (await named('Tape noise on', 'switch')).evaluate((e) => (e as HTMLButtonElement).disabled)).toBe(true);
    await page.keyboard.press('x');
    await kept();
    expect((await lookNow(0)).lives[0]!.traits[0]!.on).toBe(false);
    await press('Add to Stock');
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="What can be added to Stock"] button').length > 5);
    const offered = await page.$$eval('[aria-label="What can be added to Stock"] button', (all) => all.map((e) => e.textContent));
    expect(offered.some((text) => /Grain/.test(text))).toBe(true);
    expect(offered.some((text) => /Tape noise|Dropouts|Snow/.test(text))).toBe(false);
    await page.keyboard.press('Escape');
  });

  test('the carrier’s shape stands between bars, and is struck with them or without', async () => {
    await openWorn(stage, 3, 'vhs625', [{ trait: 'saturation', settings: { amount: 0.9 } }]);
    const wide = await pictureOf(page);
    await page.select('select[aria-label="Shape of the picture"]', 'carrier');
    await page.waitForFunction(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('canvas[aria-label^="Picture"][data-ready]');
      return canvas?.getContext('2d')!.getImageData(10, canvas.height / 2, 1, 1).data[0] === 0;
    });
    expect((await pictureOf(page)).width).toBe(wide.width);
    await kept();
    await press('Strike prints');
    await (await page.waitForSelector('::-p-text(beside the picture)'))!.click();
    await page.select('select[aria-label="Size"]', '0.5');
    await (await page.waitForSelector('::-p-text(whole shot)'))!.click();
    await (await page.waitForSelector('input[aria-label="Last frame"]'))!.click({ count: 3 });
    await page.keyboard.type('12');
    await press('Strike');
    await press('To the prints');
    await page.waitForSelector('[data-print="done"]', { timeout: 90_000 });
    const [print] = await stage.app.api('/prints');
    // What was typed last counts, though the field was not left before.
    expect(print.total).toBe(12);
    const file = join(stage.folder, 'shape.mp4');
    await writeFile(file, Buffer.from(await (await fetch(`${stage.app.address}/api/prints/${print.id}/file`)).arrayBuffer()));
    const { streams } = JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-show_streams', '-of', 'json', file], { encoding: 'utf8' }));
    expect(streams[0]).toMatchObject({ width: 480, height: 360 });
  });
});
