import { spawnSync } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { openBrowser, pictureOf } from '../../e2e/stage.mjs';
import { middle, table } from './clock.mjs';
import { coldAndAgain, onOwnApp, STARTED_MS } from './in-browser.mjs';
import { firstSlider, keyTimes, noteDrawn } from './slider.mjs';
import { besides, yardstick } from './wear-time.mjs';

const LOOKS = ['home-tape', 'sunday-reel'];
const OPENED = 5;
const MOVES = 60;
/** Minutes of looped play: until all that is kept for the loop is there, and as long again. */
const PLAYED_MINUTES = [5, 10];
const HOUR = { seconds: 3600, rate: 2, events: 100_000 };

const rounded = (v) => String(Math.round(v));

/** What an editor waits for at the bench: the first picture, a slider, the page itself, an hour's strip, and memory that stays. */
export const measure = ({ core, media }) =>
  onOwnApp(async (app, scratch) => {
    const before = await yardstick({ core, media });
    const [reel] = await app.api('/reels');
    const [shot] = reel.shots;
    const url = `${app.address}/reels/${reel.id}/shots/${shot.id}`;
    const rows = [];
    let load;
    for (const id of LOOKS) {
      await wear(app, shot.id, core.shippedLook(id));
      const opened = await firstPictures(url);
      load = opened.load;
      rows.push([id, rounded(opened.cold), rounded(opened.warm), ...(await byHand(url))]);
      console.log(`  ${rows.at(-1).join(' | ')}`);
    }
    const meanwhile = besides(before, await yardstick({ core, media }));
    const hour = await anHour(app, core, reel.id, scratch);
    const memory = await memoryOf(url);
    const head = ['look', 'first picture, cold, ms', 'again, ms', 'slider to picture, median ms', '95 of 100, ms', 'longest task while dragging, ms', 'while playing, ms'];
    return `## Editing

Headless Chromium without a graphics card, 1280x800, a shot of 1920x1080 seen at 960x540. First picture: from the address to the worn picture, in a browser with an empty profile that has
stood for ${STARTED_MS / 1000} s, and once more, each the median of ${OPENED}; ${MOVES} moves of a slider by a key; the longest task on the page's own thread over a drag of 5 s and 10 s of playing.

${table(head, rows)}

${meanwhile}
First load until the picture stands: ${rounded(load / 1000)} kB compressed. An hour's shot set to ${HOUR.events} events, its strip scrolled by the wheel with every frame of the screen: ${hour.shown.toFixed(0)} frames a second.
Memory of their own that the browser’s pages hold after ${PLAYED_MINUTES[0]} minutes of looped play of ${LOOKS.at(-1)}: ${rounded(memory[0])} MB; after ${PLAYED_MINUTES[1]}: ${rounded(memory[1])} MB.
`;
  });

async function wear(app, id, look) {
  const { revision } = await app.api(`/shots/${id}`);
  await app.api(`/shots/${id}/look`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify({ look, revision }) });
}

/** Notes what is drawn, and tasks of the page over 50 ms. */
async function watched(page) {
  await page.evaluateOnNewDocument(noteDrawn);
  await page.evaluateOnNewDocument(() => {
    window.tasks = [];
    new PerformanceObserver((list) => window.tasks.push(...list.getEntries().map(({ duration }) => duration))).observe({ type: 'longtask' });
  });
}

/** Milliseconds to the first picture, with an empty profile and again, and the bytes that were loaded for it. */
async function firstPictures(url) {
  const { cold, again } = await coldAndAgain(OPENED, watched, async (page) => {
    await page.goto(url);
    await page.waitForFunction(() => window.drawn?.length > 0, { polling: 10 });
    return page.evaluate(() => ({
      first: window.drawn[0],
      // Each file once: every worker asks for its own script.
      bytes: [...new Map(['navigation', 'resource'].flatMap((kind) => performance.getEntriesByType(kind).map(({ name, encodedBodySize }) => [name, encodedBodySize])))].reduce(
        (sum, [name, bytes]) => sum + (name.includes('/api/') ? 0 : bytes),
        0,
      ),
    }));
  });
  const [first, second] = [cold, again].map((all) => middle(all.map((one) => one.first)));
  return { cold: first, warm: second, load: cold.at(-1).bytes };
}

const longest = (page) => page.evaluate(() => Math.max(0, ...window.tasks.splice(0)));
/** None was as long as the browser tells. */
const taskWords = (ms) => (ms === 0 ? 'under 50' : rounded(ms));

async function byHand(url) {
  const { browser, close } = await openBrowser();
  try {
    const page = await browser.newPage();
    await watched(page);
    await page.goto(url);
    await pictureOf(page);
    const thumb = await firstSlider(page);
    const times = await keyTimes(page, thumb, MOVES, 300);
    const box = await thumb.boundingBox();
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await longest(page);
    await page.mouse.down();
    for (const end = performance.now() + 5000; performance.now() < end;) {
      await page.mouse.move(x + 30 * Math.sin(performance.now() / 300), y);
      await pause(16);
    }
    await page.mouse.up();
    const dragging = await longest(page);
    await pictureOf(page);
    await page.keyboard.press('Escape');
    await longest(page);
    await page.keyboard.press('Space');
    await pause(10_000);
    const playing = await longest(page);
    return [rounded(times[MOVES >> 1]), rounded(times[Math.ceil(0.95 * MOVES) - 1]), taskWords(dragging), taskWords(playing)];
  } finally {
    await close();
  }
}

/** An hour of footage with very many events, whose strip is drawn large and scrolled with every frame of the screen. */
async function anHour(app, core, reelId, folder) {
  const clip = join(folder, 'hour.mp4');
  const source = `testsrc2=s=160x90:r=${HOUR.rate}:d=${HOUR.seconds}`;
  const made = spawnSync('ffmpeg', ['-nostdin', '-v', 'error', '-f', 'lavfi', '-i', source, '-c:v', 'libx264', '-preset', 'ultrafast', clip], { encoding: 'utf8' });
  if (made.status !== 0) throw new Error(made.stderr);
  const { browser, close } = await openBrowser();
  try {
    const page = await browser.newPage();
    await page.goto(`${app.address}/reels/${reelId}`);
    await (await page.waitForSelector('input[aria-label="Footage files"]')).uploadFile(clip);
    let shot;
    for (let i = 0; !shot; i++) {
      if (i > 1200) throw new Error('the hour was not imported');
      await pause(500);
      shot = (await app.api(`/reels/${reelId}`)).shots.find(({ medium }) => medium.name === 'hour.mp4' && medium.state === 'ready');
    }
    const life = { carrier: 'super8', traits: [{ trait: 'dust', settings: { count: HOUR.events / (HOUR.seconds * HOUR.rate) } }] };
    await wear(app, shot.id, { schema: core.LOOK_SCHEMA, shape: 'file', name: 'An hour', seed: 1, lives: [life] });
    await page.goto(`${app.address}/reels/${reelId}/shots/${shot.id}`);
    await pictureOf(page);
    // Until all of them are listed.
    await page.waitForFunction(() => Number(document.querySelector('[data-lane]')?.dataset.events) > 90_000);
    const room = await (await page.$('[aria-label="Moment in the shot"]')).boundingBox();
    await page.mouse.move(room.x + room.width / 2, room.y + 50);
    await page.keyboard.down('Control');
    for (let i = 0; i < 5; i++) await page.mouse.wheel({ deltaY: -120 });
    await page.keyboard.up('Control');
    await pause(1000);
    // A turn of the wheel with every frame of the screen; frames count in which the strip stands elsewhere.
    const shown = await page.evaluate(
      () =>
        new Promise((done) => {
          const strip = document.querySelector('#strip');
          const { left, top } = strip.getBoundingClientRect();
          const place = () => strip.querySelector('[style*="%"]').style.left;
          const from = performance.now();
          let [last, frames] = [place(), 0];
          const step = () => {
            const now = performance.now() - from;
            if (place() !== last) frames++;
            last = place();
            if (now > 5000) return done((frames * 1000) / now);
            strip.dispatchEvent(new WheelEvent('wheel', { deltaX: now % 2000 < 1000 ? 20 : -20, clientX: left + 300, clientY: top + 50, bubbles: true, cancelable: true }));
            requestAnimationFrame(step);
          };
          requestAnimationFrame(step);
        }),
    );
    return { shown };
  } finally {
    await close();
  }
}

/** Megabytes that the browser's pages hold after some minutes, and after more, of looped play. */
async function memoryOf(url) {
  const { browser, close } = await openBrowser();
  try {
    const page = await browser.newPage();
    await page.goto(url);
    await pictureOf(page);
    await page.keyboard.press('Space');
    const session = await page.createCDPSession();
    const now = async () => {
      await session.send('HeapProfiler.collectGarbage');
      const { processInfo } = await (await browser.target().createCDPSession()).send('SystemInfo.getProcessInfo');
      const renderers = processInfo.filter(({ type }) => type === 'renderer').map(({ id }) => id);
      // Pages of memory of its own: those of files and of the program are shared by all processes and given back when others need them.
      const own = await Promise.all(renderers.map((id) => readFile(`/proc/${id}/smaps_rollup`, 'utf8')));
      return own.reduce((sum, told) => sum + Number(/^Pss_Anon: +(\d+) kB$/m.exec(told)[1]), 0) / 1024;
    };
    const held = [];
    for (const [i, minutes] of PLAYED_MINUTES.entries()) {
      await pause((minutes - (PLAYED_MINUTES[i - 1] ?? 0)) * 60_000);
      held.push(await now());
    }
    return held;
  } finally {
    await close();
  }
}
