/** What is measured on a film's gate is so many micrometres on the part of it that the picture uses, whatever the picture's shape. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import { carrierById } from '../carriers';
import type { Engine } from '../engine';
import type { TraitUse } from '../look/look';
import { correlation, lookOf, mean, newEngine, painted, wearFloat } from '../testing';

const { abs, floor, max, round } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const { gate, film } = carrierById('super8')!;
/** Pictures of 4:3, which use the gate's height, and of 16:9, which use its width: a micrometre is as long on both. */
const TWINS = [1080, 540].map((height) => {
  const perPixel = (gate!.height * 1000) / height;
  const wide = (gate!.width * 1000) / perPixel;
  return { perPixel, shapes: [{ width: round((height * 4) / 3), height }, { width: round(wide), height: round((wide * 9) / 16) }] } as const; // prettier-ignore
});
const worn = (use: TraitUse, { width, height }: { width: number; height: number }, paint: (x: number, y: number) => number, n = 0): Float32Array[] =>
  wearFloat(engine, lookOf([use], 'super8'), painted(width, height, paint), n);
const alike = (measure: (shape: { width: number; height: number }) => number, share: number): void => {
  for (const { shapes } of TWINS) {
    const [narrow, wide] = shapes.map(measure) as [number, number];
    expect([wide, abs(wide / narrow - 1) < share]).toEqual([wide, true]);
  }
};

describe('at 4:3 and at 16:9', () => {
  test('grain is as large', () => {
    alike((shape) => {
      const [red] = worn({ trait: 'grain', settings: { size: 24, rms: 20 } }, shape, () => 0.5);
      const width = shape.width;
      return correlation(red!.subarray(0, width * 200), red!.subarray(2, width * 200 + 2));
    }, 0.03);
  });

  test('dust covers as much, a speck', () => {
    alike((shape) => {
      let covered = 0;
      for (let n = 0; n < 6; n++) {
        const [red] = worn({ trait: 'dust', settings: { count: 60, opacity: 1 } }, shape, () => 0.5, n);
        covered += red!.filter((v) => abs(v - 0.5) > 0.1).length;
      }
      return covered;
    }, 0.15);
  });

  test('a halo falls away over as many pixels', () => {
    alike((shape) => {
      const [x, y] = [floor(shape.width / 2), floor(shape.height / 2)];
      const radius = 30;
      const [red] = worn({ trait: 'halation', settings: { amount: 0.5, radius: 60 } }, shape, (px, py) => ((px - x) ** 2 + (py - y) ** 2 < radius ** 2 ? 1 : 0.02));
      const out = (by: number): number => red![y * shape.width + x + radius + by]! - 0.02;
      // Where half of what stands near the edge is left.
      let by = 3;
      const near = out(by);
      while (out(by) > near / 2) by++;
      return by;
    }, 0.08);
  });

  test('a perforation is as high, and the picture is as wide as the gate at 16:9', () => {
    const scale = 40;
    for (const { perPixel, shapes } of TWINS) {
      for (const shape of shapes) {
        const { width, height } = shape;
        const plane = worn({ trait: 'gate-frame', settings: { scale, open: 1, fuzz: 0, burr: 0, corner: 0 } }, shape, () => 0.2)[1]!;
        const x = round(width / 2 + (film!.perforations[0]!.x * 1000 * scale) / 100 / perPixel);
        const column = Array.from({ length: height }, (_, y) => plane[y * width + x]! > 0.62);
        // The longest whole run of bare light.
        const runs = column
          .map((lit) => (lit ? '1' : '0'))
          .join('')
          .slice(column.indexOf(false))
          .split('0')
          .slice(0, -1)
          .map((run) => run.length);
        const wanted = (film!.perforation.height * 1000 * scale) / 100 / perPixel;
        expect(abs(max(...runs) - wanted)).toBeLessThan(1.5);
        const row = Array.from(plane.subarray(floor(height / 2) * width, (floor(height / 2) + 1) * width));
        const picture = row.filter((v) => abs(v - 0.2) < 0.01).length;
        expect(abs(picture / width - scale / 100)).toBeLessThan(0.01);
      }
    }
    expect(mean(TWINS.map(({ perPixel, shapes }) => shapes[1].width * perPixel))).toBeCloseTo(gate!.width * 1000, -1);
  });
});
