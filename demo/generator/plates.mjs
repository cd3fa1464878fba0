// `npm run plates`: makes the plates that ship, in media/plates, with the product's own engine: what lies on them is generated, the same every time.
import { execFileSync } from 'node:child_process';
import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = dirname(dirname(dirname(fileURLToPath(import.meta.url))));
const { build, bundle } = await import(pathToFileURL(join(root, 'scripts/build.mjs')).href);
await build(['kernels', 'render worker'], console.log);
const core = await import(pathToFileURL(await bundle('core/src/index.ts', 'core/dist/core.mjs')).href);
const media = await import(pathToFileURL(await bundle('media/src/index.ts', 'media/dist/media.mjs')).href);

const SIZE = { width: 1280, height: 720 };
const out = join(root, 'media/plates');
const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-plates-'));

const look = (traits, carrier = 'none', seed = 14) => ({ schema: core.LOOK_SCHEMA, name: 'Plate', seed, shape: 'file', lives: [{ carrier, traits }] });
const pinned = (...events) => ({ pinned: events.map((event, i) => ({ id: `p${i}`, ...event })) });
const caption = (settings, when) => ({ trait: 'caption', settings, ...(when && { when: [when] }) });

/** Seconds that the leader counts down from. */
const COUNT = 7;
const INK = [0.07, 0.065, 0.06];
const leader = Array.from({ length: COUNT - 1 }, (_, i) => COUNT - i).flatMap((number, i) => [
  caption({ text: String(number), font: 'slab', size: 38, colour: INK }, { from: i, to: i + 1 }),
  // A row of squares, one fewer each second, counts with it.
  caption({ text: '{stop}'.repeat(number), size: 5, y: 84, spacing: 25, colour: INK }, { from: i, to: i + 1 }),
]);
const frame = ['left', 'right'].flatMap((align) => [8, 92].map((y) => caption({ text: 'LINE 14', font: 'mono', size: 2.6, x: align === 'left' ? 6 : 94, y, align, colour: INK })));

const PLATES = {
  'drifting-dust.mp4': { level: 0, seconds: 12, look: look([{ trait: 'motes', settings: { count: 150, amount: 2.6, size: 0.7, depth: 0.8, drift: 4, swirl: 0.8 } }]) },
  'leak.mp4': {
    level: 0,
    seconds: 8,
    look: look([
      {
        trait: 'light-leak',
        settings: { rate: 0, length: 3, amount: 2.4, size: 34, drift: 30, colour: [1, 0.47, 0.14], edges: 1 },
        events: pinned({ at: 0.3, x: 0.1, y: 0.35, length: 3.4 }, { at: 2.6, x: 0.9, y: 0.7, length: 3 }, { at: 4.8, x: 0.05, y: 0.6, length: 2.8 }),
      },
      {
        trait: 'light-leak',
        settings: { rate: 0, length: 2, amount: 1.6, size: 16, drift: 18, colour: [1, 0.75, 0.4], edges: 1 },
        events: pinned({ at: 1.2, x: 0.1, y: 0.5, length: 2 }, { at: 3.4, x: 0.95, y: 0.3, length: 2.4 }, { at: 5.4, x: 0.95, y: 0.5, length: 2 }),
      },
    ]),
  },
  'reel-end-flash.mp4': {
    level: 0,
    seconds: 3,
    look: look([
      {
        trait: 'light-leak',
        settings: { rate: 0, amount: 5, size: 70, drift: 60, colour: [1, 0.35, 0.08], edges: 1 },
        events: pinned({ at: 0.15, x: 0.02, y: 0.5, length: 1.3 }, { at: 0.9, x: 0.98, y: 0.4, length: 1.1 }),
      },
      {
        trait: 'light-leak',
        settings: { rate: 0, amount: 6, size: 120, drift: 20, colour: [1, 0.9, 0.72], edges: 0 },
        events: pinned({ at: 1.3, x: 0.4, y: 0.5, length: 1.5 }),
      },
    ]),
  },
  'gate-on-white.mp4': { level: 1, seconds: 6, look: look([{ trait: 'gate-hair' }, { trait: 'gate-weave' }, { trait: 'gate-frame' }], 'super8') },
  'paper-grunge.jpg': {
    level: 0.97,
    look: look(
      [
        { trait: 'blotches', settings: { amount: 0.22, size: 22, colour: [0.86, 0.76, 0.58] } },
        { trait: 'blotches', settings: { amount: 0.12, size: 6, colour: [0.8, 0.72, 0.6] } },
        { trait: 'stains', settings: { count: 26, size: 5 } },
        { trait: 'scratches', settings: { count: 50 } },
        { trait: 'dust', settings: { count: 60, bright: 0, size: 14 } },
        { trait: 'hairs', settings: {} },
        { trait: 'noise', settings: { amount: 0.03, colour: 0 } },
        { trait: 'vignette', settings: {} },
      ],
      'super8',
    ),
  },
  'countdown.mp4': {
    level: 0.62,
    seconds: COUNT - 1,
    look: look([...frame, ...leader, { trait: 'scratches' }, { trait: 'dust' }, { trait: 'gate-weave' }, { trait: 'flicker' }], 'film16'),
  },
};

try {
  await mkdir(out, { recursive: true });
  const chosen = process.argv.slice(2);
  for (const [name, plate] of Object.entries(PLATES)) {
    if (chosen.length && !chosen.includes(name)) continue;
    const ground = join(folder, `ground-${name}.mkv`);
    const seconds = plate.seconds ?? 1;
    await media.writeSignal({ signal: 'grey', file: ground, ...SIZE, rate: { num: 24, den: 1 }, seconds, level: plate.level });
    const footage = await media.probe(ground);
    const checked = core.checkLook(plate.look);
    const files = { fonts: await media.fontsFor(checked, async () => undefined) };
    const file = join(out, name);
    if (name.endsWith('.mp4')) await media.strike({ footage, look: checked, files, file, container: 'mp4', sound: false });
    else {
      const png = join(folder, 'still.png');
      await media.writePng(png, SIZE.width, SIZE.height, await media.renderFrame(footage, checked, 12, { files }));
      execFileSync('ffmpeg', ['-nostdin', '-v', 'error', '-y', '-i', png, '-q:v', '2', '-bitexact', file]);
    }
    console.log(`  ${name}`);
  }
} finally {
  await rm(folder, { recursive: true, force: true });
}
