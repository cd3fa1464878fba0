/** Faults of lenses, gates and screens, measured with spots, edges and greys at 540 and 1080 lines. The carrier is Super 8, whose gate is 4.01 mm high. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import { carriers } from '../carriers';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import type { TraitUse } from '../look/look';
import { light, lookOf, mean, newEngine, painted, rms, sameBits, wearFloat } from '../testing';

// Taken once: in hot loops each look-up of a global costs.
const { abs, floor, hypot, log2, max, min, round } = Math;
const LINES = [540, 1080];
const RATE = 24;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const within = (got: number, wanted: number, share: number): void => expect([wanted, abs(got / wanted - 1) < share ? 'as wanted' : got]).toEqual([wanted, 'as wanted']);
const worn = (uses: TraitUse[], frame: RawFrame, n = 0, carrier = 'super8', seed = 5): Float32Array[] => wearFloat(engine, lookOf(uses, carrier, seed), frame, n, RATE);
const pinned = (trait: string, settings: TraitUse['settings'], event: { x?: number; y?: number; length?: number } = {}): TraitUse => ({
  trait,
  settings,
  events: { pinned: [{ id: 'mine', at: 0.25, ...event }] },
});

/** A bright spot on black, and where it lies in a plane. */
const spotted = (width: number, height: number, x: number, y: number, radius: number) => painted(width, height, (px, py) => max(0, min(1, radius - hypot(px - x, py - y) + 0.5)));
function middle(plane: Float32Array, width: number): { x: number; y: number } {
  let [sum, sx, sy] = [0, 0, 0];
  for (let i = 0; i < plane.length; i++) {
    if (plane[i]! < 0.02) continue;
    sum += plane[i]!;
    sx += plane[i]! * ((i % width) + 0.5);
    sy += plane[i]! * (floor(i / width) + 0.5);
  }
  return { x: sx / sum, y: sy / sum };
}

describe('fringe and barrel', () => {
  test.each(LINES)('red and blue part by the share that is set, growing with the square of the distance, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    const corner = hypot(width, height) / 2;
    for (const far of [0.4, 0.9]) {
      const x = width / 2 + (far * width) / 2;
      const [red, green, blue] = worn([{ trait: 'fringe', settings: { red: 2, blue: -1.5 } }], spotted(width, height, x, height / 2, height / 80)).map((p) => middle(p, width).x);
      const d = x - width / 2;
      within(red! - green!, 0.02 * d * (d / corner) ** 2, 0.08);
      within(blue! - green!, -0.015 * d * (d / corner) ** 2, 0.08);
      expect(abs(green! - x)).toBeLessThan(0.05);
    }
  });

  test.each(LINES)('a barrel draws the corners in by its amount and leaves the middle, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    const corner = hypot(width, height) / 2;
    for (const amount of [12, -12]) {
      const at = { x: width * 0.84, y: height * 0.84 };
      const seen = middle(worn([{ trait: 'barrel', settings: { amount, filled: false } }], spotted(width, height, at.x, at.y, height / 80))[1]!, width);
      const d = hypot(seen.x - width / 2, seen.y - height / 2);
      // A corner is read at r (1 + a r^2) = 1 and stands at r = 1 - share.
      const bent = amount / 100 / (1 - amount / 100) ** 3;
      within(d * (1 + bent * (d / corner) ** 2), hypot(at.x - width / 2, at.y - height / 2), 0.004);
    }
  });

  test('kept filled it shows no black; left open it does', () => {
    const grey = painted(160, 120, () => 0.5);
    for (const amount of [25, -25]) expect(min(...worn([{ trait: 'barrel', settings: { amount } }], grey)[0]!)).toBeGreaterThan(0.49);
    expect(worn([{ trait: 'barrel', settings: { amount: 25, filled: false } }], grey)[0]![0]).toBe(0);
  });
});

describe('focus hunt', () => {
  /** Width of an edge that was sharp, from a quarter to three quarters of its light, over that of the blur's own bell of the depth. */
  const depthOf = (height: number, n: number): number => {
    const plane = worn(
      [pinned('focus-hunt', { spells: 0, depth: 2, length: 2 }, { length: 2 })],
      painted(64, height, (_x, y) => (y < height / 2 ? 0 : 1)),
      n,
    )[1]!;
    const down = Array.from({ length: height }, (_, y) => light(plane[y * 64 + 32]!));
    const crossing = (level: number): number => {
      const i = down.findIndex((v) => v >= level);
      return i - (down[i]! - level) / (down[i]! - down[i - 1]!);
    };
    // A bell's quarter points lie 1.349 sigma apart; half its width at half its height is 1.1774 sigma.
    return ((crossing(0.75) - crossing(0.25)) / 1.349) * 1.1774 * (100 / height);
  };

  test.each(LINES)('loses the focus as far as is set, and finds it again, at %d lines', (height) => {
    const depths = [6, 12, 20, 24, 28, 40, 48, 53].map((n) => depthOf(height, n));
    expect(max(...depths)).toBeGreaterThan(2 * 0.5);
    expect(max(...depths)).toBeLessThan(2 * 1.2 + 0.05);
    for (const end of [depths[0]!, depths.at(-1)!]) expect(end).toBeLessThan(0.15);
    // Hunted for: it comes and goes within the spell.
    expect(new Set(depths.slice(2, 6).map((d) => round(d * 20))).size).toBeGreaterThan(1);
  });

  test('before and after a spell nothing is changed', () => {
    const frame = painted(64, 64, (x, y) => ((x * 7 + y * 13) % 32) / 32);
    const clean = worn([], frame);
    for (const n of [5, 55]) expect(sameBits(worn([pinned('focus-hunt', { spells: 0, depth: 2, length: 2 }, { length: 2 })], frame, n), clean)).toBe(true);
  });
});

describe('streak', () => {
  test.each(LINES)('has half its strength at its length, along its angle, at %d lines', (height) => {
    const width = height;
    const [cx, cy] = [floor(width / 2), floor(height / 2)];
    for (const [angle, dx, dy] of [
      [0, 1, 0],
      [90, 0, 1],
      [45, Math.SQRT1_2, Math.SQRT1_2],
    ] as const) {
      const plane = worn([{ trait: 'streak', settings: { from: 1, length: 10, angle, amount: 8, colour: [1, 1, 1] } }], spotted(width, height, cx, cy, height / 60))[1]!;
      // Light across the streak, at distances from the spot.
      const at = (d: number): number => {
        let sum = 0;
        for (let s = -height / 20; s <= height / 20; s++) {
          const [x, y] = [floor(cx + dx * d - dy * s), floor(cy + dy * d + dx * s)];
          sum += light(plane[y * width + x]!);
        }
        return sum;
      };
      const length = width / 10;
      within(at(length) / at(length / 2), 0.5 / 0.75, 0.08);
      within(at(-length) / at(length), 1, 0.08);
      expect(at(2.2 * length)).toBeLessThan(0.02 * at(length));
    }
  });

  test('leaves what is not over its threshold alone', () => {
    const frame = painted(64, 48, (x) => 0.3 + 0.1 * (x % 2));
    const [clean, streaked] = [worn([], frame), worn([{ trait: 'streak' }], frame)];
    clean.forEach((plane, i) => expect(max(...plane.map((v, j) => abs(v - streaked[i]![j]!)))).toBeLessThan(1e-4));
  });
});

/** Places where something is that touch one another, as their sizes in pixels. */
export function islands(width: number, height: number, on: (i: number) => boolean): number[] {
  const seen = new Uint8Array(width * height);
  const sizes: number[] = [];
  for (let start = 0; start < seen.length; start++) {
    if (seen[start] || !on(start)) continue;
    const todo = [start];
    seen[start] = 1;
    let size = 0;
    while (todo.length) {
      const i = todo.pop()!;
      size++;
      const x = i % width;
      for (const j of [x > 0 ? i - 1 : -1, x < width - 1 ? i + 1 : -1, i - width, i + width]) {
        if (j < 0 || j >= seen.length || seen[j] || !on(j)) continue;
        seen[j] = 1;
        todo.push(j);
      }
    }
    sizes.push(size);
  }
  return sizes;
}

describe('dirt on the glass', () => {
  test.each(LINES)('lies still, as many marks as are set, as large at %d lines as at any', (height) => {
    const width = round((height * 4) / 3);
    const grey = painted(width, height, () => 0.6);
    const settings = { count: 6, size: 4, soft: 0, bright: 0, opacity: 1 };
    const [first] = worn([{ trait: 'dirt', settings }], grey, 0);
    expect(sameBits([worn([{ trait: 'dirt', settings }], grey, 40)[0]!], [first!])).toBe(true);
    const sizes = islands(width, height, (i) => first![i]! < 0.5);
    // Marks may touch or lie half beyond the edge.
    expect(sizes.length).toBeGreaterThanOrEqual(4);
    expect(sizes.length).toBeLessThanOrEqual(8);
    const covered = sizes.reduce((a, b) => a + b, 0) / (width * height);
    const half = islands(400, 300, (i) => dirtAt300()[i]! < 0.5).reduce((a, b) => a + b, 0) / (400 * 300);
    within(covered, half, 0.06);
  });
  const dirtAt300 = (() => {
    let plane: Float32Array | undefined;
    return () =>
      (plane ??= worn(
        [{ trait: 'dirt', settings: { count: 6, size: 4, soft: 0, bright: 0, opacity: 1 } }],
        painted(400, 300, () => 0.6),
      )[0]!);
  })();

  test('another look has other marks', () => {
    const grey = painted(320, 240, () => 0.6);
    expect(sameBits(worn([{ trait: 'dirt' }], grey, 0, 'super8', 1), worn([{ trait: 'dirt' }], grey, 0, 'super8', 2))).toBe(false);
  });
});

describe('projection', () => {
  test.each(LINES)('has its hot spot, its cloth and its spill as set, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    const grey = painted(width, height, () => 0.6);
    const spot = worn([{ trait: 'projection', settings: { hotSpot: 1.5, texture: 0, spill: 0 } }], grey)[0]!;
    within(log2(light(spot[(height / 2) * width + width / 2]!) / light(spot[0]!)), 1.5, 0.02);
    const cloth = worn([{ trait: 'projection', settings: { hotSpot: 0, texture: 4, grain: 0.4, spill: 0 } }], grey)[0]!.map(light);
    within(rms(cloth) / mean(cloth), 0.04, 0.06);
    const spill = worn(
      [{ trait: 'projection', settings: { hotSpot: 0, texture: 0, spill: 3 } }],
      painted(width, 16, () => 0),
    )[0]!;
    within(mean(spill.map(light)), 0.03, 0.02);
  });
});

describe('gate frame', () => {
  test.each(LINES)('leaves a picture of the size that is set, with round corners and black about it, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    const plane = worn(
      [{ trait: 'gate-frame', settings: { scale: 80, corner: 10, burr: 0, fuzz: 0 } }],
      painted(width, height, () => 0.7),
    )[1]!;
    const seen = (x: number, y: number): boolean => plane[floor(y) * width + floor(x)]! > 0.35;
    let across = 0;
    for (let x = 0; x < width; x++) across += Number(seen(x, height / 2));
    within(across / width, 0.8, 0.01);
    let area = 0;
    for (const v of plane) area += Number(v > 0.35);
    // A rectangle less its corners: each lacks (1 - pi/4) of a square of the radius.
    within(area, 0.64 * width * height - (4 - Math.PI) * (0.1 * height) ** 2, 0.005);
    expect(plane[0]).toBeLessThan(0.05);
  });

  test('its aperture may be of another shape than the picture', () => {
    const plane = worn(
      [{ trait: 'gate-frame', settings: { scale: 100, shape: 1, corner: 0, burr: 0, fuzz: 0 } }],
      painted(400, 200, () => 0.7),
    )[1]!;
    const row = Array.from({ length: 400 }, (_, x) => plane[100 * 400 + x]!);
    within(row.filter((v) => v > 0.35).length, 200, 0.02);
  });

  test('its four sides are filed by hand: off the straight lines that fit them by the burr, and not the same for another look', () => {
    /** RMS over the four sides of what each is off its own line, in micrometres of Super 8's gate. */
    const filed = (burr: number, seed: number, width: number, height: number): number => {
      const plane = worn(
        [{ trait: 'gate-frame', settings: { scale: 80, corner: 0, burr, fuzz: 0 } }],
        painted(width, height, () => 0.7),
        0,
        'super8',
        seed,
      )[1]!;
      // The aperture holds back all but 0.035 of the signal.
      const at = (x: number, y: number): number => max(0, (0.7 - plane[y * width + x]!) / (0.7 - 0.035));
      const [right, bottom] = [width - 1, height - 1];
      const along = (length: number, across: number, dark: (i: number, j: number) => number): number[] =>
        Array.from({ length: round(0.6 * length) }, (_, i) => {
          let sum = 0;
          for (let j = 0; j < across >> 2; j++) sum += dark(i + round(0.2 * length), j);
          return sum;
        });
      const sides = [
        along(width, height, (i, j) => at(i, j)),
        along(width, height, (i, j) => at(i, bottom - j)),
        along(height, width, (i, j) => at(j, i)),
        along(height, width, (i, j) => at(right - j, i)),
      ];
      const squares = sides.map((side) => {
        const [n, middle] = [side.length, (side.length - 1) / 2];
        const average = mean(side);
        const slope = side.reduce((a, v, i) => a + (i - middle) * (v - average), 0) / ((n * (n * n - 1)) / 12);
        return mean(side.map((v, i) => (v - average - slope * (i - middle)) ** 2));
      });
      return (Math.sqrt(mean(squares)) * 4010) / height;
    };
    expect(filed(0, 1, 720, 540)).toBeLessThan(1);
    for (const [width, height] of [
      [720, 540],
      [1440, 1080],
    ] as const)
      // The middle of a side alone holds a little less of the large bends than all of it.
      for (const burr of [30, 100]) expect(abs(mean([1, 2, 3].map((seed) => filed(burr, seed, width, height))) / burr - 1)).toBeLessThan(0.12);
    expect(filed(30, 1, 720, 540)).not.toBe(filed(30, 2, 720, 540));
  });

  test.each(carriers.filter((c) => c.film).map((c) => [c.id, c] as const))('opened far it shows the perforations of %s', (id, carrier) => {
    const [width, height] = [600, 480];
    const [scale, film] = [40, carrier.film!];
    const plane = worn(
      [{ trait: 'gate-frame', settings: { scale, open: 1, fuzz: 0, burr: 0, corner: 0 } }],
      painted(width, height, () => 0.2),
      0,
      id,
    )[1]!;
    const perPixel = (carrier.gate!.height * 1000) / height / 1000;
    const size = (film.perforation.width * film.perforation.height * (scale / 100) ** 2) / perPixel ** 2;
    // Whole ones in view: bright, and of their nominal size less their round corners.
    const holes = islands(width, height, (i) => plane[i]! > 0.62).filter((n) => n > 0.93 * size && n < 1.01 * size);
    const along = (0.5 * height * perPixel) / (scale / 100) - film.perforation.height / 2;
    const wanted = film.perforations.flatMap((p) => [-1, 0, 1].map((n) => p.y + n * film.pitch)).filter((y) => abs(y) < along).length;
    expect(holes.length).toBe(wanted);
  });
});

describe('softness as a disc, a vignette that blurs, a flicker that sways', () => {
  /** Half the width at half the height of the picture of a point, in hundredths of the height, and what stands at shares of that from the middle; what is nearer than `from` pixels does not count. */
  function pointOf(use: TraitUse, height: number, x = 0.5, y = 0.5, from = 0): { radius: number; at: (share: number) => number } {
    const width = round((height * 4) / 3);
    const [cx, cy] = [floor(width * x), floor(height * y)];
    const [plane] = worn(
      [use],
      painted(width, height, (px, py) => (floor(px) === cx && floor(py) === cy ? 1 : 0)),
    );
    const lightAt = (dx: number): number => {
      const i = floor(dx);
      const of = (j: number): number => max(0, plane![cy * width + cx + j]!) ** 2.4;
      return of(i) + (of(i + 1) - of(i)) * (dx - i);
    };
    const top = lightAt(from);
    let r = from;
    while (lightAt(r) > top / 2) r += 0.02;
    return { radius: (100 * r) / height, at: (share) => lightAt(share * r) / top };
  }

  test.each([...LINES, 2160])('a disc is even up to its radius and nothing beyond, at %d lines', (height) => {
    for (const radius of height > 1080 ? [0.5] : [0.8, 2.5]) {
      const disc = pointOf({ trait: 'softness', settings: { radius, edges: 0, shape: 'disc' } }, height);
      within(disc.radius, radius, 0.06);
      within(disc.at(0.6), 1, 0.04);
      expect(disc.at(1.4)).toBeLessThan(0.03);
      // A bell of the same radius is neither.
      const bell = pointOf({ trait: 'softness', settings: { radius, edges: 0 } }, height);
      within(bell.radius, radius, 0.06);
      expect(bell.at(0.6)).toBeLessThan(0.85);
      expect(bell.at(1.4)).toBeGreaterThan(0.2);
    }
  });

  test.each(LINES)('a vignette blurs the corners as far as is set and leaves the middle sharp, at %d lines', (height) => {
    const use: TraitUse = { trait: 'vignette', settings: { amount: 0, blur: 1.2, reach: 0.6 } };
    const width = round((height * 4) / 3);
    const sharp = painted(width, height, (x, y) => (floor(x / 8) % 2 === floor(y / 8) % 2 ? 1 : 0));
    const [plane] = worn([use], sharp);
    const [clean] = worn([], sharp);
    const middleAt = floor(height / 2) * width + floor(width / 2);
    for (let i = -20; i < 20; i++) expect(abs(plane![middleAt + i]! - clean![middleAt + i]!)).toBeLessThan(5e-4);
    // In the very corner the squares of 8 pixels are gone at this blur.
    const rows = Array.from({ length: 12 }, (_, j) => Array.from({ length: 12 }, (_, i) => plane![j * width + i]!)).flat();
    expect(max(...rows) - min(...rows)).toBeLessThan(0.35);
    // What is spread of a point near the corner, beside what is left sharp of it, has the radius that is set.
    const { radius } = pointOf({ trait: 'vignette', settings: { amount: 0, blur: 1.2, reach: 1, round: 1 } }, height, 0.97, 0.97, 1);
    within(radius, 1.2, 0.1);
  });

  test.each(LINES)('a flicker sways the picture by its RMS, up and down alone, without a black edge, at %d lines', (height) => {
    const width = round((height * 4) / 3);
    const use: TraitUse = { trait: 'flicker', settings: { amount: 0, sway: 0.4 } };
    const spot = spotted(width, height, width / 2, height / 2, height / 60);
    const places = Array.from({ length: 60 }, (_, n) => middle(worn([use], spot, n)[1]!, width));
    const of = (key: 'x' | 'y'): number => Math.sqrt(places.reduce((sum, p) => sum + (p[key] - (key === 'x' ? width : height) / 2) ** 2, 0) / places.length);
    expect(of('x')).toBeLessThan(0.05);
    // 60 draws tell an RMS to a tenth.
    within((100 * of('y')) / height, 0.4, 0.25);
    const [white] = worn(
      [use],
      painted(width, height, () => 1),
      3,
    );
    expect(min(...[0, width - 1, (height - 1) * width].map((i) => white![i]!))).toBeGreaterThan(0.999);
  });
});
