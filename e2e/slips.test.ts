/** Hands that slip, pages that are left, workers that die: tried in the real interface. */
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, beforeEach, describe, expect, test } from '@jest/globals';
import type { HTTPRequest, Page } from 'puppeteer-core';
import type { Look } from '@tin-ghost/core';
import { handsOn, openWorn, stageUp, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('slips');
  ({ page } = stage);
});
afterAll(() => stage?.down());

const { named, press, undoNote, fill, kept, drag } = handsOn(() => page);
const WORN = [{ trait: 'grain' }, { trait: 'scratches' }, { trait: 'gate-weave' }];
const worn = (shot = 0): Promise<void> => openWorn(stage, shot, 'super8', WORN);
const shots = async (): Promise<{ name: string }[]> => (await stage.app.api('/reels')).find((reel: { id: string }) => reel.id === stage.demo.id).shots;
const traitsAt = async (shot: number): Promise<Look['lives'][0]['traits']> => ((await stage.app.api(`/shots/${stage.demo.shots[shot]!.id}`)).look as Look).lives[0]!.traits;
const traitsOf = async (shot: number): Promise<string[]> => (await traitsAt(shot)).map((use) => use.trait);
const tag = (name: string) => page.waitForSelector(`button[aria-label^="${name},"]`);
const clock = (): Promise<string> => page.$eval('output[aria-label="Time"]', (e) => e.textContent);

/** Drops a file with a name and bytes on a place of the page, as a hand would. */
const dropOn = (selector: string, name: string, bytes: number[]): Promise<void> =>
  page.evaluate(
    (where, file, content) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([new Uint8Array(content)], file));
      const target = document.querySelector(where)!;
      for (const type of ['dragenter', 'dragover', 'drop']) target.dispatchEvent(new DragEvent(type, { bubbles: true, cancelable: true, dataTransfer: transfer }));
    },
    selector,
    name,
    bytes,
  );

describe('what is dropped', () => {
  beforeEach(() => worn());

  test('a shot’s thumbnail, dragged over the page, is no footage', async () => {
    const before = await shots();
    const from = (await (await page.waitForSelector('[aria-label="Shots"] ol img'))!.boundingBox())!;
    await page.mouse.move(from.x + 20, from.y + 20);
    await page.mouse.down();
    for (let i = 1; i <= 8; i++) await page.mouse.move(from.x + 20 + i * 50, from.y + 20 + i * 20);
    await page.mouse.up();
    await pause(800);
    expect(await shots()).toEqual(before);
    expect(await page.$$eval('[aria-label="Shots"] img, [aria-label="Shots"] a', (all) => all.every((e) => !(e as HTMLElement).draggable))).toBe(true);
  });

  test('a file anywhere on the bench becomes a shot, and the page stays', async () => {
    const before = (await shots()).length;
    const address = page.url();
    await dropOn('[aria-label="Strip"]', 'dropped.txt', [65, 66, 67]);
    await page.waitForFunction((n) => document.querySelectorAll('[aria-label="Shots"] ol li').length === n, {}, before + 1);
    expect(page.url()).toBe(address);
    // It is none: it says so, and can be taken away.
    await page.waitForFunction(() => /a text or a list/.test(document.querySelector('[aria-label="Shots"]')!.textContent));
    await press('Try again');
    await page.waitForFunction(() => /a text or a list/.test(document.querySelector('[aria-label="Shots"]')!.textContent));
    await press('Remove');
    await page.waitForFunction((n) => document.querySelectorAll('[aria-label="Shots"] ol li').length === n, {}, before);
    expect((await shots()).length).toBe(before);
  });

  test('a file over the page is told where it goes; on the shelf it makes a reel, in the stockroom a look is read', async () => {
    await page.goto(stage.app.address);
    await page.waitForSelector('h1');
    await page.evaluate(() => {
      const transfer = new DataTransfer();
      transfer.items.add(new File(['x'], 'a.mp4'));
      document.body.dispatchEvent(new DragEvent('dragenter', { bubbles: true, cancelable: true, dataTransfer: transfer }));
    });
    expect(await (await page.waitForSelector('[data-drop-target]'))!.evaluate((e) => e.textContent)).toMatch(/new reel/);
    await dropOn('main', 'Depot at night.mp4', [1, 2, 3]);
    await page.waitForFunction(() => /\/reels\/[0-9a-f-]{36}/.test(location.pathname));
    expect((await stage.app.api('/reels')).map((reel: { name: string }) => reel.name)).toContain('Depot at night');
    await page.goto(`${stage.app.address}/stockroom`);
    await page.waitForSelector('h1');
    const look = { schema: 'tin-ghost/look@1', name: 'Dropped in', seed: 1, lives: [] };
    await dropOn('main', 'look.json', [...Buffer.from(JSON.stringify(look))]);
    await page.waitForFunction(() => [...document.querySelectorAll('h2')].some((h) => h.textContent === 'Dropped in'));
    await dropOn('main', 'bad.json', [...Buffer.from('{')]);
    await page.waitForFunction(() => /bad\.json: .*not JSON/.test(document.body.textContent));
  });

  test('a look that is removed can be brought back', async () => {
    await page.goto(`${stage.app.address}/stockroom`);
    await press('Remove Dropped in');
    await page.waitForFunction(() => ![...document.querySelectorAll('h2')].some((h) => h.textContent === 'Dropped in'));
    await press('Undo');
    await page.waitForFunction(() => [...document.querySelectorAll('h2')].some((h) => h.textContent === 'Dropped in'));
  });
});

describe('keys act where the focus is', () => {
  beforeEach(() => worn());

  test('Delete on a shot deletes the shot and no trait; on a trait it removes that, says so, and is taken back', async () => {
    await (await tag('Grain'))!.click();
    await page.focus('[aria-label="Shots"] ol a');
    await page.keyboard.press('Delete');
    // It deletes that shot, which comes back by the note, with its traits.
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="Shots"] ol li').length === 3);
    await undoNote();
    await page.waitForFunction(() => document.querySelectorAll('[aria-label="Shots"] ol li').length === 4);
    await worn();
    expect(await traitsOf(0)).toContain('grain');
    await (await tag('Grain'))!.click();
    await page.focus('button[aria-label^="Grain,"]');
    await page.keyboard.press('Delete');
    await page.waitForFunction(() => !document.querySelector('button[aria-label^="Grain,"]'));
    await page.waitForFunction(() => /Grain removed/.test(document.body.textContent));
    await undoNote();
    await tag('Grain');
    await kept();
    expect(await traitsOf(0)).toContain('grain');
  });

  test('a note’s Undo takes back what it tells of: it goes with the next change', async () => {
    const notes = (): Promise<string[]> => page.$$eval('[data-sonner-toast]:not([data-removed="true"])', (all) => all.map((e) => e.textContent));
    for (const name of ['Grain', 'Scratches']) {
      await (await tag(name))!.focus();
      await page.keyboard.press('Delete');
      await page.waitForFunction((n) => document.body.textContent.includes(`${n} removed`), {}, name);
    }
    await page.waitForFunction(() => document.querySelectorAll('[data-sonner-toast]:not([data-removed="true"])').length === 1);
    expect((await notes())[0]).toMatch(/^Scratches removed/);
    await undoNote();
    await tag('Scratches');
    expect(await page.$('button[aria-label^="Grain,"]')).toBeNull();
    await kept();
    expect(await traitsOf(0)).toEqual(['scratches', 'gate-weave']);
  });

  test('Space presses the button that has the focus, and plays from anywhere else', async () => {
    await page.focus('button[aria-label="Keys"]');
    await page.keyboard.press('Space');
    await page.waitForSelector('[role="dialog"]');
    expect(await page.$('button[aria-label="Pause"]')).toBeNull();
    await page.keyboard.press('Escape');
    await page.waitForFunction(() => !document.querySelector('[role="dialog"]'));
    await page.evaluate(() => (document.activeElement as HTMLElement).blur());
    await page.keyboard.press('Space');
    await page.waitForSelector('button[aria-label="Pause"]');
    await page.keyboard.press('Space');
    await page.waitForSelector('button[aria-label="Play"]');
  });

  test('Ctrl+Z in a number takes back what was typed, then what was set', async () => {
    await (await tag('Grain'))!.click();
    const name = 'Size, µm';
    const field = await named(name, 'textbox');
    const value = (): Promise<string> => field.evaluate((e) => (e as HTMLInputElement).value);
    const before = await value();
    await fill(name, '20');
    expect(Number(await value())).toBe(20);
    await field.click({ count: 3 });
    await field.type('31');
    await page.keyboard.down('Control');
    await page.keyboard.press('KeyZ');
    expect(Number(await value())).toBe(20);
    await page.keyboard.press('KeyZ');
    await page.keyboard.up('Control');
    await page.waitForFunction((e, v) => (e as HTMLInputElement).value === v, {}, field, before);
  });

  test('arrows move the picture also when the strip has the focus', async () => {
    const strip = (await page.waitForSelector('[aria-label="Moment in the shot"]'))!;
    const box = (await strip.boundingBox())!;
    await page.mouse.click(box.x + box.width / 2, box.y + 10);
    await strip.focus();
    const at = await clock();
    await page.keyboard.press('ArrowRight');
    expect(await clock()).not.toBe(at);
    await page.keyboard.press('ArrowLeft');
    expect(await clock()).toBe(at);
    await page.keyboard.press('Home');
    expect(await clock()).toBe('00:00:00:00');
  });
});

describe('steps that can be taken back', () => {
  const can = (name: 'Undo' | 'Redo'): Promise<boolean> =>
    page.evaluate((n) => [...document.querySelectorAll('header button')].some((b) => b.textContent === n && !(b as HTMLButtonElement).disabled), name);
  const step = async (name: 'Undo' | 'Redo'): Promise<void> => {
    const [button] = await page.$$(`xpath///header//button[.='${name}']`);
    await button!.click();
  };
  const strength = async (): Promise<number> => Number(await (await named('Strength, %', 'textbox')).evaluate((e) => (e as HTMLInputElement).value));
  const opened = (i: number) => page.goto(`${stage.app.address}/reels/${stage.demo.id}/shots/${stage.demo.shots[i]!.id}`);

  test('a drag is one step; with Escape it leaves none, whatever the hand still does; a press alone is none', async () => {
    await worn();
    await (await tag('Grain'))!.click();
    const first = await strength();
    const thumb = (await (await page.waitForSelector('[role="slider"][aria-label="Strength"]'))!.boundingBox())!;
    const [x, y] = [thumb.x + thumb.width / 2, thumb.y + thumb.height / 2];
    const pull = async (from: number, to: number): Promise<void> => {
      for (let i = 1; i <= 5; i++) await page.mouse.move(from + ((to - from) * i) / 5, y);
    };
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.up();
    expect(await can('Undo')).toBe(false);
    await page.mouse.down();
    await pull(x, x - 40);
    expect(await strength()).not.toBe(first);
    await page.keyboard.press('Escape');
    expect(await strength()).toBe(first);
    await pull(x - 40, x - 60);
    await page.mouse.up();
    expect([await strength(), await can('Undo')]).toEqual([first, false]);
    await page.mouse.move(x, y);
    await page.mouse.down();
    await pull(x, x - 50);
    await page.mouse.up();
    const drawn = await strength();
    expect(drawn).toBeLessThan(first);
    await fill('Strength, %', '20');
    await step('Undo');
    expect(await strength()).toBe(drawn);
    await step('Undo');
    expect([await strength(), await can('Undo')]).toEqual([first, false]);
  });

  test('outlive a visit to another shot and a page that is loaded anew; none of them does nothing', async () => {
    await worn();
    expect(await can('Undo')).toBe(false);
    await (await tag('Grain'))!.click();
    for (const percent of [80, 60, 40]) await fill('Strength, %', String(percent));
    await kept();
    // Within the application, by a click.
    const others = await page.$$('[aria-label="Shots"] ol a');
    await others[1]!.click();
    await page.waitForFunction((id) => location.pathname.endsWith(id), {}, stage.demo.shots[1]!.id);
    await pictureOf(page);
    expect(await can('Undo')).toBe(false);
    await (await page.$$('[aria-label="Shots"] ol a'))[0]!.click();
    await pictureOf(page);
    await (await tag('Grain'))!.click();
    expect(await strength()).toBe(40);
    await step('Undo');
    expect(await strength()).toBe(60);
    await kept();
    // Loaded anew.
    await opened(0);
    await pictureOf(page);
    await (await tag('Grain'))!.click();
    expect(await strength()).toBe(60);
    await step('Redo');
    expect(await strength()).toBe(40);
    for (const percent of [60, 80, 100]) {
      await step('Undo');
      expect(await strength()).toBe(percent);
    }
    expect(await can('Undo')).toBe(false);
    await kept();
  });

  test('a motion’s keys are there again after another kind was tried', async () => {
    await worn();
    await (await tag('Grain'))!.click();
    await press('Motion of Size: steady');
    await (await named('Keys', 'radio')).click();
    await press('Key here');
    for (let i = 0; i < 20; i++) await page.keyboard.press('ArrowRight');
    await press('Key here');
    const keys = async () => {
      await kept();
      return ((await stage.app.api(`/shots/${stage.demo.shots[0]!.id}`)).look as Look).lives[0]!.traits[0]!.motions?.size;
    };
    const before = await keys();
    expect(before).toMatchObject({ motion: 'keys' });
    await (await named('Wander', 'radio')).click();
    expect(await keys()).toMatchObject({ motion: 'wander' });
    await (await named('Steady', 'radio')).click();
    await (await named('Keys', 'radio')).click();
    expect(await keys()).toEqual(before);
  });
});

describe('the picture stays where one looks', () => {
  test('a trim leaves the playhead on its moment of the footage', async () => {
    await worn();
    for (let i = 0; i < 2; i++) await page.keyboard.press('End');
    await page.keyboard.press('Home');
    for (let i = 0; i < 3; i++) {
      await page.keyboard.down('Shift');
      await page.keyboard.press('ArrowRight');
      await page.keyboard.up('Shift');
    }
    expect(await clock()).toBe('00:00:03:00');
    const before = (await pictureOf(page)).hash;
    await page.click('[aria-label="Chain"] > button');
    await fill('First picture of the footage', '26');
    expect(await clock()).toBe('00:00:02:00');
    await page.keyboard.down('Control');
    await page.keyboard.press('KeyZ');
    await page.keyboard.up('Control');
    await page.waitForFunction(() => document.querySelector('output[aria-label="Time"]')!.textContent === '00:00:03:00');
    expect((await pictureOf(page)).hash).toBe(before);
  });

  test('at 1:1 it says that it is being made, and playing stays at 1:1', async () => {
    await worn();
    await page.keyboard.press('1');
    const busy = await page.waitForSelector('[data-busy]');
    expect(await busy!.evaluate((e) => e.textContent)).toMatch(/1:1/);
    const still = await pictureOf(page);
    expect(still.width).toBe(1920);
    await page.waitForFunction(() => !document.querySelector('[data-busy]'));
    await page.keyboard.press('Space');
    await page.waitForSelector('button[aria-label="Pause"]');
    await pause(3000);
    const shown = await page.$eval('canvas[aria-hidden]:not(.invisible)', (e) => e.getBoundingClientRect().width);
    expect(shown).toBe(1920);
    expect(await page.$eval('button[title^="1:1"]', (e) => e.getAttribute('aria-pressed'))).toBe('true');
    await page.keyboard.press('Space');
    await page.keyboard.press('f');
  });

  test('“seen on” names the shot that is seen, whatever is touched meanwhile', async () => {
    await page.goto(`${stage.app.address}/stockroom`);
    const select = (await page.waitForSelector('select[aria-label="Picture the looks are seen on"]'))!;
    const chosen = (): Promise<string> => select.evaluate((e) => e.value);
    await page.waitForSelector('canvas[data-ready]');
    const first = await chosen();
    // Another reel is touched and comes to the top of the list.
    const others = (await stage.app.api('/reels')) as { id: string; name: string }[];
    const other = others.find((reel) => reel.id !== stage.demo.id)!;
    await stage.app.api(`/reels/${other.id}`, { method: 'PATCH', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ name: 'Touched' }) });
    await page.evaluate(() => window.dispatchEvent(new Event('focus')));
    await pause(1500);
    expect(await chosen()).toBe(first);
  });
});

describe('what is read', () => {
  test('every value of a card is seen whole, sliders are long, every page has its title', async () => {
    await worn();
    await (await tag('Grain'))!.click();
    const rows = await page.$$eval('[aria-label="Card of Grain"] [data-setting]', (all) =>
      all.map((row) => {
        const input = row.querySelector('input')!;
        const track = row.querySelector('[data-orientation="horizontal"]')!;
        return { value: input.value, cut: input.scrollWidth > input.clientWidth, slider: track.getBoundingClientRect().width };
      }),
    );
    expect(rows.length).toBeGreaterThan(4);
    for (const row of rows) expect(row).toMatchObject({ cut: false });
    expect(Math.min(...rows.map((row) => row.slider))).toBeGreaterThanOrEqual(140);
    const titles = [await page.title()];
    for (const path of ['/', '/stockroom', '/prints', '/nowhere']) {
      await page.goto(stage.app.address + path);
      await page.waitForFunction(() => document.title !== '' && document.title !== 'Tin Ghost');
      titles.push(await page.title());
    }
    expect(new Set(titles).size).toBe(5);
    expect(titles[0]).toMatch(/Arrival at dusk · Last night of line 14 · Tin Ghost/);
  });

  test('at 200 % zoom the picture can be worked on', async () => {
    await page.setViewport({ width: 640, height: 400, deviceScaleFactor: 2 });
    await worn();
    const box = (await (await page.waitForSelector('canvas[aria-label^="Picture"]'))!.boundingBox())!;
    expect(box.width).toBeGreaterThan(250);
    expect(box.height).toBeGreaterThan(140);
    await page.setViewport({ width: 1280, height: 800 });
  });

  test('a print that begins tells no time it does not know', async () => {
    const { id } = stage.demo.shots[0]!;
    await page.goto(`${stage.app.address}/prints`);
    await page.evaluate(() => {
      const seen: string[] = [];
      (window as unknown as { seen: string[] }).seen = seen;
      new MutationObserver(() => seen.push(document.querySelector('[role="status"]')?.textContent ?? '')).observe(document.body, {
        subtree: true,
        childList: true,
        characterData: true,
      });
    });
    await stage.app.api('/prints', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ shotId: id, format: 'mp4', width: 640, height: 360 }),
    });
    await page.waitForSelector('[data-print="done"]', { timeout: 90_000 });
    const seen = await page.evaluate(() => (window as unknown as { seen: string[] }).seen);
    expect(seen.some((text) => /measuring the time left/.test(text))).toBe(true);
    expect(seen.filter((text) => /\b0 s left|\b0\.0 fps/.test(text))).toEqual([]);
  });
});

test('a render worker that dies is replaced, said, and the picture comes all the same', async () => {
  await worn();
  const before = (await pictureOf(page)).hash;
  const session = await page.createCDPSession();
  const workers = page.workers();
  expect(workers.length).toBeGreaterThan(0);
  await Promise.all(workers.map((worker) => worker.close()));
  await page.waitForFunction(() => /render worker ended/.test(document.body.textContent));
  await page.keyboard.press('ArrowRight');
  expect((await pictureOf(page)).hash).not.toBe(before);
  await page.keyboard.press('ArrowLeft');
  expect((await pictureOf(page)).hash).toBe(before);
  await session.detach();
});

test('nothing of the page is refused by its own policy', async () => {
  const said: string[] = [];
  page.on('console', (message) => said.push(message.text()));
  await worn();
  await (await tag('Grain'))!.click();
  await drag('Size', 10);
  await page.goto(`${stage.app.address}/stockroom`);
  await page.waitForSelector('canvas[data-ready]');
  await writeFile(join(stage.folder, 'said.txt'), said.join('\n'));
  expect(said.filter((text) => /Content Security Policy|Refused to/.test(text))).toEqual([]);
});

describe('screens that are loaded when they are opened', () => {
  test('one that cannot be loaded says so and may be tried again', async () => {
    const other = await stage.browser.newPage();
    let blocked = true;
    await other.setRequestInterception(true);
    other.on('request', (request) => void (blocked && /\/prints-[^/]+\.js$/.test(request.url()) ? request.abort() : request.continue()));
    await other.goto(`${stage.app.address}/prints`);
    await other.waitForFunction(() => document.querySelector('main')?.textContent?.includes('could not be loaded from the server'));
    blocked = false;
    await (await other.waitForSelector('main button'))!.click();
    await other.waitForFunction(() => document.title.startsWith('Prints'));
    await other.close();
  });

  test('one that fails says so, the others stay open, and what was changed is saved', async () => {
    await worn();
    const before = await traitsAt(0);
    const other = await stage.browser.newPage();
    const hands = handsOn(() => other);
    // An answer in which no screen can find what it shows.
    const answer = (request: HTTPRequest): void =>
      void (request.url().endsWith(`/api/reels/${stage.demo.id}`) ? request.respond({ contentType: 'application/json', body: '{}' }) : request.continue());
    const bench = `${stage.app.address}/reels/${stage.demo.id}/shots/${stage.demo.shots[0]!.id}`;
    await other.goto(bench);
    await pictureOf(other);
    await (await other.waitForSelector('button[aria-label^="Grain,"]'))!.click();
    await other.setRequestInterception(true);
    other.on('request', answer);
    await hands.drag('Size', 10);
    await other.waitForFunction(() =>
      /This screen stopped because of a fault of Tin Ghost \(.+\)\. What you changed is saved/.test(document.querySelector('main')?.textContent ?? ''),
    );
    other.off('request', answer);
    await other.setRequestInterception(false);
    await (await other.waitForSelector('a[href="/stockroom"]'))!.click();
    await other.waitForFunction(() => document.title.startsWith('Stockroom') && document.querySelector('canvas[data-ready]'));
    await other.goto(bench);
    await pictureOf(other);
    await hands.kept();
    expect(await traitsAt(0)).not.toEqual(before);
    await other.close();
  });

  test('the others are at hand before they are asked for, though the server has gone', async () => {
    const other = await stage.browser.newPage();
    await other.goto(stage.app.address);
    await other.waitForFunction(() => ['bench', 'stockroom', 'prints'].every((name) => performance.getEntriesByType('resource').some((e) => e.name.includes(`/${name}-`))));
    await other.setOfflineMode(true);
    await (await other.waitForSelector('a[href="/stockroom"]'))!.click();
    await other.waitForFunction(() => document.title.startsWith('Stockroom'));
    await other.close();
  });
});
