import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../../engine';
import { lookOf, newEngine, signalFrame, wear } from '../../testing';

// Taken once: in hot loops each look-up of a global costs.
const { exp, floor, min, round } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** Centre of gravity of what is bright in a plane: pixels from the left and from the top. */
function centre(plane: Float32Array, width: number): { x: number; y: number } {
  let [sum, sx, sy] = [0, 0, 0];
  plane.forEach((v, i) => {
    sum += v;
    sx += v * (i % width);
    sy += v * floor(i / width);
  });
  return { x: sx / sum, y: sy / sum };
}

/** A soft bright spot in the middle of black. */
function spot(width: number, height: number) {
  const frame = signalFrame('grey', width, height, 0);
  for (const plane of frame.planes) {
    const codes = new Uint16Array(plane.buffer);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) codes[y * width + x] = round(60000 * exp(-((x - width / 2) ** 2 + (y - height / 2) ** 2) / (2 * (height / 20) ** 2)));
  }
  return frame;
}

const SIZES: [number, number][] = [
  [480, 270],
  [960, 540],
];

describe('channel offset', () => {
  test.each(SIZES)('smears a colour across by the width set, and that one alone, at %d x %d', (width, height) => {
    const frame = signalFrame('grey', width, height, 0);
    for (const plane of frame.planes) for (let y = 0; y < height; y++) new Uint16Array(plane.buffer)[y * width + width / 2] = 60000;
    for (const redScale of [100, 101]) {
      const [red, green] = wear(engine, lookOf([{ trait: 'channel-offset', settings: { redAcross: 0, blueAcross: 0, redBlur: 2, redScale } }]), frame);
      const row = red!.subarray(floor(height / 2) * width, floor(height / 2 + 1) * width);
      const most = row.reduce((a, b) => (a > b ? a : b), 0);
      const wide = row.filter((v) => v > most / 2).length;
      expect(Math.abs(wide / width / 0.02 - 1)).toBeLessThan(0.12);
      expect(green!.subarray(0, width).filter((v) => v > 0.1).length).toBe(1);
    }
  });

  test.each(SIZES)('parts red and blue by one distance at an angle, at %d x %d', (width, height) => {
    const settings = { redAcross: 0, blueAcross: 0, distance: 0.8, angle: 30 };
    const [r, g, b] = wear(engine, lookOf([{ trait: 'channel-offset', settings }]), spot(width, height)).map((p) => centre(p, width));
    const unit = width / 100;
    expect((r!.x - g!.x) / unit).toBeCloseTo(0.8 * Math.cos(Math.PI / 6), 2);
    expect((r!.y - g!.y) / unit).toBeCloseTo(0.8 * Math.sin(Math.PI / 6), 2);
    expect((b!.x - g!.x) / unit).toBeCloseTo(-0.8 * Math.cos(Math.PI / 6), 2);
    expect((b!.y - g!.y) / unit).toBeCloseTo(-0.8 * Math.sin(Math.PI / 6), 2);
  });

  test.each(SIZES)('moves a colour by hundredths of the width, below a pixel too, at %d x %d', (width, height) => {
    const settings = { redAcross: 0.53, redDown: -0.31, greenAcross: 0, blueAcross: -1.27, blueDown: 0.9 };
    const frame = spot(width, height);
    const [r, g, b] = wear(engine, lookOf([{ trait: 'channel-offset', settings }]), frame).map((p) => centre(p, width));
    const unit = width / 100;
    expect((r!.x - g!.x) / unit).toBeCloseTo(0.53, 2);
    expect((r!.y - g!.y) / unit).toBeCloseTo(-0.31, 2);
    expect((b!.x - g!.x) / unit).toBeCloseTo(-1.27, 2);
    expect((b!.y - g!.y) / unit).toBeCloseTo(0.9, 2);
  });

  test.each(SIZES)('along the row alone it is the same shift at %d x %d', (width, height) => {
    const frame = spot(width, height);
    const [r, g, b] = wear(engine, lookOf([{ trait: 'channel-offset', settings: { redAcross: 0.37, blueAcross: -0.12 } }]), frame).map((p) => centre(p, width));
    expect((r!.x - g!.x) / (width / 100)).toBeCloseTo(0.37, 2);
    expect((b!.x - g!.x) / (width / 100)).toBeCloseTo(-0.12, 2);
  });

  test.each(SIZES)('scales a colour about the middle at %d x %d', (width, height) => {
    // The bar of the pulse signal ends at half and three quarters of the width; the latter moves out by the scale.
    const [r, g] = wear(engine, lookOf([{ trait: 'channel-offset', settings: { redScale: 104, redAcross: 0, blueAcross: 0 } }]), signalFrame('pulse', width, height));
    const edge = (plane: Float32Array): number => {
      const y = floor(height / 2);
      for (let x = width - 1; x > 0; x--) {
        const [a, b] = [plane[y * width + x]!, plane[y * width + x - 1]!];
        if (a < 0.5 && b >= 0.5) return x - (0.5 - a) / (b - a);
      }
      return Number.NaN;
    };
    const out = (x: number): number => x + 0.5 - width / 2;
    expect(out(edge(r!)) / out(edge(g!))).toBeCloseTo(1.04, 2);
  });

  test('continues the edge: white stays white to the last pixel', () => {
    const cases: Record<string, number>[] = [
      { redAcross: 5, greenAcross: -5, blueAcross: 3.3 },
      { redAcross: 5, redDown: 5, greenScale: 90, blueScale: 90, blueDown: -5 },
    ];
    for (const settings of cases) {
      for (const plane of wear(engine, lookOf([{ trait: 'channel-offset', settings }]), signalFrame('grey', 200, 120, 1))) {
        expect(plane.reduce((a, b) => min(a, b))).toBeGreaterThan(0.9999);
      }
    }
  });

  test('a whole number of pixels is an exact copy', () => {
    const frame = signalFrame('sweep', 200, 64);
    const [r, g] = wear(engine, lookOf([{ trait: 'channel-offset', settings: { redAcross: 1.5, blueAcross: 0 } }]), frame);
    for (let x = 3; x < 200; x++) expect(r![200 + x]).toBe(g![200 + x - 3]);
  });
});
