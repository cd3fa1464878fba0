/** Damage of film and its machines, measured on greys and lines at 540 and 1080 lines. The carrier is Super 8, whose gate is 4.01 mm high. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import type { TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import { correlation, light, lookOf, mean, newEngine, painted, RGB16, rms, sameBits, wearFloat } from '../testing';
import { slipped } from './machine/frame-slip';

// Taken once: in hot loops each look-up of a global costs.
const { abs, exp, floor, hypot, log, log10, max, min, round } = Math;
const LINES = [540, 1080];
const RATE = 24;
const GATE = 4.01;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const within = (got: number, wanted: number, share: number): void => expect([wanted, abs(got / wanted - 1) < share ? 'as wanted' : got]).toEqual([wanted, 'as wanted']);
const worn = (uses: TraitUse[], frame: RawFrame, n = 0, seed = 5): Float32Array[] => wearFloat(engine, lookOf(uses, 'super8', seed), frame, n, RATE);
/** One event, at a quarter of a second: picture 6. */
const pinned = (trait: string, settings: TraitUse['settings'], event: { x?: number; y?: number; length?: number } = {}): TraitUse => ({
  trait,
  settings,
  events: { pinned: [{ id: 'mine', at: 0.25, ...event }] },
});
const greys = new Map<string, RawFrame>();
function grey(width: number, height: number, value = 0.6): RawFrame {
  const key = [width, height, value].join();
  if (!greys.has(key))
    greys.set(
      key,
      painted(width, height, () => value),
    );
  return greys.get(key)!;
}
const least = (plane: Float32Array): number => plane.reduce((a, v) => min(a, v), Infinity);
/** Where a plane is not what it was: the box about it in pixels, and how much is covered, in pixels. */
function covered(plane: Float32Array, width: number, value: number, to: number): { width: number; height: number; area: number } {
  let [left, right, top, bottom, area] = [Infinity, -1, Infinity, -1, 0];
  for (let i = 0; i < plane.length; i++) {
    const share = (plane[i]! - value) / (to - value);
    if (share < 0.02) continue;
    area += share;
    const [x, y] = [i % width, floor(i / width)];
    left = min(left, x);
    right = max(right, x);
    top = min(top, y);
    bottom = max(bottom, y);
  }
  return { width: right - left + 1, height: bottom - top + 1, area };
}

describe('hairs', () => {
  const still = { count: 0, curl: 0, bright: 0, opacity: 1, soft: 0 };
  /** Length of a straight hair in mm. */
  const long = (height: number, length: number, seed: number): number => {
    const box = covered(worn([pinned('hairs', { ...still, length, width: 30 }, { x: 0.5, y: 0.5 })], grey(height, height), 6, seed)[0]!, height, 0.6, 0.04);
    return (hypot(box.width, box.height) * GATE) / height;
  };

  test.each(LINES)('are as long as is set, in the middle of many, at %d lines', (height) => {
    const lengths = Array.from({ length: 16 }, (_, seed) => long(height, 0.8, seed));
    within(exp(mean(lengths.map(log))), 0.8, 0.18);
    // Lognormal: each has its own.
    expect(rms(lengths.map(log))).toBeGreaterThan(0.2);
    within(long(height, 1.2, 3) / long(height, 0.6, 3), 2, 0.06);
  });

  test('the same hair is as long at any size', () => within(long(540, 1, 4), long(1080, 1, 4), 0.03));

  test('cover as much as they are wide', () => {
    const area = (width: number) => covered(worn([pinned('hairs', { ...still, length: 1, width }, { x: 0.5, y: 0.5 })], grey(540, 540), 6)[0]!, 540, 0.6, 0.04).area;
    within(area(60) / area(30), 2, 0.1);
  });

  test('bend, lie for their pictures and are gone', () => {
    const at = (n: number, curl: number) => worn([pinned('hairs', { ...still, curl, length: 1, held: 3 }, { x: 0.5, y: 0.5 })], grey(270, 270), n)[0]!;
    expect(sameBits([at(6, 0.8)], [at(6, 0)])).toBe(false);
    expect(sameBits([at(8, 0.5)], [at(6, 0.5)])).toBe(true);
    for (const n of [5, 9]) expect(max(...at(n, 0.5).map((v) => abs(v - 0.6)))).toBeLessThan(1e-4);
  });
});

describe('filaments', () => {
  const threads = (n: number, settings: TraitUse['settings'], height = 540): Float32Array =>
    worn([{ trait: 'filaments', settings: { dark: 0, contrast: 1, ...settings } }], grey(height, height, 0.2), n)[0]!;

  test.each(LINES)('cover in proportion to their number and width, at %d lines', (height) => {
    // Of a pixel covered in part the light of both parts is seen, so areas are those of light.
    const lightly = (n: number, settings: TraitUse['settings']): Float32Array => threads(n, settings, height).map(light);
    const area = (settings: TraitUse['settings']): number => mean([1, 2, 3, 4].map((n) => covered(lightly(n, settings), height, light(0.2), light(0.95)).area)) / height ** 2;
    within(area({ amount: 120 }) / area({ amount: 60 }), 2, 0.2);
    within(area({ amount: 60, width: 12 }) / area({ amount: 60, width: 6 }), 2, 0.12);
  });

  test('are others on each picture, or for as long as the rate says', () => {
    expect(abs(correlation(threads(1, {}), threads(2, {})))).toBeLessThan(0.1);
    expect(sameBits([threads(2, { rate: 2 })], [threads(10, { rate: 2 })])).toBe(true);
    expect(sameBits([threads(2, { rate: 2 })], [threads(14, { rate: 2 })])).toBe(false);
  });
});

describe('what lies on the film', () => {
  /** Share of a grey picture's light that is taken or given. */
  const taken = (use: TraitUse, height: number, level: number): number => {
    const [with_, without] = [[use], []].map((uses) => mean([1, 2, 3].map((n) => mean(worn(uses, grey(height, height, level), n)[1]!.map(light)))));
    return with_! / without! - 1;
  };
  const kinds: [string, TraitUse][] = [
    ['dark dust', { trait: 'dust', settings: { count: 40, bright: 0, size: 25 } }],
    ['bright dust', { trait: 'dust', settings: { count: 40, bright: 1, size: 25 } }],
    ['hairs', { trait: 'hairs', settings: { count: 4000, bright: 0, width: 8 } }],
    ['filaments', { trait: 'filaments', settings: { amount: 200, contrast: 1, dark: 1, width: 4 } }],
    ['scratches', { trait: 'scratches', settings: { count: 900, depth: 1, dark: 0, width: 6 } }],
  ];

  test.each(kinds)('%s take or give the same light at 540 and at 1080 lines, finer than a pixel or not', (_name, use) => {
    const level = 0.4;
    expect(abs(taken(use, 540, level))).toBeGreaterThan(3e-4);
    within(taken(use, 540, level), taken(use, 1080, level), 0.1);
  });

  test.each(kinds)('%s are the same on densities as on a display’s signals', (_name, use) => {
    // Hardly changes anything, but leaves the picture in density.
    const stock: TraitUse = { trait: 'fade', settings: { stain: 0.001, cyan: 0, magenta: 0, yellow: 0 } };
    const [onSignals, onDensities] = [[use], [stock, use]].map((uses) => worn(uses, grey(270, 270, 0.5), 3));
    expect(onDensities!.map((plane, c) => max(...plane.map((v, i) => abs(v - onSignals![c]![i]!))))).toEqual([0, 1, 2].map(() => expect.closeTo(0, 3)));
  });
});

describe('stains', () => {
  test.each(LINES)('are as dense as is set where they are thickest, at %d lines', (height) => {
    for (const kind of ['water', 'mould', 'finger']) {
      const plane = worn([pinned('stains', { count: 0, kind, density: 0.4, size: 1.6 }, { x: 0.5, y: 0.5, length: 0.2 })], grey(height, height), 6)[2]!;
      const densest = -log10(light(least(plane)) / light(0.6));
      expect(densest).toBeLessThan(0.404);
      expect(densest).toBeGreaterThan(0.3);
    }
  });

  test('grow with the size, in millimetres on the film', () => {
    const wide = (size: number, height: number): number =>
      (covered(worn([pinned('stains', { count: 0, kind: 'water', size }, { x: 0.5, y: 0.5 })], grey(height, height), 6)[2]!, height, 0.6, 0).width * GATE) / height;
    within(wide(2, 540) / wide(1, 540), 2, 0.06);
    within(wide(1.5, 1080), wide(1.5, 540), 0.03);
    expect(wide(1.5, 540)).toBeGreaterThan(0.5);
    expect(wide(1.5, 540)).toBeLessThan(4);
  });

  test('eaten away, they are brighter', () =>
    expect(max(...worn([pinned('stains', { count: 0, density: -0.5 }, { x: 0.5, y: 0.5 })], grey(270, 270), 6)[2]!)).toBeGreaterThan(0.7));
});

describe('blotches', () => {
  test.each(LINES)('have the RMS of density that is set, in the layer hit most, at %d lines', (height) => {
    const width = height * 2;
    // Over many patches and pictures.
    const all = [0, 30, 60, 90, 120, 150].map((n) => {
      const plane = worn([{ trait: 'blotches', settings: { amount: 0.1, size: 12, renewed: 1 } }], grey(width, height), n)[2]!;
      const some = Array.from({ length: 4000 }, (_, i) => -log10(light(plane[floor((i + 0.5) * (plane.length / 4000))]!)));
      return rms(some);
    });
    within(mean(all), 0.1, 0.1);
  });

  test('the drifting part stays as it moves; the renewed part is new on each picture', () => {
    const at = (n: number, renewed: number) => worn([{ trait: 'blotches', settings: { amount: 0.1, size: 30, drift: 0.5, renewed } }], grey(270, 270), n)[2]!;
    expect(correlation(at(3, 0), at(4, 0))).toBeGreaterThan(0.95);
    expect(abs(correlation(at(3, 1), at(4, 1)))).toBeLessThan(0.5);
  });
});

describe('burn', () => {
  const fire = (settings: TraitUse['settings'] = {}): TraitUse => pinned('burn', { rate: 0, ...settings }, { x: 0.5, y: 0.5, length: 2 });
  const bare = (frame: RawFrame, n: number): number => worn([fire()], frame, n)[1]!.reduce((sum, v) => sum + Number(v > 0.99), 0) / (frame.width * frame.height);

  test.each(LINES)('opens a hole that only grows, to light beyond white, at %d lines', (height) => {
    const frame = grey(height, height, 0.4);
    const holes = [6, 20, 30, 40, 50, 53].map((n) => bare(frame, n));
    expect(holes[0]).toBe(0);
    for (let i = 2; i < holes.length; i++) expect(holes[i]!).toBeGreaterThan(holes[i - 1]!);
    expect(holes.at(-1)!).toBeGreaterThan(0.7);
    // As large a share of the picture at any size.
    within(holes[3]!, bare(grey(270, 270, 0.4), 40), 0.1);
  });

  test('browns, then chars what is about the hole', () => {
    const [width, height] = [480, 360];
    const [r, g, b] = worn([fire({ bubbles: 0 })], grey(width, height), 32);
    const row = height / 2;
    const at = (x: number): number[] => [r!, g!, b!].map((p) => p[row * width + x]!);
    // From the left edge inward: clean, brown, char, light.
    const pixels = Array.from({ length: width / 2 }, (_, x) => at(x));
    expect(pixels[2]!.every((v) => abs(v - 0.6) < 0.01)).toBe(true);
    const brown = pixels.findIndex(([red, green, blue]) => red! > green! + 0.08 && green! > blue! + 0.04);
    const hole = pixels.findIndex((v) => v[1]! > 0.99);
    const char = pixels.slice(0, hole).findIndex((v) => max(...v) < 0.25);
    expect(brown).toBeGreaterThan(0);
    expect(hole).toBeGreaterThan(brown);
    expect(char).toBeGreaterThan(brown);
  });

  test('draws the picture in, as far as is set, and leaves it as it was before and after', () => {
    const [width, height] = [320, 240];
    const frame = painted(width, height, (x) => (abs(x - 260) < 4 ? 0.9 : 0.3));
    const lineAt = (pull: number): number => {
      const plane = worn([fire({ pull, bubbles: 0 })], frame, 30)[0]!;
      const row = Array.from({ length: 80 }, (_, i) => max(0, plane[120 * width + 235 + i]! - 0.35));
      return 235 + row.reduce((sum, v, i) => sum + v * (i + 0.5), 0) / row.reduce((a, v) => a + v, 0);
    };
    expect(abs(lineAt(0) - 260)).toBeLessThan(3);
    expect(lineAt(0.8)).toBeLessThan(lineAt(0) - 4);
    const clean = worn([], frame);
    for (const n of [5, 54]) expect(sameBits(worn([fire()], frame, n), clean)).toBe(true);
  });
});

describe('cue dots', () => {
  const times = (settings: TraitUse['settings'], to: number): number[] => {
    const plan = new Plan(engine, lookOf([{ trait: 'cue-dots', settings }]), { source: grey(16, 16), target: { width: 16, height: 16, encoding: RGB16 }, rate: RATE });
    try {
      return plan.score.events(0, to).map((e) => round(e.at * 100) / 100);
    } finally {
      plan.dispose();
    }
  };

  test('come twice, eight seconds apart, once or again and again', () => {
    expect(times({ first: 1.5 }, 600)).toEqual([1.5, 9.5]);
    expect(times({ first: 2, gap: 7, every: 20 }, 50)).toEqual([2, 9, 22, 29, 42, 49]);
  });

  test.each(LINES)('are on for four pictures, upper right, as high as is set, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    const mark = (n: number) => {
      const plane = worn([{ trait: 'cue-dots', settings: { first: 1, shape: 'punched', size: 6 } }], grey(width, height, 0.3), n)[0]!;
      const box = covered(plane, width, 0.3, 1);
      const i = plane.findIndex((v) => v > 0.6);
      return { ...box, x: (i % width) / width, y: i / width / height };
    };
    expect([23, 24, 27, 28].map((n) => mark(n).area > 10)).toEqual([false, true, true, false]);
    const { x, y, height: high } = mark(24);
    within((100 * high) / height, 6, 0.08);
    expect(x).toBeGreaterThan(0.88);
    expect(y).toBeLessThan(0.14);
  });
});

describe('frame slip', () => {
  /** Where a bright line across the middle of the picture stands, in shares of the height. */
  const lineAt = (height: number, n: number, settings: TraitUse['settings']): { at: number; dark: number } => {
    const frame = painted(16, height, (_x, y) => (abs(y - height / 2) < height / 90 ? 0.9 : 0.4));
    const plane = worn([pinned('frame-slip', { count: 0, trail: 0, way: 'up', ...settings })], frame, n)[0]!;
    const down = Array.from({ length: height }, (_, y) => plane[y * 16 + 8]!);
    const bright = down.map((v) => max(0, v - 0.45));
    return { at: bright.reduce((s, v, y) => s + v * (y + 0.5), 0) / bright.reduce((s, v) => s + v, 1e-9) / height, dark: down.filter((v) => v < 0.2).length / height };
  };

  test.each(LINES)('goes as far as is set, with the frame line through the picture, at %d lines', (height) => {
    const pitch = 4.234 / GATE;
    const stands = [6, 7, 8, 9, 10, 11, 12].map((n) => lineAt(height, n, { far: 0.3, length: 0.5 }));
    const farthest = min(...stands.map((s) => s.at));
    // At pictures of 1/24 s the farthest may fall between two.
    within(0.5 - farthest, 0.3 * pitch, 0.1);
    expect(max(...stands.map((s) => s.dark))).toBeGreaterThan(0.9 * (pitch - 1));
    expect(stands[0]!.at).toBeCloseTo(0.5, 3);
  });

  test('down goes the other way, and without its line no black is seen', () => {
    const at = lineAt(270, 8, { far: 0.3, way: 'down', line: false });
    expect(at.at).toBeGreaterThan(0.6);
    expect(at.dark).toBe(0);
  });

  test.each(['up', 'down'])('going %s it leaves a trail, as far as is set', (way) => {
    const frame = painted(16, 270, (_x, y) => (abs(y - 135) < 3 ? 0.9 : 0.1));
    const wide = (trail: number): number =>
      worn([pinned('frame-slip', { count: 0, far: 0.6, length: 0.5, way, trail })], frame, 8)[0]!.filter((v, i) => i % 16 === 8 && v > 0.13).length;
    expect(wide(0)).toBeLessThan(10);
    expect(wide(0.2)).toBeGreaterThan(wide(0) + 3);
    expect(wide(0.4)).toBeGreaterThan(wide(0.2) + 3);
  });

  test('comes back to rest exactly', () => {
    const frame = painted(32, 90, (x, y) => ((x * 5 + y * 11) % 64) / 64);
    const clean = worn([], frame);
    for (const n of [5, 18, 19]) expect(sameBits(worn([pinned('frame-slip', { count: 0, far: 0.7, length: 0.5 })], frame, n), clean)).toBe(true);
    expect(sameBits(worn([pinned('frame-slip', { count: 0, far: 0.7, length: 0.5 })], frame, 9), clean)).toBe(false);
  });

  test('by whole pictures it rolls on to the next, which is at rest', () => {
    expect([0, 1].map((t) => slipped(3, t))).toEqual([0, 0]);
    expect(slipped(3, 0.999)).toBeCloseTo(3, 4);
    for (let t = 0.05; t < 1; t += 0.05) expect(slipped(2, t)).toBeGreaterThan(slipped(2, t - 0.05));
    expect(abs(slipped(0.5, 0.9999))).toBeLessThan(0.01);
  });
});

describe('knocks', () => {
  /** How far a spot has moved at a picture, in hundredths of the height. */
  const moved = (height: number, n: number, settings: TraitUse['settings']): number => {
    const frame = painted(height, height, (x, y) => max(0, min(1, height / 40 - hypot(x - height / 2, y - height / 2) + 0.5)));
    const plane = worn([pinned('knocks', { count: 0, corner: 0, ...settings })], frame, n)[0]!;
    let [sum, x, y] = [0, 0, 0];
    plane.forEach((v, i) => {
      if (v < 0.05) return;
      sum += v;
      x += v * ((i % height) + 0.5);
      y += v * (floor(i / height) + 0.5);
    });
    return (100 * hypot(x / sum - height / 2, y / sum - height / 2)) / height;
  };

  test.each(LINES)('throw the picture as far as is set, in the middle of many, at %d lines', (height) => {
    // 0.7 of the size and, drawn for each, a bell more.
    const far = moved(height, 6, { size: 4 });
    expect(far).toBeGreaterThan(4 * 0.65);
    expect(far).toBeLessThan(4 * 1.8);
    within(moved(height, 6, { size: 2 }), far / 2, 0.05);
  });

  test('settle, and leave the picture as it was', () => {
    const settings = { size: 6, settles: 0.2 };
    const late = max(...[22, 23, 24, 25].map((n) => moved(270, n, settings)));
    const early = max(...[6, 7, 8, 9].map((n) => moved(270, n, settings)));
    // Sixteen pictures on: exp(-0.67 / 0.2) is 3.6 %.
    expect(late / early).toBeLessThan(0.08);
    expect(moved(270, 31, settings)).toBeLessThan(1e-3);
  });

  test('bare no edge, whole or about a corner', () => {
    const frame = grey(160, 120, 0.5);
    for (const corner of [0, 1]) for (const n of [6, 7, 8]) expect(min(...worn([pinned('knocks', { count: 0, size: 15, corner })], frame, n)[0]!)).toBeGreaterThan(0.49);
  });
});

describe('gate hair', () => {
  const hair = (height: number, settings: TraitUse['settings'], n = 0) =>
    worn([{ trait: 'gate-hair', settings: { curl: 0, trembles: 0, soft: 0, opacity: 1, width: 40, ...settings } }], grey(height, height), n)[0]!;

  test.each(LINES)('hangs in from its edge as long as is set, at %d lines', (height) => {
    for (const edge of ['bottom', 'top', 'left', 'right']) {
      const plane = hair(height, { edge, length: 1, place: 0.5 });
      const box = covered(plane, height, 0.6, 0.02);
      within((hypot(box.width, box.height) * GATE) / height, 1, 0.06);
      const on = (i: number): boolean => plane[i]! < 0.3;
      const rooted = {
        bottom: (i: number) => on((height - 1) * height + i),
        top: (i: number) => on(i),
        left: (i: number) => on(i * height),
        right: (i: number) => on(i * height + height - 1),
      }[edge]!;
      expect(Array.from({ length: height }, (_, i) => i).some(rooted)).toBe(true);
    }
  });

  test('trembles from picture to picture, or stays', () => {
    expect(sameBits([hair(270, { trembles: 0.5 }, 1)], [hair(270, { trembles: 0.5 }, 2)])).toBe(false);
    expect(sameBits([hair(270, {}, 1)], [hair(270, {}, 2)])).toBe(true);
  });
});
