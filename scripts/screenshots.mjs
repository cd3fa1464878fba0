// `npm run screenshots`: one picture of each main view, from the demo data, into docs/screenshots.
import { mkdtempSync, rmSync, readdirSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { prepare, root } from './prepare.mjs';

const say = (line) => console.log(`  ${line}`);
prepare(say);
const { build } = await import('./build.mjs');
await build(undefined, say);
const { startCluster } = await import('./cluster.mjs');
const { openApp, openBrowser, pictureOf } = await import('../e2e/stage.mjs');

const only = process.argv.slice(2);
const scratch = mkdtempSync(join(tmpdir(), 'tin-ghost-shots-'));
const cluster = await startCluster(join(scratch, 'data'), () => {});
const app = await openApp(cluster.url);
const { browser, close } = await openBrowser();
const page = await browser.newPage();
const [reel] = await app.api('/reels');
const shot = (i) => `/reels/${reel.id}/shots/${reel.shots[i].id}`;
const press = (name) => page.locator(`::-p-aria([name="${name}"])`).click();

/** Each view: how to get there. */
const VIEWS = {
  shelf: () => page.goto(`${app.address}/`),
  async bench() {
    await page.goto(app.address + shot(0));
    await pictureOf(page);
    await press('Grain, strength 100 %');
  },
  async 'bench-lights-down'() {
    await page.goto(app.address + shot(1));
    await pictureOf(page);
    await press('Channel offset, strength 100 %');
    await page.keyboard.press('d');
  },
  async 'bench-at-1-to-1'() {
    await page.keyboard.press('d');
    await page.goto(app.address + shot(2));
    await pictureOf(page);
    await page.keyboard.press('1');
    await pictureOf(page);
  },
  async 'adding-a-trait'() {
    await page.goto(app.address + shot(3));
    await pictureOf(page);
    await press('Add to Stock');
    await pause(2500);
  },
  async 'framing-a-shot'() {
    await page.goto(app.address + shot(1));
    await pictureOf(page);
    await press('The shot, as it was shot');
    await press('4 : 3');
    await press('Frame on the picture');
    await pictureOf(page);
  },
  async 'curves-and-scopes'() {
    await page.goto(app.address + shot(0));
    await pictureOf(page);
    await page.keyboard.press('v');
    await press('Add to Stock');
    await page.locator('::-p-text(Each tone is given another)').click();
    const curve = await (await page.waitForSelector('[data-setting="All"] svg')).boundingBox();
    await page.mouse.click(curve.x + curve.width * 0.3, curve.y + curve.height * 0.6);
    await pictureOf(page);
    await pause(800);
  },
  async 'matching-a-reference'() {
    await page.goto(app.address + shot(3));
    await pictureOf(page);
    await page.locator('section[aria-label="References"] button[title^="Faded reversal"] img').setTimeout(60_000).click();
    await press('Measure and propose');
    await page.waitForSelector('table[aria-label^="Figures of the shot"]');
    await press('See it beside');
    await press('Wipe');
    await pause(1500);
    await page.keyboard.press('v');
  },
  async 'strike-a-print'() {
    await page.goto(app.address + shot(0));
    await pictureOf(page);
    await press('Strike a print');
  },
  async prints() {
    const order = (i, more) =>
      app.api('/prints', { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ shotId: reel.shots[i].id, format: 'mp4', ...more }) });
    const first = await order(3, { width: 640, height: 360 });
    while ((await app.api(`/prints/${first.id}`)).state !== 'done') await pause(200);
    await order(0, { format: 'webm' });
    await order(1, {});
    await page.goto(`${app.address}/prints`);
    await pause(6000);
  },
  async stockroom() {
    await page.goto(`${app.address}/stockroom`);
    await pause(3000);
  },
};

try {
  for (const [name, go] of Object.entries(VIEWS)) {
    if (only.length && !only.includes(name)) continue;
    await go().catch(async (error) => {
      await page.screenshot({ path: join(tmpdir(), 'tin-ghost-failed.png') });
      throw error;
    });
    await pause(1200);
    await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
    say(name);
  }
  for (const file of readdirSync(join(root, 'docs/screenshots'))) if (!(file.replace('.png', '') in VIEWS)) rmSync(join(root, 'docs/screenshots', file));
} finally {
  await close();
  await app.close();
  await cluster.stop();
  rmSync(scratch, { recursive: true, force: true });
}
