/**
 * Film traits measured with ramps, patches and points of light, in their own units, at 540 and 1080 lines. The carrier is Super 8, whose
 * gate is 4.01 mm high.
 */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { TraitUse } from '../look/look';
import { light, lookOf, mean, newEngine, painted, signalFrame, wearFloat } from '../testing';
import { STOCKS } from './stock/stocks';

// Taken once: in hot loops each look-up of a global costs.
const { abs, floor, hypot, log10, log2, max, min, round } = Math;
const LINES = [540, 1080];
const GATE = 4010;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const near = (got: number, wanted: number, off: number): void => expect(abs(got - wanted)).toBeLessThan(off);
const density = (v: number): number => -log10(max(1e-9, light(v)));
const GREY = 0.18 ** (1 / 2.4);

/** Patches of colours, worn: one colour each. */
function patches(uses: TraitUse[], colours: readonly (readonly [number, number, number])[]): number[][] {
  const frame = painted(colours.length * 8, 16, (x) => colours[floor(x / 8)]!);
  const planes = wearFloat(engine, lookOf(uses), frame);
  return colours.map((_, i) => planes.map((p) => p[i * 8 + 4]!));
}
const greys = (...values: number[]) => values.map((v) => [v, v, v] as const);

describe('tone', () => {
  const overWhite: TraitUse = { trait: 'exposure', settings: { stops: 3 } };

  test('no highlight is clipped: three stops over white it still rises', () => {
    const values = Array.from({ length: 40 }, (_, i) => 0.4 + (0.6 * i) / 39);
    const out = patches([overWhite, { trait: 'tone' }], greys(...values)).map((c) => c[0]!);
    for (let i = 1; i < out.length; i++) expect(out[i]! - out[i - 1]!).toBeGreaterThan(1e-5);
    expect(out.at(-1)!).toBeLessThanOrEqual(0.98);
  });

  test.each(LINES)('the black floor and the white ceiling hold on a ramp at %d lines', (height) => {
    const frame = signalFrame('ramp', round((height * 16) / 9), height);
    const part = { ...frame, height: 8, planes: frame.planes.map((p) => p.subarray(0, frame.width * 16)) };
    const [plane] = wearFloat(engine, lookOf([{ trait: 'tone', settings: { floor: (100 * 25) / 255, ceiling: 90 } }]), part);
    expect(min(...plane!)).toBeGreaterThanOrEqual(25 / 255 - 1e-4);
    expect(max(...plane!)).toBeLessThanOrEqual(0.9 + 1e-4);
  });

  test('mid-grey stays and the slope about it is the contrast', () => {
    const at = [GREY * 0.96, GREY, GREY * 1.04];
    const [low, mid, high] = patches([{ trait: 'tone', settings: { contrast: 1.4, floor: 0, ceiling: 100, toe: 0, shoulder: 0 } }], greys(...at)).map((c) => c[0]!);
    near(mid!, GREY, 0.002);
    near((density(low!) - density(high!)) / (density(at[0]!) - density(at[2]!)), 1.4, 0.03);
  });
});

describe('dyes', () => {
  const COLOURS = [
    [0.7, 0.2, 0.2],
    [0.2, 0.6, 0.25],
    [0.2, 0.3, 0.7],
  ] as const;

  test.each(Object.keys(STOCKS))('%s: mid-grey keeps its lightness, and its colours are its own', (stock) => {
    const use: TraitUse = { trait: 'dyes', settings: { stock } };
    const [mid, black, white] = patches([use], greys(GREY, 0.02, 1));
    near(0.2126 * mid![0]! + 0.7152 * mid![1]! + 0.0722 * mid![2]!, GREY, 0.05);
    expect(max(...mid!) - min(...mid!)).toBeLessThan(0.14);
    expect(max(...black!)).toBeLessThan(0.2);
    expect(min(...white!)).toBeGreaterThan(0.7);
    const out = patches([use], COLOURS);
    const silver = stock === 'panchro' || stock === 'orthochro';
    const spread = (c: number[]): number => max(...c) - min(...c);
    for (const c of out) expect(spread(c) < 0.08).toBe(silver);
  });

  test('no two stocks are alike', () => {
    const all = Object.keys(STOCKS).map((stock) => patches([{ trait: 'dyes', settings: { stock } }], [...COLOURS, ...greys(0.3, 0.7)]).flat());
    for (let i = 0; i < all.length; i++) for (let j = 0; j < i; j++) expect(max(...all[i]!.map((v, n) => abs(v - all[j]![n]!)))).toBeGreaterThan(0.04);
  });

  test('orthochromatic film is blind to red', () => {
    const [ortho] = patches([{ trait: 'dyes', settings: { stock: 'orthochro' } }], [COLOURS[0]]);
    const [pan] = patches([{ trait: 'dyes', settings: { stock: 'panchro' } }], [COLOURS[0]]);
    expect(ortho![1]!).toBeLessThan(pan![1]! - 0.15);
  });
});

describe('process', () => {
  const of = (kind: string, colours: readonly (readonly [number, number, number])[]) => patches([{ trait: 'process', settings: { kind } }], colours);

  test.each(['plain', 'yellow', 'red', 'green'])('%s is neutral, and its filter decides what is bright', (kind) => {
    const [red, green, blue, grey] = of(kind, [
      [0.7, 0.15, 0.1],
      [0.15, 0.6, 0.15],
      [0.1, 0.2, 0.7],
      [GREY, GREY, GREY],
    ]);
    for (const c of [red!, green!, blue!, grey!]) near(max(...c), min(...c), 1e-4);
    near(grey![0]!, GREY, 0.01);
    if (kind === 'red') expect(red![0]!).toBeGreaterThan(green![0]! + 0.1);
    if (kind === 'green') expect(green![0]!).toBeGreaterThan(red![0]! + 0.1);
    if (kind === 'yellow') expect(blue![0]!).toBeLessThan(of('plain', [[0.1, 0.2, 0.7]])[0]![0]! - 0.05);
  });

  test('silver left in adds contrast and takes colour', () => {
    const [dark, bright, colour] = of('silver', [
      [0.3, 0.3, 0.3],
      [0.7, 0.7, 0.7],
      [0.6, 0.35, 0.3],
    ]);
    const slope = (density(dark![0]!) - density(bright![0]!)) / (density(0.3) - density(0.7));
    near(slope, 0.88 * 1.5, 0.03);
    const ratio = (c: readonly number[]): number => density(min(...c)) - density(max(...c));
    expect(ratio(colour!) / slope).toBeLessThan(0.9 * ratio([0.6, 0.35, 0.3]));
  });

  test('a negative turns bright and dark about', () => {
    const out = of('negative', greys(0.1, 0.3, 0.5, 0.7, 0.9)).map((c) => c[1]!);
    for (let i = 1; i < out.length; i++) expect(out[i]!).toBeLessThan(out[i - 1]!);
    near(density(out[2]!), 1.75 - density(0.5), 0.01);
  });

  test('two colours hold no blue: it becomes what blue-green and orange can make', () => {
    const out = of('two', [
      [0.2, 0.25, 0.7],
      [0.7, 0.3, 0.2],
      [0.25, 0.55, 0.5],
    ]);
    for (const [, g, b] of out) expect(abs(g! - b!)).toBeLessThan(0.12);
    expect(out[1]![0]!).toBeGreaterThan(out[1]![1]! + 0.2);
  });

  test('sepia is densest against blue', () => {
    const [r, g, b] = of('sepia', greys(0.5))[0]!;
    expect(r! > g! && g! > b!).toBe(true);
  });

  test('three-strip dyes part the colours', () => {
    const [c] = of('strips', [[0.6, 0.4, 0.35]]);
    expect(density(min(...c!)) - density(max(...c!))).toBeGreaterThan(1.3 * (density(0.35) - density(0.6)));
  });
});

describe('halation', () => {
  /** A lamp three pixels wide on black, its picture and the distance at which the halo has half its strength. */
  function halo(height: number, settings: Record<string, number>) {
    const width = height;
    const frame = painted(width, height, (x, y) => (hypot(x - width / 2, y - height / 2) < 2 ? 1 : 0));
    const planes = wearFloat(engine, lookOf([{ trait: 'halation', settings }]), frame);
    const row = (plane: number): number[] => Array.from({ length: width / 2 - 8 }, (_, i) => light(planes[plane]![(height / 2) * width + width / 2 + 6 + i]!));
    return { red: row(0), green: row(1), blue: row(2) };
  }

  test.each(LINES)('has half its strength at the radius, at %d lines', (height) => {
    const pixel = GATE / height;
    const radius = 140;
    const { red } = halo(height, { from: 1, radius, amount: 1, orange: 0 });
    // Of a bell: the ratio at two distances gives its width.
    const [a, b] = [floor(60 / pixel), floor(160 / pixel)];
    const [xa, xb] = [(a + 6) * pixel, (b + 6) * pixel];
    const sigma = Math.sqrt((xb * xb - xa * xa) / (2 * Math.log(red[a]! / red[b]!)));
    near((sigma * 2.3548) / 2 / radius, 1, 0.08);
  });

  test('is red before orange, and never blue', () => {
    const { red, green, blue } = halo(540, { from: 1, radius: 140, amount: 1, orange: 1 });
    expect(red[10]!).toBeGreaterThan(3 * green[10]!);
    expect(max(...blue)).toBeLessThan(1e-6);
    // Of light that is only just enough there is red alone.
    const weak = painted(200, 200, (x, y) => (hypot(x - 100, y - 100) < 20 ? 0.82 : 0));
    const [r, g] = wearFloat(engine, lookOf([{ trait: 'halation', settings: { from: 1, radius: 100, amount: 1, orange: 1 } }]), weak);
    expect(r![100 * 200 + 125]!).toBeGreaterThan(0.02);
    expect(g![100 * 200 + 125]!).toBeLessThan(0.001);
  });

  test('leaves a face at normal exposure alone', () => {
    const face = painted(160, 90, (x, y) => (hypot(x - 80, y - 45) < 30 ? [0.72, 0.55, 0.47] : 0.35));
    const [r] = wearFloat(engine, lookOf([{ trait: 'halation' }]), face);
    const [clean] = wearFloat(engine, lookOf([]), face);
    expect(max(...Array.from(r!, (v, i) => abs(v - clean![i]!)))).toBeLessThan(1e-3);
  });
});

describe('years', () => {
  test('fading takes its share of each dye; the stain is that of the base', () => {
    const [c] = patches([{ trait: 'fade', settings: { cyan: 0.5, magenta: 0.1, yellow: 0.3, stain: 0 } }], greys(0.3));
    [0.5, 0.1, 0.3].forEach((lost, i) => near(density(c![i]!) / density(0.3), 1 - lost, 0.01));
    const [white] = patches([{ trait: 'fade', settings: { cyan: 0, magenta: 0, yellow: 0, stain: 1 } }], greys(1));
    [0.02, 0.12, 0.32].forEach((d, i) => near(density(white![i]!), d, 0.005));
  });

  test('a flash lays its light over all at once and is gone after its pictures', () => {
    const frame = painted(16, 16, () => 0);
    const uses: TraitUse[] = [{ trait: 'flash', settings: { rate: 0, length: 4, amount: 1, colour: [1, 1, 1] }, events: { pinned: [{ id: 'mine', at: 0.5 }] } }];
    const out = Array.from({ length: 24 }, (_, n) => light(wearFloat(engine, lookOf(uses), frame, n, 24)[0]![5]!));
    expect(out.slice(0, 12).every((v) => v < 1e-4)).toBe(true);
    expect(abs(log2(out[12]! / 0.18) - 1)).toBeLessThan(0.5);
    expect(out[13]!).toBeLessThan(out[12]!);
    expect(out.slice(16).every((v) => v < 1e-4)).toBe(true);
  });

  /** Where along a picture a pinned scratch is seen, and how wide: the light it lays on mid-grey, row by row. */
  function scratched(height: number, settings: Record<string, number>, n = 3, seed = 5): { x: number[]; wide: number[] } {
    const width = 120;
    const frame = painted(width, height, () => 0.2);
    const use: TraitUse = { trait: 'scratches', settings: { count: 0, dark: 0, depth: 1, ...settings }, events: { pinned: [{ id: 'mine', at: 0, x: 0.5, length: 2 }] } };
    const [plane] = wearFloat(engine, lookOf([use], 'super8', seed), frame, n, 24);
    const [x, wide]: [number[], number[]] = [[], []];
    for (let y = 0; y < height; y++) {
      const row = Array.from({ length: width }, (_, i) => max(0, light(plane![y * width + i]!) - light(0.2)));
      const sum = row.reduce((a, b) => a + b);
      if (sum < 0.02) continue;
      x.push(row.reduce((a, v, i) => a + v * (i + 0.5), 0) / sum);
      wide.push(sum);
    }
    return { x, wide };
  }

  test.each(LINES)('a scratch runs along the film, unbroken, as wide as it is set, at %d lines', (height) => {
    const narrow = scratched(height, { width: 30, broken: 0, wander: 0 });
    expect(narrow.x.length / height).toBeGreaterThan(0.97);
    near(mean(narrow.x), 60, 0.6);
    const double = scratched(height, { width: 60, broken: 0, wander: 0 });
    near(mean(double.wide) / mean(narrow.wide), 2, 0.15);
    // Each has a width of its own, drawn about what is set; that of this one is the same at both sizes.
    expect((mean(narrow.wide) * GATE) / height / 0.74).toBeGreaterThan(12);
    expect((mean(narrow.wide) * GATE) / height / 0.74).toBeLessThan(75);
  });

  test('it is broken up over about the share that is set', () => {
    const firmest = [0, 1, 2, 3, 4, 5, 6].map((seed) => max(...scratched(270, { width: 60, broken: 0, wander: 0 }, 9, seed).wide));
    const shares = [0.2, 0.5, 0.8].map((broken) => {
      let [seen, all] = [0, 0];
      for (const seed of [1, 2, 3, 4, 5, 6])
        for (const n of [2, 9, 16, 23]) {
          const { wide } = scratched(270, { width: 60, broken, wander: 0 }, n, seed);
          // It thins and swells; where it is seen at all it touches.
          const half = 0.15 * firmest[seed]!;
          seen += wide.filter((v) => v > half).length;
          all += 270;
        }
      return 1 - seen / all;
    });
    shares.forEach((share, i) => near(share, [0.2, 0.5, 0.8][i]!, 0.13));
  });

  test('its colour goes by its depth: pale, yellow, green, clear; on silver film there is none', () => {
    const frame = painted(96, 64, () => 0.3);
    const through = (depth: number, coloured: number): number[] => {
      const use: TraitUse = {
        trait: 'scratches',
        settings: { count: 0, dark: 0, broken: 0, wander: 0, width: 150, depth, coloured },
        events: { pinned: [{ id: 'mine', at: 0, x: 0.5, length: 2 }] },
      };
      // Depths differ from scratch to scratch; over many seeds their mean is what is set.
      const all = Array.from({ length: 24 }, (_, seed) => wearFloat(engine, lookOf([use], 'super8', seed), frame, 3, 24).map((p) => p[32 * 96 + 48]!));
      return [0, 1, 2].map((c) => mean(all.map((v) => v[c]!)));
    };
    const [pale, yellow, green, clear] = [0, 0.55, 0.75, 1.4].map((depth) => through(depth, 1));
    expect(max(...pale!) - min(...pale!)).toBeLessThan(0.07);
    expect(yellow![0]! - yellow![2]!).toBeGreaterThan(0.11);
    expect(green![1]!).toBeGreaterThan(max(green![0]!, green![2]!));
    expect(min(...clear!)).toBeGreaterThan(max(...pale!) + 0.1);
    const silver = through(0.75, 0);
    near(max(...silver), min(...silver), 1e-4);
  });

  test('runs about the place that is set; its breaks run as fast as is set', () => {
    const frame = painted(240, 135, () => 0.2);
    const all = (settings: TraitUse['settings'], n: number): Float32Array =>
      wearFloat(engine, lookOf([{ trait: 'scratches', settings: { count: 1200, dark: 0, depth: 1, width: 30, wander: 0, ...settings } }]), frame, n, 24)[0]!;
    const places: number[] = [];
    for (const n of [30, 60, 90]) all({ across: 0.25, spread: 0.2 }, n).forEach((v, i) => v > 0.35 && places.push(((i % 240) + 0.5) / 240));
    expect(places.length).toBeGreaterThan(50);
    near(mean(places), 0.25, 0.05);
    expect(min(...places.slice(0, 5000))).toBeGreaterThan(0.13);
    expect(max(...places.slice(0, 5000))).toBeLessThan(0.37);
    const still = (speed: number, n: number) => JSON.stringify(scratched(270, { width: 60, broken: 0.5, wander: 0, speed }, n).x.length);
    expect(still(0, 9)).toBe(still(0, 14));
    expect(still(1, 9)).not.toBe(still(1, 14));
  });

  test('another seed is another scratch, and it does not come again every second', () => {
    const at = (n: number, seed: number): string => JSON.stringify(scratched(270, { width: 60, broken: 0.5, wander: 1 }, n, seed).x.map((v) => round(v * 10)));
    expect(at(3, 1)).not.toBe(at(3, 2));
    expect(at(3, 1)).not.toBe(at(27, 1));
  });
});

describe('lens and screen', () => {
  test.each(LINES)('a vignette takes its stops from the corners and nothing from the middle, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    for (const roundness of [0, 1]) {
      const [plane] = wearFloat(
        engine,
        lookOf([{ trait: 'vignette', settings: { amount: 1.5, round: roundness } }]),
        painted(width, height, () => 0.8),
      );
      near(log2(light(plane![0]!) / light(0.8)), -1.5, 0.03);
      near(plane![(height / 2) * width + width / 2]!, 0.8, 0.001);
    }
  });

  test.each(['vignette', 'flicker'])('%s takes the same light whichever domain the picture is in', (trait) => {
    const frame = painted(96, 72, (x, y) => 0.15 + (0.7 * (x + y)) / 168);
    const use: TraitUse = { trait, settings: trait === 'flicker' ? { amount: 20 } : { amount: 1.2 } };
    const stop = (stops: number): TraitUse => ({ trait: 'exposure', settings: { stops } });
    // Between two exposures that cancel each other it works in density; with a halation before it, that leaves all as it is, in light.
    const all = [[use], [stop(1), use, stop(-1)], [{ trait: 'halation', settings: { from: 6 } }, use]].map((uses) => wearFloat(engine, lookOf(uses), frame, 3, 24)[0]!);
    const [display, dense, linear] = all as [Float32Array, Float32Array, Float32Array];
    expect(max(...display.map((v, i) => abs(v - dense[i]!)))).toBeLessThan(2e-4);
    expect(max(...display.map((v, i) => abs(v - linear[i]!)))).toBeLessThan(2e-4);
    expect(abs(display[0]! - wearFloat(engine, lookOf([]), frame)[0]![0]!)).toBeGreaterThan(1e-3);
  });

  test('a vignette may go to a colour', () => {
    const planes = wearFloat(
      engine,
      lookOf([{ trait: 'vignette', settings: { amount: 3, colour: [1, 0, 0] } }]),
      painted(96, 72, () => 0.8),
    );
    near(planes[0]![0]!, 0.8, 0.001);
    near(log2(light(planes[1]![0]!) / light(0.8)), -3, 0.1);
  });

  test('mist spreads light and loses none', () => {
    const frame = painted(320, 180, (x, y) => (hypot(x - 160, y - 90) < 8 ? 1 : 0.2));
    const [before] = wearFloat(engine, lookOf([]), frame);
    const [after] = wearFloat(engine, lookOf([{ trait: 'mist', settings: { from: 0.5, radius: 3, amount: 0.5, colour: [1, 1, 1] } }]), frame);
    const sum = (p: Float32Array): number => p.reduce((a, v) => a + light(v), 0);
    near(sum(after!) / sum(before!), 1, 0.01);
    expect(after![90 * 320 + 160]!).toBeLessThan(before![90 * 320 + 160]! - 0.02);
    expect(after![90 * 320 + 172]!).toBeGreaterThan(before![90 * 320 + 172]! + 0.01);
  });

  test('mist keeps the colour of what glows', () => {
    const frame = painted(320, 180, (x, y) => (hypot(x - 160, y - 90) < 12 ? [1, 0.9, 0.1] : 0.1));
    const after = wearFloat(engine, lookOf([{ trait: 'mist', settings: { from: 0, radius: 3, amount: 0.6, colour: [1, 1, 1] } }]), frame);
    const beside = after.map((plane) => plane[90 * 320 + 176]!);
    expect(min(beside[0]!, beside[1]!)).toBeGreaterThan(0.2);
    near(beside[2]!, 0.1, 0.002);
  });

  test('a light leak has its strength in its middle and swells and goes', () => {
    const frame = painted(160, 120, () => 0);
    const use: TraitUse = {
      trait: 'light-leak',
      settings: { rate: 0, amount: 1, drift: 0, colour: [1, 0, 0] },
      events: { pinned: [{ id: 'mine', at: 0, x: 0.5, y: 0.5, length: 1 }] },
    };
    const at = Array.from({ length: 26 }, (_, n) => light(wearFloat(engine, lookOf([use]), frame, n, 24)[0]![60 * 160 + 80]!));
    const top = max(...at);
    expect(abs(log2(top / 0.18) - 1)).toBeLessThan(0.6);
    expect(at.indexOf(top)).toBeGreaterThan(3);
    expect(at.indexOf(top)).toBeLessThan(13);
    expect(at[25]!).toBeLessThan(1e-4);
    const [, green] = wearFloat(engine, lookOf([use]), frame, 8, 24);
    expect(max(...green!)).toBeLessThan(0.001);
  });

  test.each([
    ['2.39', 640, 360, 640, 268],
    ['4:3', 640, 360, 480, 360],
    ['1:1', 1920, 1080, 1080, 1080],
  ] as const)('a mask of %s leaves %d x %d the part that has its shape', (shape, width, height, wide, high) => {
    const [plane] = wearFloat(
      engine,
      lookOf([{ trait: 'aspect-mask', settings: { shape } }]),
      painted(width, height, () => 0.5),
    );
    const middle = Array.from({ length: width }, (_, x) => plane![(height / 2) * width + x]!).filter((v) => v > 0.4).length;
    const column = Array.from({ length: height }, (_, y) => plane![y * width + width / 2]!).filter((v) => v > 0.4).length;
    expect([middle, column]).toEqual([wide, high]);
  });
});
