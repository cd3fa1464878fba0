/** Pictures beside the one in the gate: which they are, what is worn on them, and that a picture is the same however it is asked for. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import { carrierById } from '../carriers';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import { LOOK_SCHEMA, type Look, type TraitUse } from '../look/look';
import { traits } from '../traits';
import { correlation, lookOf, mean, newEngine, painted, RGB16 } from '../testing';
import { Kept } from './kept';
import { Plan, type PlanOptions } from './plan';

// Taken once: in hot loops each look-up of a global costs.
const { abs, max, min, round } = Math;
const RATE = 24;
const [WIDE, LAST] = [32, 47];

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const levelOf = (picture: number): number => (200 + 10 * max(0, min(LAST, picture))) / 1000;
/** A shot whose picture n is grey at a level of its own. */
const shotOf = (height: number) => {
  const known = new Map<number, RawFrame>();
  return (picture: number): RawFrame => {
    const frame = known.get(picture) ?? painted(WIDE, height, () => levelOf(picture));
    known.set(picture, frame);
    return frame;
  };
};
const slip = (settings: TraitUse['settings'] = {}, more: Partial<TraitUse> = {}): TraitUse => ({
  trait: 'frame-slip',
  settings: { count: 0, trail: 0, far: 0.5, length: 0.5, ...settings },
  events: { pinned: [{ id: 'mine', at: 0.25 }] },
  ...more,
});

function planOf(look: Look, height: number, more: Partial<PlanOptions> = {}): Plan {
  const size = { width: WIDE, height };
  return new Plan(engine, look, { source: { ...size, encoding: RGB16 }, target: { ...size, encoding: 'float' }, rate: RATE, ...more });
}

/** Green of a picture, and the pictures that were asked for. */
function worn(look: Look, height: number, n: number, given = shotOf(height)): { rows: (y: number) => Float32Array; asked: Set<number>; planes: Uint8Array[] } {
  const plan = planOf(look, height);
  const asked = new Set<number>();
  const planes = plan.render(n, (picture) => {
    asked.add(picture);
    return given(picture);
  });
  plan.dispose();
  const green = new Float32Array(planes[1]!.buffer);
  return { rows: (y) => green.subarray(y * WIDE, (y + 1) * WIDE), asked, planes };
}

/** Levels that fill more than a twentieth of the picture, from the top. */
function levelsDown(rows: (y: number) => Float32Array, height: number): number[] {
  const found: { level: number; rows: number }[] = [];
  for (let y = 0; y < height; y++) {
    const level = rows(y)[WIDE / 2]!;
    if (found.length && abs(found.at(-1)!.level - level) < 1e-3) found.at(-1)!.rows++;
    else found.push({ level, rows: 1 });
  }
  return found.filter((f) => f.rows > height / 20).map((f) => round(f.level * 1e3) / 1e3);
}

describe.each([540, 1080])('a slip at %d lines', (height) => {
  const given = shotOf(height);

  test.each([
    ['up', [9, 10]],
    ['down', [8, 9]],
  ])('%s lets the picture beside it pass, in its order on the film', (way, pictures) => {
    const { rows, asked } = worn(lookOf([slip({ way, line: false })]), height, 9, given);
    expect(levelsDown(rows, height)).toEqual(pictures.map(levelOf));
    expect([...asked].sort((a, b) => a - b)).toEqual(pictures);
  });

  test('has the frame line between the two', () => {
    const { rows } = worn(lookOf([slip({ way: 'up' })]), height, 9, given);
    const dark = Array.from({ length: height }, (_, y) => mean(rows(y))).filter((v) => v < 0.1).length / height;
    // Super 8: pictures of 4.01 mm, 4.234 apart.
    expect(dark).toBeGreaterThan(0.9 * (4.234 / 4.01 - 1));
    expect(levelsDown(rows, height).filter((v) => v > 0.1)).toEqual([levelOf(9), levelOf(10)]);
  });

  test('rolls by whole pictures with those of its moment beside it, and nothing else', () => {
    for (const n of [7, 9, 11, 13, 15, 17]) {
      const { asked } = worn(lookOf([slip({ way: 'up', far: 3 })]), height, n, given);
      expect([...asked].sort((a, b) => a - b)).toEqual([n, n + 1]);
    }
  });

  test('at rest asks for no picture but its own', () => {
    for (const n of [5, 18]) expect([...worn(lookOf([slip()]), height, n, given).asked]).toEqual([n]);
  });

  test('before the first picture there is itself; after the last, the last', () => {
    const early = worn(lookOf([slip({ way: 'down', line: false }, { events: { pinned: [{ id: 'mine', at: -0.1 }] } })]), height, 0, given);
    expect([...early.asked]).toEqual([0]);
    expect(levelsDown(early.rows, height)).toEqual([levelOf(0)]);
    const late = worn(lookOf([slip({ way: 'up', line: false }, { events: { pinned: [{ id: 'mine', at: (LAST - 3) / RATE }] } })]), height, LAST, given);
    expect([...late.asked].sort((a, b) => a - b)).toEqual([LAST, LAST + 1]);
    expect(levelsDown(late.rows, height)).toEqual([levelOf(LAST)]);
  });
});

describe('what is worn on a picture beside', () => {
  const height = 270;
  const given = shotOf(height);
  // Slipped by whole rows, so that its rows can be held against those of the picture itself.
  const away = slip({ way: 'up', far: 1, length: 2, line: false });

  test('what happened to the film is that picture’s own, bit for bit', () => {
    const film: TraitUse[] = [
      { trait: 'grain', settings: { amount: 40 } },
      { trait: 'dust', settings: { rate: 400 } },
    ];
    const flat = (): RawFrame => given(20);
    // The middle of the roll: half a picture.
    const { rows } = worn(lookOf([...film, away]), height, 30, flat);
    const next = worn(lookOf(film), height, 31, flat);
    const own = worn(lookOf(film), height, 30, flat);
    const half = height / 2;
    for (const y of [half, half + 40, height - 1]) {
      expect(correlation(rows(y), next.rows(y - half))).toBeGreaterThan(0.999);
      expect(abs(correlation(rows(y), own.rows(y - half)))).toBeLessThan(0.7);
    }
    expect(correlation(rows(0), own.rows(half))).toBeGreaterThan(0.999);
  });

  test('what the machine does is of the moment: the lamp is as bright on both', () => {
    const lamp: TraitUse = { trait: 'flicker', settings: { amount: 20 } };
    const flat = (): RawFrame => given(20);
    const [now, next] = [30, 31].map((n) => mean(worn(lookOf([lamp]), height, n, flat).rows(9)));
    expect(abs(now! - next!)).toBeGreaterThan(0.005);
    const { rows } = worn(lookOf([lamp, away]), height, 30, flat);
    expect(mean(rows(height - 9))).toBeCloseTo(now!, 4);
    expect(mean(rows(9))).toBeCloseTo(now!, 4);
  });

  test('where pictures are held, the film’s next is the one beside', () => {
    const held: TraitUse = { trait: 'cadence', settings: { rate: 12 } };
    const { asked, rows } = worn(lookOf([held, slip({ way: 'up', line: false })]), height, 9, given);
    // Twelve a second in twenty-four: picture 9 shows picture 8, and 10 is next on the film.
    expect([...asked].sort((a, b) => a - b)).toEqual([8, 10]);
    expect(levelsDown(rows, height)).toEqual([levelOf(8), levelOf(10)]);
  });

  test('a slip of a slip has the neighbour of its neighbour', () => {
    const { asked } = worn(lookOf([slip({ way: 'up' }), slip({ way: 'up' })]), height, 9, given);
    expect([...asked].sort((a, b) => a - b)).toEqual([9, 10, 11]);
  });

  test('in a life before another, its own film is what it has beside it', () => {
    const look: Look = {
      schema: LOOK_SCHEMA,
      shape: 'file',
      name: 'two lives',
      seed: 5,
      lives: [
        { carrier: 'super8', traits: [{ trait: 'cadence', settings: { rate: 12 } }, slip({ way: 'up', line: false })] },
        { carrier: 'film16', traits: [slip({ way: 'up', line: false })] },
      ],
    };
    // Picture 9 of the second film shows 8 of the footage, its neighbour 10 the first's next, 10; and that one's neighbour is 12.
    expect([...worn(look, height, 9, given).asked].sort((a, b) => a - b)).toEqual([8, 10, 12]);
  });
});

describe('an opened gate', () => {
  const gate = (settings: Record<string, number>): Look => lookOf([{ trait: 'gate-frame', settings: { fuzz: 0, burr: 0, corner: 0, perforations: false, ...settings } }], 'film35');

  test.each([540, 1080])('has the picture before above it and the next below, at %d lines', (height) => {
    const { rows, asked } = worn(gate({ scale: 60, open: 1 }), height, 20, shotOf(height));
    expect([...asked].sort((a, b) => a - b)).toEqual([19, 20, 21]);
    expect(levelsDown(rows, height).filter((v) => v > 0.1)).toEqual([19, 20, 21].map(levelOf));
    // What is beside stands where the pitch says: 19 mm from picture to picture.
    const stands = (19 / carrierById('film35')!.gate!.height - 0.5) * 0.6;
    const seen = Array.from({ length: height / 2 }, (_, y) => rows(y)[WIDE / 2]!).filter((v) => abs(v - levelOf(19)) < 1e-3).length;
    expect(abs(seen - (0.5 - stands) * height)).toBeLessThan(max(1.5, height / 400));
  });

  test('asks for none where they are not seen', () => {
    const asks = (settings: Record<string, number>): number => worn(gate(settings), 180, 20, shotOf(180)).asked.size;
    expect([asks({ scale: 94 }), asks({ scale: 60 }), asks({ scale: 97, open: 1 })]).toEqual([1, 1, 1]);
    expect([asks({ scale: 60, opacity: 0.5 }), asks({ scale: 60, down: 20 })]).toEqual([3, 3]);
  });
});

describe('film that is moved in an opened gate', () => {
  const [width, height] = [240, 180];
  const scale = 0.5;
  const opened: TraitUse = { trait: 'gate-frame', settings: { scale: 100 * scale, open: 1, fuzz: 0, burr: 0 } };
  // A bright spot in the middle of the picture; of Super 8, the perforation stands at its left.
  const spot = painted(width, height, (x, y) => (Math.hypot(x - width / 2, y - height / 2) < 12 ? 0.9 : 0.3));
  const greens = (traits: TraitUse[], n: number): Float32Array => {
    const plan = new Plan(engine, lookOf(traits), { source: spot, target: { width, height, encoding: 'float' }, rate: RATE });
    const green = new Float32Array(plan.render(n, spot)[1]!.buffer);
    plan.dispose();
    return green;
  };
  /** Middle of what is brighter than `over` among columns. */
  const middleOf = (green: Float32Array, from: number, to: number, over: number): { x: number; y: number } => {
    let [sum, x, y] = [0, 0, 0];
    for (let i = 0; i < green.length; i++) {
      const [column, row] = [i % width, Math.floor(i / width)];
      if (column < from || column >= to || row < height / 4 || row >= (3 * height) / 4) continue;
      const v = max(0, green[i]! - over);
      [sum, x, y] = [sum + v, x + v * (column + 0.5), y + v * (row + 0.5)];
    }
    return { x: x / sum, y: y / sum };
  };
  const spotOf = (green: Float32Array) => middleOf(green, 90, 150, 0.35);
  /** The perforation lies between the film's edge and the picture. */
  const holeOf = (green: Float32Array) => middleOf(green, 30, 58, 0.1);

  test.each([
    ['a weave', { trait: 'gate-weave', settings: { sideways: 0.8, upDown: 1, shake: 0.4 } }],
    ['knocks', { trait: 'knocks', settings: { count: 0, size: 4, corner: 0 }, events: { pinned: [{ id: 'mine', at: 0.1 }] } }],
  ] as [string, TraitUse][])('%s moves it as a whole: picture, perforations and all, as far as where the gate is closed', (_name, mover) => {
    const still = greens([opened], 3);
    let [most, farthest] = [0, 0];
    for (const n of [3, 4, 5, 9]) {
      const moved = greens([mover, opened], n);
      const [here, rest] = [spotOf(moved), spotOf(still)];
      const [hole, holeRest] = [holeOf(moved), holeOf(still)];
      for (const axis of ['x', 'y'] as const) most = max(most, abs(hole[axis] - holeRest[axis] - (here[axis] - rest[axis])));
      const closed = middleOf(greens([mover], n), 60, 180, 0.35);
      expect(abs(here.y - rest.y - scale * (closed.y - height / 2))).toBeLessThan(0.12);
      farthest = max(farthest, abs(here.y - rest.y));
    }
    expect(most).toBeLessThan(0.15);
    expect(farthest).toBeGreaterThan(0.4);
  });

  test('a slip carries it on by half a picture: the one after comes up, and the perforation goes along', () => {
    const high = 180;
    const tall = shotOf(high);
    const { rows, asked } = worn(lookOf([slip({ way: 'up', far: 1, length: 2 }), { ...opened, settings: { ...opened.settings, perforations: false } }]), high, 30, tall);
    expect([...asked].sort((a, b) => a - b)).toEqual([29, 30, 31]);
    // Half a pitch up, the line between this picture and the next stands in the middle of the gate.
    expect(rows(high / 2)[WIDE / 2]!).toBeLessThan(0.1);
    expect([high / 2 - 20, high / 2 + 20].map((y) => round(rows(y)[WIDE / 2]! * 1e3) / 1e3)).toEqual([levelOf(30), levelOf(31)]);
    const [rest, moved] = [[opened], [slip({ way: 'up', far: 1, length: 2 }), opened]].map((traits) => greens(traits, 30));
    const bright = (green: Float32Array, y: number): boolean => green[y * width + 44]! > 0.9;
    expect([bright(rest!, height / 2), bright(moved!, height / 2)]).toEqual([true, false]);
  });

  test('what acts only in part stays with the picture', () => {
    const partly: TraitUse = { trait: 'gate-weave', settings: { upDown: 1 }, strength: 0.5 };
    const hole = holeOf(greens([partly, opened], 5));
    expect(abs(hole.y - holeOf(greens([opened], 5)).y)).toBeLessThan(0.01);
    // A frame that is laid over only in part has the picture under it, which moves by itself.
    const weave: TraitUse = { trait: 'gate-weave', settings: { upDown: 3, sideways: 0, shake: 0 } };
    const [thin, whole] = [0.5, 1].map((strength) => holeOf(greens([weave, { ...opened, strength }], 5)));
    expect(abs(thin!.y - whole!.y)).toBeGreaterThan(0.2);
  });
});

test('what reads pictures beside takes the whole picture and names its domain', () => {
  const readers = traits.filter((t) => t.beside);
  expect(readers.map((t) => t.id).sort()).toEqual(['frame-slip', 'gate-frame', 'interlace']);
  for (const reader of readers) expect([reader.footprint, ['any', 'rgb'].includes(reader.domain)]).toEqual(['area', false]);
});

describe('a picture with others beside it', () => {
  const height = 120;
  const given = shotOf(height);
  const look = lookOf([
    { trait: 'cadence', settings: { rate: 18 } },
    { trait: 'grain' },
    { trait: 'splices', settings: { count: 600 } },
    slip({ trail: 0.5 }),
    { trait: 'gate-weave' },
    { trait: 'gate-frame', settings: { scale: 70, open: 1 } },
  ]);

  test('is the same bits alone, forward and backward', () => {
    const order = Array.from({ length: 14 }, (_, i) => i + 4);
    const plan = planOf(look, height);
    const forward = order.map((n) => plan.render(n, given));
    const backward = [...order].reverse().map((n) => plan.render(n, given));
    expect(backward.reverse()).toEqual(forward);
    plan.dispose();
    for (const n of [6, 9, 13]) expect(worn(look, height, n, given).planes).toEqual(forward[n - 4]);
  });

  test('is made from the pictures that are told, which lie in its window', () => {
    const plan = planOf(look, height);
    let [first, last] = [0, 0];
    for (let n = 0; n < 40; n++) {
      const told = plan.sourcePictures(n);
      expect([...worn(look, height, n, given).asked].sort((a, b) => a - b)).toEqual([...told].sort((a, b) => a - b));
      const window = plan.score.sourceWindow(n);
      expect(min(...told)).toBeGreaterThanOrEqual(window.first);
      expect(max(...told)).toBeLessThanOrEqual(window.last);
      expect(window.first).toBeGreaterThanOrEqual(first);
      expect(window.last).toBeGreaterThanOrEqual(last);
      expect(window.last - window.first).toBeLessThan(8);
      ({ first, last } = window);
    }
    plan.dispose();
  });

  test.each([2, 3, 4, 5])('is the same where the picture before use %d is kept', (index) => {
    const kept = new Kept(0, index, 'footage');
    for (const [n, scale] of [
      [9, 70],
      [9, 60],
      [10, 60],
      [10, 70],
    ] as const) {
      const changed = {
        ...look,
        lives: [{ ...look.lives[0]!, traits: look.lives[0]!.traits.map((u) => (u.trait === 'gate-frame' ? { ...u, settings: { scale, open: 1 } } : u)) }],
      };
      const plan = planOf(changed, height);
      const planes = plan.render(n, given, kept);
      plan.dispose();
      expect(planes).toEqual(worn(changed, height, n, given).planes);
    }
    kept.release();
  });

  test('is made anew where only a picture beside it has changed', () => {
    const kept = new Kept(0, 2, 'footage');
    // Noise that comes in with picture 10 alone: at 9 nothing of it is seen but on the picture beside.
    const changed = (amount: number): Look =>
      lookOf([{ trait: 'noise', act: 'stock', settings: { amount }, when: [{ from: 10 / RATE, to: 11 / RATE }] }, slip({ way: 'up' }), { trait: 'flicker' }]);
    const [a, b] = [0.1, 0.4].map((amount) => {
      const plan = planOf(changed(amount), height);
      const planes = plan.render(9, given, kept);
      plan.dispose();
      return planes;
    });
    expect(a).toEqual(worn(changed(0.1), height, 9, given).planes);
    expect(b).toEqual(worn(changed(0.4), height, 9, given).planes);
    expect(a).not.toEqual(b);
    kept.release();
  });
});
