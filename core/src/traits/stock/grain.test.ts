import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../../engine';
import { correlation, lookOf, mean, newEngine, rms, signalFrame, wear } from '../../testing';

// Taken once: in hot loops each look-up of a global costs.
const { abs, ceil, log10 } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const SUPER8_HEIGHT_UM = 4010;
const density = (v: number): number => -2.4 * log10(v);

/** Means through round apertures of 48 um, laid side by side over a picture of densities. */
function throughAperture(densities: Float32Array, width: number, height: number): number[] {
  const pixel = SUPER8_HEIGHT_UM / height;
  const radius = 24 / pixel;
  const pitch = ceil(2 * radius) + 2;
  const FINE = 5;
  const readings: number[] = [];
  // Shares of pixels at the rim are counted on a five times finer lattice.
  const cells: { dx: number; dy: number; share: number }[] = [];
  for (let dy = -ceil(radius); dy <= ceil(radius); dy++) {
    for (let dx = -ceil(radius); dx <= ceil(radius); dx++) {
      let inside = 0;
      for (let j = 0; j < FINE; j++) for (let i = 0; i < FINE; i++) if ((dx + (i + 0.5) / FINE - 0.5) ** 2 + (dy + (j + 0.5) / FINE - 0.5) ** 2 <= radius ** 2) inside++;
      if (inside) cells.push({ dx, dy, share: inside / FINE ** 2 });
    }
  }
  const area = cells.reduce((sum, c) => sum + c.share, 0);
  for (let y = pitch; y < height - pitch; y += pitch) {
    for (let x = pitch; x < width - pitch; x += pitch) {
      readings.push(cells.reduce((sum, c) => sum + c.share * densities[(y + c.dy) * width + x + c.dx]!, 0) / area);
    }
  }
  return readings;
}

const settings = { rms: 12, size: 9, colour: 0.4 };
const midGrey = 10 ** (-0.75 / 2.4);

describe('grain', () => {
  test.each([
    [720, 540, 9],
    [1440, 1080, 9],
    [720, 540, 20],
    [1440, 1080, 20],
    [720, 540, 40],
    [1440, 1080, 40],
  ])('reads its RMS x 1000 through 48 um at %d x %d, in clumps of %d um', (width, height, size) => {
    // Of several pictures, so that chance is less than what is allowed.
    const [readings, frame] = [[[], [], []] as number[][], signalFrame('grey', width, height, midGrey)];
    for (let n = 0; n < 4; n++)
      wear(engine, lookOf([{ trait: 'grain', settings: { ...settings, size } }]), frame, n).forEach((plane, i) =>
        readings[i]!.push(...throughAperture(plane.map(density), width, height)),
      );
    for (const of of readings) {
      expect(rms(of) * 1000).toBeGreaterThan(12 * 0.95);
      expect(rms(of) * 1000).toBeLessThan(12 * 1.05);
    }
  });

  test.each([
    [540, 22],
    [1080, 22],
    [540, 40],
    [1080, 40],
  ])('has the width it is set to, by its correlation, at %d lines, in clumps of %d um', (height, size) => {
    const width = height;
    const [plane] = wear(engine, lookOf([{ trait: 'grain', settings: { ...settings, size } }]), signalFrame('grey', width, height, midGrey));
    const d = plane!.map(density);
    // A bell of sigma s correlates with itself as a bell of s sqrt(2); the half height lies at 1.665 s.
    const lag = (shift: number): number => {
      const shared = width - shift;
      const [a, b] = [new Float32Array(shared * height), new Float32Array(shared * height)];
      for (let y = 0; y < height; y++) {
        a.set(d.subarray(y * width, y * width + shared), y * shared);
        b.set(d.subarray(y * width + shift, (y + 1) * width), y * shared);
      }
      return correlation(a, b);
    };
    let shift = 1;
    while (lag(shift) > 0.5) shift++;
    const [above, below] = [lag(shift - 1), lag(shift)];
    const half = shift - 1 + (above - 0.5) / (above - below);
    const sigma = (half / 1.6651) * (SUPER8_HEIGHT_UM / height);
    expect(sigma * 2.3548).toBeGreaterThan(size * 0.95);
    expect(sigma * 2.3548).toBeLessThan(size * 1.05);
  });

  test('leaves the mean density and differs from picture to picture', () => {
    const frame = signalFrame('grey', 640, 480, midGrey);
    const look = lookOf([{ trait: 'grain', settings }]);
    const [first] = wear(engine, look, frame, 0);
    const [second] = wear(engine, look, frame, 1);
    expect(abs(mean(first!.map(density)) - 0.75)).toBeLessThan(0.001);
    expect(abs(correlation(first!, second!))).toBeLessThan(0.02);
  });

  test('is another on each of many pictures, and in each layer', () => {
    const frame = signalFrame('grey', 160, 120, midGrey);
    const pictures = Array.from({ length: 24 }, (_, n) => wear(engine, lookOf([{ trait: 'grain', settings: { ...settings, colour: 1 } }]), frame, 1000 + n));
    const planes = pictures.flat();
    const all = planes.flatMap((a, i) => planes.slice(i + 1).map((b) => abs(correlation(a, b))));
    expect(Math.max(...all)).toBeLessThan(0.08);
    // Each of them has as much of it.
    const levels = planes.map((plane) => rms(plane));
    expect(Math.max(...levels) / Math.min(...levels)).toBeLessThan(1.05);
  });

  test('repeats nowhere in the picture', () => {
    const width = 512;
    const [plane] = wear(engine, lookOf([{ trait: 'grain', settings }]), signalFrame('grey', width, 512, midGrey));
    const block = (x0: number, y0: number): number[] => {
      const out: number[] = [];
      for (let y = 0; y < 128; y++) for (let x = 0; x < 128; x++) out.push(plane![(y0 + y) * width + x0 + x]!);
      return out;
    };
    for (const [x, y] of [
      [128, 0],
      [256, 0],
      [0, 128],
      [0, 256],
      [128, 128],
      [384, 384],
    ] as const) {
      expect(abs(correlation(block(0, 0), block(x, y)))).toBeLessThan(0.03);
    }
  });

  test('frozen grain stays', () => {
    const frame = signalFrame('grey', 96, 64, midGrey);
    const look = lookOf([{ trait: 'grain', settings: { ...settings, frozen: true } }]);
    expect(wear(engine, look, frame, 31)).toEqual(wear(engine, look, frame, 0));
  });

  test('the layers are alike at colour 0, strangers at 1 and partly alike between', () => {
    const frame = signalFrame('grey', 320, 240, midGrey);
    const between = (colour: number): number => {
      const [r, g] = wear(engine, lookOf([{ trait: 'grain', settings: { ...settings, colour } }]), frame);
      return correlation(r!, g!);
    };
    expect(between(0)).toBeGreaterThan(0.999);
    expect(abs(between(1))).toBeLessThan(0.02);
    expect(between(0.5)).toBeGreaterThan(0.5);
    expect(between(0.5)).toBeLessThan(0.95);
  });

  test('shows most at middle densities, by the shares set', () => {
    const at = (level: number, more: object): number => {
      const [plane] = wear(engine, lookOf([{ trait: 'grain', settings: { ...settings, ...more } }]), signalFrame('grey', 320, 240, level));
      return rms(plane!.map(density));
    };
    const shadow = 10 ** (-2.6 / 2.4);
    const light = 10 ** (-0.05 / 2.4);
    expect(at(midGrey, {})).toBeGreaterThan(1.2 * at(shadow, {}));
    expect(at(midGrey, {})).toBeGreaterThan(1.2 * at(light, {}));
    expect(at(shadow, { shadows: 1 })).toBeGreaterThan(1.5 * at(shadow, { shadows: 0.2 }));
  });
});
