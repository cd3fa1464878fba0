/** What a stranger with a test signal and a ruler measures of film traits, at two sizes and two values of each setting. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import { light, lookOf, mean, newEngine, painted, rms, wearFloat } from '../testing';

// Taken once: in hot loops each look-up of a global costs.
const { PI, abs, cos, floor, hypot, log, log10, max, min, round, sin, sqrt } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** The projected gate of Super 8 is 4.01 mm high. */
const GATE = 4010;
const SIZES = [360, 720];
const near = (value: number, wanted: number, share = 0.05): void => expect(abs(value / wanted - 1)).toBeLessThan(share);
const pinned = (trait: string, settings: TraitUse['settings'], more: object = {}): TraitUse => ({
  trait,
  settings,
  events: { pinned: [{ id: 'a', at: 0, x: 0.5, y: 0.5, ...more }] },
});
const worn = (traits: TraitUse[], width: number, height: number, paint: (x: number, y: number) => number, n = 0, seed = 5, carrier = 'super8'): Float32Array =>
  wearFloat(engine, lookOf(traits, carrier, seed), painted(width, height, paint), n, 24)[1]!;

describe('softness', () => {
  test.each(SIZES)('in the corners is wider by what is set, and nothing of a point stays sharp, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    for (const edges of [0.3, 0.8]) {
      // A line of light near the corner, across the way to it.
      const at = width - 3;
      const plane = worn([{ trait: 'softness', settings: { radius: 0.12, edges } }], width, height, (x) => (floor(x) === at - 40 || floor(x) === at ? 0 : x > at - 20 ? 1 : 0));
      // The edge between black and white, differentiated, on the last lines.
      const row = Array.from({ length: 80 }, (_, i) => light(plane[(height - 2) * width + width - 80 + i]!));
      const slope = row.slice(1).map((v, i) => v - row[i]!);
      const peak = max(...slope.slice(20, 75));
      const half = slope.slice(20, 75).filter((v) => v > peak / 2).length / 2;
      // The corner itself lies a little farther out.
      const wanted = ((0.12 + edges) / 100) * height;
      expect(half).toBeGreaterThan(0.8 * wanted - 1);
      expect(half).toBeLessThan(1.1 * wanted + 1);
    }
  });
});

test.each(SIZES)('focus is lost no farther than its depth, and as far, at %d lines', (height) => {
  const width = 200;
  for (const depth of [1, 3]) {
    let farthest = 0;
    const use = pinned('focus-hunt', { depth, spells: 0, length: 4, rate: 3 }, { length: 4 });
    const frame = painted(width, height, (_x, y) => (y < height / 2 ? 0 : 1));
    const plan = new Plan(engine, lookOf([use]), { source: frame, target: { width, height, encoding: 'float' }, rate: 24 });
    for (let n = 30; n < 66; n += 3) {
      const plane = new Float32Array(plan.render(n, frame)[1]!.buffer);
      const line = Array.from({ length: height - 1 }, (_, y) => light(plane[(y + 1) * width + 100]!) - light(plane[y * width + 100]!));
      const peak = max(...line);
      farthest = max(farthest, line.filter((v) => v > peak / 2).length / 2);
    }
    plan.dispose();
    near((100 * farthest) / height, depth, 0.06);
  }
});

test.each(SIZES)('barrel draws a corner in by its share of the distance, filled or not, at %d lines', (height) => {
  const width = round((height * 4) / 3);
  const spot = height / 100;
  /** Distance from the middle of what is seen of a spot, in half diagonals. */
  const seen = (at: number, amount: number, filled: boolean): number => {
    const [cx, cy] = [width / 2 + (at * width) / 2, height / 2 + (at * height) / 2];
    const plane = worn([{ trait: 'barrel', settings: { amount, filled } }], width, height, (x, y) => (hypot(x - cx, y - cy) < spot ? 1 : 0));
    let [sum, sx] = [0, 0];
    plane.forEach((v, i) => {
      sum += v;
      sx += v * ((i % width) + 0.5);
    });
    return (2 * (sx / sum - width / 2)) / width;
  };
  for (const amount of [5, 12, -8]) {
    const filled = amount > 0;
    const at = filled ? 0.96 : 0.85;
    // The middle's own enlargement is that of a straight lens; what is drawn in grows with the square of the distance.
    const drawn = 1 - seen(at, amount, filled) / (seen(0.12, amount, filled) * (at / 0.12));
    near((100 * drawn) / at ** 2, amount, filled ? 0.08 : 0.15);
  }
});

describe('dust', () => {
  test('has as many specks as are set, up to sixty a picture, at any rate', () => {
    for (const count of [1.5, 20, 60])
      for (const rate of [18, 24, 50]) {
        const look = lookOf([{ trait: 'dust', settings: { count } }], 'super8', 3);
        const plan = new Plan(engine, look, {
          source: { width: 8, height: 8, encoding: { layout: 'rgb', bits: 8, subX: 0, subY: 0, matrix: 'bt709', range: 'full' } },
          target: { width: 8, height: 8, encoding: 'rgba' },
          rate,
        });
        const seconds = 20;
        near(plan.score.events(0, seconds).length / (seconds * rate), count, count < 5 ? 0.12 : 0.03);
        plan.dispose();
      }
  });

  test.each(SIZES)('of half opacity holds back half the light, at %d lines', (height) => {
    for (const opacity of [0.5, 0.8]) {
      const use = pinned('dust', { count: 0, translucent: 0, size: 300, soft: 0, bright: 0, opacity, colour: [0, 0, 0] });
      const plane = worn([use], height, height, () => 0.8);
      const least = plane.reduce((a, b) => min(a, b));
      near(1 - light(least) / light(0.8), opacity, 0.02);
    }
  });
});

test.each([270, 540])('fibres are as wide as is set on the mean, at %d lines', (height) => {
  const width = round((height * 4) / 3);
  const perPixel = GATE / height;
  for (const set of [28, 40]) {
    // Many short straight ones on a grid: their area is the light they hold back.
    const places = Array.from({ length: 96 }, (_, i) => ({ id: `p${i}`, at: 0, x: ((i % 12) + 0.5) / 12, y: (floor(i / 12) + 0.5) / 8 }));
    const use: TraitUse = { trait: 'hairs', settings: { count: 0, width: set, length: 0.25, curl: 0, soft: 0, opacity: 1, bright: 0 }, events: { pinned: places } };
    let area = 0;
    for (const seed of [1, 2, 3]) area += worn([use], width, height, () => 0.8, 0, seed).reduce((sum, v) => sum + (1 - light(v) / light(0.8)), 0) / 3;
    // Lengths are lognormal, of mean exp(0.45^2 / 2); a round end adds about its own half.
    const long = 250 * 1.107 + 0.6 * set;
    near((area * perPixel * perPixel) / places.length / long, set, 0.1);
  }
});

test.each([270, 540])('scratches are as wide as is set on the mean, at %d lines', (height) => {
  const width = round((height * 4) / 3);
  for (const set of [40, 80]) {
    const widths: number[] = [];
    for (let seed = 1; seed <= 80; seed++) {
      const use = pinned('scratches', { count: 0, width: set, dark: 1, broken: 0, wander: 0, life: 3 }, { length: 3 });
      const row = worn([use], width, height, () => 0.8, 20, seed).subarray((height >> 1) * width, ((height >> 1) + 1) * width);
      // Of what is filled with dirt four fifths are seen, going toward 5 % of signal.
      const covered = 0.8 + 0.8 * (0.05 - 0.8);
      widths.push(row.reduce((sum, v) => sum + (light(0.8) - light(v)) / (light(0.8) - light(covered)), 0) * (GATE / height));
    }
    near(mean(widths), set, 0.12);
  }
});

describe('knocks', () => {
  test.each([
    [360, 4, 0.5],
    [720, 2, 0.2],
  ])('jump by the size set on the mean and are a third of it after the time set, at %d lines', (height, size, settles) => {
    const width = 64;
    const rate = 24;
    const jumps: number[] = [];
    let [swing, later] = [0, 0];
    for (let seed = 1; seed <= 40; seed++) {
      const frame = painted(width, height, (_x, y) => (abs(y - height / 2) < height / 40 ? 1 : 0));
      const use = pinned('knocks', { count: 0, size, settles, corner: 0 }, { length: 4 });
      const plan = new Plan(engine, lookOf([use], 'super8', seed), { source: frame, target: { width, height, encoding: 'float' }, rate });
      const place = (n: number): number => {
        const plane = new Float32Array(plan.render(n, frame)[1]!.buffer);
        let [sum, sy] = [0, 0];
        for (let y = 0; y < height; y++) {
          sum += plane[y * width + 32]!;
          sy += plane[y * width + 32]! * (y + 0.5);
        }
        return (100 * (sy / sum - height / 2)) / height;
      };
      const at = [0, 1, 2, 3].map((i) => place(round(settles * rate) + i));
      jumps.push(place(0));
      swing += place(0) ** 2 + place(1) ** 2 + place(2) ** 2 + place(3) ** 2;
      later += at.reduce((sum, v) => sum + v * v, 0);
      plan.dispose();
    }
    // It goes any way: up and down is sqrt(1/2) of it in RMS.
    near(rms(jumps) * sqrt(2), size * sqrt(1 + 0.25 / 12), 0.2);
    near(sqrt(later / swing), 1 / 3, 0.2);
  });
});

describe('noise', () => {
  /** Power of rows of noise over pictures about frequencies (cycles a pixel), in dB. */
  function spectrum(kind: string): (frequency: number) => number {
    const [width, height] = [1024, 32];
    const rows = Array.from({ length: 24 }, (_, n) => worn([{ trait: 'noise', settings: { kind, amount: 0.05, size: 0, colour: 0 } }], width, height, () => 0.5, n, 9, 'none'));
    return (frequency) => {
      let power = 0;
      for (const plane of rows)
        for (let y = 0; y < height; y += 4)
          for (const by of [0.94, 0.97, 1, 1.03, 1.06]) {
            const cycles = round(frequency * by * width);
            let [re, im] = [0, 0];
            for (let x = 0; x < width; x++) {
              const turn = (2 * PI * cycles * x) / width;
              re += (plane[y * width + x]! - 0.5) * cos(turn);
              im += (plane[y * width + x]! - 0.5) * sin(turn);
            }
            power += re * re + im * im;
          }
      return 10 * log10(power);
    };
  }

  test('pink falls and blue rises by 10 dB a decade over the band; both are as strong as set', () => {
    for (const [kind, slope, from] of [
      ['pink', -10, 0.012],
      ['blue', 10, 0.04],
    ] as const) {
      const at = spectrum(kind);
      const low = at(from);
      for (const times of [2, 4, 8]) expect(abs(at(from * times) - low - slope * log10(times))).toBeLessThan(2);
      const plane = worn([{ trait: 'noise', settings: { kind, amount: 0.05, size: 0, colour: 0 } }], 1024, 512, () => 0.5, 0, 9, 'none');
      near(rms(plane), 0.05, kind === 'pink' ? 0.15 : 0.03);
    }
  });
});

test.each(SIZES)('the line of glue is as high as is set, and the picture jumps by the bump, at %d lines', (height) => {
  const width = round((height * 4) / 3);
  for (const set of [1.1, 4]) {
    const heights: number[] = [];
    for (let seed = 1; seed <= 10; seed++) {
      const plane = worn([pinned('splices', { count: 0, glue: 1, width: set, bump: 0 })], width, height, () => 0.1, 0, seed);
      for (let x = 5; x < width; x += 37) {
        let covered = 0;
        for (let y = 0; y < height; y++) covered += (light(plane[y * width + x]!) - light(0.1)) / (light(0.8) - light(0.1));
        heights.push((100 * covered) / height);
      }
    }
    near(mean(heights), set, 0.06);
  }
  const jumps = Array.from({ length: 12 }, (_, i) => {
    const plane = worn([pinned('splices', { count: 0, glue: 0, bump: 3 })], 32, height, (_x, y) => (y < height / 2 ? 0 : 1), 0, i + 1);
    let edge = 0;
    for (let y = 0; y < height; y++) edge += plane[y * 32 + 16]! < 0.5 ? 1 : 0;
    return (100 * abs(edge - height / 2)) / height;
  });
  near(mean(jumps), 3, 0.15);
});

test.each(SIZES)('halation begins where it is set, and not before, at %d lines', (height) => {
  const of = (stops: number): number => {
    const signal = (0.18 * 2 ** stops) ** (1 / 2.4);
    const plane = wearFloat(
      engine,
      lookOf([{ trait: 'halation', settings: { from: 1, amount: 1, radius: 100, orange: 0 } }]),
      painted(64, height / 4, () => signal),
      0,
      24,
    )[0]!;
    return light(plane[(floor(height / 8) + 0) * 64 + 32]!) / (0.18 * 2 ** stops) - 1;
  };
  expect(abs(of(0.8))).toBeLessThan(1e-3);
  expect(of(1.3)).toBeGreaterThan(0.1);
});

describe('tone', () => {
  const curve = (settings: TraitUse['settings']): ((signal: number) => number) => {
    const plane = worn([{ trait: 'tone', settings }], 1001, 2, (x) => floor(x) / 1000);
    return (signal) => plane[round(signal * 1000)]!;
  };

  test('black lies at the floor that is set, white at the ceiling, and shadows above the floor are not one value', () => {
    for (const [floorSet, ceiling] of [
      [2, 98],
      [5, 98],
      [12, 80],
    ] as const) {
      const at = curve({ floor: floorSet, ceiling });
      near(100 * at(0), floorSet, 0.05);
      expect(100 * at(1)).toBeLessThan(ceiling + 0.5);
      expect(100 * at(1)).toBeGreaterThan(0.9 * ceiling);
      for (const s of [1, 1.5, 2, 3].map((of) => (of * max(4, floorSet)) / 100)) expect(at(s)).toBeGreaterThan(at(s / 1.5) + 2e-4);
    }
  });

  test('its slope at mid-grey is the contrast that is set, whatever the floor and the ceiling', () => {
    const grey = 0.18 ** (1 / 2.4);
    for (const contrast of [0.8, 1.4])
      for (const [floorSet, ceiling] of [
        [2, 98],
        [12, 80],
      ] as const) {
        const at = curve({ contrast, floor: floorSet, ceiling });
        const [a, b] = [round(grey * 1000) - 20, round(grey * 1000) + 20].map((i) => i / 1000) as [number, number];
        near(log(at(b) / at(a)) / log(b / a), contrast, 0.05);
      }
  });
});

test('dyes of a stock keep shadows apart', () => {
  for (const stock of ['sunreel', 'dispatch', 'ember', 'panchro']) {
    const plane = worn([{ trait: 'dyes', settings: { stock } }], 400, 2, (x) => floor(x) / 4000);
    for (const s of [120, 180, 320]) expect(plane[s]!).toBeGreaterThan(plane[s / 2]! + 2e-4);
    expect(plane[1]!).toBeLessThan(0.03);
  }
});
