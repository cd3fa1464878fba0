/** What a line scope shows of the engine's own sweep and pulse, read as an engineer would. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import type { TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import type { Signal } from '../signals/signals';
import { lookOf, newEngine, painted, signalFrame } from '../testing';
import { lineLimits, lineOf, lineRow, lineSpectrum, lineStandard, lineTrace, type Points } from './line';

// Taken once: in hot loops each look-up of a global costs.
const { PI, abs, cos, max, sin } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const standardOf = (carrier: string) => lineStandard(lookOf([], carrier), 25);
/** Line 200 of a signal that went through traits, as the page gets it: 8-bit RGBA. */
function lineThrough(signal: Signal | RawFrame, carrier: string, width: number, height: number, traits: TraitUse[]): Float32Array {
  const frame = typeof signal === 'string' ? signalFrame(signal, width, height, 0.8) : signal;
  const plan = new Plan(engine, lookOf(traits, carrier), { source: frame, target: { width, height, encoding: 'rgba' }, rate: 25 });
  const [rgba] = plan.render(0, frame);
  plan.dispose();
  return lineOf(rgba!, width, 200, 0, width, 'luma');
}
const pairs = (points: Points): [number, number][] => Array.from({ length: points.length / 2 }, (_, i) => [points[2 * i]!, points[2 * i + 1]!]);
/** How much a spectrum stands over another about a frequency, in dB. */
function over(worn: [number, number][], clean: [number, number][], megahertz: number, about = 0.12): number {
  const level = (of: [number, number][]): number => {
    const near = of.filter(([f]) => abs(f - megahertz) < about);
    return 10 * Math.log10(near.reduce((sum, [, dB]) => sum + 10 ** (dB / 10), 0) / near.length);
  };
  return level(worn) - level(clean);
}

describe('the spectrum', () => {
  test.each([720, 1440])('has a sine at its frequency and its level, on a line of %d', (width) => {
    const standard = standardOf('vhs');
    for (const [megahertz, level] of [
      [1, 1],
      [3.58, 0.1],
      [6, 0.01],
    ] as const) {
      const samples = Float32Array.from({ length: width }, (_, i) => 0.5 + (level / 2) * sin((2 * PI * megahertz * (i + 0.5) * (720 / 13.5)) / width));
      const spectrum = pairs(lineSpectrum(samples, standard));
      const peak = spectrum.reduce((a, b) => (b[1] > a[1] ? b : a));
      expect(abs(peak[0] - megahertz)).toBeLessThan(0.01);
      expect(abs(peak[1] - 20 * Math.log10(level))).toBeLessThan(0.1);
      // All of the band, and no more.
      expect(max(...spectrum.map(([f]) => f))).toBeLessThanOrEqual(6.75);
      expect(max(...spectrum.map(([f]) => f))).toBeGreaterThan(6.73);
    }
  });

  test.each([
    ['vhs625', 576, 720],
    ['vhs', 486, 720],
    ['vhs625', 576, 1440],
  ])('of the sweep falls by 3 dB at the limit that is set: %s, %d lines, %d wide', (carrier, height, width) => {
    const standard = standardOf(carrier);
    for (const limit of [2, 3]) {
      const traits = [{ trait: 'luma-bandwidth', settings: { limit } }];
      const [worn, clean] = [traits, []].map((uses) => pairs(lineSpectrum(lineThrough('sweep', carrier, width, height, uses), standard))) as [
        [number, number][],
        [number, number][],
      ];
      expect(abs(over(worn, clean, 0.5))).toBeLessThan(0.3);
      // Where it crosses -3 dB.
      let at = 0.5;
      while (over(worn, clean, at, 0.06) > -3) at += 0.02;
      expect(abs(at / limit - 1)).toBeLessThan(0.05);
      expect(lineLimits(lookOf(traits, carrier))).toEqual(expect.arrayContaining([{ name: 'luma', megahertz: limit }]));
    }
  });

  test('of the sweep stands higher by the dB of peaking', () => {
    const standard = standardOf('broadcast625');
    const traits = [{ trait: 'peaking', settings: { gain: 6, frequency: 2 } }];
    // About mid-grey, so that what rings is not clipped.
    const soft = painted(720, 576, (x) => 0.5 + 0.12 * cos(((PI / 2) * x * x) / 720));
    const [worn, clean] = [traits, []].map((uses) => pairs(lineSpectrum(lineThrough(soft, 'broadcast625', 720, 576, uses), standard))) as [[number, number][], [number, number][]];
    expect(abs(over(worn, clean, 0.3))).toBeLessThan(0.7);
    expect(over(worn, clean, 2)).toBeGreaterThan(3.5);
  });
});

describe('the trace', () => {
  test.each([
    ['broadcast', 486, 63.556, -40],
    ['broadcast625', 576, 64, -43],
  ] as const)('of %s shows sync, blanking and a ghost at its delay', (carrier, height, end, sync) => {
    const standard = standardOf(carrier);
    const delay = 3.3;
    const traits = [{ trait: 'ghosting', settings: { delay, level: -12, secondLevel: -60 } }];
    const trace = pairs(lineTrace(lineThrough('pulse', carrier, 720, height, traits), standard, 'luma'));
    expect([trace[1], trace[2], trace.at(-1)]).toEqual([
      [0, sync],
      [4.7, sync],
      [end, 0],
    ]);
    // 720 samples of 13.5 MHz.
    const picture = trace.slice(5, -2);
    expect(picture).toHaveLength(720);
    expect(abs(picture.at(-1)![0] - picture[0]![0] - 719 / 13.5)).toBeLessThan(1e-6);
    // The picture begins 9.04 us (525) or 9.78 us (625) after the edge of sync; the pulse stands at a quarter of it.
    const began = height === 486 ? 9.037 : 9.778;
    const highest = (from: number, to: number): [number, number] => picture.filter(([us]) => us > from && us < to).reduce((a, b) => (b[1] > a[1] ? b : a));
    const own = highest(began + 12, began + 15);
    const ghost = highest(began + 15, began + 20);
    expect(abs(own[0] - (began + 180.5 / 13.5))).toBeLessThan(0.05);
    expect(abs(ghost[0] - own[0] - delay)).toBeLessThan(1 / 13.5);
    expect(abs(20 * Math.log10(ghost[1] / own[1]) + 12)).toBeLessThan(1);
  });

  test('the line at a place is one of the picture, not of its bars', () => {
    const tall = { ...lookOf([], 'vhs'), shape: 'carrier' } as const;
    // 720 x 540 of the 1280 rows are shown.
    expect([0, 0.25, 0.5, 0.9, 1].map((place) => lineRow(tall, { width: 720, height: 1280 }, place))).toEqual([370, 370, 640, 909, 909]);
    expect([0, 0.5, 1].map((place) => lineRow(lookOf([]), { width: 160, height: 90 }, place))).toEqual([0, 45, 89]);
  });

  test('takes the picture between its bars, and a colour difference without sync', () => {
    const width = 16;
    const rgba = new Uint8Array(width * 4 * 2).map((_, i) => (Math.floor(i / 4) % width < 4 || Math.floor(i / 4) % width >= 12 ? 0 : [255, 0, 0, 255][i % 4]!));
    expect([...lineOf(rgba, width, 1, 4, 8, 'luma')].every((v) => abs(v - 0.299) < 1e-6)).toBe(true);
    const red = lineOf(rgba, width, 1, 4, 8, 'red');
    expect(abs(red[0]! - 0.5)).toBeLessThan(1e-6);
    expect(lineTrace(red, standardOf('vhs'), 'red')).toHaveLength(2 * 8);
  });
});

test('without a raster a line is drawn in the standard of the file’s rate', () => {
  const film = lookOf([], 'super8');
  expect([24, 25, 29.97, 50, 59.94].map((rate) => lineStandard(film, rate).name)).toEqual(['625 lines', '625 lines', '525 lines', '625 lines', '525 lines']);
  expect(lineLimits(film)).toEqual([]);
  expect(lineLimits(lookOf([{ trait: 'luma-bandwidth', on: false }], 'vhs')).map(({ name }) => name)).toEqual(['recorder', 'subcarrier']);
});
