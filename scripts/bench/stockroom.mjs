import { middle, table } from './clock.mjs';
import { coldAndAgain, onOwnApp, STARTED_MS } from './in-browser.mjs';

const ROUNDS = 5;
const THUMBNAILS = 40;
/** So high that as many stand on the screen at once. */
const SCREEN = { width: 1280, height: 5600 };

/** How long the stockroom's thumbnails take, each worn in the browser. */
export const measure = () =>
  onOwnApp(async (app) => {
    const { cold, again } = await coldAndAgain(ROUNDS, watched, (page) => thumbnails(page, `${app.address}/stockroom`));
    const row = (name, all) => [name, ...[0, 1].map((k) => String(Math.round(middle(all.map((pair) => pair[k])))))];
    return `## Stockroom

Headless Chromium without a graphics card, a screen of ${SCREEN.width}x${SCREEN.height}; from the address to worn thumbnails of looks, in a browser with an empty profile that has stood for ${STARTED_MS / 1000} s, and once more; medians of ${ROUNDS}.

${table(['opened', 'the first, ms', `${THUMBNAILS} of them, ms`], [row('cold', cold), row('again', again)])}
`;
  });

/** Notes when thumbnails are ready. */
async function watched(page) {
  await page.setViewport(SCREEN);
  await page.evaluateOnNewDocument(() => {
    window.ready = [];
    new MutationObserver(() => {
      const count = document.querySelectorAll('main > ul canvas[data-ready]').length;
      while (window.ready.length < count) window.ready.push(performance.now());
    }).observe(document, { subtree: true, childList: true, attributes: true, attributeFilter: ['data-ready'] });
  });
}

/** Milliseconds to the first thumbnail, and to so many. */
async function thumbnails(page, url) {
  await page.goto(url);
  await page.waitForFunction((count) => window.ready.length >= count, { polling: 50, timeout: 60_000 }, THUMBNAILS);
  return page.evaluate((count) => [window.ready[0], window.ready[count - 1]], THUMBNAILS);
}
