// `npm run screenshots`: one picture of each main view, from the demo data, into docs/screenshots.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { pathToFileURL } from 'node:url';
import { prepare, root } from './prepare.mjs';

const say = (line) => console.log(`  ${line}`);
prepare(say);
const { build, bundle } = await import('./build.mjs');
await build(undefined, say);
const core = await import(pathToFileURL(await bundle('core/src/index.ts', 'core/dist/core.mjs')).href);
const { startCluster } = await import('./cluster.mjs');
const { openApp, openBrowser, pictureOf } = await import('../e2e/stage.mjs');

const only = process.argv.slice(2);
const scratch = mkdtempSync(join(tmpdir(), 'tin-ghost-shots-'));
const cluster = await startCluster(join(scratch, 'data'));
const app = await openApp(cluster.adminUrl);
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
    await press('Tape noise, strength 100 %');
    await page.keyboard.press('d');
  },
  async 'events-on-the-strip'() {
    await page.keyboard.press('d');
    const { id } = reel.shots[1];
    const { look, preparation, revision } = await app.api(`/shots/${id}`);
    const burn = { trait: 'burn', settings: { rate: 0 }, events: { pinned: [{ id: 'hand-1', at: 2.2, x: 0.5, y: 0.42 }] } };
    const [life] = core.shippedLook('thrice-shown').lives;
    const keep = (body) => app.api(`/shots/${id}/look`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
    await keep({ look: { ...core.shippedLook('thrice-shown'), lives: [{ ...life, traits: [...life.traits, burn] }] }, revision });
    await page.goto(app.address + shot(1));
    await pictureOf(page);
    await press('Burn, strength 100 %');
    const lane = await (await page.waitForSelector('canvas[data-lane="burn"][data-events="1"]')).boundingBox();
    await pause(500);
    await page.mouse.click(lane.x + (lane.width * 2.4) / 6, lane.y + 8);
    await page.evaluate(() => document.activeElement.blur());
    await page.keyboard.down('Shift');
    await page.keyboard.press('ArrowRight');
    await page.keyboard.up('Shift');
    for (let i = 0; i < 8; i++) await page.keyboard.press('ArrowRight');
    await pictureOf(page);
    await pause(800);
    await keep({ look, preparation, revision: revision + 1 });
  },
  async 'line-scope'() {
    const { id } = reel.shots[1];
    const { look, preparation, revision } = await app.api(`/shots/${id}`);
    const keep = (body) => app.api(`/shots/${id}/look`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
    await keep({ look: core.shippedLook('home-tape'), revision });
    await page.goto(app.address + shot(1));
    await pictureOf(page);
    await press('Line');
    await page.waitForSelector('[data-line="spectrum"] canvas');
    await page.mouse.move(520, 240);
    await pause(1500);
    await keep({ look, preparation, revision: revision + 1 });
  },
  async 'laid-over'() {
    const { id } = reel.shots[0];
    const { look, preparation, revision } = await app.api(`/shots/${id}`);
    const keep = (body) => app.api(`/shots/${id}/look`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
    const worn = core.shippedLook('title-worn');
    const [life] = worn.lives;
    const [title, ...rest] = life.traits;
    const plate = { trait: 'plate', act: 'lens', settings: { plate: 'leak', mode: 'screen', opacity: 0.8 }, when: [{ from: 3, to: 7, in: 1, out: 1 }] };
    await keep({ look: { ...worn, lives: [{ ...life, traits: [{ ...title, when: [{ from: 0.4, to: 5.6, in: 0.8, out: 1.2 }] }, plate, ...rest] }] }, revision });
    await page.goto(app.address + shot(0));
    await pictureOf(page);
    await press('Title, strength 100 %, moves');
    await page.evaluate(() => document.activeElement.blur());
    for (let i = 0; i < 4; i++) {
      await page.keyboard.down('Shift');
      await page.keyboard.press('ArrowRight');
      await page.keyboard.up('Shift');
    }
    await pictureOf(page);
    await pause(800);
    await keep({ look, preparation, revision: revision + 1 });
  },
  async 'how-a-setting-moves'() {
    const { id } = reel.shots[3];
    const { look, preparation, revision } = await app.api(`/shots/${id}`);
    const keep = (body) => app.api(`/shots/${id}/look`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
    await keep({ look: core.shippedLook('work-copy-16'), revision });
    await page.goto(app.address + shot(3));
    await pictureOf(page);
    await press('Gate weave, strength 100 %, moves');
    await page.locator('button[aria-label^="Motion of"][aria-label$="follow"]').click();
    await page.waitForSelector('svg[role="application"] path');
    await pause(800);
    await keep({ look, preparation, revision: revision + 1 });
  },
  async 'bench-at-1-to-1'() {
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
    await page.locator('[data-shot-block]').click();
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
    await press('Strike prints');
    await page.select('select[aria-label="What"]', '3');
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

/** Pictures of shots, small, side by side: each a shot's file, a look (an id or a file) and the picture's number. */
function sheet(name, across, [width, height], pictures) {
  const frames = pictures.map(([file, look, at], i) => {
    const out = join(scratch, `${name}-${i}.png`);
    run(process.execPath, ['cli/bin/tinghost.mjs', 'frame', '--in', `demo/footage/${file}`, '--look', look, '--at', String(at), '--size', `${width}x${height}`, '--out', out]);
    return out;
  });
  const places = frames.map((_, i) => `${(i % across) * width}_${Math.floor(i / across) * height}`).join('|');
  const joined = ['-filter_complex', `xstack=inputs=${frames.length}:layout=${places}:fill=white`, '-q:v', '4', join(root, `docs/screenshots/${name}.jpg`)];
  run('ffmpeg', ['-nostdin', '-v', 'error', '-y', ...frames.flatMap((f) => ['-i', f]), ...joined]);
  say(name);
}

/** A shipped look with one more trait, as a file. */
function lookWith(id, use, shape) {
  const look = core.shippedLook(id);
  const [life] = look.lives;
  const file = join(scratch, `${id}-with-${use.trait}.json`);
  writeFileSync(file, JSON.stringify({ ...look, shape: shape ?? look.shape, lives: [{ ...life, traits: [...life.traits, use] }] }));
  return file;
}

/** Looks with captions, plates and motes come last; before them those of tape, air and tubes, in the order in which `docs/tape.md` names them. */
const ids = core.shippedLooks.map(({ id }) => id);
const LAID_LOOKS = ids.slice(ids.indexOf('title-worn'));
const RASTER_LOOKS = ids.slice(ids.indexOf('home-tape'), ids.indexOf('title-worn'));

const SHEETS = {
  looks: () =>
    sheet(
      'looks',
      3,
      [384, 216],
      core.shippedLooks.filter(({ id }) => !RASTER_LOOKS.includes(id) && !LAID_LOOKS.includes(id)).map(({ id }) => ['4-street-by-day.mp4', id, 60]),
    ),
  'tape-looks': () =>
    sheet(
      'tape-looks',
      3,
      [480, 270],
      RASTER_LOOKS.map((id) => ['2-conductor.mp4', id, 60]),
    ),
  'laid-looks': () =>
    sheet(
      'laid-looks',
      2,
      [480, 270],
      [
        ...['1-arrival-at-dusk.mp4', '2-conductor.mp4'].map((file) => [file, 'title-worn', 45]),
        ['3-depot-workshop.mp4', 'slow-dream', 60],
        ['4-street-by-day.mp4', 'brown-paper', 45],
        ['2-conductor.mp4', 'home-cassette', 45],
        ['4-street-by-day.mp4', 'gate-by-plate', 45],
      ],
    ),
  'beside-a-picture'() {
    const slip = { trait: 'frame-slip', settings: { count: 0, far: 0.6, length: 0.6, way: 'up' }, events: { pinned: [{ id: 'hand-1', at: 1 }] } };
    const gate = { trait: 'gate-frame', settings: { scale: 55, open: 1 } };
    const dusk = '1-arrival-at-dusk.mp4';
    const slipping = lookWith('sunday-reel', slip);
    sheet('beside-a-picture', 2, [480, 270], [...[28, 32, 36].map((n) => [dusk, slipping, n]), [dusk, lookWith('thrice-shown', gate, 'file'), 60]]);
  },
};

function run(program, args) {
  const { status, stderr } = spawnSync(program, args, { cwd: root, encoding: 'utf8' });
  if (status !== 0) throw new Error(stderr);
}

try {
  for (const [name, make] of Object.entries(SHEETS)) if (!only.length || only.includes(name)) make();
  for (const [name, go] of Object.entries(VIEWS)) {
    if (only.length && !only.includes(name)) continue;
    await go().catch(async (error) => {
      await page.screenshot({ path: join(tmpdir(), 'tin-ghost-failed.png') });
      throw error;
    });
    // The bars over the picture are gone by then, but where they are wanted.
    await pause((await page.$('[data-view-bar]')) ? 6500 : 1200);
    await page.screenshot({ path: join(root, 'docs/screenshots', `${name}.png`) });
    say(name);
  }
  for (const file of readdirSync(join(root, 'docs/screenshots')))
    if (!(file.replace('.png', '') in VIEWS) && !(file.replace('.jpg', '') in SHEETS)) rmSync(join(root, 'docs/screenshots', file));
} finally {
  await close();
  await app.close();
  await cluster.stop();
  rmSync(scratch, { recursive: true, force: true });
}
