import { setTimeout as pause } from 'node:timers/promises';
import { pictureOf } from '../../e2e/stage.mjs';
import { middle, table } from './clock.mjs';
import { coldAndAgain, onOwnApp, STARTED_MS } from './in-browser.mjs';
import { besides, yardstick } from './wear-time.mjs';

const ROUNDS = 5;
const THUMBNAILS = 40;
/** So high that as many stand on the screen at once. */
const SCREEN = { width: 1280, height: 5600 };
/** A page is left alone for so long before the stockroom is opened from it. */
const LOOKED_AT_MS = 2500;

/** How long the stockroom's thumbnails take, each worn in the browser: opened from other screens, and by its address. */
export const measure = (engines) =>
  onOwnApp(async (app) => {
    const before = await yardstick(engines);
    const [{ id, shots }] = await app.api('/reels');
    const { cold, again } = await coldAndAgain(ROUNDS, watched, (page) => byAddress(page, `${app.address}/stockroom`));
    const { cold: fromShelf, again: fromBench } = await coldAndAgain(ROUNDS, watched, async (page) =>
      page.url().startsWith(app.address) ? byLink(page, `${app.address}/reels/${id}/shots/${shots[0].id}`) : byLink(page, app.address),
    );
    const row = (name, all) => [name, ...[0, 1].map((k) => String(Math.round(middle(all.map((pair) => pair[k])))))];
    return `## Stockroom

Headless Chromium without a graphics card, a screen of ${SCREEN.width}x${SCREEN.height}, an empty profile that has stood for ${STARTED_MS / 1000} s; to worn thumbnails of looks from the click on “Stockroom”, on the shelf that was opened first and then on the bench, and from the address in place of a click, in a new browser and once more; medians of ${ROUNDS}.

${table(['opened', 'the first, ms', `${THUMBNAILS} of them, ms`], [row('from the bench', fromBench), row('from the shelf', fromShelf), row('by its address', cold), row('by its address again', again)])}

${besides(before, await yardstick(engines))}
`;
  });

/** Notes when thumbnails are ready. */
async function watched(page) {
  await page.setViewport(SCREEN);
  await page.evaluateOnNewDocument(() => {
    window.from = 0;
    window.ready = [];
    addEventListener('click', () => (window.from = performance.now()), true);
    new MutationObserver(() => {
      const count = document.querySelectorAll('main > ul canvas[data-ready]').length;
      while (window.ready.length < count) window.ready.push(performance.now());
    }).observe(document, { subtree: true, childList: true, attributes: true, attributeFilter: ['data-ready'] });
  });
}

/** Milliseconds from a page's address to the first thumbnail, and to so many. */
async function byAddress(page, url) {
  await page.goto(url);
  return thumbnails(page);
}

/** Milliseconds from the click on another page. */
async function byLink(page, url) {
  await page.goto(url);
  if (url.includes('/shots/')) await pictureOf(page);
  await pause(LOOKED_AT_MS);
  await (await page.waitForSelector('a[href="/stockroom"]')).click();
  return thumbnails(page);
}

async function thumbnails(page) {
  await page.waitForFunction((count) => window.ready.length >= count, { polling: 50, timeout: 60_000 }, THUMBNAILS);
  return page.evaluate((count) => [window.ready[0], window.ready[count - 1]].map((at) => at - window.from), THUMBNAILS);
}
