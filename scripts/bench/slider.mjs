/** How long it takes from a key on a slider to the new picture. */
import { setTimeout as pause } from 'node:timers/promises';

/** For the page to run: notes when a picture is drawn on the large canvas. */
export function noteDrawn() {
  window.drawn = [];
  const put = CanvasRenderingContext2D.prototype.putImageData;
  CanvasRenderingContext2D.prototype.putImageData = function (...args) {
    put.apply(this, args);
    if (this.canvas.getAttribute('aria-label')?.startsWith('Picture')) window.drawn.push(performance.now());
  };
}

/** A slider of the first trait whose card has one. */
export async function firstSlider(page) {
  for (const tag of await page.$$('[aria-label$="strength 100 %"]')) {
    await tag.click();
    await pause(300);
    const thumb = await page.$('[aria-label^="Card of"] [role="slider"][aria-label]:not([aria-label="Strength"])');
    if (thumb) return thumb;
  }
  throw new Error('no card has a slider');
}

/** Milliseconds from each of some keys on a slider to the new picture, in rising order. @param page that runs `noteDrawn` @param rest milliseconds between them */
export async function keyTimes(page, thumb, count, rest) {
  await thumb.focus();
  await page.evaluate(() => window.addEventListener('keydown', () => (window.pressed ??= performance.now()), true));
  const times = [];
  for (let i = 0; i < count; i++) {
    await page.evaluate(() => {
      window.drawn.length = 0;
      window.pressed = undefined;
    });
    await page.keyboard.press(i % 2 ? 'ArrowLeft' : 'ArrowRight');
    await page.waitForFunction(() => window.drawn.length > 0, { polling: 5 });
    times.push(await page.evaluate(() => window.drawn[0] - window.pressed));
    await pause(rest);
  }
  return times.sort((a, b) => a - b);
}
