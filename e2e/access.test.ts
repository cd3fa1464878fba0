/** What a screen reader, a keyboard and weak eyes meet: the rules of WCAG as axe-core has them, on every screen, by light and in the dark, and where there is little room. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Page } from 'puppeteer-core';
import { handsOn, stageUp, type Stage } from './hands';
import { pictureOf } from './stage.mjs';

const AXE = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

let stage: Stage;
let page: Page;
beforeAll(async () => {
  stage = await stageUp('access');
  ({ page } = stage);
  // What fades in or out would be found half seen.
  await page.emulateMediaFeatures([{ name: 'prefers-reduced-motion', value: 'reduce' }]);
});
afterAll(() => stage?.down());

const { press } = handsOn(() => page);
const bench = (): string => `${stage.app.address}/reels/${stage.demo.id}/shots/${stage.demo.shots[0]!.id}`;

/** Each screen: how to get there. */
const SCREENS: Record<string, () => Promise<unknown>> = {
  shelf: () => page.goto(stage.app.address),
  stockroom: () => page.goto(`${stage.app.address}/stockroom`),
  prints: () => page.goto(`${stage.app.address}/prints`),
  machines: () => page.goto(`${stage.app.address}/machines`),
  async bench() {
    await page.goto(bench());
    await pictureOf(page);
    await press('Grain, strength 100 %');
  },
  async 'bench, adding a trait'() {
    await press('Add to Years');
    await page.waitForSelector('[role="dialog"]');
  },
  async 'bench, the list of keys'() {
    await page.keyboard.press('Escape');
    await press('Keys');
    await page.waitForSelector('[role="dialog"]');
  },
  async 'bench, striking prints'() {
    await page.keyboard.press('Escape');
    await press('Strike prints');
    await page.waitForSelector('[role="dialog"]');
  },
};

async function findings(): Promise<string[]> {
  await page.evaluate(AXE);
  return page.evaluate(async () => {
    const { axe } = window as unknown as {
      axe: { run(on: Document, how: object): Promise<{ violations: { id: string; impact: string; help: string; nodes: { html: string; any: { message: string }[] }[] }[] }> };
    };
    const { violations } = await axe.run(document, { resultTypes: ['violations'] });
    return violations
      .filter(({ impact }) => impact === 'serious' || impact === 'critical')
      .flatMap(({ id, nodes }) => nodes.slice(0, 6).map(({ html, any }) => `${id}: ${html.slice(0, 160)} ${any[0]?.message ?? ''}`));
  });
}

describe.each(['by light', 'in the dark'])('nothing serious or critical is found %s', (lights) => {
  test.each(Object.keys(SCREENS))('on %s', async (name) => {
    await page.evaluateOnNewDocument((down) => localStorage.setItem('tin-ghost/lights', down ? 'down' : 'up'), lights === 'in the dark');
    await SCREENS[name]!();
    expect(await findings()).toEqual([]);
  });
});
