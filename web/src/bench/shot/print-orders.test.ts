import { describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import type { Print, Shot } from '@tin-ghost/contract';
import { estimate, ordersFor, pixelsOf, secondsOf, type PrintChoice } from './print-orders';

const shot = (id: string, width: number, height: number, rate: number, frames: number): Shot =>
  ({ id, look: EMPTY_LOOK, preparation: {}, medium: { footage: { width, height, rate: { num: rate, den: 1 }, frames, sound: true } } }) as unknown as Shot;
const shots = [shot('a', 1920, 1080, 25, 200), shot('b', 1280, 720, 50, 200)];
const choice: PrintChoice = { format: 'mp4', coding: 'h264', quality: 'deliver', share: 0.5, bars: true, sound: true, making: 'both' };

describe('what is ordered', () => {
  test('of several shots: a file each, one film, or both', () => {
    const film = { shotId: 'a', following: ['b'], format: 'mp4', coding: 'h264', quality: 'deliver', sound: true, width: 960, height: 540 };
    const each = [
      { shotId: 'a', format: 'mp4', coding: 'h264', quality: 'deliver', sound: true, width: 960, height: 540 },
      { shotId: 'b', format: 'mp4', coding: 'h264', quality: 'deliver', sound: true, width: 640, height: 360 },
    ];
    expect(ordersFor(shots, choice)).toEqual([...each, film]);
    expect(ordersFor(shots, { ...choice, making: 'each' })).toEqual(each);
    expect(ordersFor(shots, { ...choice, making: 'film' })).toEqual([film]);
  });

  test('a range is that of a single shot', () => {
    const range = { from: 10, to: 20 };
    expect(ordersFor(shots.slice(1), { ...choice, range })).toEqual([
      { shotId: 'b', format: 'mp4', coding: 'h264', quality: 'deliver', sound: true, width: 640, height: 360, from: 10, to: 20 },
    ]);
    expect(ordersFor(shots, { ...choice, range })[0]).not.toHaveProperty('from');
    expect(ordersFor([], choice)).toEqual([]);
  });

  test('a pattern names files; a film beside files of its shots keeps its usual name', () => {
    const names = (all: readonly Shot[], making: PrintChoice['making']) => ordersFor(all, { ...choice, making, name: '{number}' }).map((order) => order.name);
    expect([names(shots, 'both'), names(shots, 'film'), names(shots.slice(1), 'each')]).toEqual([['{number}', '{number}', undefined], ['{number}'], ['{number}']]);
    expect(ordersFor(shots, choice)[0]).not.toHaveProperty('name');
  });

  test('a bit rate stands in place of a quality', () => {
    const [order] = ordersFor(shots.slice(1), { ...choice, bitRate: 8 });
    expect(order).toEqual({ shotId: 'b', format: 'mp4', coding: 'h264', bitRate: 8, sound: true, width: 640, height: 360 });
  });
});

describe('estimates', () => {
  test('count the pixels of every file; a film has the first shot’s rate', () => {
    const [a, b] = [960 * 540 * 200, 640 * 360 * 200];
    expect(pixelsOf(shots, { ...choice, making: 'each' })).toBe(a + b);
    // Eight seconds and four, at 25 a second.
    expect(pixelsOf(shots, { ...choice, making: 'film' })).toBe(960 * 540 * 300);
    expect(pixelsOf(shots.slice(0, 1), { ...choice, range: { from: 0, to: 50 } })).toBe(a / 4);
  });

  test('count the seconds of every file', () => {
    expect(secondsOf(shots.slice(0, 1), { making: 'each', range: { from: 25, to: 75 } })).toBe(2);
    expect((['each', 'film', 'both'] as const).map((making) => secondsOf(shots, { making }))).toEqual([12, 12, 24]);
  });

  test('go by what was struck in the same way, and tell no time before anything was struck', () => {
    expect(estimate(1e8, choice, []).seconds).toBeNull();
    const print = { state: 'done', bytes: 5e6, total: 100, perSecond: 20, settings: { format: 'mp4', width: 1000, height: 500 } } as unknown as Print;
    expect(estimate(1e8, choice, [print])).toEqual({ bytes: 1e7, seconds: 10 });
    // Another coding of the same format is another matter.
    expect(estimate(1e8, { ...choice, coding: 'h265' }, [print]).bytes).toBe(estimate(1e8, { ...choice, coding: 'h265' }, []).bytes);
    // So is one by a bit rate.
    expect(estimate(1e8, choice, [{ ...print, settings: { ...print.settings, bitRate: 8 } }]).bytes).toBe(estimate(1e8, choice, []).bytes);
    // In a quality of which there is none yet: by the usual bits a pixel, whatever the others took.
    const bare = estimate(1e8, { ...choice, quality: 'master' }, []).bytes;
    expect(estimate(1e8, { ...choice, quality: 'master' }, [print]).bytes).toBe(bare);
    expect(bare).toBeGreaterThan(2 * estimate(1e8, choice, []).bytes);
    // Finer bits are noise, which nothing packs: a 16-bit PNG of 100 megapixels was 437 MB, one of 8 bits 162.
    const png = { ...choice, format: 'png', coding: 'png' } as const;
    expect([estimate(1e8, png, []).bytes, estimate(1e8, { ...png, bits: 16 }, []).bytes].map((bytes) => Math.round(bytes / 1e6))).toEqual([163, 438]);
  });
});
