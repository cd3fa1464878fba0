import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { ColourTable } from '../formats/cube';
import type { Encoding } from '../frame/encoding';
import { EMPTY_LOOK, type Look, type TraitUse } from '../look/look';
import { shippedLooks } from '../looks';
import { correlation, lookOf, newEngine, randomFrame, RGB16, RGB8, rms, shippedFont, signalFrame, type TestFiles, wear, YUV420 } from '../testing';
import { carrierById } from '../carriers';
import { traitById, traits } from '../traits';
import type { AnyTrait } from '../traits/trait';
import type { NumberSetting, Setting } from '../traits/settings';
import { Plan } from './plan';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const ENCODINGS: Encoding[] = [];
for (const bits of [8, 10]) {
  for (const [subX, subY] of [
    [0, 0],
    [1, 0],
    [1, 1],
  ] as const) {
    for (const matrix of ['bt601', 'bt709'] as const) {
      for (const range of ['limited', 'full'] as const) ENCODINGS.push({ layout: 'yuv', bits, subX, subY, matrix, range });
    }
  }
  ENCODINGS.push({ layout: 'rgb', bits, subX: 0, subY: 0, matrix: 'bt709', range: 'full' });
}

const everyTrait = (strength: number): Look => lookOf(traits.map((t): TraitUse => ({ trait: t.id, strength })));

describe('a look that does nothing', () => {
  test.each(ENCODINGS)('gives %o back bit for bit', (encoding) => {
    for (const [width, height] of [
      [64, 48],
      [37, 29],
      [1, 1],
    ] as const) {
      const frame = randomFrame(width, height, encoding);
      for (const look of [EMPTY_LOOK, everyTrait(0), lookOf([{ trait: 'grain', on: false }])]) {
        const plan = new Plan(engine, look, { source: frame, target: { width, height, encoding }, rate: 24 });
        expect(plan.render(3, frame)).toEqual(frame.planes);
        plan.dispose();
      }
    }
  });

  test('through the floats, too, R’G’B’ comes back exactly', () => {
    // 8 bits read and written as 16 must be the same fractions.
    const frame = randomFrame(33, 17, RGB8);
    const plan = new Plan(engine, EMPTY_LOOK, { source: frame, target: { width: 33, height: 17, encoding: RGB16 }, rate: 24 });
    plan.render(0, frame).forEach((plane, i) => {
      const codes = new Uint16Array(plane.buffer);
      expect(Array.from(codes)).toEqual(Array.from(frame.planes[i]!, (v) => v * 257));
    });
    plan.dispose();
  });
});

/** Settings of traits that leave the picture of this test alone, or nearly, as they come. */
/** What looks of these tests refer to. */
let files: TestFiles;
beforeAll(async () => {
  const plate = signalFrame('ramp', 64, 48, 1);
  const { width, height, encoding } = plate;
  files = {
    tables: { inverse: INVERSE },
    fonts: { grotesque: await shippedFont('grotesque', 'LINE') },
    plates: { mine: { width, height, encoding, lines: height, frames: 1, rate: 24, stacked: false } },
    plate,
  };
});

const LIVELY: Record<string, TraitUse['settings']> = {
  caption: { text: 'LINE', size: 30 },
  plate: { plate: 'mine' },
  tone: { contrast: 2, floor: 0 },
  halation: { from: 0 },
  exposure: { stops: -1 },
  balance: { lift: 0.2 },
  'tone-curves': {
    master: [
      [0, 0.3],
      [1, 1],
    ],
  },
  ranges: { shadowsExposure: 1, middlesExposure: 1 },
  saturation: { amount: 0.3 },
  hues: { redSaturation: 0.2, yellowSaturation: 0.2 },
  wash: { colour: [0.5, 0.5, 0.5] },
  table: { file: 'inverse' },
  cdl: { slopeRed: 0.5 },
  blotches: { colour: [0.6, 0.8, 1] },
  'gate-frame': { scale: 98 },
  'frame-slip': { count: 0 },
  scanlines: { lines: 75 },
  mask: { pitch: 120 },
  mosaic: { across: 17, down: 15 },
  interlace: { shown: 'turn' },
  phosphor: { tube: 'green' },
  'vertical-roll': { count: 0, rate: 2 },
  dropouts: { length: 80, compensated: false },
  tracking: { height: 200 },
  'head-switching': { lines: 40, shift: 20 },
  tearing: { amount: 30, height: 2 },
  peaking: { gain: 12 },
  flicker: { amount: 20 },
};
const INVERSE: ColourTable = { title: '', dimensions: 1, size: 2, low: [0, 0, 0], high: [1, 1, 1], points: Float32Array.of(1, 1, 1, 0, 0, 0) };

/** A carrier that has what a trait needs. */
const carrierFor = ({ needs }: AnyTrait): string => (needs ? 'vhs' : 'super8');
/** Looks of film, and some of those that go by way of a raster, which is large beside the small pictures here. */
const SOME_LOOKS = shippedLooks.filter(({ look }, i) => i % 5 === 0 || !look.lives.some((life) => carrierById(life.carrier)!.raster));

describe('every trait', () => {
  const extremes = (pick: (s: NumberSetting) => number, flag: boolean) => (s: Setting) => (s.kind === 'number' ? pick(s) : s.kind === 'toggle' ? flag : s.default);
  const cases = traits.flatMap((t) =>
    (
      [
        ['least', extremes((s) => s.min, false)],
        ['default', (s: Setting) => s.default],
        ['greatest', extremes((s) => s.max, true)],
      ] as const
    ).map(([name, value]) => ({ id: t.id, name, settings: Object.fromEntries(Object.entries(t.settings as Record<string, Setting>).map(([key, s]) => [key, value(s)])) })),
  );

  test.each(cases)('$id at its $name settings is finite and bares no black edge', ({ id, settings }) => {
    const width = 90;
    const height = 54;
    const planes = wear(engine, lookOf([{ trait: id, settings }], carrierFor(traitById(id)!)), signalFrame('grey', width, height, 1));
    for (const plane of planes) {
      expect(plane.every(Number.isFinite)).toBe(true);
      if (traitById(id)!.family === 'colour') {
        // Colour may be black as it was set; it is the same all over.
        expect(Math.max(...plane) - Math.min(...plane)).toBeLessThan(1e-4);
        continue;
      }
      if (id === 'aspect-mask') {
        // Its bars are black edges that were asked for.
        expect(plane[(height / 2) * width + width / 2]!).toBeGreaterThan(0.99);
        continue;
      }
      // Nor need what a roll's bar or a copy upside down leaves be bright.
      if (id === 'vertical-roll' || id === 'ghosting') continue;
      if (id === 'gate-frame') {
        // So is what lies outside the aperture, which may be put anywhere.
        expect(Math.max(...plane)).toBeGreaterThan(0.99);
        continue;
      }
      for (const along of [0, height - 1]) expect(Math.max(...plane.subarray(along * width, (along + 1) * width))).toBeGreaterThan(0.2);
      for (const across of [0, width - 1]) expect(Math.max(...Array.from({ length: height }, (_, y) => plane[y * width + across]!))).toBeGreaterThan(0.2);
    }
  });

  test.each(traits.filter((t) => !t.cadence).map((t) => [t.id, t] as const))('%s at half strength lies half way', (id, trait) => {
    // What is done to fields is seen where lines differ.
    const frame = signalFrame(id === 'interlace' ? 'grid' : 'bars', 400, 300, 0.6);
    const use = { trait: id, settings: LIVELY[id], ...(trait.events ? { events: { pinned: [{ id: 'mine', at: 0, length: 0.5 }] } } : {}) };
    // Where it goes by way of a raster, that costs something by itself.
    const carrier = carrierFor(trait);
    const without = trait.needs ? lookOf([{ ...use, strength: 1e-6 }], carrier) : EMPTY_LOOK;
    const [under, half, full] = [without, lookOf([{ ...use, strength: 0.5 }], carrier), lookOf([use], carrier)].map((look) => wear(engine, look, frame, 4, 24, files)[0]!);
    const moved = Array.from(full!, (v, i) => v - under![i]!);
    const movedHalf = Array.from(half!, (v, i) => v - under![i]!);
    expect(Math.max(...[...moved.keys()].filter((i) => i % 7 === 0).map((i) => Math.abs(moved[i]!)))).toBeGreaterThan(0.005);
    // What is done to a channel is half of that; the picture it gives is not half way.
    if (trait.domain === 'rf') expect(rms(movedHalf)).toBeLessThan(rms(moved));
    else expect(correlation(moved, movedHalf)).toBeGreaterThan(0.9);
  });
});

describe('a plan', () => {
  test('renders a frame the same alone, in sequence and backwards', () => {
    for (const { look } of SOME_LOOKS) {
      const frame = randomFrame(200, 120, YUV420);
      const options = { source: frame, target: { width: 200, height: 120, encoding: YUV420 }, rate: 24 };
      const sequence = new Plan(engine, look, options);
      const forward = [0, 1, 2, 3].map((n) => sequence.render(n, frame));
      const backward = [3, 2, 1, 0].map((n) => sequence.render(n, frame)).reverse();
      const alone = new Plan(engine, look, options);
      expect(backward).toEqual(forward);
      expect(alone.render(2, frame)).toEqual(forward[2]);
      sequence.dispose();
      alone.dispose();
    }
  });

  test.each(traits.filter((t) => !t.cadence).map((t) => [t.id, t] as const))('with every number of %s moving, keeps nothing of one picture in the next', (id, trait) => {
    const numbers = Object.entries(trait.settings as Record<string, Setting>).filter((e): e is [string, NumberSetting] => e[1].kind === 'number');
    const motions = Object.fromEntries(numbers.map(([key, s]) => [key, { motion: 'jump', amount: (s.max - s.min) / 8 } as const]));
    const pinned = [0, 1 / 24, 2 / 24].map((at, i) => ({ id: `mine${i}`, at, length: 0.2 }));
    const look = lookOf([{ trait: id, settings: LIVELY[id], motions, ...(trait.events ? { events: { pinned } } : {}) }], carrierFor(trait));
    const frame = signalFrame('bars', 96, 54, 0.7);
    const options = { source: frame, target: { width: 96, height: 54, encoding: RGB16 }, rate: 24, tables: { inverse: INVERSE } };
    const rendered = (order: readonly number[]): Map<number, Uint8Array[]> => {
      const plan = new Plan(engine, look, options);
      const pictures = new Map(order.map((n) => [n, plan.render(n, frame)]));
      plan.dispose();
      return pictures;
    };
    // A raster is large beside the small picture here.
    const order = trait.needs ? [0, 1] : [0, 1, 2];
    const [forward, backward] = [rendered(order), rendered([...order].reverse())];
    for (const n of order) {
      expect(backward.get(n)).toEqual(forward.get(n));
      expect(rendered([n]).get(n)).toEqual(forward.get(n));
    }
  });

  test('gives its memory back', () => {
    const before = engine.reservedBytes;
    for (const { look } of shippedLooks) {
      const frame = randomFrame(64, 48, YUV420);
      const plan = new Plan(engine, look, { source: frame, target: { width: 96, height: 54, encoding: 'rgba' }, rate: 24 });
      plan.render(0, frame);
      plan.dispose();
    }
    expect(engine.reservedBytes).toBe(before);
  });

  test('the cut into bands changes nothing', () => {
    const frame = randomFrame(320, 120, YUV420);
    for (const { look } of SOME_LOOKS) {
      const [narrow, usual, whole] = [2, undefined, 120].map((bandRows) => {
        const plan = new Plan(engine, look, { source: frame, target: { width: 320, height: 120, encoding: YUV420 }, rate: 24, bandRows });
        const planes = plan.render(7, frame);
        plan.dispose();
        return planes;
      });
      expect(narrow).toEqual(whole);
      expect(usual).toEqual(whole);
    }
  });

  test('fills another shape and crops about the middle', () => {
    // Bars 160 x 90 into a square: the middle four of eight bars and no black beside them.
    const frame = signalFrame('bars', 160, 90, 1);
    const plan = new Plan(engine, EMPTY_LOOK, { source: frame, target: { width: 45, height: 45, encoding: RGB8 }, rate: 24 });
    const [r, g, b] = plan.render(0, frame);
    const at = (x: number): number[] => [r![45 * 20 + x]!, g![45 * 20 + x]!, b![45 * 20 + x]!];
    expect(at(0)).toEqual([255, 255, 0]);
    expect(at(7)).toEqual([0, 255, 255]);
    expect(at(17)).toEqual([0, 255, 0]);
    expect(at(27)).toEqual([255, 0, 255]);
    expect(at(44)).toEqual([0, 0, 255]);
    plan.dispose();
  });

  test('names its steps with their domains', () => {
    const plan = new Plan(engine, lookOf([{ trait: 'scanlines' }, { trait: 'grain' }]), {
      source: randomFrame(8, 8, YUV420),
      target: { width: 8, height: 800, encoding: 'rgba' },
      rate: 24,
    });
    expect(plan.steps.map((s) => s.name)).toEqual(['read and resize', 'display to density', 'grain', 'density to linear', 'scanlines', 'linear to display', 'write']);
    plan.dispose();
  });
});
