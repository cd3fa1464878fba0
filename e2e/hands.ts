/** What tests of the interface do by hand: finding things by their names, pressing, dragging, typing. */
import { afterAll, beforeAll } from '@jest/globals';
import { execFileSync } from 'node:child_process';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Browser, ElementHandle, Page, ScreenshotClip } from 'puppeteer-core';
import { EMPTY_LOOK, type Look, type Preparation, type TraitUse } from '@tin-ghost/core';
import { openApp, openBrowser, pictureOf, withDatabase, type App } from './stage.mjs';

/** FNV-1a over bytes, as `pictureOf` reads a canvas. */
export function hashOf(bytes: Uint8Array): string {
  let h = 0x811c9dc5;
  for (const byte of bytes) h = Math.imul(h ^ byte, 0x01000193);
  return (h >>> 0).toString(16);
}

/** Waits until something holds that no page shows: longer than it takes on a machine that is busy with others. */
export async function until(holds: () => Promise<boolean>): Promise<void> {
  for (let i = 0; i < 1200; i++) {
    if (await holds()) return;
    await new Promise((done) => setTimeout(done, 50));
  }
  throw new Error(`it did not come about: ${holds.toString()}`);
}

/** The application on a database of its own, with the demo reel, and a page of a browser before it. */
export interface Stage {
  /** For files of the test; gone at the end. */
  readonly folder: string;
  readonly app: App;
  readonly browser: Browser;
  readonly page: Page;
  readonly demo: { id: string; shots: { id: string; name: string; medium: { id: string } }[] };
  down(): Promise<void>;
}

/** On a copy of what `demo-once.mjs` made. @param name of the database, one of its own for each file of tests */
export async function stageUp(name: string): Promise<Stage> {
  const admin = process.env.TEST_DATABASE_URL!;
  const database = `${name}_${process.pid}`;
  const undo: (() => Promise<unknown>)[] = [];
  const down = async (): Promise<void> => {
    for (const step of undo.reverse().splice(0)) await step();
  };
  try {
    const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-e2e-'));
    undo.push(() => rm(folder, { recursive: true, force: true }));
    const demoOnce = JSON.parse(process.env.DEMO_ONCE!) as { database: string; media: string };
    await withDatabase(admin, `create database ${database} template ${demoOnce.database}`);
    undo.push(() => withDatabase(admin, `drop database if exists ${database} with (force)`));
    const app = await openApp(admin.replace(/[^/]*$/, database), { from: demoOnce.media });
    undo.push(() => app.close());
    const { browser, shown, close } = await openBrowser();
    undo.push(close);
    // Where the message of a failed test takes it from.
    Object.assign(globalThis, { whatPagesShow: shown });
    const [demo] = await app.api('/reels');
    return { folder, app, browser, page: await browser.newPage(), demo, down };
  } catch (error) {
    await down();
    throw error;
  }
}

/**
 * Gives a shot of the demo reel a look, whatever it wore.
 * @param preparation the shot's own, which stays as it is without one
 */
export async function dress({ app, page, demo }: Stage, shot: number, look: Look, preparation?: Preparation): Promise<void> {
  const { id } = demo.shots[shot]!;
  // The page that is left may still send what was done on it last; then the look is given to what that made of the shot.
  await page.goto('about:blank');
  for (let tries = 1; ; tries++) {
    const { revision } = await app.api(`/shots/${id}`);
    const body = JSON.stringify({ look, preparation, revision });
    const kept = await app.api(`/shots/${id}/look`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body });
    if (kept.revision === revision + 1) return;
    if (tries === 3) throw new Error(`the look was not taken: ${JSON.stringify(kept)}`);
  }
}

/** Dresses a shot and opens the bench on it, once its picture stands. @param shot its place in the demo reel */
export async function openDressed(stage: Stage, shot: number, look: Look): Promise<void> {
  await dress(stage, shot, look);
  await stage.page.goto(`${stage.app.address}/reels/${stage.demo.id}/shots/${stage.demo.shots[shot]!.id}`);
  await pictureOf(stage.page);
}

/** Opens the bench on a shot that wears traits on a carrier and nothing else. */
export const openWorn = (stage: Stage, shot: number, carrier: string, traits: readonly TraitUse[]): Promise<void> =>
  openDressed(stage, shot, { ...EMPTY_LOOK, lives: [{ carrier, traits }] });

/** @param page the page at the moment; a test may open another */
export function handsOn(page: () => Page) {
  const named = (name: string, role?: string): Promise<ElementHandle> =>
    page()
      .waitForSelector(`::-p-aria([name="${name}"]${role ? `[role="${role}"]` : ''})`)
      .then(
        (found) => found as ElementHandle,
        (error: Error) => {
          throw new Error(`no ${role ?? 'element'} "${name}"`, { cause: error });
        },
      );
  /** A button that slides in is waited for, as a hand would. */
  const pressAtRest = async (button: ElementHandle): Promise<void> => {
    await button.evaluate(async (element) => {
      const place = (): string => JSON.stringify(element.getBoundingClientRect());
      for (let last = '', still = 0; still < 3;) {
        await new Promise((done) => requestAnimationFrame(done));
        still = place() === last ? still + 1 : 0;
        last = place();
      }
    });
    await button.click();
  };
  const press = async (name: string): Promise<void> => {
    for (;;) {
      const button = await named(name, 'button');
      try {
        return await pressAtRest(button);
      } catch (error) {
        // News may have put another in its place.
        if (await button.evaluate((element) => element.isConnected).catch(() => false)) throw error;
      }
    }
  };

  /** Where something stands, once it has its place beside what was opened. */
  async function resting(selector: string): Promise<{ x: number; y: number; width: number; height: number }> {
    const box = async (): Promise<string> => JSON.stringify(await (await page().waitForSelector(selector))!.boundingBox());
    let [before, now] = ['', await box()];
    while (before !== now) {
      await new Promise((done) => setTimeout(done, 300));
      [before, now] = [now, await box()];
    }
    return JSON.parse(now) as { x: number; y: number; width: number; height: number };
  }

  /** Drags from a place in an element by pixels, in steps. */
  async function dragIn(element: ElementHandle, from: { x: number; y: number }, by: { x: number; y: number }): Promise<void> {
    const box = (await element.boundingBox())!;
    const [x, y] = [box.x + box.width * from.x, box.y + box.height * from.y];
    await page().mouse.move(x, y);
    await page().mouse.down();
    for (let i = 1; i <= 5; i++) await page().mouse.move(x + (by.x * i) / 5, y + (by.y * i) / 5);
    await page().mouse.up();
  }

  /** What is seen at a place, 0 to 255, pixel by pixel. The window keeps its size for it: another has everything laid out anew. */
  async function greyOf(clip: ScreenshotClip): Promise<Buffer> {
    const input = await page().screenshot({ clip, captureBeyondViewport: false });
    return execFileSync('ffmpeg', ['-v', 'error', '-i', 'pipe:0', '-pix_fmt', 'gray', '-f', 'rawvideo', 'pipe:1'], { input, maxBuffer: 1e8 });
  }

  return {
    named,
    press,
    resting,
    greyOf,
    /** Takes back what a note tells of, by the note's own button: the toolbar has one of that name, too. */
    undoNote: async (): Promise<void> =>
      pressAtRest((await page().waitForSelector('::-p-xpath(//li[@data-sonner-toast][@data-mounted="true"]//button[normalize-space()="Undo"])')) as ElementHandle),
    dragIn,
    /** Drags a slider's thumb by pixels. */
    drag: async (label: string, by: number): Promise<void> => dragIn(await named(label, 'slider'), { x: 0.5, y: 0.5 }, { x: by, y: 0 }),
    /** Until the server has what was changed. */
    kept: () => page().waitForSelector('[data-keeping="kept"]'),
    /** Types into a field in place of what stands there. */
    async fill(name: string, text: string, role = 'textbox'): Promise<void> {
      const field = await named(name, role);
      await field.click({ count: 3 });
      await field.type(text);
      await page().keyboard.press('Enter');
    },
  };
}

/** A stage that stands for all tests of a file. @param name of the database, one of its own for each file @returns what tells of it, once they run */
export function staged(name: string): () => Stage {
  let stage: Stage | undefined;
  beforeAll(async () => {
    stage = await stageUp(name);
    await stage.page.setViewport({ width: 1280, height: 800 });
  });
  afterAll(() => stage?.down());
  return () => stage!;
}
