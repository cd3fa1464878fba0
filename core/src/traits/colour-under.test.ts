/** Colour of a recorder beside its neighbour: what the comb cancels and what it cannot, in both line standards. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { lookOf, newEngine, painted, wearFloat } from '../testing';
import { luma, STANDARDS } from '../testing-lines';

// Taken once: in hot loops each look-up of a global costs.
const { abs, hypot, log10, max } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const GREY = [0.5, 0.5, 0.5] as const;
const RED = [0.7, 0.4146, 0.5] as const;
/** Cr and Cb of lines (BT.601), in the middle of the picture. */
function coloursOf(carrier: string, height: number, crosstalk: number, paint: (y: number) => readonly [number, number, number], n = 0): [number, number][] {
  const width = 720;
  const use = { trait: 'chroma-bandwidth', settings: { limit: 0.5, delay: 0, down: 0, crosstalk } };
  const planes = wearFloat(
    engine,
    lookOf([use], carrier),
    painted(width, height, (_, y) => paint(y)),
    n,
    25,
  );
  const y = luma(planes);
  return Array.from({ length: height }, (_, line) => {
    const at = line * width + 360;
    return [(planes[0]![at]! - y[at]!) / 1.402, (planes[2]![at]! - y[at]!) / 1.772];
  });
}

describe('crosstalk', () => {
  test.each(STANDARDS)('is cancelled where colour is the same from line to line, on %s', (carrier, height) => {
    const [clean, crossed] = [-60, -10].map((dB) => coloursOf(carrier, height, dB, () => RED));
    for (let y = 8; y < height - 8; y++) for (const i of [0, 1]) expect(abs(crossed![y]![i]! - clean![y]![i]!)).toBeLessThan(2e-4);
  });

  test.each(STANDARDS)('stands at the level set where colours change, on so many lines as the comb spans, on %s', (carrier, height) => {
    const edge = height / 2;
    const paint = (y: number): readonly [number, number, number] => (y < edge ? GREY : RED);
    // The neighbour is a line below: above the edge there is nothing but what it leaves.
    const full = coloursOf(carrier, height, -60, () => RED)[edge]!;
    const step = hypot(...full);
    for (const set of [-20, -12]) {
      const colours = coloursOf(carrier, height, set, paint);
      const above = hypot(...colours[edge - 1]!);
      // Of two lines added one has it: half the neighbour's colour.
      expect(abs(20 * log10((2 * above) / step) - set)).toBeLessThan(0.3);
      const span = height > 500 ? 4 : 2;
      for (const y of [edge - 2, edge - 10, edge + span + 1, edge + 20]) {
        const own = y < edge ? [0, 0] : full;
        expect(hypot(colours[y]![0] - own[0]!, colours[y]![1] - own[1]!)).toBeLessThan(1e-3);
      }
      // The price of the comb: half the colour is there over as many lines.
      const half = colours.filter(([r], y) => y >= edge && y < edge + span && abs(r / full[0] - 0.5) < max(0.2, 10 ** (set / 20))).length;
      expect(half).toBe(span);
    }
  });

  test.each(STANDARDS)('turns by half a turn (525) or a quarter (625) from line to line of a field and from picture to picture, on %s', (carrier, height) => {
    const quarters = height > 500 ? 1 : 2;
    const paint = (y: number): readonly [number, number, number] => (y < height / 2 ? GREY : RED);
    const line = (n: number): [number, number] => coloursOf(carrier, height, -12, paint, n)[height / 2 - 1]!;
    const angle = ([cr, cb]: [number, number]): number => Math.atan2(cr, cb);
    for (const n of [0, 1, 2]) {
      const turned = (angle(line(n + 1)) - angle(line(n))) / (Math.PI / 2);
      expect((((Math.round(turned * 100) / 100) % 4) + 4) % 4).toBeCloseTo(quarters, 1);
    }
  });
});
