import { describe, expect, test } from '@jest/globals';
import { unlay } from './unlay';

const bytes = (values: readonly number[], bits: 8 | 16): Uint8Array => (bits === 8 ? new Uint8Array(values) : new Uint8Array(new Uint16Array(values).buffer));
const codes = (plane: Uint8Array, bits: 8 | 16): number[] => [...(bits === 8 ? plane : new Uint16Array(plane.buffer, plane.byteOffset, plane.length / 2))];

describe.each<8 | 16>([8, 16])('wear taken from a picture of %d bits', (bits) => {
  const most = 2 ** bits - 1;
  /** Levels of all kinds: ends, middles, neighbours. */
  const levels = [0, 1, 2, 5, 12, 78, 127, 128, 129, 195, 252, 253, 254, 255].map((v) => (bits === 8 ? v : Math.min(most, v * 257 + (v % 3) * 60)));
  const pairs = levels.flatMap((c) => levels.map((w) => [c, w] as const));
  /** Three channels with different pairs in each pixel. */
  const channels = [0, 11, 50].map((by) => pairs.map((_, i) => pairs[(i * 13 + by) % pairs.length]!));
  const clean = channels.map((list) =>
    bytes(
      list.map(([c]) => c),
      bits,
    ),
  );
  const worn = channels.map((list) =>
    bytes(
      list.map(([, w]) => w),
      bits,
    ),
  );
  const of = (ground: 'alpha' | 'grey' | 'black'): number[][] => unlay(clean, worn, ground, bits).map((plane) => codes(plane, bits));
  /** Largest difference from the worn picture, in codes of 8 bits. @param lay what a program makes of what lies below and of what is laid, 0 to 1 */
  const off = (planes: readonly number[][], lay: (below: number, laid: number, pixel: number) => number): number =>
    Math.max(...planes.flatMap((plane, p) => plane.map((v, i) => 255 * Math.abs(lay(channels[p]![i]![0] / most, v / most, i) - channels[p]![i]![1] / most))));

  test('with alpha, laid over it as `over` does, gives the worn picture within a code of 8 bits', () => {
    const [r, g, b, a] = of('alpha');
    expect(off([r!, g!, b!], (below, laid, i) => laid * (a![i]! / most) + below * (1 - a![i]! / most))).toBeLessThanOrEqual(bits === 8 ? 1 : 0.51);
    expect(Math.max(...a!)).toBe(most);
  });

  test('is clear where the pictures are the same', () => expect(codes(unlay(clean, clean, 'alpha', bits)[3]!, bits).every((v) => v === 0)).toBe(true));

  test('is as thin as can be: half the light gone is half the opacity, of black', () => {
    const [full, half] = [bytes([Math.round(most * 0.8)], bits), bytes([Math.round(most * 0.4)], bits)];
    const [r, , , a] = unlay([full, full, full], [half, half, half], 'alpha', bits).map((plane) => codes(plane, bits)[0]! / most);
    expect(Math.abs(a! - 0.5)).toBeLessThan(0.005);
    expect(r).toBeLessThan(0.01);
  });

  test('over grey, laid by linear light, gives the worn picture within a code; no change is the middle', () => {
    expect(off(of('grey'), (below, laid) => below + 2 * laid - 1)).toBeLessThanOrEqual(1.01);
    expect(codes(unlay(clean, clean, 'grey', bits)[0]!, bits).every((v) => v === (most + 1) / 2)).toBe(true);
  });

  test('over black, added, gives what is lighter, and leaves what is darker', () => {
    of('black').forEach((plane, p) => plane.forEach((v, i) => expect(channels[p]![i]![0] + v).toBe(Math.max(...channels[p]![i]!))));
  });
});

test('what differs by less than half a code of 8 bits is rounding, and not drawn', () => {
  const [same, near] = [bytes([1000, 1000, 64_000], 16), bytes([1000, 1128, 63_880], 16)];
  expect(codes(unlay([same, same, same], [near, near, near], 'alpha', 16)[3]!, 16)).toEqual([0, 0, 0]);
});
