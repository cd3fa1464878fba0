import { afterAll, beforeAll, beforeEach, expect, jest, test } from '@jest/globals';
import { AS_SHOT, EMPTY_LOOK, type Look } from '@tin-ghost/core';
import type { Source, Worn } from '../../render/protocol';
import type { PlayerReport } from '../state/playback';
import type { Pair, Player as PlayerType } from './player';

/** A clock and workers that are made of numbers: what a player does with them is the same on any machine. */
let now = 0;
let frames: (() => void)[] = [];
const WORKERS = 2;
let jobs: { n: number; width: number; look: Look; ends: number; done: (worn: Worn) => void }[] = [];
let free: number[] = [];
let timers: { at: number; run: () => void }[] = [];
/** Milliseconds of a picture 960 wide; smaller ones take their share of its pixels. */
let cost = 10;
/** Share of that which a smaller picture takes, too. */
let fixed = 0;
/** Milliseconds from one time to the next that the screen asks. */
let screen = 16;
let worn: { n: number; width: number; look: Look }[] = [];

const workers = {
  size: WORKERS,
  get load() {
    return jobs.length;
  },
  wear: (_source: Source, n: number, look: Look, { width, height }: { width: number; height: number }): Promise<Worn> => {
    const milliseconds = cost * (fixed + (1 - fixed) * (width / 960) ** 2);
    const worker = free.indexOf(Math.min(...free));
    free[worker] = Math.max(free[worker]!, now) + milliseconds;
    worn.push({ n, width, look });
    return new Promise((resolve) =>
      jobs.push({ n, width, look, ends: free[worker]!, done: () => resolve({ width, height, pixels: new ArrayBuffer(width * height * 4), milliseconds, counting: 0 }) }),
    );
  },
};

let Player: typeof PlayerType;
beforeAll(async () => {
  jest.unstable_mockModule('../../render/preview', () => ({ preview: () => workers }));
  ({ Player } = await import('./player'));
  jest.spyOn(performance, 'now').mockImplementation(() => now);
  jest.spyOn(globalThis, 'setTimeout').mockImplementation(((call: () => void, wait = 0) => timers.push({ at: now + wait, run: call })) as never);
  globalThis.requestAnimationFrame = (tick) => frames.push(() => tick(now));
});
afterAll(() => {
  jest.restoreAllMocks();
});
beforeEach(() => {
  [now, frames, jobs, worn, timers, cost, screen, fixed] = [0, [], [], [], [], 10, 16, 0];
  free = new Array<number>(WORKERS).fill(0);
});

const source: Source = {
  mediaId: 'a',
  proxy: { mediaId: 'a', width: 960, height: 540, frames: 500, made: true },
  preparation: AS_SHOT,
  width: 960,
  height: 540,
  rate: 25,
  frames: 500,
};
const other: Look = { ...EMPTY_LOOK, name: 'Another' };
interface Seen {
  shown: { n: number; at: number; pair: Pair }[];
  reports: PlayerReport[];
  ready: ReadonlySet<number>;
}

/** No scope is open. */
const NOTHING = { scope: false, clean: null };

function player(look: Look, range = { from: 0, to: 500 }, compared: Look | null = null): { player: PlayerType; seen: Seen } {
  const seen: Seen = { shown: [], reports: [], ready: new Set() };
  const made = new Player(source, look, range, compared && { source, look: compared }, NOTHING, {
    onFrame: (n, pair) => seen.shown.push({ n, at: now, pair }),
    onReady: (ready) => (seen.ready = ready),
    onReport: (report) => seen.reports.push(report),
  });
  return { player: made, seen };
}

/** That it now plays at its rate and at a width. */
function expectPlaying({ reports }: Seen, width: number): void {
  const { shown, width: now } = reports.at(-1)!;
  expect(now).toBe(width);
  expect(shown).toBeGreaterThanOrEqual(24);
  expect(shown).toBeLessThanOrEqual(25);
}

/** Lets time go by: pictures are done when they are, the screen asks at its own times. */
async function run(milliseconds: number): Promise<void> {
  const end = now + milliseconds;
  for (; now < end; now += 4) {
    const done = jobs.filter((job) => job.ends <= now);
    jobs = jobs.filter((job) => job.ends > now);
    for (const job of done) job.done(undefined as never);
    for (let i = 0; i < 4; i++) await Promise.resolve();
    const due = timers.filter((timer) => timer.at <= now);
    timers = timers.filter((timer) => timer.at > now);
    for (const timer of due) timer.run();
    if (now % screen !== 0) continue;
    const ticks = frames;
    frames = [];
    for (const tick of ticks) tick();
  }
}

test('pictures come in order, each once, at their rate, the finest size where the workers keep up', async () => {
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(3);
  await run(4000);
  p.stop();
  expect(seen.shown.slice(0, 6).map(({ n }) => n)).toEqual([3, 4, 5, 6, 7, 8]);
  expect(seen.shown.length).toBeGreaterThan(92);
  expect(seen.shown.length).toBeLessThan(102);
  expect(new Set(worn.map(({ width }) => width))).toEqual(new Set([960]));
  // Told right from the first time on, and never as more than there are.
  for (const report of seen.reports) expect(report).toEqual({ shown: 25, width: 960 });
  const stopped = seen.shown.length;
  await run(200);
  expect(seen.shown).toHaveLength(stopped);
});

test('where they do not, the largest size is taken that they can keep, and the rate is kept', async () => {
  // 200 ms at 960: 112 at 720, 50 at 480; two workers have 80 a picture.
  cost = 200;
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(9000);
  expectPlaying(seen, 480);
  expect(worn.some(({ width }) => width === 320)).toBe(false);
});

test('a size that was lowered is raised again when pictures take less', async () => {
  cost = 200;
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(6000);
  expect(seen.reports.at(-1)!.width).toBe(480);
  cost = 30;
  await run(9000);
  expectPlaying(seen, 960);
});

test('what is kept goes where another line of the clean picture is read, not where one is read of whole clean pictures', async () => {
  const range = { from: 0, to: 20 };
  const { player: p, seen } = player(EMPTY_LOOK, range);
  const ask = (clean: 'all' | number | null): void => p.change(EMPTY_LOOK, range, null, { scope: false, clean });
  p.start(0);
  ask('all');
  await run(1500);
  const made = worn.length;
  expect(seen.ready.size).toBe(20);
  for (const clean of [0.5, null] as const) {
    ask(clean);
    await run(400);
    expect([worn.length, seen.ready.size]).toEqual([made, 20]);
  }
  ask(0.5);
  await run(1500);
  expect(worn.length).toBe(made + 20);
  ask(0.6);
  await run(1500);
  expect(worn.length).toBe(made + 40);
  p.stop();
});

test('stopped and started at once, it plays at its rate, not at twice that', async () => {
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(1000);
  p.stop();
  p.start(100);
  await run(2000);
  expectPlaying(seen, 960);
});

test('one hesitation of the machine costs no size', async () => {
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(3000);
  free = free.map(() => now + 900);
  await run(3000);
  expectPlaying(seen, 960);
});

test('a page that is slow to ask shows as many pictures, and at no smaller size', async () => {
  screen = 36;
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(6000);
  expectPlaying(seen, 960);
  const gaps = seen.shown.slice(1).map(({ at }, i) => at - seen.shown[i]!.at);
  expect(Math.max(...gaps)).toBeLessThanOrEqual(72);
});

test('in draft it is small from the start, and every second picture stands for the next; out of it, it is as it was', async () => {
  // At 480, in every second picture, 75 of the 80 milliseconds that two workers have; of every picture they could not.
  cost = 600;
  const range = { from: 11, to: 400 };
  const { player: p, seen } = player(EMPTY_LOOK, range);
  p.change(EMPTY_LOOK, range, null, NOTHING, undefined, true);
  p.start(11);
  await run(4000);
  expectPlaying(seen, 480);
  expect(new Set(worn.map(({ width }) => width))).toEqual(new Set([480]));
  expect(worn.filter(({ n }) => (n - 11) % 2 !== 0)).toEqual([]);
  // All are shown, in order, each pair by the same picture.
  const [numbers, pairs] = [seen.shown.map(({ n }) => n), seen.shown.map(({ pair }) => pair)];
  expect(numbers).toEqual(numbers.map((_, i) => 11 + i));
  for (let i = 0; i + 1 < pairs.length; i += 2) expect(pairs[i + 1]).toBe(pairs[i]);
  cost = 10;
  worn = [];
  p.change(EMPTY_LOOK, range, null, NOTHING);
  await run(2000);
  expectPlaying(seen, 960);
  expect(worn.some(({ n }) => (n - 11) % 2 !== 0)).toBe(true);
  p.stop();
});

test('a rate that cannot be kept at any size is told as it is', async () => {
  cost = 1500;
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(20_000);
  const { shown, width } = seen.reports.at(-1)!;
  expect(width).toBe(320);
  // 167 ms a picture on two workers.
  expect(shown).toBeGreaterThanOrEqual(10);
  expect(shown).toBeLessThanOrEqual(13);
  const lastSecond = seen.shown.filter(({ at }) => at > now - 1000).length;
  expect(Math.abs(shown - lastSecond)).toBeLessThanOrEqual(1);
});

test('where a smaller picture takes as long, as on a line raster, the larger one is played', async () => {
  cost = 120;
  fixed = 0.95;
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(12_000);
  expect(new Set(seen.reports.map(({ width }) => width)).size).toBeGreaterThan(1);
  expect(seen.reports.slice(-10).map(({ width }) => width)).toEqual(new Array(10).fill(960));
  // 60 ms a picture on two workers.
  expect(seen.reports.at(-1)!.shown).toBeGreaterThanOrEqual(14);
});

test('a size that was left in haste is tried again, though a smaller picture hardly takes less', async () => {
  // While kernels are compiled a picture takes 100 ms, then 66; at 480 wide 46.
  cost = 100;
  fixed = 0.6;
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(3500);
  const left = seen.reports.at(-1)!.width;
  expect(left).toBeLessThan(960);
  cost = 66;
  await run(12_000);
  expectPlaying(seen, 960);
});

test('one that cannot be kept is tried once, not again and again', async () => {
  cost = 100;
  fixed = 0.3;
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(30_000);
  const { width } = seen.reports.at(-1)!;
  expect(width).toBeLessThan(960);
  expectPlaying(seen, width);
  const rises = seen.reports.filter((report, i) => i > 0 && report.width > seen.reports[i - 1]!.width);
  expect(rises.length).toBeLessThanOrEqual(2);
});

test('one that is left tells no more of what was on its way', async () => {
  cost = 80;
  const { player: p, seen } = player(EMPTY_LOOK);
  p.start(0);
  await run(500);
  expect(seen.ready.size).toBeGreaterThan(0);
  const [shown, reports] = [seen.shown.length, seen.reports.length];
  expect(jobs.length).toBeGreaterThan(0);
  p.leave();
  await run(500);
  expect(jobs).toHaveLength(0);
  expect(seen.ready.size).toBe(0);
  expect([seen.shown.length, seen.reports.length]).toEqual([shown, reports]);
});

test('a loop that fits into memory is worn once', async () => {
  const { player: p, seen } = player(EMPTY_LOOK, { from: 10, to: 30 });
  p.start(0);
  await run(4000);
  expect(seen.shown[0]!.n).toBe(10);
  expect(seen.shown[20]!.n).toBe(10);
  expect(worn).toHaveLength(20);
  expect([...seen.ready].sort((a, b) => a - b)).toEqual(Array.from({ length: 20 }, (_, i) => 10 + i));
});

test('a picture that is held is worn once and shown as often as it stands', async () => {
  const look: Look = { ...EMPTY_LOOK, lives: [{ carrier: 'super8', traits: [{ trait: 'cadence', settings: { rate: 18 } }, { trait: 'grain' }] }] };
  const { player: p, seen } = player(look);
  p.start(0);
  await run(3000);
  const { shown } = seen;
  expect(shown.map(({ n }) => n)).toEqual(shown.map((_, i) => i));
  // 18 of 25: picture 1 is picture 0 over again.
  expect(shown[1]!.pair).toBe(shown[0]!.pair);
  expect(shown[3]!.pair).not.toBe(shown[2]!.pair);
  const upTo50 = worn.filter(({ n }) => n < 50).length;
  expect(upTo50).toBe(36);
});

test('another look drops what was made for the old one; a comparison wears both', async () => {
  const { player: p, seen } = player(EMPTY_LOOK, { from: 0, to: 40 });
  p.start(0);
  await run(2000);
  expect(seen.ready.size).toBe(40);
  p.change(other, { from: 0, to: 40 }, null, NOTHING);
  expect(seen.ready.size).toBe(0);
  worn = [];
  await run(500);
  expect(worn.length).toBeGreaterThan(10);
  expect(worn.every(({ look }) => look === other)).toBe(true);
  p.change(other, { from: 0, to: 40 }, { source, look: EMPTY_LOOK }, NOTHING);
  worn = [];
  await run(500);
  expect(worn.filter(({ look }) => look === EMPTY_LOOK).length).toBe(worn.length / 2);
  expect(seen.shown.at(-1)!.pair.other).not.toBeNull();
});
