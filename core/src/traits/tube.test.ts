/** What a tube does to a picture, measured in the units set, at several sizes. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { TraitUse } from '../look/look';
import { light, lookOf, mean, newEngine, painted, rms, wearFloat } from '../testing';

// Taken once: in hot loops each look-up of a global costs.
const { PI, abs, cos, hypot, round, sin } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const lights = (plane: Float32Array): Float32Array => plane.map(light);
const wear = (traits: TraitUse[], width: number, height: number, paint: (x: number, y: number) => number, n = 0): Float32Array[] =>
  wearFloat(engine, lookOf(traits, 'none'), painted(width, height, paint), n, 25);
/** Strength of a wave of `cycles` over a line of values, against their mean. */
function waveIn(values: ArrayLike<number>, cycles: number): number {
  let [re, im] = [0, 0];
  for (let i = 0; i < values.length; i++) {
    re += values[i]! * cos((2 * PI * cycles * (i + 0.5)) / values.length);
    im += values[i]! * sin((2 * PI * cycles * (i + 0.5)) / values.length);
  }
  return (2 * hypot(re, im)) / values.length / mean(values);
}

describe('mask', () => {
  test.each(['stripes', 'slots', 'dots'])('of %s keeps the mean light at 540, 1080 and 2160 lines, and makes no moire', (kind) => {
    for (const height of [540, 1080, 2160]) {
      const width = round((height * 16) / 9);
      const planes = wear([{ trait: 'mask', settings: { kind, pitch: 640, amount: 0.5 } }], width, 96, () => 0.5).map(lights);
      for (const plane of planes) expect(abs(mean(plane) / 0.5 ** 2.4 - 1)).toBeLessThan(0.05);
      // Nothing coarser than the pattern itself.
      const row = planes[1]!.subarray(40 * width, 41 * width);
      for (const cycles of [20, 60, 120, 200, 280]) expect(waveIn(row, cycles)).toBeLessThan(0.01);
    }
  });

  test.each([1080, 2160])('has as many groups over the width as set, and the colours a third of one apart, at %d lines', (height) => {
    const width = round((height * 16) / 9);
    for (const pitch of [400, 640]) {
      const planes = wear([{ trait: 'mask', settings: { kind: 'stripes', pitch, amount: 0.5 } }], width, 16, () => 0.5).map(lights);
      const row = planes[0]!.subarray(8 * width, 9 * width);
      expect(waveIn(row, pitch)).toBeGreaterThan(0.2);
      for (const other of [pitch - 30, pitch + 30]) expect(waveIn(row, other)).toBeLessThan(0.02);
      const phase = (plane: Float32Array): number => {
        let [re, im] = [0, 0];
        for (let x = 0; x < width; x++) {
          re += plane[8 * width + x]! * cos((2 * PI * pitch * (x + 0.5)) / width);
          im += plane[8 * width + x]! * sin((2 * PI * pitch * (x + 0.5)) / width);
        }
        return Math.atan2(im, re) / (2 * PI);
      };
      const apart = (((phase(planes[1]!) - phase(planes[0]!)) % 1) + 1) % 1;
      expect(abs(apart - 1 / 3)).toBeLessThan(0.02);
    }
  });

  test('too fine for the picture is not seen at all', () => {
    const [plane] = wear([{ trait: 'mask', settings: { kind: 'stripes', pitch: 800, amount: 1 } }], 640, 16, () => 0.5);
    expect(rms(plane!)).toBeLessThan(1e-4);
  });
});

describe('tube glow', () => {
  test.each([540, 1080])('keeps the mean light, and has half its strength where set, at %d lines', (height) => {
    const width = height;
    const spot = (x: number, y: number): number => (hypot(x - width / 2, y - height / 2) < height * 0.004 ? 1 : 0);
    const before = lights(painted16(width, height, spot));
    const [plane] = wear([{ trait: 'tube-glow', settings: { radius: 3, amount: 0.5 } }], width, height, spot).map(lights);
    expect(abs(mean(plane!) / mean(before) - 1)).toBeLessThan(0.05);
    // A bell: half of what it is near the middle stands at the radius.
    const at = (share: number): number => plane![round(height / 2) * width + round(width / 2 + share * 0.03 * height)]!;
    const sigma = 0.03 / Math.sqrt(2 * Math.LN2);
    const expected = Math.exp(-(0.03 ** 2) / (2 * sigma ** 2)) / Math.exp(-((0.5 * 0.03) ** 2) / (2 * sigma ** 2));
    expect(abs(at(1) / at(0.5) / expected - 1)).toBeLessThan(0.08);
  });
});

/** What a frame painted so holds, as floats. */
const painted16 = (width: number, height: number, paint: (x: number, y: number) => number): Float32Array =>
  Float32Array.from({ length: width * height }, (_, i) => paint((i % width) + 0.5, Math.floor(i / width) + 0.5));

describe('convergence', () => {
  test.each([540, 1080])('puts red and blue as far off as set, in the corners and everywhere, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    const bar = (share: number) => (x: number) => Math.exp(-(((x - share * width) / (0.01 * width)) ** 2));
    const middle = (plane: Float32Array): number => {
      let [sum, at] = [0, 0];
      for (let x = 0; x < width; x++) {
        const v = plane[round(height / 2) * width + x]!;
        sum += v;
        at += v * (x + 0.5);
      }
      return at / sum;
    };
    const offset = (share: number, corners: number): number => {
      const [r, g] = wear([{ trait: 'convergence', settings: { redAcross: 0.5, redDown: 0, blueAcross: 0, blueDown: 0, corners } }], width, height, bar(share));
      return (100 * (middle(r!) - middle(g!))) / width;
    };
    expect(offset(0.5, 0)).toBeCloseTo(0.5, 2);
    expect(offset(0.9, 0)).toBeCloseTo(0.5, 2);
    expect(offset(0.5, 1)).toBeCloseTo(0, 2);
    expect(offset(0.9, 1)).toBeCloseTo(0.5 * 0.8, 2);
    expect(offset(0.1, 1)).toBeCloseTo(-0.5 * 0.8, 2);
  });
});

describe('refresh bar', () => {
  test.each([360, 1080])('takes the light set from a bar of the height set, which passes at its rate, at %d lines', (height) => {
    const settings = { difference: 0.5, height: 0.2, amount: 40, soft: 0 };
    const rows = (n: number): Float32Array => {
      const [plane] = wear([{ trait: 'refresh-bar', settings }], 16, height, () => 0.5, n).map(lights);
      return Float32Array.from({ length: height }, (_, y) => plane![y * 16]! / 0.5 ** 2.4);
    };
    const dim = (values: Float32Array): number[] => [...values.keys()].filter((y) => values[y]! < 0.99);
    const first = rows(0);
    const at = dim(first);
    expect(abs(at.length / height - 0.2)).toBeLessThan(0.01);
    expect(first[at[5]!]).toBeCloseTo(0.6, 2);
    // Two seconds are once round; five frames a tenth of it.
    expect(rms(rows(50).map((v, y) => v - first[y]!))).toBeLessThan(1e-4);
    expect(abs(mean(dim(rows(5))) - mean(at) - 0.1 * height)).toBeLessThan(0.01 * height);
  });
});

describe('tube face', () => {
  test.each([360, 1080])('rounds its corners by the radius set and leaves the middle, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    const [plane] = wear([{ trait: 'tube-face', settings: { curve: 0, corner: 20, edge: 0.3, dim: 0 } }], width, height, () => 0.5);
    const dark = (x: number, y: number): boolean => plane![round(y) * width + round(x)]! < 0.05;
    expect(plane![round(height / 2) * width + round(width / 2)]).toBeCloseTo(0.5, 3);
    // On the diagonal of a rounded corner black ends at r (1 - 1 / sqrt 2) from either side.
    const reach = 0.2 * height * (1 - Math.SQRT1_2);
    expect(dark(reach - 0.012 * height, reach - 0.012 * height)).toBe(true);
    expect(dark(reach + 0.012 * height, reach + 0.012 * height)).toBe(false);
    expect(dark(0.25 * height, 2)).toBe(false);
  });

  test('bulges: a straight line near the edge bends by what is set', () => {
    const [width, height] = [640, 480];
    const line = (_x: number, y: number): number => (abs(y - 60) < 3 ? 1 : 0);
    const [plane] = wear([{ trait: 'tube-face', settings: { curve: 12, corner: 0, dim: 0, filled: false } }], width, height, line);
    const middleAt = (x: number): number => {
      let [sum, at] = [0, 0];
      for (let y = 0; y < height / 2; y++) {
        sum += plane![y * width + x]!;
        at += plane![y * width + x]! * (y + 0.5);
      }
      return at / sum;
    };
    // Distance from the middle times 1 + 0.12 r^2 is where the source stood: the fixed point of that.
    const expected = (x: number): number => {
      let d = 180;
      for (let i = 0; i < 30; i++) d = 180 / (1 + (0.12 * 4 * (d * d + (x + 0.5 - width / 2) ** 2)) / (width * width + height * height));
      return height / 2 - d;
    };
    for (const x of [320, 200, 120]) expect(abs(middleAt(x) - expected(x))).toBeLessThan(0.9);
  });
});
