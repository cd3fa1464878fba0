/** What a receiver does to a picture, measured with test signals in the units set, in both line standards. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { amplitude, AIR, dB, edgeOf, LINE_US, lumaWornBy } from '../testing-lines';
import { newEngine, rms, sameBits } from '../testing';

// Taken once: in hot loops each look-up of a global costs.
const { PI, abs, cos, max, round, sin } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const wornLuma = lumaWornBy(() => engine);

describe('air', () => {
  test.each(AIR)('snow has the S/N set, on %s', (carrier, height) => {
    for (const set of [12, 30])
      for (const width of [720, 1440])
        expect(abs(-dB(rms(wornLuma([{ trait: 'snow', settings: { amount: set, colour: 0 } }], carrier, width, height, () => 0.5))) - set)).toBeLessThan(0.5);
  });

  test.each(AIR)('a ghost stands where and as strong as set, on %s', (carrier, height) => {
    for (const width of [720, 1440]) {
      const us = width / LINE_US;
      const pulse = (x: number): number => 0.1 + 0.6 * Math.exp(-(((x - width * 0.3) / (0.25 * us)) ** 2));
      const plane = wornLuma([{ trait: 'ghosting', settings: { delay: 3.3, level: -15, secondDelay: 7, secondLevel: -26, secondNegative: true } }], carrier, width, height, pulse);
      const row = plane.subarray(200 * width, 201 * width);
      const middleOf = (from: number, to: number): { at: number; sum: number } => {
        let [sum, at] = [0, 0];
        for (let x = round(from); x < to; x++) {
          const v = row[x]! - row[round(width * 0.9)]!;
          sum += v;
          at += v * x;
        }
        return { at: at / sum, sum };
      };
      const [own, first, second] = [0, 3.3, 7].map((late) => middleOf(width * 0.3 + (late - 1.2) * us, width * 0.3 + (late + 1.2) * us)) as [
        ReturnType<typeof middleOf>,
        ReturnType<typeof middleOf>,
        ReturnType<typeof middleOf>,
      ];
      expect(abs((first.at - own.at) / us - 3.3)).toBeLessThan(0.01 + 0.03);
      expect(abs(dB(first.sum / own.sum) + 15)).toBeLessThan(0.5);
      expect(second.sum).toBeLessThan(0);
      expect(abs(dB(-second.sum / own.sum) + 26)).toBeLessThan(1);
    }
  });

  test.each(AIR)('in snow lines lose their place by the noise over the slope of their sync, on %s', (carrier, height) => {
    // Of a sync edge of 0.4 of white in 0.25 us; a wave over the whole line tells its place through the noise.
    const placesOf = (amount: number, hold: number, cycles = 40): number[] => {
      const plane = wornLuma([{ trait: 'snow', settings: { amount, colour: 0, hold } }], carrier, 720, height, (x) => 0.5 + 0.4 * sin((2 * PI * cycles * x) / 720));
      return Array.from({ length: height }, (_, y) => {
        let [re, im] = [0, 0];
        for (let x = 40; x < 680; x++) {
          const turn = (2 * PI * cycles * (x + 0.5)) / 720;
          re += plane[y * 720 + x]! * sin(turn);
          im += plane[y * 720 + x]! * cos(turn);
        }
        return ((Math.atan2(im, re) / (2 * PI)) * (LINE_US * 1000)) / cycles;
      });
    };
    for (const amount of [28, 31]) {
      const expected = (10 ** (-amount / 20) * 250) / 0.4;
      // A wave's place is itself told only to about a nanosecond.
      expect(abs(rms(placesOf(amount, 1)) / expected - 1)).toBeLessThan(0.12);
      // A first-order loop over n lines leaves sqrt(1 / (2 n - 1)) of it.
      expect(abs(rms(placesOf(amount, 5)) / (expected / 3) - 1)).toBeLessThan(0.3);
    }
    // At 14 dB the noise is half a pulse: a third of all pulses (what of a bell lies beyond one sigma) is not found, and those lines begin anywhere within 4 us.
    const torn = placesOf(14, 1, 6);
    expect(abs(torn.filter((ns) => abs(ns) > 1000).length / height - 0.317 * 0.75)).toBeLessThan(0.06);
    // And a strong station stands.
    expect(rms(placesOf(45, 10))).toBeLessThan(2);
  });

  test.each(AIR)('hum leans lines as far as set, with its brightness, on %s', (carrier, height) => {
    for (const bend of [0.2, 1]) {
      const plane = wornLuma([{ trait: 'hum', settings: { amount: 0, bend } }], carrier, 720, height, (x) => (x < 360 ? 0.2 : 0.8));
      const places = Array.from({ length: height }, (_, y) => edgeOf(plane, 720, y, 20, 700));
      const lean = (places.reduce((a, b) => max(a, b)) - places.reduce((a, b) => Math.min(a, b))) / 2 / 13.5;
      expect(abs(lean / bend - 1)).toBeLessThan(0.05);
      expect(plane.every((v) => v > 0.1)).toBe(true);
    }
  });

  test('hum turns in the time set, and is where it was after hours', () => {
    const bars = (n: number): Float32Array => wornLuma([{ trait: 'hum', settings: { amount: 10, turn: 8 } }], 'broadcast', 720, 486, () => 0.5, n);
    const [a, half, whole, hours] = [bars(0), bars(100), bars(200), bars(200 * 1000)];
    expect(abs(a.reduce((most, v) => max(most, v), 0) - 0.6)).toBeLessThan(0.01);
    expect(rms(a.map((v, i) => v + half[i]!))).toBeLessThan(0.002);
    expect(rms(a.map((v, i) => v - whole[i]!))).toBeLessThan(1e-4);
    expect(rms(a.map((v, i) => v - hours[i]!))).toBeLessThan(1e-4);
  });

  test('interference has its frequency and its amount', () => {
    const plane = wornLuma([{ trait: 'interference', settings: { frequency: 1.7, amount: 6, slant: 0.2 } }], 'broadcast625', 720, 576, () => 0.5);
    expect(abs(amplitude(plane, 720, 1.7 * LINE_US, [100, 101, 300]) / 0.06 - 1)).toBeLessThan(0.05);
    expect(amplitude(plane, 720, 2.2 * LINE_US, [100])).toBeLessThan(0.006);
  });

  test('a roll goes round and ends at rest, bit for bit', () => {
    const roll = (n: number): Float32Array =>
      wornLuma(
        [{ trait: 'vertical-roll', settings: { count: 0, turns: 1, length: 1, bar: 8 }, events: { pinned: [{ id: 'a', at: 0.2 }] } }],
        'broadcast625',
        720,
        576,
        (_x, y) => y / 576,
        n,
      );
    const clean = roll(0);
    expect(rms(roll(12).map((v, i) => v - clean[i]!))).toBeGreaterThan(0.1);
    expect(sameBits([roll(35)], [clean])).toBe(true);
  });

  test('tearing leaves its lines aside, and others where they are', () => {
    const plane = wornLuma([{ trait: 'tearing', settings: { amount: 12, place: 0.3, height: 0.2, rough: 0 } }], 'broadcast', 720, 486, (x) => (x < 360 ? 0.2 : 0.8), 9);
    const at = (y: number): number => edgeOf(plane, 720, y, 10, 710);
    expect(abs(at(400) - at(300))).toBeLessThan(0.05);
    expect(abs(at(146) - at(400))).toBeGreaterThan(4);
  });
});
