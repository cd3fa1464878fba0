/** Preparing, colouring, measuring, matching and comparing, through the real interface on the demo's footage. */
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { ElementHandle, Page } from 'puppeteer-core';
import { EMPTY_LOOK, parseCube, Plan, preparedSize, sampleTable, shownSize, type Look, type Preparation, type TraitUse } from '@tin-ghost/core';
import { decodeOne, newEngine, probe } from '@tin-ghost/media';
import { dress, handsOn, hashOf, stageUp, until, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
let app: Stage['app'];
let folder: string;
let demo: Stage['demo'];

beforeAll(async () => {
  stage = await stageUp('e2e_colour');
  ({ page, app, folder, demo } = stage);
});
afterAll(() => stage?.down());

const { named, press, drag, dragIn, kept, fill } = handsOn(() => page);
const shotId = (i: number): string => demo.shots[i]!.id;
const openShot = (i: number) => page.goto(`${app.address}/reels/${demo.id}/shots/${shotId(i)}`);
const work = async (i: number): Promise<{ look: Look; preparation: Preparation }> => app.api(`/shots/${shotId(i)}`);
const useOf = async (i: number, trait: string) => (await work(i)).look.lives[0]!.traits.find((use) => use.trait === trait);

async function addTrait(says: string): Promise<void> {
  await press('Add to Stock');
  await (await page.waitForSelector(`::-p-text(${says})`))!.click();
  await page.waitForSelector('[aria-label="What can be added to Stock"]', { hidden: true });
}

/** How many places of a scope are inked, and their mean height (0 foot, 1 top), in the columns between two shares. */
const inked = (name: string, from = 0, to = 1): Promise<{ places: number; height: number }> =>
  page.$eval(
    `canvas[data-scope="${name}"]`,
    (canvas, a, b) => {
      const { width, height } = canvas;
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, width, height);
      let [places, sum, dark] = [0, 0, 0];
      for (let y = 0; y < height; y++)
        for (let x = Math.floor(a * width); x < b * width; x++) {
          const alpha = data[(y * width + x) * 4 + 3]!;
          if (!alpha) continue;
          places++;
          dark += alpha;
          sum += alpha * (1 - y / height);
        }
      return { places, height: sum / dark };
    },
    from,
    to,
  );

describe('the shot', () => {
  test('a shape and a framing dragged on the picture: the part moves, never past the edge; undo takes it back', async () => {
    await openShot(0);
    const before = await pictureOf(page);
    await page.locator('[data-shot-block]').click();
    await press('4 : 3');
    await kept();
    const shaped = await pictureOf(page);
    expect(shaped.width / shaped.height).toBeCloseTo(4 / 3, 2);
    expect(shaped.height).toBe(before.height);
    await press('Frame on the picture');
    const overlay = (await page.waitForSelector('[data-framing]'))!;
    await dragIn(overlay, { x: 0.5, y: 0.4 }, { x: -40, y: 0 });
    await kept();
    const moved = (await work(0)).preparation.framing!;
    expect(moved.x).toBeGreaterThan(0.52);
    expect((await pictureOf(page)).hash).not.toBe(shaped.hash);
    // Far past the edge: it stops there.
    await dragIn(overlay, { x: 0.5, y: 0.4 }, { x: -600, y: 0 });
    await kept();
    expect((await work(0)).preparation.framing!.x).toBeCloseTo(1 - 4 / 3 / (16 / 9) / 2, 3);
    // A corner scales.
    await dragIn((await page.$('[data-corner]:last-of-type'))!, { x: 0.5, y: 0.5 }, { x: 40, y: 30 });
    await kept();
    expect((await work(0)).preparation.framing!.scale).toBeGreaterThan(1.05);
    for (let i = 0; i < 4; i++) await press('Undo');
    await kept();
    expect((await work(0)).preparation).toEqual({});
    expect((await pictureOf(page)).hash).toBe(before.hash);
  });

  test('trim and speed change how many pictures there are; the print is as long', async () => {
    await openShot(2);
    await pictureOf(page);
    await page.locator('[data-shot-block]').click();
    await fill('First picture of the footage', '41');
    await fill('Last picture of the footage', '80');
    await fill('Speed, %', '50');
    await kept();
    expect((await work(2)).preparation).toEqual({ trim: { from: 40, to: 80 }, speed: 0.5 });
    await page.waitForFunction(() => document.body.textContent?.includes('80 frames, '));
    expect(await page.$eval('[aria-label="Moment in the shot"]', (e) => e.getAttribute('aria-valuemax'))).toBe('80');
    const [print] = [
      await app.api('/prints', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ shotId: shotId(2), format: 'mp4', width: 320, height: 180 }),
      }),
    ];
    expect(print.total).toBe(80);
    await app.api(`/prints/${print.id}`, { method: 'DELETE' });
    await press('As it was shot');
    await kept();
  });

  test('another meaning of its values changes the picture; a framing may move over the shot', async () => {
    await openShot(3);
    const before = await pictureOf(page);
    await page.locator('[data-shot-block]').click();
    await (await named('Curve of the footage')).select('acescct');
    await kept();
    const logged = await pictureOf(page);
    expect(logged.hash).not.toBe(before.hash);
    await (await named('Curve of the footage')).select('display');
    await fill('Scale, %', '150');
    await press('Let it move');
    await page.keyboard.press('Escape');
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('End');
    await fill('Across, % W', '60');
    await kept();
    const { moves } = (await work(3)).preparation;
    expect(moves).toHaveLength(2);
    expect(moves![0]).toMatchObject({ at: 0, scale: 1.5 });
    expect(moves![1]!.x).toBeCloseTo(0.6, 3);
    await press('As it was shot');
    await kept();
  });
});

describe('colour', () => {
  test('a curve drawn on the histogram brightens the picture, by pointer and by key', async () => {
    await openShot(1);
    const before = await pictureOf(page);
    await addTrait('Each tone is given another, along a curve through points.');
    const field = (await page.waitForSelector('[data-setting="All"] svg'))!;
    await dragIn(field, { x: 0.4, y: 0.6 }, { x: 0, y: -30 });
    await kept();
    const drawn = (await useOf(1, 'tone-curves'))!.settings!.master as [number, number][];
    expect(drawn).toHaveLength(3);
    expect(drawn[1]![1]).toBeGreaterThan(drawn[1]![0] + 0.1);
    const brighter = await pictureOf(page);
    expect(brighter.means[1]).toBeGreaterThan(before.means[1] + 3);
    await page.keyboard.press('ArrowUp');
    await kept();
    const raised = (await useOf(1, 'tone-curves'))!.settings!.master as [number, number][];
    expect(raised[1]![1]).toBeCloseTo(drawn[1]![1] + 0.01, 4);
    await page.keyboard.press('Delete');
    await kept();
    expect((await useOf(1, 'tone-curves'))!.settings!.master).toHaveLength(2);
    expect((await pictureOf(page)).hash).toBe(before.hash);
  });

  test('a tint is picked where it lies on the chart, and its foot is neutral', async () => {
    await openShot(1);
    const before = await pictureOf(page);
    await addTrait('Shadows, middles and highlights tinted, paled and lit by themselves.');
    const chart = await named('Middles, tint: hue and strength', 'slider');
    await chart.scrollIntoView();
    const box = (await chart.boundingBox())!;
    await page.mouse.click(box.x + box.width * (240 / 360), box.y + box.height * 0.2);
    await kept();
    const settings = (await useOf(1, 'ranges'))!.settings!;
    expect(settings.middlesHue as number).toBeGreaterThan(230);
    expect(settings.middlesHue as number).toBeLessThan(250);
    expect(settings.middlesTint as number).toBeGreaterThan(10);
    const blue = await pictureOf(page);
    expect(blue.means[2] - blue.means[0]).toBeGreaterThan(before.means[2] - before.means[0] + 5);
    await page.mouse.click(box.x + box.width * 0.1, box.y + box.height * 0.95);
    await kept();
    expect((await useOf(1, 'ranges'))!.settings!.middlesTint).toBe(0);
    await page.keyboard.press('Delete');
    await kept();
  });

  test('a colour the carrier could not hold is warned of', async () => {
    await openShot(1);
    await pictureOf(page);
    await addTrait('Blacks go to one colour, whites to another, all between along the way.');
    await fill('Whites, red green blue', '1 0 0');
    await page.waitForFunction(() => document.body.textContent?.includes('more saturated than the dyes of Super 8'));
    await fill('Whites, red green blue', '1 0.95 0.85');
    await page.waitForFunction(() => !document.body.textContent?.includes('more saturated than the dyes'));
    await (await named('Remove Two tones', 'button')).click();
    await kept();
  });

  test('a .cube file comes in and colours the picture; a bad one is refused with line and reason', async () => {
    await openShot(1);
    const before = await pictureOf(page);
    await addTrait('Every colour is looked up in a .cube table.');
    const bad = join(folder, 'bad.cube');
    await writeFile(bad, 'LUT_1D_SIZE 2\n0 0 0\n1 one 1\n');
    const input = (await page.waitForSelector('input[aria-label="Table, file"]')) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(bad);
    await page.waitForFunction(() => document.body.textContent?.includes('bad.cube: line 3: "one" is not a number'));
    expect((await useOf(1, 'table'))?.settings?.file ?? '').toBe('');
    const good = join(folder, 'inverse.cube');
    await writeFile(good, 'TITLE "Inverse"\nLUT_1D_SIZE 2\n1 1 1\n0 0 0\n');
    await input.uploadFile(good);
    await page.waitForFunction(() => [...document.querySelectorAll('select[aria-label="Table"] option:checked')].some((o) => o.textContent === 'inverse.cube'));
    await kept();
    const after = await pictureOf(page);
    // The bars beside a gauge's shape stay black.
    const share = shownSize((await work(1)).look, after).width / after.width;
    expect(Math.abs(after.means[1] + before.means[1] - 255 * share)).toBeLessThan(12);
    await (await named('Remove Table', 'button')).click();
    await kept();
  });

  test('an ASC CDL comes in; the look’s colour goes out as a cube that holds it', async () => {
    await openShot(1);
    await pictureOf(page);
    await addTrait('The ten numbers of an ASC colour decision.');
    const file = join(folder, 'dusk.cc');
    await writeFile(file, '<ColorCorrection id="dusk"><SOPNode><Slope>0.5 1 1</Slope><Offset>0 0 0.1</Offset><Power>1 1 1</Power></SOPNode></ColorCorrection>');
    const input = (await page.waitForSelector('input[aria-label="File of corrections"]')) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(file);
    await page.waitForFunction(() => document.querySelector('[aria-label^="dusk, strength"]'));
    await kept();
    expect((await useOf(1, 'cdl'))!.settings).toMatchObject({ slopeRed: 0.5, offsetBlue: 0.1, saturation: 1 });
    const client = await page.createCDPSession();
    await client.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: folder });
    await press('Export LUT');
    await until(async () => (await readdir(folder)).includes('Home gauge.cube'));
    const table = parseCube(await readFile(join(folder, 'Home gauge.cube'), 'utf8'));
    sampleTable(table, [0.8, 0.4, 0.2]).forEach((v, i) => expect(v).toBeCloseTo([0.4, 0.4, 0.3][i]!, 2));
    await (await named('Remove CDL', 'button')).click();
    await kept();
  });
});

describe('the picture', () => {
  test('has the same bits in the browser as in Node, through shape, framing, curve, colour and table', async () => {
    const text = 'LUT_3D_SIZE 2\n0.02 0 0.05\n0.9 0.1 0\n0 0.8 0.1\n1 1 0.1\n0.1 0 0.9\n0.8 0 1\n0 0.9 1\n1 0.97 0.9\n';
    const { id } = await app.api('/tables?name=twist.cube', { method: 'POST', headers: { 'content-type': 'text/plain' }, body: text });
    const preparation: Preparation = { shape: 4 / 3, framing: { x: 0.45, y: 0.5, scale: 1.3, turn: 3 }, mirror: true, curve: 'hlg' };
    const colours: TraitUse[] = [
      { trait: 'exposure', settings: { stops: -0.4 } },
      { trait: 'tone-curves', settings: { master: [[0, 0.1], [0.4, 0.5], [1, 0.9]] } },
      { trait: 'hues', settings: { redShift: 20 } },
      { trait: 'ranges', settings: { middlesHue: 40, middlesTint: 20 } },
      { trait: 'table', strength: 0.6, settings: { file: id } },
      { trait: 'process' },
      { trait: 'halation' },
    ]; // prettier-ignore
    const look: Look = { ...EMPTY_LOOK, lives: [{ carrier: 'film16', traits: colours }] };
    const before = await work(2);
    await dress(stage, 2, look, preparation);
    await openShot(2);
    const shown = await pictureOf(page);
    const footage = await probe(join(app.media, 'media', demo.shots[2]!.medium.id, 'proxy.mp4'));
    const source = await decodeOne(footage, 0);
    const target = { ...preparedSize(source, preparation), encoding: 'rgba' as const };
    const plan = new Plan(await newEngine(), look, { source, target, rate: footage.rate.num / footage.rate.den, preparation, tables: { [id]: parseCube(text) } });
    expect(shown).toMatchObject({ width: target.width, height: target.height, hash: hashOf(plan.render(0, source)[0]!) });
    plan.dispose();
    await dress(stage, 2, before.look, before.preparation);
  });
});

describe('measuring', () => {
  test('scopes follow the picture: a slider moves, the waveform sinks; the pointer reads a pixel', async () => {
    await openShot(3);
    const shown = await pictureOf(page);
    await page.keyboard.press('v');
    await page.waitForSelector('canvas[data-scope="Waveform"]');
    await until(async () => (await inked('Waveform')).places > 1000);
    const before = await inked('Waveform');
    expect((await inked('Vector')).places).toBeGreaterThan(100);
    await addTrait('How much light fell, how steeply it is rendered, and the colour of the lamp.');
    await drag('Exposure', -18);
    await kept();
    await pictureOf(page);
    await until(async () => (await inked('Waveform')).height < before.height - 0.02);
    const canvas = (await page.$('canvas[aria-label^="Picture"]'))!;
    const box = (await canvas.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.waitForFunction(() => /luma [\d.]+ %/.test(document.querySelector('[aria-label="Under the pointer"]')?.textContent ?? ''));
    const read = await page.$eval('[aria-label="Under the pointer"]', (e) => e.textContent.split('luma')[0]!.trim().split(' ').map(Number));
    const wanted = await canvas.evaluate((c) => {
      const { width, height } = c;
      return [
        ...c
          .getContext('2d')!
          .getImageData(Math.floor(width / 2), Math.floor(height / 2), 1, 1)
          .data.slice(0, 3),
      ];
    });
    expect(read).toEqual(wanted);
    expect(shown.width).toBeGreaterThan(0);
    await (await named('Remove Exposure', 'button')).click();
    await kept();
  });

  test('scopes stay with the picture while it plays', async () => {
    await page.keyboard.press('Space');
    await page.waitForFunction(() => /\d+ of 25 fps/.test(document.body.textContent ?? ''));
    const seen = new Set<string>();
    for (let i = 0; i < 30 && seen.size < 4; i++) {
      seen.add(JSON.stringify(await inked('Waveform')));
      await pause(120);
    }
    expect(seen.size).toBeGreaterThanOrEqual(4);
    await page.keyboard.press('Space');
    await page.keyboard.press('v');
    await page.waitForSelector('canvas[data-scope="Waveform"]', { hidden: true });
  });
});

describe('references and comparing', () => {
  test.each(['Cold newsfilm', 'Third copy on tape', 'Faded reversal'])('the reference %s is pinned, measured, and a setting proposed that brings the shot to it', async (name) => {
    await openShot(3);
    await pictureOf(page);
    await (await page.waitForSelector(`section[aria-label="References"] button[title^="${name}"] img`, { timeout: 60_000 }))!.click();
    await page.waitForSelector('[data-other="side"] canvas[data-ready]');
    await press('Measure and propose');
    const table = (await page.waitForSelector('table[aria-label^="Figures of the shot"]', { timeout: 60_000 }))!;
    const rows = await table.$$eval('tbody tr', (trs) =>
      trs.map((tr) => [tr.querySelector('th')!.textContent, ...[...tr.querySelectorAll('td')].map((td) => Number(td.textContent))] as [string, number, number, number]),
    );
    const held = rows.filter(([row]) => ['black', 'half below', 'white'].includes(row) || row.endsWith('tint'));
    expect(held).toHaveLength(9);
    for (const [row, , after, wanted] of held) expect([row, after, wanted, Math.abs(after - wanted) <= 2]).toEqual([row, after, wanted, true]);
  });

  test('a proposal that is taken arrives as traits of the look, and goes again with one undo', async () => {
    const before = await work(3);
    await press('Apply');
    await kept();
    const taken = (await work(3)).look.lives[0]!.traits.map((use) => use.trait);
    expect(taken).toEqual(expect.arrayContaining(['tone-curves', 'saturation', 'ranges']));
    expect(taken).toHaveLength(before.look.lives[0]!.traits.length + 3);
    await press('Undo');
    await kept();
    expect((await work(3)).look).toEqual(before.look);
  });

  test('a wipe against the shot without its look: two pictures, parted by a line that is dragged and turned', async () => {
    await press('Wipe');
    await (await named('Compare with', 'button')).click();
    await (await page.waitForSelector('::-p-aria([name="As shot"][role="menuitem"])'))!.click();
    const other = (await page.waitForSelector('[data-other="wipe"]'))!;
    await page.waitForSelector('[data-other="wipe"] canvas[data-ready]');
    const clip = (): Promise<string> => other.evaluate((e) => (e as HTMLElement).style.clipPath);
    const upright = await clip();
    await dragIn(await named('Wiping line; arrows move it, with Shift they turn it', 'button'), { x: 0.5, y: 0.5 }, { x: -80, y: 0 });
    const moved = await clip();
    expect(moved).not.toBe(upright);
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.up('Shift');
    expect(await clip()).not.toBe(moved);
    // The picture held against is the clean one.
    const held = (await pictureOf(page, 'Compared with')).hash;
    await press('Alone');
    await page.keyboard.press('w');
    await page.waitForSelector('canvas[aria-label$="as shot"]');
    expect((await pictureOf(page)).hash).toBe(held);
    await page.keyboard.press('w');
  });

  test('it blinks, and plays side by side', async () => {
    await press('Blink');
    const other = (await page.waitForSelector('[data-other="blink"]'))!;
    const states = new Set<boolean>();
    for (let i = 0; i < 40 && states.size < 2; i++) {
      states.add(await other.evaluate((e) => e.classList.contains('invisible')));
      await pause(60);
    }
    expect(states.size).toBe(2);
    await press('Side by side');
    await page.keyboard.press('Space');
    await page.waitForFunction(() => /\d+ of 25 fps/.test(document.body.textContent ?? ''));
    await page.waitForFunction(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-other="side"] canvas[aria-hidden]');
      return canvas && canvas.width > 300 && canvas.getContext('2d')!.getImageData(20, 20, 1, 1).data[3] === 255;
    });
    await page.keyboard.press('Space');
    await press('Alone');
  });

  test('a still of one’s own comes in as a reference and can be discarded', async () => {
    const still = join(folder, 'own.png');
    const { execFileSync } = await import('node:child_process');
    execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', 'testsrc2=s=320x180:d=1', '-frames:v', '1', still]);
    const input = (await page.$('input[aria-label="Reference file"]')) as ElementHandle<HTMLInputElement>;
    await input.uploadFile(still);
    await page.waitForSelector('section[aria-label="References"] button[title^="own"] img', { timeout: 60_000 });
    await press('Discard the reference own');
    await page.waitForSelector('section[aria-label="References"] button[title^="own"]', { hidden: true });
    const references = (await app.api('/references')) as { name: string }[];
    expect(references.map((r) => r.name)).toEqual(['Faded reversal', 'Cold newsfilm', 'Third copy on tape']);
  });
});
