/** How long a tube's light lasts, measured on a flash and on a point that goes out, in milliseconds, at two sizes and rates. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import { Plan } from '../plan/plan';
import { lookOf, newEngine, painted, RGB16, RGB8 } from '../testing';
import type { TraitUse } from '../look/look';

// Taken once: in hot loops each look-up of a global costs.
const { abs, log10, max, min } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** Light of the middle of each channel over pictures `from` to `to`, in shares of white. */
function lightOver(settings: TraitUse['settings'], rate: number, height: number, levelAt: (n: number) => number, from: number, to: number): number[][] {
  const width = (height * 4) / 3;
  const source = { width, height, encoding: RGB16 };
  const plan = new Plan(engine, lookOf([{ trait: 'phosphor', settings }], 'none'), { source, target: { width, height, encoding: 'float' }, rate, footage: 'flash' });
  const out: number[][] = [];
  for (let n = from; n < to; n++) {
    const planes = plan.render(n, (picture): RawFrame => painted(width, height, () => levelAt(picture)));
    const at = (height >> 1) * width + (width >> 1);
    out.push(planes.map((plane) => max(0, new Float32Array(plane.buffer, plane.byteOffset)[at]!) ** 2.4));
  }
  plan.dispose();
  return out;
}

describe('phosphor', () => {
  test.each([
    [25, 24, 80],
    [25, 48, 200],
    [60, 24, 60],
    [60, 48, 120],
  ])('at %d a second, %d lines: a point that goes out is down to a tenth after the %d ms that are set', (rate, height, ms) => {
    const lit = (n: number): number => (n < 20 ? 1 : 0);
    const seen = lightOver({ red: ms, green: ms / 2, blue: 0.3 }, rate, height, lit, 19, 32);
    expect(seen[0]!.map((v) => abs(v - 1) < 0.005)).toEqual([true, true, true]);
    for (const [channel, decay] of [
      [0, ms],
      [1, ms / 2],
    ] as const) {
      // The slope of its logarithm, between 60 and 3 % of the light.
      const falling = seen.map((v, i) => [i, v[channel]!] as const).filter(([i, v]) => i > 0 && v < 0.6 && v > 0.03);
      if (falling.length < 2) continue;
      const [[a, va], [b, vb]] = [falling[0]!, falling.at(-1)!];
      const measured = ((b - a) * 1000) / rate / (log10(va) - log10(vb));
      expect(abs(measured / decay - 1)).toBeLessThan(0.05);
    }
    // Blue is gone with the next picture.
    expect(seen[1]![2]!).toBeLessThan(1e-4);
    expect(seen[1]![0]!).toBeGreaterThan(0.03);
  });

  test.each([24, 48])('gives off all the light of a flash, sooner or later, and leaves a still picture as bright as it was (%d lines)', (height) => {
    const flash = lightOver({ red: 100, green: 50, blue: 20 }, 25, height, (n) => (n === 10 ? 0.8 : 0), 8, 24);
    for (const channel of [0, 1, 2]) expect(abs(flash.reduce((sum, v) => sum + v[channel]!, 0) / 0.8 ** 2.4 - 1)).toBeLessThan(0.01);
    // None before it.
    expect(max(...flash[0]!, ...flash[1]!)).toBeLessThan(1e-6);
    for (const level of [0.02, 0.5, 1]) {
      const [still] = lightOver({ red: 300, green: 100, blue: 50 }, 25, height, () => level, 40, 41);
      for (const v of still!) expect(abs(v / level ** 2.4 - 1)).toBeLessThan(0.03);
    }
  });

  test('of one colour shows luma in that colour', () => {
    const paint = (x: number): readonly [number, number, number] => (x < 8 ? [1, 0, 0] : x < 16 ? [0, 1, 0] : [1, 1, 1]);
    const frame = painted(24, 8, paint);
    const lightOf = (tube: string): number[][] => {
      const plan = new Plan(engine, lookOf([{ trait: 'phosphor', settings: { tube } }], 'none'), { source: frame, target: { width: 24, height: 8, encoding: 'float' }, rate: 25 });
      const planes = plan.render(0, frame).map((plane) => new Float32Array(plane.buffer, plane.byteOffset, 24 * 8));
      plan.dispose();
      return [4, 12, 20].map((x) => planes.map((plane) => max(0, plane[4 * 24 + x]!) ** 2.4));
    };
    // Y' = 0.299 R' + 0.587 G' + 0.114 B' (BT.601), shown by a power of 2.4.
    for (const tube of ['white', 'green', 'amber', 'blue-white']) {
      const [red, green, white] = lightOf(tube);
      for (let c = 0; c < 3; c++) {
        expect(red![c]! / white![c]!).toBeCloseTo(0.299 ** 2.4, 3);
        expect(green![c]! / white![c]!).toBeCloseTo(0.587 ** 2.4, 3);
      }
    }
    const [, , white] = lightOf('white');
    for (const v of white!) expect(v).toBeCloseTo(1, 3);
    const [, , green] = lightOf('green');
    expect([green![1]! > 0.99, max(green![0]!, green![2]!) < 0.3]).toEqual([true, true]);
    const [, , amber] = lightOf('amber');
    expect([amber![0]! > 0.99, amber![1]! > 0.3 && amber![1]! < 0.6, amber![2]! < 0.1]).toEqual([true, true, true]);
    const [, , cold] = lightOf('blue-white');
    expect([cold![2]! > 0.99, cold![0]! < cold![1]!, cold![1]! < cold![2]!]).toEqual([true, true, true]);
  });

  test('is the same bits alone, in sequence and backwards, whatever was shown between', () => {
    const look = lookOf(
      [{ trait: 'noise', settings: { amount: 0.1 } }, { trait: 'scanlines' }, { trait: 'phosphor', settings: { tube: 'green', green: 150 } }, { trait: 'tube-glow' }],
      'none',
    );
    const [width, height] = [32, 24];
    const options = { source: { width, height, encoding: RGB16 }, target: { width, height, encoding: RGB8 }, rate: 25 };
    const given = (n: number): RawFrame => painted(width, height, (x) => ((x + 3 * n) % 32) / 32);
    const plan = new Plan(engine, look, { ...options, footage: 'ramp' });
    const order = [0, 1, 2, 3, 4, 30, 31, 5, 6, 31, 30, 29, 2];
    for (const n of order) {
      const alone = new Plan(engine, look, options);
      expect(plan.render(n, given)).toEqual(alone.render(n, given));
      alone.dispose();
    }
    plan.dispose();
  });

  test('on one tube filmed off another, with something that comes and goes before the first: alone as in sequence, and all memory given back', () => {
    const phosphor: TraitUse = { trait: 'phosphor', settings: { red: 100, green: 200 } };
    const mark: TraitUse = { trait: 'splices', settings: { count: 0, held: 2, bump: 4 }, events: { pinned: [0.05, 0.2].map((at) => ({ id: `at ${at}`, at })) } };
    const first = lookOf([phosphor, mark], 'film16');
    const look = { ...first, lives: [...first.lives, ...lookOf([phosphor], 'super16').lives] };
    const [width, height] = [32, 24];
    const options = { source: { width, height, encoding: RGB16 }, target: { width, height, encoding: RGB8 }, rate: 24 };
    const given = (n: number): RawFrame => painted(width, height, (x, y) => ((x + y + 5 * n) % 32) / 32);
    const before = engine.reservedBytes;
    const plan = new Plan(engine, look, { ...options, footage: 'ramp' });
    for (const n of [0, 1, 2, 3, 4, 5, 6, 3, 7, 1]) {
      const alone = new Plan(engine, look, options);
      expect(plan.render(n, given)).toEqual(alone.render(n, given));
      alone.dispose();
    }
    plan.dispose();
    expect(engine.reservedBytes).toBe(before);
  });

  test('asks only for what it has not seen, and for no more pictures than there are', () => {
    const look = lookOf([{ trait: 'phosphor', settings: { tube: 'green', green: 400 } }], 'none');
    const frame = painted(8, 8, () => 0.5);
    const options = { source: frame, target: { width: 8, height: 8, encoding: RGB8 }, rate: 25 };
    const plan = new Plan(engine, look, { ...options, footage: 'grey' });
    expect(plan.sourcePictures(2)).toEqual([2, 1, 0]);
    expect(plan.sourcePictures(40).length).toBe(24);
    expect(min(...plan.sourcePictures(40))).toBe(plan.score.sourceWindow(40).first);
    plan.render(40, frame);
    expect(plan.sourcePictures(40)).toEqual([40]);
    expect(plan.sourcePictures(41)).toEqual([41]);
    plan.dispose();
  });

  test('a picture that fails leaves nothing half-remembered', () => {
    const look = lookOf([{ trait: 'phosphor', settings: { tube: 'green', green: 100 } }], 'none');
    const given = (n: number): RawFrame => painted(8, 8, () => n / 20);
    const options = { source: { width: 8, height: 8, encoding: RGB16 }, target: { width: 8, height: 8, encoding: RGB8 }, rate: 25 };
    const plan = new Plan(engine, look, { ...options, footage: 'steps' });
    const failing = (n: number): RawFrame => {
      if (n === 10) throw new Error('gone');
      return given(n);
    };
    expect(() => plan.render(10, failing)).toThrow('gone');
    const alone = new Plan(engine, look, options);
    expect(plan.render(10, given)).toEqual(alone.render(10, given));
    alone.dispose();
    plan.dispose();
  });
});
