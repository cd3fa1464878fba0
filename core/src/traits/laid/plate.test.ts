/** Plates against the formulas of compositing, with a ruler, and by the clock. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../../engine';
import type { RawFrame } from '../../frame/encoding';
import type { PlateInfo } from '../../frame/plate';
import { checkLook } from '../../look/check';
import { BLENDS, type Blend } from '../../look/blends';
import type { TraitUse } from '../../look/look';
import { valuesOf } from '../../look/resolve';
import { Plan } from '../../plan/plan';
import { Score } from '../../score/score';
import { lookOf, newEngine, painted, RGB16, sameBits } from '../../testing';
import { partsKept, plate as plateTrait, platePictures, writeParts } from './plate';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const { abs, floor, hypot, max, min, round, sqrt } = Math;
type Colour = readonly [number, number, number];

const infoOf = ({ width, height, encoding }: RawFrame, more: Partial<PlateInfo> = {}): PlateInfo => ({
  width,
  height,
  encoding,
  lines: height,
  frames: 1,
  rate: 24,
  stacked: false,
  ...more,
});
const use = (settings: TraitUse['settings'] = {}, more: Partial<TraitUse> = {}): TraitUse => ({
  trait: 'plate',
  settings: { plate: 'mine', mode: 'normal', ...settings },
  ...more,
});

interface Laid {
  readonly picture?: RawFrame;
  readonly plate: RawFrame | ((n: number) => RawFrame);
  readonly info?: Partial<PlateInfo>;
  readonly uses: TraitUse[];
  readonly n?: number;
  readonly rate?: number;
  readonly bandRows?: number;
}
const BLACK = painted(160, 90, () => 0);

/** A picture with a plate over it, as floats. */
function laid({ picture = BLACK, plate, info, uses, n = 0, rate = 24, bandRows }: Laid): Float32Array[] {
  const of = typeof plate === 'function' ? plate : (): RawFrame => plate;
  const plan = new Plan(engine, checkLook(lookOf(uses, 'none')), {
    source: picture,
    target: { width: picture.width, height: picture.height, encoding: 'float' },
    rate,
    bandRows,
    plates: { mine: infoOf(of(0), info) },
  });
  const asked = plan.platePictures(n).map(({ picture: number }) => number);
  const planes = plan.render(n, picture, undefined, undefined, (id, number) => {
    expect([id, asked.includes(number)]).toEqual(['mine', true]);
    return of(number);
  });
  plan.dispose();
  return planes.map((p) => new Float32Array(p.slice().buffer));
}

/** The modes as the W3C's Compositing and Blending Level 1 writes them; b is under, s on top. */
const FORMULAS: Record<Blend, (b: number, s: number) => number> = {
  normal: (_, s) => s,
  multiply: (b, s) => b * s,
  screen: (b, s) => b + s - b * s,
  overlay: (b, s) => FORMULAS['hard-light'](s, b),
  darken: min,
  lighten: max,
  'colour-dodge': (b, s) => (b === 0 ? 0 : s === 1 ? 1 : min(1, b / (1 - s))),
  'colour-burn': (b, s) => (b === 1 ? 1 : s === 0 ? 0 : 1 - min(1, (1 - b) / s)),
  'hard-light': (b, s) => (s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1)),
  'soft-light': (b, s) => (s <= 0.5 ? b - (1 - 2 * s) * b * (1 - b) : b + (2 * s - 1) * ((b <= 0.25 ? ((16 * b - 12) * b + 4) * b : sqrt(b)) - b)),
  difference: (b, s) => abs(b - s),
  exclusion: (b, s) => b + s - 2 * b * s,
  add: (b, s) => b + s,
  subtract: (b, s) => b - s,
};

describe.each(BLENDS)('%s', (mode) => {
  const [width, height] = [64, 36];
  const picture = painted(width, height, (x, y) => [x / width, y / height, (x + y) / (width + height)]);
  const over = painted(width, height, (x, y) => [y / height, 1 - x / width, (x * 0.7) / width]);
  const opacity = 0.6;

  test('is the published formula within 1/1024, with opacity', () => {
    const out = laid({ picture, plate: over, uses: [use({ mode, opacity })] });
    const codes = (frame: RawFrame, plane: number): Uint16Array => new Uint16Array(frame.planes[plane]!.slice().buffer);
    for (let plane = 0; plane < 3; plane++) {
      const [b, s] = [codes(picture, plane), codes(over, plane)];
      out[plane]!.forEach((v, i) => {
        const [under, top] = [b[i]! / 65535, s[i]! / 65535];
        const wanted = under + opacity * (FORMULAS[mode](under, top) - under);
        if (abs(v - wanted) >= 1 / 1024) throw new Error(`${mode} of ${under} and ${top} is ${v}, not ${wanted}`);
      });
    }
  });

  test('goes by the colour where it has alpha, not by what is left of it', () => {
    const [plate, alpha] = [[0.8, 0.4, 0.2], 0.5] as const;
    const stacked = painted(16, 18, (_, y) => (y < 9 ? (plate.map((v) => v * alpha) as unknown as Colour) : alpha));
    const out = laid({ picture: painted(64, 36, () => [0.3, 0.6, 0.5]), plate: stacked, info: { stacked: true }, uses: [use({ mode, fit: 'stretch' })] });
    [0.3, 0.6, 0.5].forEach((under, i) => {
      const wanted = under + alpha * (FORMULAS[mode](under, plate[i]!) - under);
      expect(abs(out[i]![18 * 64 + 32]! - wanted)).toBeLessThan(1 / 1024);
    });
  });
});

describe.each([
  [320, 180],
  [960, 540],
])('in a picture of %d x %d', (width, height) => {
  const picture = painted(width, height, () => 0);
  const white = painted(40, 30, () => 1);
  /** Sides and middle of what is white, by how much it covers. */
  function extent([red]: Float32Array[]): { wide: number; high: number; x: number; y: number } {
    const columns = new Float64Array(width);
    const rows = new Float64Array(height);
    let sum = 0;
    red!.forEach((v, i) => {
      columns[i % width]! += v;
      rows[floor(i / width)]! += v;
      sum += v;
    });
    const middle = (values: Float64Array): number => values.reduce((s, v, i) => s + v * (i + 0.5), 0) / sum;
    return { wide: sum / columns.reduce((a, b) => max(a, b)), high: sum / rows.reduce((a, b) => max(a, b)), x: middle(columns) / width, y: middle(rows) / height };
  }
  const sides = (settings: TraitUse['settings']) => extent(laid({ picture, plate: white, uses: [use(settings)] }));

  test('it lies within it, covers it, is stretched to it, or has its own size', () => {
    expect(sides({ fit: 'contain' })).toMatchObject({ high: expect.closeTo(height, 2), wide: expect.closeTo((height * 4) / 3, 2) });
    expect(sides({ fit: 'cover', scale: 50 })).toMatchObject({ wide: expect.closeTo(width / 2, 1), high: expect.closeTo((width * 3) / 8, 1) });
    expect(sides({ fit: 'stretch', scale: 50 })).toMatchObject({ wide: expect.closeTo(width / 2, 1), high: expect.closeTo(height / 2, 1) });
    // Thirty lines of 1080, at any size of the picture.
    expect(sides({ fit: 'own', scale: 200 })).toMatchObject({ wide: expect.closeTo((80 * height) / 1080, 1), high: expect.closeTo((60 * height) / 1080, 1) });
  });

  test('its middle stands where it is put, its sides as scaled; turned a quarter they change places', () => {
    const at = { fit: 'contain', scale: 20, x: 31.3, y: 61.7 } as const;
    expect(sides(at)).toMatchObject({ x: expect.closeTo(0.313, 4), y: expect.closeTo(0.617, 4), high: expect.closeTo(0.2 * height, 1) });
    const turned = sides({ ...at, turn: 90 });
    expect(turned).toMatchObject({ x: expect.closeTo(0.313, 4), y: expect.closeTo(0.617, 4), wide: expect.closeTo(0.2 * height, 1), high: expect.closeTo((0.8 / 3) * height, 1) });
  });

  test('turned and flipped, what was at the upper right of it is where that brings it', () => {
    const marked = painted(40, 30, (x, y) => (x > 30 && y < 8 ? 1 : 0));
    const where = (settings: TraitUse['settings']): string => {
      const { x, y } = extent(laid({ picture, plate: marked, uses: [use({ fit: 'contain', scale: 50, ...settings })] }));
      return `${y < 0.5 ? 'upper' : 'lower'} ${x < 0.5 ? 'left' : 'right'}`;
    };
    expect(where({})).toBe('upper right');
    expect(where({ flipAcross: true })).toBe('upper left');
    expect(where({ flipDown: true })).toBe('lower right');
    expect(where({ turn: 90 })).toBe('lower right');
    expect(where({ turn: 180 })).toBe('lower left');
    expect(where({ turn: 180, flipAcross: true })).toBe('lower right');
  });
});

test('levels put out a grey ground and bring up what is dim; a tint multiplies', () => {
  const grey = painted(160, 90, (x) => (x < 80 ? 0.1 : 0.5));
  const [r, g, b] = laid({ plate: grey, uses: [use({ black: 10, white: 60, tint: [1, 0.5, 0.25] })] });
  const [dark, light] = [45 * 160 + 20, 45 * 160 + 140];
  expect(r![dark]).toBeCloseTo(0, 3);
  [r, g, b].forEach((plane, i) => expect(plane![light]).toBeCloseTo((0.8 * [1, 0.5, 0.25][i]!) / 1, 3));
});

test('an edge of alpha has no fringe: every pixel lies between what is under and what is over', () => {
  // A red disc, its colours black where it is not; the same without premultiplying would be dark about its edge.
  const cover = (x: number, y: number): number => max(0, min(1, 14 - hypot(x - 20, y - 20) + 0.5));
  const disc = painted(40, 80, (x, y) => (y < 40 ? [cover(x, y), 0, 0] : cover(x, y - 40)));
  for (const [scale, turn] of [
    [73, 0],
    [190, 0],
    [73, 20],
  ] as const) {
    const [r, g, b] = laid({ picture: painted(160, 90, () => [0, 0, 1]), plate: disc, info: { stacked: true }, uses: [use({ fit: 'contain', scale, turn })] });
    let edge = 0;
    let [fringe, green] = [0, 0];
    r!.forEach((v, i) => {
      fringe = max(fringe, abs(v + b![i]! - 1));
      green = max(green, abs(g![i]!));
      if (v > 0.1 && v < 0.9) edge++;
    });
    expect(fringe).toBeLessThan(2 / 255);
    expect(green).toBeLessThan(1 / 255);
    expect(edge).toBeGreaterThan(20);
  }
});

const values = (settings: TraitUse['settings'] = {}) => {
  const all = valuesOf(plateTrait, { trait: 'plate', settings: { plate: 'mine', ...settings } });
  return { ...all, speed: (all.speed as number) / 100, level: (all.level as number) / 100 } as Parameters<typeof platePictures>[0];
};
const numbers = (settings: TraitUse['settings'], seconds: number, frames: number, rate: number): number[] =>
  platePictures(values(settings), seconds, infoOf(BLACK, { frames, rate })).map(({ picture }) => picture);

describe('by its brightness', () => {
  // Two flashes of three pictures in a dark clip of twenty.
  const light = Array.from({ length: 20 }, (_, n) => ([5, 6, 7, 14, 15, 16].includes(n) ? 0.6 : 0.05));
  const info = infoOf(BLACK, { frames: 20, rate: 24, light });

  test('only the flashes are kept, one after the other; without any all of it', () => {
    const shown = (n: number, more: TraitUse['settings'] = {}): number[] => platePictures(values({ keep: 'flashes', ...more }), n / 24, info).map(({ picture }) => picture);
    expect(Array.from({ length: 8 }, (_, n) => shown(n)[0])).toEqual([5, 6, 7, 14, 15, 16, 5, 6]);
    expect(shown(0, { to: 0.5, loop: 'once' })).toEqual([5]);
    expect(shown(3, { to: 0.5, loop: 'once' })).toEqual([]);
    expect(partsKept(0, 0, '', 'flashes', 0.4, 20, 24, light)).toEqual([
      { from: 5, to: 8, at: 0 },
      { from: 14, to: 17, at: 3 },
    ]);
    expect(platePictures(values({ keep: 'flashes' }), 0, infoOf(BLACK, { frames: 20, rate: 24 }))).toEqual([{ picture: 0, share: 1 }]);
  });

  test('another trait follows it: a vignette swells with each flash', () => {
    const look = checkLook(lookOf([use(), { trait: 'vignette', settings: { amount: 0 }, motions: { amount: { motion: 'follow', of: 'plate', gain: 2 } } }], 'none'));
    const score = new Score(engine, look, { rate: 24, plates: { mine: info } });
    const trace = Array.from(score.trace(0, 1, 'amount', [0, 6, 10, 15])[0]!);
    [0.05 / 0.6, 1, 0.05 / 0.6, 1].forEach((share, i) => expect(trace[i]).toBeCloseTo(2 * share, 5));
  });
});

describe('by the clock', () => {
  test('a loop of 24 pictures a second in a file of 25 shows exactly the pictures it should, for an hour', () => {
    for (let n = 0; n < 25 * 3600; n++) {
      // Counted in whole numbers: picture n begins n / 25 s in, which is 24 n / 25 of the plate's.
      const wanted = floor((24 * n) / 25) % 100;
      const [got] = numbers({}, n / 25, 100, 24);
      if (got !== wanted) throw new Error(`picture ${n} shows ${got}, not ${wanted}`);
    }
  });

  test('it begins when it is told, goes at its speed, and does at its end what is chosen', () => {
    expect(numbers({ begins: 2 }, 2.5, 100, 24)).toEqual([12]);
    expect(numbers({ begins: 2 }, 1.5, 100, 24)).toEqual([88]);
    expect(numbers({ begins: 2, loop: 'once' }, 1.5, 100, 24)).toEqual([]);
    expect(numbers({ speed: 50 }, 1, 100, 24)).toEqual([12]);
    expect(numbers({ loop: 'hold' }, 100, 100, 24)).toEqual([99]);
    expect(numbers({ loop: 'once' }, 100, 100, 24)).toEqual([]);
    expect(numbers({ from: 1, to: 2 }, 0, 100, 24)).toEqual([24]);
    expect(numbers({ from: 1, to: 2 }, 1, 100, 24)).toEqual([24]);
    expect(numbers({ from: 1, to: 2 }, 0.99, 100, 24)).toEqual([47]);
    expect(numbers({ from: 99, to: 100 }, 5, 100, 24)).toEqual([99]);
    expect(numbers({}, 7, 1, 24)).toEqual([0]);
  });

  test('only parts of it are kept, in the order in which they are named', () => {
    const shown = (parts: string): number[] => Array.from({ length: 6 }, (_, n) => numbers({ parts }, n / 24, 100, 24)[0]!);
    expect(shown('1-1.125')).toEqual([24, 25, 26, 24, 25, 26]);
    expect(shown('2-2.0834, 0-0.0834')).toEqual([48, 49, 0, 1, 48, 49]);
    expect(shown('50-60')).toEqual([0, 1, 2, 3, 4, 5]);
    expect(() => checkLook(lookOf([use({ parts: 'the first' })]))).toThrow(/parts/);
    expect(() => checkLook(lookOf([use({ parts: '1-2@' })]))).toThrow(/parts/);
  });

  test('a part is shown at the moment that is set for it, nothing before it, and what follows follows it', () => {
    const shown = (n: number, parts: string, more: TraitUse['settings'] = {}): number[] => numbers({ parts, ...more }, n / 24, 100, 24);
    // Two pictures of the third second after a second of nothing, then two of the first.
    const parts = '2-2.0834@1, 0-0.0834';
    expect([0, 23, 24, 25, 26, 27].map((n) => shown(n, parts))).toEqual([[], [], [48], [49], [0], [1]]);
    expect(shown(28, parts)).toEqual([]);
    expect(shown(28 + 24, parts)).toEqual([48]);
    expect(shown(500, parts, { loop: 'hold' })).toEqual([1]);
    // Where two are shown at once the later one is, as it lies on top.
    expect([0, 1, 2, 3].map((n) => shown(n, '0-1, 3-3.0834@0.0417')[0])).toEqual([0, 72, 73, 3]);
    // An end that would run into a gap is seen as it is.
    expect(platePictures(values({ parts: '0-0.25@0.25', seam: 6 }), 6 / 24, infoOf(BLACK, { frames: 20, rate: 24 }))).toEqual([{ picture: 0, share: 1 }]);
  });

  test('what is kept can be written and read again as it was', () => {
    const pieces = [
      { from: 0.52, to: 2, at: 0 },
      { from: 4, to: 6.52, at: 1.48 },
      { from: 3, to: 3.04, at: 8 },
    ];
    expect(writeParts(pieces)).toBe('0.52-2, 4-6.52, 3-3.04@8');
    const kept = partsKept(0, 0, writeParts(pieces), 'all', 0.4, 1000, 25, undefined);
    expect(kept.map(({ from, to, at }) => ({ from: from / 25, to: to / 25, at: at / 25 }))).toEqual(pieces);
  });

  test('its end runs into its beginning: shares go evenly from one to the other, and every picture comes', () => {
    const parts = (n: number) => platePictures(values({ seam: 4 }), n / 24, infoOf(BLACK, { frames: 20, rate: 24 }));
    expect(parts(0)).toEqual([{ picture: 0, share: 1 }]);
    expect(parts(15)).toEqual([{ picture: 15, share: 1 }]);
    expect(parts(16).map(({ picture }) => picture)).toEqual([0, 16]);
    expect(parts(16)[0]!.share).toBeCloseTo(0.2, 9);
    expect(parts(19).map(({ picture }) => picture)).toEqual([3, 19]);
    expect(parts(19)[0]!.share).toBeCloseTo(0.8, 9);
    expect(parts(20)).toEqual([{ picture: 4, share: 1 }]);
  });

  test('a mixture of two pictures is one', () => {
    const grey = (n: number): RawFrame => painted(32, 18, () => n / 10);
    const out = laid({ plate: grey, info: { frames: 10 }, uses: [use({ seam: 1, fit: 'stretch' })], n: 9 });
    expect(out[0]![45 * 160 + 80]).toBeCloseTo(0.45, 3);
  });
});

test('is held with the film that carries it', () => {
  const grey = (n: number): RawFrame => painted(32, 18, () => n / 48);
  const at = (n: number): number =>
    laid({ plate: grey, info: { frames: 48, rate: 24 }, uses: [{ trait: 'cadence', settings: { rate: 12 } }, use({ fit: 'stretch' }, { act: 'years' })], n })[0]![45 * 160 + 80]! *
    48;
  expect([0, 1, 2, 3, 4].map((n) => round(at(n)))).toEqual([0, 0, 2, 2, 4]);
});

test('is the same picture alone, in sequence and in bands of any height', () => {
  const moving = (n: number): RawFrame => painted(48, 27, (x, y) => [(x + n) / 64, y / 27, n / 40]);
  const uses = [use({ mode: 'screen', scale: 61, turn: 11, seam: 3, x: 40 })];
  const of = (n: number, bandRows?: number): Float32Array[] => laid({ picture: painted(160, 90, (x) => x / 200), plate: moving, info: { frames: 20 }, uses, n, bandRows });
  for (const [n, bandRows] of [
    [0, 4],
    [5, 16],
    [18, 8],
  ] as const)
    expect(sameBits(of(n), of(n, bandRows))).toBe(true);
});

test('one that is not at hand is not laid, one of nothing leaves no trace, one of a single pixel is laid', () => {
  const picture = painted(160, 90, (x) => x / 160);
  const plan = new Plan(engine, lookOf([use({ plate: 'lost' })], 'none'), { source: picture, target: { width: 160, height: 90, encoding: RGB16 }, rate: 24 });
  expect(plan.platePictures(0)).toEqual([]);
  expect(plan.render(0, picture)).toEqual(picture.planes);
  plan.dispose();
  const clear = laid({ picture, plate: painted(20, 20, () => 0), info: { stacked: true }, uses: [use()] });
  expect(sameBits(clear, laid({ picture, plate: BLACK, uses: [] }))).toBe(true);
  expect(laid({ plate: painted(1, 1, () => [1, 0.5, 0]), uses: [use()] })[1]![0]).toBeCloseTo(0.5, 3);
});
