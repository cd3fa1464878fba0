/** What a stock makes of strong colours: nothing at a channel's end that was not, nothing flat, skin and grey as they were. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { lookOf, newEngine, painted, rms, wearFloat } from '../testing';
import { STOCKS, type Stock } from './stock/stocks';

// Taken once: in hot loops each look-up of a global costs.
const { abs, floor, max, min, sin } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const COLOUR = Object.entries<Stock>(STOCKS)
  .filter(([, stock]) => stock.dyes !== null)
  .map(([id]) => id);
type Rgb = readonly [number, number, number];
const through = (stock: string, paint: (x: number, y: number) => Rgb, width = 256, height = 64): Float32Array[] =>
  wearFloat(engine, lookOf([{ trait: 'dyes', settings: { stock } }]), painted(width, height, paint), 0, 24);
/** A colour of a hue, 0 to 6 round the circle, and a saturation, as bright as `value`. */
function ofHue(hue: number, saturation: number, value: number): Rgb {
  const part = (n: number): number => {
    const k = (n + hue) % 6;
    return value * (1 - saturation * max(0, min(k, 4 - k, 1)));
  };
  return [part(5), part(3), part(1)];
}
/** Share of the pixels with a channel that a display holds at its end. */
const atEnds = (planes: readonly Float32Array[]): number => {
  let count = 0;
  for (let i = 0; i < planes[0]!.length; i++) if (planes.some((p) => p[i]! < 0.5 / 255 || p[i]! > 254.5 / 255)) count++;
  return count / planes[0]!.length;
};

describe.each(COLOUR)('%s', (stock) => {
  test('puts no colour at a channel’s end, however strong', () => {
    // All hues across, from grey to full down.
    for (const value of [0.4, 0.7, 0.97]) expect(atEnds(through(stock, (x, y) => ofHue((6 * x) / 256, 0.98 * (y / 64), value)))).toBeLessThan(0.005);
  });

  test('keeps half the contrast inside a patch of strong red, yellow or green', () => {
    for (const [hue, name] of [
      [0, 'red'],
      [1, 'yellow'],
      [2, 'green'],
      [4, 'blue'],
    ] as const) {
      // Cloth with folds: 8 % up and down about a strong colour.
      const fold = (x: number): number => 1 + 0.08 * sin(x / 3);
      const paint = (x: number): Rgb => ofHue(hue, 0.92, 0.6).map((v) => v * fold(x)) as unknown as Rgb;
      const [before, after] = [wearFloat(engine, lookOf([]), painted(256, 8, paint), 0, 24), through(stock, paint, 256, 8)].map((planes) =>
        max(...planes.map((p) => rms(p.subarray(0, 256)))),
      ) as [number, number];
      expect([name, after > 0.5 * before]).toEqual([name, true]);
    }
  });

  test('leaves grey neutral to its base, and skin skin', () => {
    const skin: Rgb = [0.82, 0.62, 0.5];
    const [r, g, b] = through(stock, () => skin, 8, 8).map((p) => p[20]!) as [number, number, number];
    expect([r > g, g > b, r < 1]).toEqual([true, true, true]);
    const greys = through(stock, (x) => {
      const v = floor(x / 16) / 16;
      return [v, v, v];
    });
    for (let i = 2; i < 16; i++) {
      const [red, green, blue] = greys.map((p) => p[i * 16 + 8]!) as [number, number, number];
      expect(max(abs(red - green), abs(green - blue))).toBeLessThan(0.14);
    }
  });

  test.each([0.3, 0.85])('laid on by %p: so much of its density, the rest the light’s own', (amount) => {
    const paint = (x: number, y: number): Rgb => ofHue((6 * x) / 256, y / 64, 0.08 + 0.9 * (((x * 7) % 32) / 32));
    const shown = (settings: Record<string, number>): Float32Array[] =>
      wearFloat(engine, lookOf([{ trait: 'dyes', settings: { stock, ...settings } }]), painted(256, 64, paint), 0, 24);
    const [bare, whole, part] = [wearFloat(engine, lookOf([]), painted(256, 64, paint), 0, 24), shown({}), shown({ amount })];
    let away = 0;
    for (let plane = 0; plane < 3; plane++)
      for (let i = 0; i < part[plane]!.length; i++) {
        const [a, b] = [bare[plane]![i]!, whole[plane]![i]!];
        // Densities mixed are signals multiplied.
        if (a > 0.01) away = max(away, abs(part[plane]![i]! - a ** (1 - amount) * max(b, 1e-4) ** amount));
      }
    expect(away).toBeLessThan(0.1 / 255);
  });
});
