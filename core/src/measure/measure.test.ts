import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import type { TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import { even } from '../random/random';
import { countPixels, lookOf, newEngine, RGB16, signalFrame, wearFloat, YUV420 } from '../testing';
import { Measure } from './figures';
import { tooColourful } from './holdable';
import { match } from './match';
import { barTargets, COLUMNS, LEVELS, percentile, vectorPlace } from './scope';

const { abs, cos, hypot, max, min, round, sin, sqrt } = Math;
let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

function shown(frame: RawFrame, uses: TraitUse[] = []): Uint8Array {
  const { width, height, encoding } = frame;
  const plan = new Plan(engine, lookOf(uses), { source: { width, height, encoding }, target: { width, height, encoding: 'rgba' }, rate: 24 });
  const [pixels] = plan.render(0, frame);
  plan.dispose();
  return pixels!;
}

const counted = (frame: RawFrame) => countPixels(engine, shown(frame), frame.width, frame.height);

describe('scopes', () => {
  test.each([
    [640, 360],
    [1920, 1080],
  ])('bars at 75 % stand on their targets within 1 % at %dx%d', (width, height) => {
    const { vector } = counted(signalFrame('bars', width, height, 0.75));
    for (const { name, cb, cr } of barTargets(0.75)) {
      // The place near the target where most pixels stand.
      let [best, x, y] = [0, 0, 0];
      for (let i = 0; i < vector.length; i++) {
        const at = vectorPlace(i % LEVELS, Math.floor(i / LEVELS));
        if (hypot(at.cb - cb, at.cr - cr) < 0.08 && vector[i]! > best) [best, x, y] = [vector[i]!, at.cb, at.cr];
      }
      expect([name, best]).toEqual([name, 255]);
      expect(hypot(x - cb, y - cr)).toBeLessThan(0.01);
    }
  });

  test('the bars of Y’CbCr footage, as a file has them, stand there too', () => {
    const width = 320;
    const height = 180;
    const { kr, kb } = { kr: 0.2126, kb: 0.0722 };
    const [y, u, v] = [new Uint8Array(width * height), new Uint8Array((width * height) / 4), new Uint8Array((width * height) / 4)];
    const [r, g, b] = [0.75, 0, 0.75];
    const luma = kr * r + (1 - kr - kb) * g + kb * b;
    y.fill(round(16 + 219 * luma));
    u.fill(round(128 + (224 * (b - luma)) / (2 * (1 - kb))));
    v.fill(round(128 + (224 * (r - luma)) / (2 * (1 - kr))));
    const { vector } = counted({ width, height, encoding: YUV420, planes: [y, u, v] });
    const target = barTargets(0.75).find((t) => t.name === 'Mg')!;
    const at = vector.indexOf(255);
    expect(vector.filter((n) => n > 0)).toHaveLength(1);
    const place = vectorPlace(at % LEVELS, Math.floor(at / LEVELS));
    expect(hypot(place.cb - target.cb, place.cr - target.cr)).toBeLessThan(0.01);
  });

  test('a ramp rises evenly along the waveform and fills the histogram evenly', () => {
    const { waves, bins, pixels } = counted(signalFrame('ramp', 1280, 720));
    for (const column of [0, 30, 64, 100, COLUMNS - 1]) {
      const levels = Array.from({ length: LEVELS }, (_, i) => waves[0][(LEVELS - 1 - i) * COLUMNS + column]!);
      const sum = levels.reduce((a, b) => a + b);
      const mean = levels.reduce((a, n, i) => a + n * (2 * i + 0.5), 0) / sum;
      expect(abs(mean / 255 - (column + 0.5) / COLUMNS)).toBeLessThan(0.005);
    }
    for (const share of [0.01, 0.25, 0.5, 0.9]) expect(abs(percentile(bins[0], share) - share)).toBeLessThan(1 / 255);
    expect(bins[1].reduce((a, b) => a + b)).toBe(pixels);
  });

  test('a picture of known parts has the known percentiles', () => {
    // A tenth at 0.2, six tenths at 0.5, three tenths at 0.8.
    const [width, height] = [200, 100];
    const codes = Uint16Array.from({ length: width * height }, (_, i) => round([0.2, 0.5, 0.8][i % width < 20 ? 0 : i % width < 140 ? 1 : 2]! * 65535));
    const plane = new Uint8Array(codes.buffer);
    const frame: RawFrame = { width, height, encoding: RGB16, planes: [plane, plane, plane] };
    const { bins } = counted(frame);
    for (const [share, level] of [
      [0.05, 0.2],
      [0.4, 0.5],
      [0.9, 0.8],
    ] as const)
      expect(abs(percentile(bins[0], share) - level)).toBeLessThan(0.004);
    const measure = new Measure();
    const [r, g, b] = wearFloat(engine, lookOf([]), frame);
    measure.add(r!, g!, b!);
    const figures = measure.figures();
    expect(abs(figures.black - 0.2)).toBeLessThan(0.001);
    expect(abs(figures.median - 0.5)).toBeLessThan(0.001);
    expect(abs(figures.white - 0.8)).toBeLessThan(0.001);
    expect(figures.tints.flat().every((v) => abs(v) < 1e-4)).toBe(true);
  });

  test('pixels that a screen cannot show are told in their shares', () => {
    const frame = signalFrame('ramp', 400, 40);
    const plan = new Plan(engine, lookOf([{ trait: 'balance', settings: { gain: 1.5, offset: -0.25 } }]), {
      source: frame,
      target: { width: 400, height: 40, encoding: 'rgba' },
      rate: 24,
    });
    // 1.5 v - 0.25 is below 0 up to a sixth and above 1 from five sixths.
    const { below, above, planes } = plan.renderCounted(0, frame);
    expect(abs(below - 1 / 6)).toBeLessThan(0.005);
    expect(abs(above - 1 / 6)).toBeLessThan(0.005);
    expect(plan.renderCounted(0, frame).below).toBe(below);
    expect(planes[0]).toEqual(plan.render(0, frame)[0]);
    plan.dispose();
  });

  test('figures tell tints and saturation', () => {
    const measure = new Measure();
    const n = 1000;
    measure.add(new Float32Array(n).fill(0.6), new Float32Array(n).fill(0.5), new Float32Array(n).fill(0.4));
    const { tints, saturation } = measure.figures();
    const luma = 0.2126 * 0.6 + 0.7152 * 0.5 + 0.0722 * 0.4;
    [0.6, 0.5, 0.4].forEach((v, i) => expect(tints[1][i]).toBeCloseTo(v - luma, 4));
    expect(saturation[1]).toBeCloseTo(0.4 - luma < 0 ? luma - 0.4 : 0, 4);
    expect(() => new Measure().figures()).toThrow(RangeError);
  });
});

describe('what media could hold', () => {
  test('bars at 75 % pass a composite signal, full yellow does not', () => {
    expect(tooColourful([0.75, 0.75, 0], 'broadcast')).toBeNull();
    expect(tooColourful([1, 1, 0], 'broadcast')).toMatch(/more saturated/);
    expect(tooColourful([0.5, 0.5, 0.5], 'broadcast')).toBeNull();
  });
  test('a tinted white is a dye, a pure primary is none', () => {
    expect(tooColourful([1, 0.9, 0.7], 'super8')).toBeNull();
    expect(tooColourful([0.08, 0.05, 0.12], 'super8')).toBeNull();
    expect(tooColourful([1, 0, 0], 'super8')).toMatch(/dyes/);
    expect(tooColourful([1, 0, 0], 'none')).toBeNull();
  });
});

describe('match', () => {
  /** A made-up picture with a sky, a ground, lamps and coloured things. */
  function scene(seed: number): RawFrame {
    const [width, height] = [160, 90];
    const planes = [0, 1, 2].map(() => new Uint16Array(width * height));
    for (let i = 0; i < width * height; i++) {
      const [x, y] = [(i % width) / width, Math.floor(i / width) / height];
      const base = 0.12 + 0.6 * (1 - y) * (0.8 + 0.2 * sin(6 * x + seed)) + 0.08 * (even(seed, i) - 0.5);
      const lamp = hypot(x - 0.7, y - 0.3) < 0.06 ? 0.5 : 0;
      const tram = x > 0.2 && x < 0.45 && y > 0.5 ? 0.25 : 0;
      const colour = [base + lamp + tram, base + lamp + 0.05 * cos(5 * x), base + 0.6 * lamp + 0.1 * y];
      colour.forEach((v, c) => (planes[c]![i] = round(max(0, min(1, v)) * 65535)));
    }
    return { width, height, encoding: RGB16, planes: planes.map((p) => new Uint8Array(p.buffer)) };
  }

  const HIDDEN: TraitUse[][] = [
    [
      { trait: 'exposure', settings: { stops: -0.5, contrast: 0.8, warmth: 1500 } },
      { trait: 'two-tone', settings: { amount: 0.3 } },
    ],
    [
      { trait: 'balance', settings: { lift: 0.08, gain: 0.85, liftBlue: 0.04 } },
      { trait: 'saturation', settings: { amount: 0.5 } },
    ],
    [{ trait: 'ranges', settings: { shadowsHue: 220, shadowsTint: 6, highlightsHue: 50, highlightsTint: 8, middlesSaturation: 1.3 } }],
  ];

  test.each(HIDDEN.map((uses, i) => [i, uses] as const))('recipe %d: black, white, median and tints come within 2 %% of full scale', (_, uses) => {
    const measure = new Measure();
    const [r, g, b] = wearFloat(engine, lookOf(uses), scene(1));
    measure.add(r!, g!, b!);
    const reference = measure.figures();
    const found = match(engine, [scene(2)], reference, lookOf([]));
    expect(found.uses.map((u) => u.trait)).toEqual(['tone-curves', 'saturation', 'ranges']);
    const { before, after } = found;
    for (const key of ['black', 'white', 'median'] as const) expect(abs(after[key] - reference[key])).toBeLessThan(0.02);
    after.tints.forEach((tint, i) => tint.forEach((v, c) => expect(abs(v - reference.tints[i]![c]!)).toBeLessThan(0.02)));
    // And it is nearer than before, all in all.
    const far = (f: typeof before): number => sqrt(f.percentiles.reduce((sum, v, i) => sum + (v - reference.percentiles[i]!) ** 2, 0));
    expect(far(after)).toBeLessThan(far(before));
  });

  test('the figures it tells are those of the look it proposes', () => {
    const measure = new Measure();
    measure.add([0.1, 0.3, 0.8, 0.9], [0.1, 0.3, 0.7, 0.9], [0.15, 0.3, 0.5, 0.8]);
    const shot = scene(3);
    const found = match(engine, [shot], measure.figures(), lookOf([]));
    const again = new Measure();
    const [r, g, b] = wearFloat(engine, { ...lookOf([...found.uses]), lives: [{ carrier: 'none', traits: found.uses }] }, shot);
    again.add(r!, g!, b!);
    expect(again.figures()).toEqual(found.after);
  });
});
