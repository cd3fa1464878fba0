/** Captions measured with a ruler: the sign of a stopped tape, 840 by 840 of a capital's 1000, stands in for letters. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../../engine';
import { checkLook } from '../../look/check';
import { caption as captionTrait } from './caption';
import { fontsOf } from '../../look/files';
import type { Look, TraitUse } from '../../look/look';
import { Plan } from '../../plan/plan';
import { laidPlace } from '../../score/laid-place';
import { Score } from '../../score/score';
import { lookOf, mean, newEngine, painted, rms, sameBits, shippedFont } from '../../testing';
import type { FontOutlines } from '../../text/outlines';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const { abs, floor, max, min, round, sqrt } = Math;
const SIZES = [540, 1080];
/** The sign's sides over a capital's height (text/signs.ts). */
const SIGN = 0.84;
const WHITE = [1, 1, 1] as const;

const caption = (settings: TraitUse['settings'], more: Partial<TraitUse> = {}): TraitUse => ({ trait: 'caption', settings: { colour: WHITE, ...settings }, ...more });

async function fontsFor(look: Look): Promise<Record<string, FontOutlines>> {
  return Object.fromEntries(await Promise.all(Object.entries(fontsOf(look)).map(async ([id, text]) => [id, await shippedFont(id, text)] as const)));
}

interface Worn {
  readonly planes: Float32Array[];
  readonly width: number;
  readonly height: number;
}

/** Pictures of a look on one grey. */
async function pictures(look: Look, width: number, height: number, numbers: readonly number[], grey = 0, rate = 24, bandRows?: number): Promise<Worn[]> {
  const frame = painted(width, height, () => grey);
  const plan = new Plan(engine, checkLook(look), { source: frame, target: { width, height, encoding: 'float' }, rate, bandRows, fonts: await fontsFor(look) });
  const made = numbers.map((n) => ({ planes: plan.render(n, frame).map((p) => new Float32Array(p.slice().buffer)), width, height }));
  plan.dispose();
  return made;
}
const picture = async (uses: TraitUse[], height: number, grey = 0, carrier = 'none'): Promise<Worn> =>
  (await pictures(lookOf(uses, carrier), (height * 16) / 9, height, [0], grey))[0]!;

/** Width, height and middle of what stands out on black, by how much of each row and column it covers. */
function extent({ planes, width, height }: Worn, plane = 0): { wide: number; high: number; x: number; y: number; area: number } {
  const columns = new Float64Array(width);
  const rows = new Float64Array(height);
  let area = 0;
  const values = planes[plane]!;
  for (let i = 0, y = 0; y < height; y++) {
    let row = 0;
    for (let x = 0; x < width; x++, i++) {
      columns[x]! += values[i]!;
      row += values[i]!;
    }
    rows[y] = row;
    area += row;
  }
  const most = (values: Float64Array): number => values.reduce((a, b) => max(a, b), 0);
  const middle = (values: Float64Array): number => values.reduce((s, v, i) => s + v * (i + 0.5), 0) / area;
  return { wide: area / most(columns), high: area / most(rows), x: middle(columns), y: middle(rows), area };
}

describe.each(SIZES)('at %d lines', (height) => {
  const width = (height * 16) / 9;
  const percent = height / 100;

  test('a capital is as high as its size says, and stands at its place', async () => {
    const { high, x, y } = extent(await picture([caption({ text: '{stop}', size: 20, x: 30, y: 40 })], height));
    expect(high).toBeCloseTo(SIGN * 20 * percent, 1);
    // Of the sign's advance of 1000, 80 to 920; it ends 100 below a capital's top and 60 above its foot.
    expect(x / width).toBeCloseTo(0.3, 3);
    expect(y - 40 * percent).toBeCloseTo(20 * percent * 0.02, 0);
    const font = await shippedFont('grotesque', 'H');
    const letter = await picture([caption({ text: 'H', size: 30 })], height);
    expect(font.capHeight).toBeGreaterThan(0);
    const top = letter.planes[0]!.findIndex((v) => v > 0.5);
    const last = letter.planes[0]!.findLastIndex((v) => v > 0.5);
    expect(floor(last / width) - floor(top / width) + 1).toBeCloseTo(30 * percent, -0.3);
  });

  test('opacity and strength are shares of the picture, a colour is as displayed', async () => {
    const at = async (settings: TraitUse['settings'], more: Partial<TraitUse> = {}): Promise<number[]> => {
      const { planes } = await picture([caption({ text: '{stop}', size: 40, ...settings }, more)], height, 0.2);
      const middle = floor(height / 2) * width + floor(width / 2);
      return planes.map((p) => p[middle]!);
    };
    const near = (got: number[], wanted: number[]): void => got.forEach((v, i) => expect(v).toBeCloseTo(wanted[i]!, 4));
    near(await at({ colour: [0.9, 0.5, 0.1] }), [0.9, 0.5, 0.1]);
    near(await at({ colour: [0.9, 0.5, 0.1], opacity: 0.5 }), [0.55, 0.35, 0.15]);
    near(await at({}, { strength: 0.25 }), [0.4, 0.4, 0.4]);
  });

  test.each([0.4, 2])('an outline of %d % H is so wide on each side', async (outline) => {
    const bare = extent(await picture([caption({ text: '{stop}', size: 30 })], height));
    const { wide, high } = extent(await picture([caption({ text: '{stop}', size: 30, outline, outlineColour: WHITE })], height));
    // Round corners take a little of rows and columns at the ends: by the area of a rounded square.
    const side = SIGN * 30 * percent;
    const r = outline * percent;
    const area = side * side + 4 * side * r + Math.PI * r * r;
    expect(wide).toBeCloseTo(area / (side + 2 * r), 0);
    expect(high).toBeCloseTo(area / (side + 2 * r), 0);
    expect(bare.wide).toBeCloseTo(side, 1);
  });

  test('sixty copies are sixty, each a step farther and a shade darker', async () => {
    const step = 100 / height;
    // A pixel from each to the next, to the right.
    const { planes } = await picture([caption({ text: '{stop}', size: 20, x: 30, copies: 60, copyStep: step, copyWay: 0, copyShade: 0.2 })], height);
    const y = round(0.5 * height);
    const row = Array.from(planes[0]!.subarray(y * width, (y + 1) * width));
    const shades = row.filter((v) => v > 0.01 && v < 0.99);
    expect(shades).toHaveLength(60 + 1);
    const falls = shades.slice(2).map((v, i) => shades[i + 1]! - v);
    for (const by of falls.slice(0, -1)) expect(by).toBeCloseTo(0.8 / 60, 2);
    expect(min(...shades.slice(0, -1))).toBeCloseTo(0.2, 1);
  });

  test('a shadow lies as far away as set, its edge as soft', async () => {
    const { planes } = await picture([caption({ text: '{stop}', size: 30, x: 30, opacity: 1, shadow: 1, shadowAway: 15, shadowWay: 0, shadowBlur: 2 })], height, 1);
    const y = round(0.5 * height);
    const row = Array.from({ length: width }, (_, x) => 1 - planes[0]![y * width + x]!);
    // The text is white on white: what is dark is the shadow's part beyond it, its right edge a bell's integral.
    const edge = row.findLastIndex((v) => v > 0.5) + 0.5;
    expect(edge).toBeCloseTo(0.3 * width + (0.5 * SIGN * 30 + 15) * percent, -0.5);
    const slope = row.slice(1).map((v, x) => max(0, row[x]! - v));
    const far = slope.map((v, x) => (x > edge - 12 * percent ? v : 0));
    const total = far.reduce((a, b) => a + b, 0);
    const middle = far.reduce((s, v, x) => s + v * x, 0) / total;
    const sigma = sqrt(far.reduce((s, v, x) => s + v * (x - middle) ** 2, 0) / total);
    expect(sigma / (2 * percent)).toBeGreaterThan(0.93);
    expect(sigma / (2 * percent)).toBeLessThan(1.07);
  });

  test('a box stands about the capitals by its margin', async () => {
    const { wide, high } = extent(await picture([caption({ text: 'H', size: 20, box: 1, boxColour: WHITE, boxMargin: 5 })], height));
    expect(high).toBeCloseTo(30 * percent, 0);
    expect(wide).toBeGreaterThan(20 * percent);
  });

  test('jumps from picture to picture by the RMS set, each way', async () => {
    const made = await pictures(
      lookOf([caption({ text: '{stop}', size: 10, jitter: 1 })], 'none'),
      width,
      height,
      Array.from({ length: 48 }, (_, n) => n),
    );
    const places = made.map((one) => extent(one));
    for (const way of ['x', 'y'] as const) {
      const found = rms(places.map((p) => p[way])) / percent;
      expect(found).toBeGreaterThan(0.76);
      expect(found).toBeLessThan(1.24);
    }
  });
});

test('a text covers the same share at 540 and at 2160 lines, with every trimming', async () => {
  const texts: NonNullable<TraitUse['settings']>[] = [
    { font: 'script', text: 'The last tram' },
    { font: 'typewriter', text: 'Orrin Vale, 14', outline: 0.5, outlineColour: WHITE },
  ];
  for (const settings of texts) {
    const [small, large] = await Promise.all([540, 2160].map(async (height) => extent(await picture([caption({ size: 8, ...settings })], height)).area / height ** 2));
    expect(abs(large! / small! - 1)).toBeLessThan(0.005);
  }
});

test.each([
  ['vhs', 720, 540],
  ['vhs625', 720, 540],
  ['super8', 960, 540],
])('a square is a square on %s, whatever the shape of its samples', async (carrier, width, height) => {
  const look: Look = { ...lookOf([caption({ text: '{stop}', size: 40 }, { act: 'machine' })], carrier), shape: 'carrier' };
  const [one] = await pictures(look, width, height, [0]);
  // Between the places where it passes half, as its filters ring.
  const side = (values: number[]): number => {
    const passes = values.slice(1).flatMap((v, i) => (values[i]! < 0.5 !== v < 0.5 ? [i + (0.5 - values[i]!) / (v - values[i]!)] : []));
    expect(passes).toHaveLength(2);
    return passes[1]! - passes[0]!;
  };
  const [luma] = one!.planes as [Float32Array];
  const wide = side(Array.from({ length: width }, (_, x) => luma[(height / 2) * width + x]!));
  const high = side(Array.from({ length: height }, (_, y) => luma[y * width + width / 2]!));
  expect(high).toBeCloseTo(SIGN * 0.4 * height, 0);
  expect(wide / high).toBeGreaterThan(0.99);
  expect(wide / high).toBeLessThan(1.01);
});

test('is the same picture alone, in sequence and in bands of any height', async () => {
  const look = lookOf([caption({ text: '{clock} moves', jitter: 0.5, outline: 0.3, copies: 5, shadow: 0.5, typed: 20 })], 'super8');
  const run = await pictures(look, 320, 180, [0, 1, 2, 24, 25], 0.4);
  for (const [i, n] of [0, 1, 2, 24, 25].entries()) {
    const [alone] = await pictures(look, 320, 180, [n], 0.4, 24, 4 + 4 * i);
    expect(sameBits(alone!.planes, run[i]!.planes)).toBe(true);
  }
});

test('leaves all beyond itself as it was', async () => {
  const { planes, width } = await picture([caption({ text: 'Vale', size: 6, x: 5, y: 5, outline: 0.5, copies: 8, shadow: 1 })], 540, 0.31);
  const clean = await picture([], 540, 0.31);
  const untouched = planes[0]!.every((v, i) => v === clean.planes[0]![i] || (floor(i / width) < 150 && i % width < 300));
  expect(untouched).toBe(true);
});

test('a text beyond the edges, of ten thousand characters, of none, in a font that is not there', async () => {
  const whole = await picture([caption({ text: '{stop}', size: 60, x: 0, y: 0 })], 540);
  expect(extent(whole).area / 540 ** 2).toBeCloseTo((SIGN * 0.6 * 0.5) ** 2, 1);
  const long = await picture([caption({ text: 'A tram is a tram. '.repeat(560).slice(0, 10_000), size: 3 })], 540);
  expect(mean(long.planes[0]!)).toBeGreaterThan(0.005);
  const clean = await picture([], 540, 0.3);
  expect(sameBits((await picture([caption({ text: '  \n ' })], 540, 0.3)).planes, clean.planes)).toBe(true);
  const lost = lookOf([caption({ text: 'lost', font: 'f'.repeat(64) })], 'none');
  const frame = painted(96, 54, () => 0.3);
  const plan = new Plan(engine, lost, { source: frame, target: { width: 96, height: 54, encoding: 'float' }, rate: 24 });
  expect(new Float32Array(plan.render(0, frame)[0]!.slice().buffer).every((v) => abs(v - 0.3) < 1e-4)).toBe(true);
  expect(() => checkLook(lookOf([caption({ text: 'x'.repeat(10_001) })]))).toThrow(/text/);
  for (const [key, wrong] of [
    ['clockFrom', '24:00'],
    ['dateFrom', '1987-13-01'],
    ['counterFrom', '0:61:00'],
    ['timecodeFrom', '10:00:60:00'],
  ] as const)
    expect(() => checkLook(lookOf([caption({ [key]: wrong })]))).toThrow(/must be written as/);
  expect(() => checkLook(lookOf([caption({ clockFrom: 'noon' })]))).toThrow(/clockFrom: must be written as h:mm or h:mm:ss/);
});

test('is typed at its rate, and goes out as often as set', async () => {
  const typed = lookOf([caption({ text: '{stop}{stop}{stop}{stop}', size: 8, align: 'left', typed: 8, typedFrom: 0.5 })], 'none');
  const areas = (await pictures(typed, 480, 270, [0, 12, 14, 15, 18, 24, 40])).map((one) => round(extent(one).area / (SIGN * 8 * 2.7) ** 2 || 0));
  expect(areas).toEqual([0, 0, 0, 1, 2, 4, 4]);
  const blinking = lookOf([caption({ text: '{rec}', blink: 2 })], 'none');
  const seen = (
    await pictures(
      blinking,
      96,
      54,
      Array.from({ length: 24 }, (_, n) => n),
    )
  ).map((one) => (mean(one.planes[0]!) > 0.001 ? 1 : 0));
  expect(seen.join('')).toBe('111111000000111111000000');
});

test('fades up from red by keys of its colour, and in and out by its spell', async () => {
  const uses = [
    caption(
      { text: '{stop}', size: 30 },
      {
        motions: {
          colour: {
            motion: 'keys',
            keys: [
              { at: 0, value: [1, 0, 0] },
              { at: 1, value: [1, 1, 1] },
            ],
          },
        },
        when: [{ from: 0, to: 4, in: 0, out: 1 }],
      },
    ),
  ];
  const made = await pictures(lookOf(uses, 'none'), 96, 54, [0, 12, 24, 84, 96]);
  const middle = made.map(({ planes }) => planes.map((p) => round(p[27 * 96 + 48]! * 100) / 100));
  expect(middle).toEqual([
    [1, 0, 0],
    [1, 0.5, 0.5],
    [1, 1, 1],
    [0.5, 0.5, 0.5],
    [0, 0, 0],
  ]);
});

test('a clock on film that a tape shows by 2:3 has the right second after an hour', () => {
  const look: Look = {
    ...lookOf([], 'vhs'),
    lives: [
      { carrier: 'film16', traits: [{ trait: 'cadence' }, caption({ text: '{clock}' })] },
      { carrier: 'vhs', traits: [{ trait: 'hum' }] },
    ],
  };
  const rate = 30000 / 1001;
  const score = new Score(engine, checkLook(look), { rate });
  for (const seconds of [0.5, 1.5, 3600.5, 7199.5]) {
    const at = score.at(round(seconds * rate)).live.find(({ use }) => use.trait.id === 'caption')!;
    expect(floor(at.seconds + 1e-6)).toBe(floor(seconds));
    expect(abs(at.seconds - seconds)).toBeLessThan(1 / 18 + 2 / rate);
  }
});

test('each preset is valid, and seen', async () => {
  for (const [name, settings] of Object.entries(captionTrait.presets!)) {
    const { planes } = await picture([{ trait: 'caption', settings: settings }], 270, 0.2);
    expect([name, new Set(planes[0]).size > 1 || settings.typed !== undefined]).toEqual([name, true]);
  }
});

test('its corners are told in shares of the picture', async () => {
  const look = lookOf([caption({ text: '{stop}{stop}', size: 10, x: 20, y: 30, align: 'left' })], 'none');
  const corners = laidPlace(engine, look, { life: 0, index: 0, n: 0, rate: 24, width: 960, height: 540 }, { fonts: await fontsFor(look) });
  const wanted = [
    [0.2, 0.25],
    [0.2 + (2 * 54) / 960, 0.25],
    [0.2 + (2 * 54) / 960, 0.35],
    [0.2, 0.35],
  ];
  corners.forEach((corner, i) => corner.forEach((v, j) => expect(v).toBeCloseTo(wanted[i]![j]!, 6)));
  expect(laidPlace(engine, look, { life: 0, index: 0, n: 0, rate: 24, width: 960, height: 540 }, {})).toEqual([]);
});
