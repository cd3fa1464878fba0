/** A look may have its carrier's shape: the picture fills it, whatever the file's, and what it is measured by is of that shape. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { checkLook } from '../look/check';
import type { Look } from '../look/look';
import { carrierShape, shownSize } from '../look/shape';
import { lookOf, mean, newEngine, painted, RGB8, wearFloat } from '../testing';
import { Plan } from './plan';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const shaped = (carrier: string, traits: Look['lives'][0]['traits'] = []): Look => checkLook({ ...lookOf([...traits], carrier), shape: 'carrier' });
const columns = (plane: Float32Array, width: number, height: number): number[] =>
  Array.from({ length: width }, (_, x) => mean(Array.from({ length: height }, (_, y) => plane[y * width + x]!)));

describe('the shape of a look', () => {
  test('is 4 : 3 on tape, air and tubes, and a gauge’s own on film', () => {
    expect(carrierShape('vhs625')).toBeCloseTo(4 / 3, 6);
    expect(carrierShape('super8')).toBeCloseTo(5.46 / 4.01, 6);
    expect(carrierShape('none')).toBeUndefined();
    expect(shownSize(shaped('vhs'), { width: 1920, height: 1080 })).toEqual({ width: 1440, height: 1080 });
    expect(shownSize(shaped('vhs'), { width: 720, height: 1280 })).toEqual({ width: 720, height: 540 });
    expect(shownSize(lookOf([], 'vhs'), { width: 1920, height: 1080 })).toEqual({ width: 1920, height: 1080 });
    // Bars are even, so that no pair of pixels that share a colour is parted.
    expect(shownSize(shaped('super8'), { width: 1920, height: 1080 })).toEqual({ width: 1472, height: 1080 });
    expect(shownSize(shaped('super8'), { width: 1080, height: 1920 })).toEqual({ width: 1080, height: 792 });
    expect(shownSize(shaped('super8'), { width: 853, height: 480 }).width % 4).toBe(853 % 4);
    // The last life is what shows it.
    const both: Look = {
      ...shaped('super8'),
      lives: [
        { carrier: 'super8', traits: [] },
        { carrier: 'vhs', traits: [] },
      ],
    };
    expect(shownSize(both, { width: 1920, height: 1080 }).width).toBe(1440);
  });

  test.each([
    [640, 360],
    [1280, 720],
  ])('leaves black bars and nothing bare between, at %d x %d', (width, height) => {
    const bars = columns(
      wearFloat(
        engine,
        shaped('vhs', [{ trait: 'hum', settings: { amount: 0.01 } }]),
        painted(width, height, () => 0.6),
      )[1]!,
      width,
      height,
    );
    const wide = (height * 4) / 3;
    const seen = bars.filter((v) => v > 0.3).length;
    expect(seen).toBe(Math.round(wide / 2) * 2);
    expect(bars.slice(0, Math.floor((width - seen) / 2)).every((v) => v === 0)).toBe(true);
    expect(bars.findIndex((v) => v > 0.55)).toBe((width - seen) / 2);
  });

  test('gives the same picture between its bars as in a file of its shape, bit for bit', () => {
    const look = shaped('super8', [{ trait: 'grain' }, { trait: 'gate-weave' }, { trait: 'vignette' }]);
    const frame = painted(640, 360, (x, y) => [x / 640, y / 360, 0.4]);
    const inner = shownSize(look, frame);
    const pixels = (width: number, height: number): Uint8Array[] => {
      const plan = new Plan(engine, look, { source: frame, target: { width, height, encoding: RGB8 }, rate: 24 });
      const planes = plan.render(3, frame);
      plan.dispose();
      return planes;
    };
    const [whole, alone] = [pixels(640, 360), pixels(inner.width, inner.height)];
    const left = (640 - inner.width) / 2;
    for (let plane = 0; plane < 3; plane++)
      for (const y of [0, 100, 359])
        expect(Buffer.from(whole[plane]!.subarray(y * 640 + left, y * 640 + left + inner.width))).toEqual(
          Buffer.from(alone[plane]!.subarray(y * inner.width, (y + 1) * inner.width)),
        );
  });

  test('is one of those there are', () => {
    expect(() => checkLook({ ...lookOf([]), shape: 'square' })).toThrow(/shape: must be one of file, carrier/);
  });
});
