/** Stocks by wavelength: an eye and a lamp as published, dyes balanced from white to black, and tables that hold what was computed. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../../engine';
import { lookOf, newEngine, painted, wearFloat } from '../../testing';
import { blackBody, observer, projected, spectrum, sumOver, WAVELENGTHS } from './spectra';
import { StockColour } from './stock-colour';
import { STOCKS, type Stock, type StockId } from './stocks';

const { abs, max, min, log10 } = Math;
let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});
const answerOf = (stock: Stock): ((light: readonly number[]) => [number, number, number]) => {
  const colour = new StockColour(engine, stock);
  return (light) => [...colour.densities(Float64Array.from(light))] as [number, number, number];
};
const chromaticity = (of: (l: number) => number): number[] => {
  const xyz = observer(engine.kernels).map((curve) => sumOver(curve, spectrum(of)));
  const sum = xyz.reduce((a, b) => a + b, 0);
  return xyz.slice(0, 2).map((v) => v / sum);
};

describe('an eye', () => {
  test('sees an even spectrum as the equal-energy white, and a black body of 6500 K where the locus has it (CIE 15)', () => {
    for (const v of chromaticity(() => 1)) expect(v).toBeCloseTo(1 / 3, 2);
    const lamp = blackBody(engine.kernels, 6500);
    const [x, y] = chromaticity((l) => lamp[WAVELENGTHS.indexOf(l)]!);
    expect(abs(x! - 0.3135)).toBeLessThan(0.004);
    expect(abs(y! - 0.3237)).toBeLessThan(0.004);
  });

  test('sees a lamp of any heat as white, and red of 650 nm as red that BT.709 does not reach', () => {
    for (const kelvin of [3200, 5500, 6500])
      for (const plane of projected(engine.kernels, blackBody(engine.kernels, kelvin))) expect(plane.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 12);
    const [r, g] = projected(engine.kernels, blackBody(engine.kernels, 5500)).map((plane) => plane[WAVELENGTHS.indexOf(650)]!);
    expect(r).toBeGreaterThan(0);
    expect(g).toBeLessThan(0);
  });
});

describe.each(Object.keys(STOCKS) as StockId[])('%s', (id) => {
  const stock: Stock = STOCKS[id];
  const evenly: Stock = { ...stock, responses: [stock.responses[1], stock.responses[1], stock.responses[1]], speed: [0, 0, 0], base: [0, 0, 0] };

  test('is balanced: where its layers answer alike grey is neutral from white to black, of the density the curve has', () => {
    const of = answerOf(evenly);
    for (let density = 0.2; density < 3; density += 0.2) {
      const light = 10 ** -density;
      const [r, g, b] = of([light, light, light]);
      expect(max(r, g, b) - min(r, g, b)).toBeLessThan(0.02);
    }
  });

  test('its table is what was computed: on the axis of greys to a thousandth, elsewhere near it', () => {
    const of = answerOf(stock);
    const paint = (x: number, y: number): readonly [number, number, number] => (y < 4 ? [x / 255, x / 255, x / 255] : [x / 255, (255 - x) / 255, ((x * 7) % 256) / 255]);
    const planes = wearFloat(engine, lookOf([{ trait: 'dyes', settings: { stock: id } }]), painted(256, 8, paint), 0, 24);
    // What comes in is read the same way, so that nothing of the picture's own steps counts.
    const given = wearFloat(engine, lookOf([]), painted(256, 8, paint), 0, 24);
    const errors: [number[], number[]] = [[], []];
    for (let y = 0; y < 8; y++)
      for (let x = 16; x < 256; x++) {
        const exact = of(given.map((plane) => plane[y * 256 + x]! ** 2.4));
        exact.forEach((density, plane) => errors[y < 4 ? 0 : 1].push(abs(-2.4 * log10(max(1e-4, planes[plane]![y * 256 + x]!)) - density)));
      }
    expect(max(...errors[0])).toBeLessThan(4e-3);
    const near = errors[1].filter((v) => v < 0.02).length / errors[1].length;
    expect(near).toBeGreaterThan(0.9);
  });

  test('its clearest and its densest lie within what a display can show', () => {
    const of = answerOf(stock);
    for (const light of [
      [4, 0, 0],
      [0, 4, 0],
      [0, 0, 4],
      [4, 4, 0],
      [1, 1, 1],
      [4, 4, 4],
      [0, 0, 0],
    ] as const)
      for (const density of of(light)) {
        expect(density).toBeGreaterThan(0.01);
        expect(density).toBeLessThan(8);
      }
  });
});

test('half a stock lies half way in density', () => {
  const grey = painted(64, 4, (x) => 0.1 + x / 80);
  const [none, half, all] = [0, 0.5, 1].map((amount) => wearFloat(engine, lookOf([{ trait: 'dyes', settings: { stock: 'ember', amount } }]), grey, 0, 24)) as [
    Float32Array[],
    Float32Array[],
    Float32Array[],
  ];
  for (let plane = 0; plane < 3; plane++)
    for (let x = 4; x < 60; x += 5) expect(2.4 * abs(log10(half[plane]![x]!) - 0.5 * (log10(none[plane]![x]!) + log10(all[plane]![x]!)))).toBeLessThan(4e-3);
});
