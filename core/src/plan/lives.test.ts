/** Lives, cadence, times, zones, blends, keeping: what a plan makes of a look. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { Encoding } from '../frame/encoding';
import { checkLook } from '../look/check';
import { LookError } from '../look/schema-check';
import { EMPTY_LOOK, LOOK_SCHEMA, type Look, type TraitUse } from '../look/look';
import { correlation, countingOf, lookOf, mean, newEngine, painted, randomFrame, RGB16, RGB8, rms, signalFrame, wearFloat } from '../testing';
import { countPictures } from '../score/cadence';
import { Kept } from './kept';
import { spanShare } from '../score/moment';
import { Plan } from './plan';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const livesOf = (...lives: [string, TraitUse[]][]): Look => ({
  schema: LOOK_SCHEMA,
  shape: 'file',
  name: 'lives',
  seed: 5,
  lives: lives.map(([carrier, traits]) => ({ carrier, traits })),
});

/** A ramp from the top to the bottom at the size of the 625-line raster. */
function painted576() {
  const frame = signalFrame('grey', 720, 576, 0, RGB8);
  for (const plane of frame.planes) for (let y = 0; y < 576; y++) plane.fill(Math.round((y * 255) / 575), y * 720, (y + 1) * 720);
  return frame;
}

describe('carriers and their rasters', () => {
  const stepsOf = (look: Look, width = 960, height = 540): string[] => {
    const plan = new Plan(engine, look, { source: randomFrame(width, height, RGB8), target: { width, height, encoding: RGB8 }, rate: 25 });
    const steps = plan.steps.map((s) => `${s.name} ${s.width}x${s.height}`);
    plan.dispose();
    return steps;
  };

  test('Stock to Machine run on the raster, Lens and Screen at the size of the result', () => {
    const look = livesOf(['vhs', [{ trait: 'softness' }, { trait: 'luma-bandwidth' }, { trait: 'scanlines' }]]);
    expect(stepsOf(look)).toEqual([
      'read 960x540',
      'display to linear 960x540',
      'softness 960x540',
      'linear to display 960x540',
      'resize 720x486',
      'display to video 720x486',
      'luma-bandwidth 720x486',
      'resize 960x540',
      'video to display 960x540',
      'display to linear 960x540',
      'scanlines 960x540',
      'linear to display 960x540',
      'write 960x540',
    ]);
  });

  test('nothing is resized for a trait that is off or of no strength', () => {
    expect(
      stepsOf(
        livesOf([
          'vhs625',
          [
            { trait: 'luma-bandwidth', on: false },
            { trait: 'noise', strength: 0 },
          ],
        ]),
      ),
    ).toEqual(['read 960x540', 'write 960x540']);
  });

  test('three lives: film copied to tape shown on a tube', () => {
    const look = livesOf(['super8', [{ trait: 'grain' }]], ['vhs625', [{ trait: 'luma-bandwidth' }]], ['none', [{ trait: 'scanlines' }]]);
    const names = stepsOf(look).map((s) => s.split(' ')[0]);
    expect(names.filter((n) => ['grain', 'luma-bandwidth', 'scanlines', 'resize'].includes(n!))).toEqual(['grain', 'resize', 'luma-bandwidth', 'resize', 'scanlines']);
  });

  test('a picture that already has the raster’s size is cropped all the same', () => {
    const frame = signalFrame('bars', 720, 486, 1, RGB8);
    const plan = new Plan(engine, livesOf(['vhs', [{ trait: 'luma-bandwidth', settings: { limit: 6 } }]]), {
      source: frame,
      target: { width: 360, height: 486, encoding: RGB8 },
      rate: 25,
    });
    const [r, g, b] = plan.render(0, frame);
    // Of eight bars the middle four are left; the first of them is cyan’s left neighbour, yellow-green side first.
    expect([r![360 * 40 + 45]!, g![360 * 40 + 45]!, b![360 * 40 + 45]!].map((v) => v > 128)).toEqual([false, true, true]);
    plan.dispose();
  });

  test('footage of the raster’s size is cropped once, on its way in, not again on its way out', () => {
    const frame = signalFrame('bars', 720, 576, 1, RGB8);
    const faint = { trait: 'noise', settings: { amount: 0.0001 } };
    const look = livesOf([
      'vhs625',
      [
        { ...faint, act: 'lens' },
        { trait: 'luma-bandwidth', settings: { limit: 6 } },
        { ...faint, act: 'screen' },
      ],
    ]);
    const shown = [EMPTY_LOOK, look].map((l) => {
      const plan = new Plan(engine, l, { source: frame, target: { width: 960, height: 400, encoding: RGB8 }, rate: 25 });
      const [r, g, b] = plan.render(0, frame);
      plan.dispose();
      // The middle of each of the eight bars.
      return Array.from({ length: 8 }, (_, bar) => [r!, g!, b!].map((plane) => plane[960 * 200 + 60 + 120 * bar]! > 128));
    });
    expect(shown[1]).toEqual(shown[0]);
    const row = (l: Look, height: number): number[] => {
      const steps = painted576();
      const plan = new Plan(engine, l, { source: steps, target: { width: 960, height, encoding: RGB8 }, rate: 25 });
      const [r] = plan.render(0, steps);
      plan.dispose();
      return [0.1, 0.3, 0.5, 0.7, 0.9].map((share) => r![960 * Math.floor(share * height) + 480]!);
    };
    row(look, 400).forEach((v, i) => expect(Math.abs(v - row(EMPTY_LOOK, 400)[i]!)).toBeLessThan(3));
  });

  test('domains there and back are exact to 10 bits', () => {
    const frame = signalFrame('ramp', 1024, 4, 1);
    const clean = wearFloat(engine, EMPTY_LOOK, frame);
    // A trait at a strength too small to see makes the plan go through its domain.
    for (const trait of ['scanlines', 'grain', 'luma-bandwidth']) {
      const worn = wearFloat(engine, livesOf(['none', [{ trait, strength: 1e-9 }]]), frame);
      for (let i = 4; i < 1024; i++) expect(Math.abs(worn[0]![i]! - clean[0]![i]!)).toBeLessThan(0.25 / 1023);
    }
  });
});

describe('cadence', () => {
  const held = (rate: number): Look => livesOf(['super8', [{ trait: 'cadence', settings: { rate } }, { trait: 'grain' }]]);

  test.each([
    [16, 24],
    [16, 25],
    [16, 30],
    [18, 24],
    [18, 25],
    [18, 30],
    [18, 30000 / 1001],
  ])('%d in %d: which picture is held is exact over an hour', (own, rate) => {
    const look = held(own);
    for (const from of [0, Math.floor(rate * 3599)]) {
      for (let n = from; n < from + 60; n++) {
        const { lives, source } = countPictures(look, n, countingOf(look, rate));
        // The picture due at this moment, reckoned in whole numbers.
        const [num, den] = Number.isInteger(rate) ? [rate, 1] : [30000, 1001];
        const due = Number((BigInt(n) * BigInt(own) * BigInt(den)) / BigInt(num));
        expect(lives[0]!.picture).toBe(due);
        const first = Number((BigInt(due) * BigInt(num) + BigInt(own * den) - 1n) / BigInt(own * den));
        expect(source).toBe(Math.min(n, first));
      }
    }
  });

  test('a held picture holds its grain; all pictures of the file are there', () => {
    const frame = signalFrame('grey', 64, 48, 0.5, RGB8);
    const plan = new Plan(engine, held(12), { source: frame, target: { width: 64, height: 48, encoding: RGB8 }, rate: 24 });
    const pictures = [0, 1, 2, 3].map((n) => plan.render(n, frame));
    expect(pictures[1]).toEqual(pictures[0]);
    expect(pictures[3]).toEqual(pictures[2]);
    expect(pictures[2]).not.toEqual(pictures[0]);
    expect([0, 1, 2, 3].map((n) => plan.sourcePictures(n))).toEqual([[0], [0], [2], [2]]);
    plan.dispose();
  });

  test('a second life counts its own pictures', () => {
    const look = livesOf(['super8', [{ trait: 'cadence', settings: { rate: 18 } }]], ['vhs625', [{ trait: 'noise' }]]);
    expect(countPictures(look, 7, countingOf(look, 25)).lives.map((l) => l.picture)).toEqual([5, 7]);
    expect(countPictures(look, 7, countingOf(look, 25)).source).toBe(7);
    expect(countPictures(look, 6, countingOf(look, 25)).source).toBe(6);
    expect(countPictures(EMPTY_LOOK, 41, countingOf(EMPTY_LOOK, 25)).source).toBe(41);
  });
});

describe('times', () => {
  test('a trait acts within its spans, with ramps', () => {
    const spans = [{ from: 1, to: 3, in: 0.5, out: 1 }];
    expect([0.9, 1, 1.25, 1.5, 2.5, 2.9999, 3].map((t) => Math.round(spanShare(spans, t) * 1000) / 1000)).toEqual([0, 0, 0.5, 1, 0.5, 0, 0]);
    const frame = signalFrame('grey', 32, 24, 0.5, RGB8);
    const look = lookOf([{ trait: 'noise', settings: { amount: 0.1 }, when: [{ from: 1, to: 2 }] }], 'none');
    const plan = new Plan(engine, look, { source: frame, target: { width: 32, height: 24, encoding: RGB8 }, rate: 24 });
    expect(plan.render(23, frame)).toEqual(frame.planes);
    expect(plan.render(24, frame)).not.toEqual(frame.planes);
    expect(plan.render(48, frame)).toEqual(frame.planes);
    plan.dispose();
  });
});

describe('zones', () => {
  const [width, height] = [200, 120];
  const frame = signalFrame('ramp', width, height, 1);
  const changed = (zone: TraitUse['zone']): ((x: number, y: number) => number) => {
    const clean = wearFloat(engine, EMPTY_LOOK, frame)[0]!;
    const worn = wearFloat(engine, lookOf([{ trait: 'noise', settings: { amount: 0.2 }, zone }], 'none'), frame)[0]!;
    return (x, y) => rms(Array.from({ length: 100 }, (_, i) => worn[(y + Math.floor(i / 10)) * width + x + (i % 10)]! - clean[(y + Math.floor(i / 10)) * width + x + (i % 10)]!));
  };

  test('toward the edges, in an ellipse, and everywhere but a quiet place', () => {
    const edges = changed({ kind: 'edges' });
    expect(edges(95, 55)).toBeLessThan(0.02);
    expect(edges(0, 0)).toBeGreaterThan(0.15);
    const ellipse = changed({ kind: 'ellipse', x: 0.25, y: 0.5 });
    expect(ellipse(45, 55)).toBeGreaterThan(0.15);
    expect(ellipse(150, 55)).toBe(0);
    const quiet = changed({ kind: 'quiet', x: 0.25, y: 0.5, across: 0.1, down: 0.2 });
    expect(quiet(45, 55)).toBeLessThan(0.02);
    expect(quiet(150, 55)).toBeGreaterThan(0.15);
  });

  test('where it is keyed, on its way from one key to the next and at rest beyond them', () => {
    const clean = wearFloat(engine, EMPTY_LOOK, frame)[0]!;
    const keys = [
      { at: 0.5, x: 0.2, y: 0.5, across: 0.1, down: 0.2 },
      { at: 1.5, x: 0.8, y: 0.5, across: 0.1, down: 0.2 },
    ];
    /** The middle of what is left clean along the middle line, in shares of the width. */
    const middle = (n: number): number => {
      const worn = wearFloat(engine, lookOf([{ trait: 'noise', settings: { amount: 0.2 }, zone: { kind: 'quiet', soft: 0, keys } }], 'none'), frame, n, 24)[0]!;
      const still = Array.from({ length: width }, (_, x) => x).filter((x) => [58, 60, 62].every((y) => worn[y * width + x] === clean[y * width + x]));
      return still.reduce((a, b) => a + b + 0.5, 0) / still.length / width;
    };
    for (const [n, at] of [
      [0, 0.2],
      [12, 0.2],
      [24, 0.5],
      [30, 0.65],
      [36, 0.8],
      [200, 0.8],
    ] as const)
      expect(middle(n)).toBeCloseTo(at, 2);
    expect(() => checkLook(lookOf([{ trait: 'noise', zone: { kind: 'quiet', keys: [...keys].reverse() } }], 'none'))).toThrow(/zone.keys/);
  });

  test('by tone', () => {
    const dark = changed({
      kind: 'all',
      tones: [
        [0, 1],
        [0.4, 1],
        [0.6, 0],
      ],
    });
    expect(dark(30, 50)).toBeGreaterThan(0.15);
    expect(dark(160, 50)).toBe(0);
  });
});

describe('blends', () => {
  /** The formulas of Compositing and Blending Level 1 (W3C), written out; b is under, s on top. */
  const FORMULAS: Record<string, (b: number, s: number) => number> = {
    multiply: (b, s) => b * s,
    screen: (b, s) => b + s - b * s,
    overlay: (b, s) => FORMULAS['hard-light']!(s, b),
    darken: Math.min,
    lighten: Math.max,
    'colour-dodge': (b, s) => (b <= 0 ? 0 : s >= 1 ? 1 : Math.min(1, b / (1 - s))),
    'colour-burn': (b, s) => (b >= 1 ? 1 : s <= 0 ? 0 : 1 - Math.min(1, (1 - b) / s)),
    'hard-light': (b, s) => (s <= 0.5 ? b * 2 * s : b + (2 * s - 1) - b * (2 * s - 1)),
    'soft-light': (b, s) => {
      if (s <= 0.5) return b - (1 - 2 * s) * b * (1 - b);
      const d = b <= 0.25 ? ((16 * b - 12) * b + 4) * b : Math.sqrt(b);
      return b + (2 * s - 1) * (d - b);
    },
    difference: (b, s) => Math.abs(b - s),
    exclusion: (b, s) => b + s - 2 * b * s,
    add: (b, s) => b + s,
    subtract: (b, s) => b - s,
  };

  test.each(Object.keys(FORMULAS))('%s is what the formula says', (blend) => {
    const frame = signalFrame('ramp', 256, 2, 1);
    // Moved by 16 pixels, so that under and top differ.
    const use: TraitUse = { trait: 'channel-offset', settings: { redAcross: 5, blueAcross: 0, greenAcross: 0 } };
    const under = wearFloat(engine, EMPTY_LOOK, frame)[0]!;
    const top = wearFloat(engine, lookOf([use]), frame)[0]!;
    const laid = wearFloat(engine, lookOf([{ ...use, blend: blend as TraitUse['blend'] }]), frame)[0]!;
    for (let x = 0; x < 256; x++) expect(laid[x]).toBeCloseTo(FORMULAS[blend]!(under[x]!, top[x]!), 4);
  });
});

describe('following', () => {
  const splice = { trait: 'splices', settings: { count: 0 }, events: { pinned: [{ id: 'cut', at: 1 }] } };

  test('a splice kicks the weave, and it settles', () => {
    const weave = { trait: 'gate-weave', settings: { sideways: 0, upDown: 0, shake: 0 }, motions: { shake: { motion: 'follow' as const, of: 'splices', gain: 2, decay: 0.1 } } };
    const look = lookOf([splice, weave]);
    checkLook(look);
    const frame = signalFrame('sweep', 160, 90, 1, RGB8);
    const clean = lookOf([splice]);
    const differs = (n: number): boolean => {
      const render = (l: Look) => {
        const plan = new Plan(engine, l, { source: frame, target: { width: 160, height: 90, encoding: RGB8 }, rate: 24 });
        const planes = plan.render(n, frame);
        plan.dispose();
        return planes;
      };
      const without = render(clean)[0]!;
      return rms(Array.from(render(look)[0]!, (v, i) => v - without[i]!)) > 0.5;
    };
    expect(differs(23)).toBe(false);
    expect(differs(24)).toBe(true);
    expect(differs(48)).toBe(false);
  });

  test('the flicker sways the picture: to the side as the light rises', () => {
    // Light and place are read off one plane: the mean of a grey half, and where its edge stands.
    const look = lookOf([
      { trait: 'flicker', settings: { amount: 5, uneven: 0 } },
      { trait: 'channel-offset', settings: { redAcross: 0, blueAcross: 0 }, motions: { redAcross: { motion: 'follow', of: 'flicker', gain: 1 } } },
    ]);
    checkLook(look);
    const frame = signalFrame('pulse', 400, 4, 0.5);
    const read = Array.from({ length: 24 }, (_, n) => {
      const [r] = wearFloat(engine, look, frame, n);
      const light = r![250]!;
      const edge = Array.from(r!.subarray(180, 220)).findIndex((v) => v > light / 2);
      const [a, b] = [r![180 + edge - 1]!, r![180 + edge]!];
      return { light, place: 180 + edge - (b - light / 2) / (b - a) };
    });
    expect(
      correlation(
        read.map((x) => x.light),
        read.map((x) => x.place),
      ),
    ).toBeGreaterThan(0.98);
  });

  test('circles, strangers and what never moves are refused with their place', () => {
    const follow = (of: string) => ({ rate: { motion: 'follow' as const, of, gain: 1 } });
    const said = (traits: TraitUse[]): string => {
      try {
        checkLook(lookOf(traits));
        return '';
      } catch (error) {
        return (error as LookError).message;
      }
    };
    expect(
      said([
        { trait: 'flicker', motions: follow('gate-weave') },
        { trait: 'gate-weave', motions: follow('flicker') },
      ]),
    ).toMatch(/lives\[0\]\.traits\[0\]\.motions\.rate: following "gate-weave" would go round in a circle/);
    expect(said([{ trait: 'flicker', motions: follow('flicker') }])).toMatch(/circle/);
    expect(said([{ trait: 'flicker', motions: follow('splices') }])).toMatch(/no "splices" in this look/);
    expect(said([{ trait: 'flicker', motions: follow('grain') }, { trait: 'grain' }])).toMatch(/nothing to follow/);
    expect(said([{ trait: 'flicker', motions: follow('flicker:2') }, { trait: 'flicker' }])).toBe('');
  });
});

describe('the picture before the edited trait is kept', () => {
  test('and gives the same bits', () => {
    const frame = randomFrame(96, 64, RGB8);
    const look = (amount: number, radius = 0.5): Look =>
      lookOf([{ trait: 'softness', settings: { radius } }, { trait: 'grain' }, { trait: 'noise', settings: { amount } }, { trait: 'flicker' }]);
    const render = (l: Look, n: number, kept?: Kept) => {
      const plan = new Plan(engine, l, { source: frame, target: { width: 96, height: 64, encoding: RGB16 }, rate: 24 });
      const planes = plan.render(n, frame, kept);
      plan.dispose();
      return planes;
    };
    const kept = new Kept(0, 2, 'footage');
    for (const [amount, n, radius] of [
      [0.1, 3, 0.5],
      [0.2, 3, 0.5],
      [0.2, 4, 0.5],
      [0.3, 4, 0.9],
    ] as const) {
      expect(render(look(amount, radius), n, kept)).toEqual(render(look(amount, radius), n));
    }
    kept.release();
  });

  test('and what stands before it is not rendered again', () => {
    const frame = randomFrame(400, 300, RGB8);
    const kept = new Kept(0, 1, 'footage');
    const look = (amount: number): Look =>
      lookOf([
        { trait: 'softness', settings: { radius: 3 } },
        { trait: 'noise', settings: { amount } },
      ]);
    const costs = [0.1, 0.2].map((amount) => {
      const plan = new Plan(engine, look(amount), { source: frame, target: { width: 400, height: 300, encoding: RGB8 }, rate: 24, clock: () => 0 });
      plan.render(0, frame, kept);
      const names = [...plan.costs.keys()];
      plan.dispose();
      return names;
    });
    expect(costs[0]).toContain('softness 400x300');
    expect(costs[1]).not.toContain('softness 400x300');
    expect(costs[1]).toContain('noise 400x300');
    kept.release();
  });
});

test('events of a look are listed for the interface', () => {
  const plan = new Plan(engine, lookOf([{ trait: 'grain' }, { trait: 'splices', settings: { count: 60 }, events: { pinned: [{ id: 'cut', at: 2.5 }] } }]), {
    source: { width: 8, height: 8, encoding: RGB8 },
    target: { width: 8, height: 8, encoding: RGB8 },
    rate: 24,
  });
  const listed = plan.score.events(0, 10);
  expect(listed.length).toBeGreaterThan(4);
  expect(listed.every((e) => e.trait === 'splices' && e.index === 1 && e.life === 0)).toBe(true);
  expect(listed.find((e) => e.id === 'cut')).toMatchObject({ at: 2.5, pinned: true });
  plan.dispose();
});

describe('what was played goes into a file plane by plane', () => {
  /** Slopes of 2.4 codes a column and 3.6 a row: half a sample of displacement would be seen. */
  const ramps = (width: number, height: number) => painted(width, height, (x, y) => [0.2 + (0.6 * x) / width, 0.5, 0.8 - (0.6 * y) / height]);
  const look = lookOf([{ trait: 'luma-bandwidth', settings: { limit: 6 } }], 'vhs');

  test.each([
    [322, 242, 1, 1],
    [321, 243, 1, 1],
    [322, 242, 1, 0],
    [322, 242, 0, 0],
  ])('%i x %i, colour halved %i times across and %i down: levels and places', (width, height, subX, subY) => {
    const source = ramps(width, height);
    const encoding: Encoding = { layout: 'yuv', bits: 10, subX: subX as 0 | 1, subY: subY as 0 | 1, matrix: 'bt709', range: 'limited' };
    const plan = new Plan(engine, look, { source, target: { width, height, encoding }, rate: 25 });
    expect(plan.steps.at(-1)!.name).toBe('resize and write');
    const written = plan.render(0, source).map((plane) => new Uint16Array(plane.buffer, plane.byteOffset, plane.length >> 1));
    plan.dispose();
    const [r, g, b] = wearFloat(engine, look, source, 0, 25) as [Float32Array, Float32Array, Float32Array];
    // ITU-R BT.709: codes of 10 bits from R'G'B'.
    const luma = (i: number): number => 0.2126 * r[i]! + 0.7152 * g[i]! + 0.0722 * b[i]!;
    const planes = [(i: number) => 64 + 876 * luma(i), (i: number) => 512 + (896 * (b[i]! - luma(i))) / 1.8556, (i: number) => 512 + (896 * (r[i]! - luma(i))) / 1.5748];
    planes.forEach((codeAt, plane) => {
      const [x2, y2] = plane ? [subX, subY] : [0, 0];
      const [wide, high] = [(width + x2) >> x2, (height + y2) >> y2];
      expect(written[plane]!.length).toBe(wide * high);
      const off: number[] = [];
      for (let y = 8; y < high - 8; y++)
        for (let x = 8; x < wide - 8; x++) {
          // Halved colour stands on the first of two columns and in the middle of two rows.
          const rows = y2 ? [2 * y, 2 * y + 1] : [y];
          off.push(written[plane]![y * wide + x]! - rows.reduce((sum, row) => sum + codeAt(row * width + (x << x2)), 0) / rows.length);
        }
      expect(Math.abs(mean(off))).toBeLessThan(0.1);
      expect(off.every((v) => Math.abs(v) < 0.8)).toBe(true);
    });
  });

  test('bars beside it stay black', () => {
    const [width, height] = [640, 360];
    const source = ramps(width, height);
    const encoding: Encoding = { layout: 'yuv', bits: 8, subX: 1, subY: 1, matrix: 'bt709', range: 'limited' };
    const plan = new Plan(engine, { ...look, shape: 'carrier' }, { source, target: { width, height, encoding }, rate: 25 });
    for (const n of [0, 1]) {
      // 480 columns of 4:3 in the middle of 640.
      plan.render(n, source).forEach((plane, i) => {
        const [wide, bar] = i ? [width / 2, 40] : [width, 80];
        const black = i ? 128 : 16;
        for (let y = 0; y < plane.length / wide; y++) {
          const row = plane.subarray(y * wide, (y + 1) * wide);
          expect([i, y, row.subarray(0, bar).every((v) => v === black), row.subarray(wide - bar).every((v) => v === black)]).toEqual([i, y, true, true]);
          expect(row.subarray(bar, wide - bar).filter((v) => v === black).length).toBeLessThan(wide / 4);
        }
      });
    }
    plan.dispose();
  });
});
