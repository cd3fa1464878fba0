/** Colour traits measured with ramps, bars and patches, against their formulas. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../../engine';
import { sampleTable, type ColourTable } from '../../formats/cube';
import type { RawFrame } from '../../frame/encoding';
import type { TraitUse } from '../../look/look';
import { Plan } from '../../plan/plan';
import { light, lookOf, newEngine, RGB16, signalFrame, wear, wearFloat } from '../../testing';
import { through } from './curves';
import { rangeWeights } from './range-weights';

const { abs, log10, log2, max, min, round } = Math;
/** Values of colours from 16-bit files differ from their numbers by half a step at the most. */
const STEP = 1 / 1024;
const SIZES = [540, 1080] as const;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** Patches of colours side by side, eight pixels wide each. */
function patches(colours: readonly (readonly number[])[], height = 16): RawFrame {
  const width = colours.length * 8;
  const planes = [0, 1, 2].map((channel) => {
    const codes = new Uint16Array(width * height);
    for (let i = 0; i < codes.length; i++) codes[i] = round(max(0, min(1, colours[Math.floor((i % width) / 8)]![channel]!)) * 65535);
    return new Uint8Array(codes.buffer);
  });
  return { width, height, encoding: RGB16, planes };
}

/** Those patches worn: one colour each. */
function worn(use: TraitUse, colours: readonly (readonly number[])[], tables?: Record<string, ColourTable>): number[][] {
  const frame = patches(colours);
  const plan = new Plan(engine, lookOf([use]), { source: frame, target: { width: frame.width, height: frame.height, encoding: 'float' }, rate: 24, tables });
  const planes = plan.render(0, frame).map((p) => new Float32Array(p.buffer, p.byteOffset, p.length / 4));
  plan.dispose();
  return colours.map((_, i) => planes.map((plane) => plane[i * 8 + 4]!));
}

/** A ramp of a size through a trait: [in, out] of one channel over a row. */
function ramp(use: TraitUse, height: number, channel = 0): [number, number][] {
  const width = round((height * 16) / 9);
  const frame = signalFrame('ramp', width, height);
  const rows = { ...frame, height: 8, planes: frame.planes.map((p) => p.subarray(0, width * 8 * 2)) };
  const plane = wear(engine, lookOf([use]), rows)[channel]!;
  return Array.from({ length: width }, (_, x) => [x / (width - 1), plane[x]!]);
}

const luma = ([r, g, b]: readonly number[]): number => 0.2126 * r! + 0.7152 * g! + 0.0722 * b!;
const held = (v: number): number => max(0, min(1, v));
const near = (got: number, wanted: number, off = STEP): void => expect(abs(got - wanted)).toBeLessThan(off);

const COLOURS = [
  [0.2, 0.2, 0.2],
  [0.8, 0.3, 0.2],
  [0.1, 0.5, 0.3],
  [0.25, 0.35, 0.75],
  [0.9, 0.85, 0.3],
  [0.6, 0.6, 0.6],
];

describe('exposure', () => {
  test.each(SIZES)('a stop doubles the light at %d lines', (height) => {
    for (const stops of [1, -2]) {
      for (const [input, output] of ramp({ trait: 'exposure', settings: { stops } }, height)) {
        const wanted = light(input) * 2 ** stops;
        if (input > 0.05 && wanted < 1) near(log2(light(output) / light(input)), stops, 0.01);
      }
    }
  });

  test('contrast is the slope of light in stops, about 18 % grey', () => {
    const grey = 0.18 ** (1 / 2.4);
    const [low, mid, high] = worn(
      { trait: 'exposure', settings: { contrast: 1.5 } },
      [[grey / 1.5], [grey], [grey * 1.2]].map(([v]) => [v!, v!, v!]),
    );
    near(mid![0]!, grey);
    near(log2(light(high![0]!) / light(low![0]!)) / log2(light(grey * 1.2) / light(grey / 1.5)), 1.5, 0.005);
  });

  test('warmth gives white the chromaticity of a lamp that much colder, at the same luminance', () => {
    const [white] = worn({ trait: 'exposure', settings: { warmth: 2500 } }, [[0.5, 0.5, 0.5]]);
    const [r, g, b] = white!.map(light);
    const X = 0.4124564 * r! + 0.3575761 * g! + 0.1804375 * b!;
    const Y = 0.2126729 * r! + 0.7151522 * g! + 0.072175 * b!;
    const Z = 0.0193339 * r! + 0.119192 * g! + 0.9503041 * b!;
    const [x, y] = [X / (X + Y + Z), Y / (X + Y + Z)];
    // Correlated colour temperature by C. S. McCamy's formula (1992).
    const n = (x - 0.332) / (0.1858 - y);
    const kelvin = 449 * n ** 3 + 3525 * n ** 2 + 6823.3 * n + 5520.33;
    expect(abs(kelvin - (6504 - 2500)) / 4004).toBeLessThan(0.03);
    near(Y, light(0.5), 0.003);
  });

  test('tint goes to magenta above 0 and to green below', () => {
    const [magenta] = worn({ trait: 'exposure', settings: { tint: 50 } }, [[0.5, 0.5, 0.5]]);
    const [green] = worn({ trait: 'exposure', settings: { tint: -50 } }, [[0.5, 0.5, 0.5]]);
    expect(magenta![1]!).toBeLessThan(min(magenta![0]!, magenta![2]!) - 0.01);
    expect(green![1]!).toBeGreaterThan(max(green![0]!, green![2]!) + 0.01);
  });
});

describe('balance', () => {
  test.each(SIZES)('a ramp follows the formula at %d lines', (height) => {
    const settings = { lift: 0.05, gamma: 1.4, gain: 0.9, offset: -0.02, liftRed: 0.03, gammaRed: 0.8, gainRed: 1.1, offsetRed: 0.01 };
    for (const [input, output] of ramp({ trait: 'balance', settings }, height)) {
      const linear = (input * (1 - 0.08) + 0.08) * 0.99 - 0.01;
      near(output, held(max(0, linear) ** (1 / (1.4 * 0.8))));
    }
  });

  test('lift leaves white, gain leaves black, gamma both', () => {
    const ends = (settings: Record<string, number>) =>
      worn({ trait: 'balance', settings }, [
        [0, 0, 0],
        [1, 1, 1],
      ]).map((c) => c[1]!);
    near(ends({ lift: 0.1 })[1]!, 1);
    near(ends({ lift: 0.1 })[0]!, 0.1);
    near(ends({ gain: 0.8 })[0]!, 0);
    near(ends({ gamma: 2 })[0]!, 0);
    near(ends({ gamma: 2 })[1]!, 1);
  });
});

describe('tone curves', () => {
  const points = [
    [0, 0.06],
    [0.25, 0.2],
    [0.6, 0.72],
    [1, 0.95],
  ] as const;
  test.each(SIZES)('a ramp follows the curve through its points at %d lines', (height) => {
    const of = through(points);
    for (const [x, y] of points) near(of(x), y, 1e-9);
    for (const [input, output] of ramp({ trait: 'tone-curves', settings: { master: points } }, height)) near(output, of(input), STEP / 2);
  });

  test('a curve never swings past its points', () => {
    const of = through([
      [0, 0],
      [0.4, 0.05],
      [0.5, 0.9],
      [1, 1],
    ]);
    let last = -1;
    for (let v = 0; v <= 1; v += 0.001) {
      expect(of(v)).toBeGreaterThanOrEqual(last - 1e-12);
      last = of(v);
    }
  });

  test('channels come after the curve of all, each by itself', () => {
    const use: TraitUse = {
      trait: 'tone-curves',
      settings: {
        master: [
          [0, 0],
          [1, 0.5],
        ],
        green: [
          [0, 1],
          [1, 0],
        ],
      },
    };
    const [colour] = worn(use, [[0.6, 0.6, 0.6]]);
    near(colour![0]!, 0.3);
    near(colour![1]!, 0.7);
    near(colour![2]!, 0.3);
  });
});

describe('ranges', () => {
  test('shares of the ranges sum to one and hold half where they meet', () => {
    for (let y = 0; y <= 1; y += 0.01)
      near(
        rangeWeights(y, 0.33, 0.66, 0.3).reduce((a, b) => a + b),
        1,
        1e-12,
      );
    near(rangeWeights(0.33, 0.33, 0.66, 0.3)[0], 0.5, 1e-9);
    near(rangeWeights(0.66, 0.33, 0.66, 0.3)[2], 0.5, 1e-9);
  });

  test('a tint moves neutral by its size toward its hue and leaves luma and the other ranges', () => {
    const greys = [0.02, 0.5, 0.98].map((v) => [v, v, v]);
    const [dark, middle, bright] = worn({ trait: 'ranges', settings: { highlightsHue: 60, highlightsTint: 10 } }, greys);
    greys[0]!.forEach((v, i) => near(dark![i]!, v));
    greys[1]!.forEach((v, i) => near(middle![i]!, v));
    near(luma(bright!), 0.98);
    // Red and green at cos 60 and cos -60 of the size, blue at cos 180.
    near(bright![0]! - bright![2]!, 0.1 * 1.5);
    near(bright![1]! - bright![2]!, 0.1 * 1.5);
  });

  test('light of a range is in stops, saturation of a range about luma', () => {
    const [, middle] = worn({ trait: 'ranges', settings: { middlesExposure: -1, middlesSaturation: 1 } }, [
      [0, 0, 0],
      [0.5, 0.5, 0.5],
    ]);
    near(log2(light(middle![0]!) / light(0.5)), -1, 0.01);
    const input = [0.6, 0.45, 0.4];
    const [pale] = worn({ trait: 'ranges', settings: { middlesSaturation: 0 } }, [input]);
    pale!.forEach((v) => near(v, luma(input), 0.002));
  });
});

describe('saturation', () => {
  test('scales the distance from luma', () => {
    const out = worn({ trait: 'saturation', settings: { amount: 1.4 } }, COLOURS);
    COLOURS.forEach((c, i) => c.forEach((v, channel) => near(out[i]![channel]!, luma(c) + 1.4 * (v - luma(c)))));
  });

  test('vibrance gives more to what has little, and a curve picks the lumas', () => {
    const gain = (c: number[], settings: TraitUse['settings']): number => {
      const [out] = worn({ trait: 'saturation', settings }, [c]);
      return (out![0]! - luma(out!)) / (c[0]! - luma(c));
    };
    near(gain([0.5, 0.4, 0.4], { vibrance: 0.5 }), 1 + 0.5 * 0.9, 0.01);
    near(gain([0.9, 0.1, 0.1], { vibrance: 0.5 }), 1 + 0.5 * 0.2, 0.01);
    const byLuma = [
      [0, 0],
      [0.3, 0],
      [0.5, 0.5],
      [1, 0.5],
    ] as const;
    near(gain([0.24, 0.16, 0.16], { byLuma }), 0, 0.01);
    near(gain([0.84, 0.76, 0.76], { byLuma }), 1, 0.01);
  });
});

describe('hues', () => {
  test('saturation and shift of one hue, luma kept, others left', () => {
    const [red, green, grey] = worn({ trait: 'hues', settings: { redShift: 60, redSaturation: 0.5 } }, [
      [0.7, 0.2, 0.2],
      [0.2, 0.7, 0.2],
      [0.4, 0.4, 0.4],
    ]);
    // Red turned a sixth is yellow.
    near(red![0]!, red![1]!, 0.002);
    near(red![0]! - red![2]!, 0.25, 0.002);
    near(luma(red!), luma([0.7, 0.2, 0.2]));
    [0.2, 0.7, 0.2].forEach((v, i) => near(green![i]!, v));
    grey!.forEach((v) => near(v, 0.4));
  });

  test('halfway between two hues takes half of each', () => {
    const [orange] = worn({ trait: 'hues', settings: { yellowSaturation: 0 } }, [[0.8, 0.5, 0.2]]);
    near(max(...orange!) - min(...orange!), 0.6 * 0.5, 0.003);
  });

  test('density is in stops of a full colour', () => {
    const [blue] = worn({ trait: 'hues', settings: { blueDensity: 1 } }, [[0, 0, 1]]);
    near(log2(light(blue![2]!)), -1, 0.01);
  });
});

describe('two tones, wash, table, CDL', () => {
  test('blacks and whites go to their colours', () => {
    const settings = { blacks: [0.1, 0, 0.2], whites: [1, 0.9, 0.7], amount: 1 } as const;
    const [black, middle, white] = worn({ trait: 'two-tone', settings }, [
      [0, 0, 0],
      [0.2, 0.6, 0.5],
      [1, 1, 1],
    ]);
    settings.blacks.forEach((v, i) => near(black![i]!, v));
    settings.whites.forEach((v, i) => near(white![i]!, v));
    const y = luma([0.2, 0.6, 0.5]);
    settings.blacks.forEach((v, i) => near(middle![i]!, v + (settings.whites[i]! - v) * y));
  });

  test('a wash is the blend of its colour', () => {
    const out = worn({ trait: 'wash', settings: { colour: [1, 0.5, 0.2], amount: 0.5, blend: 'screen' } }, COLOURS);
    COLOURS.forEach((c, i) => c.forEach((v, channel) => near(out[i]![channel]!, v + 0.5 * ([1, 0.5, 0.2][channel]! * (1 - v)))));
  });

  test('tables of both kinds give what the format says, by their amount', () => {
    const size = 9;
    const cube: ColourTable = {
      title: '',
      dimensions: 3,
      size,
      low: [0, 0, 0],
      high: [1, 1, 1],
      points: Float32Array.from({ length: size ** 3 * 3 }, (_, i) => {
        const n = Math.floor(i / 3);
        const [r, g, b] = [n % size, Math.floor(n / size) % size, Math.floor(n / size ** 2)].map((v) => v / (size - 1));
        return [r! * r!, 0.5 * g! + 0.3 * b!, 1 - b!][i % 3]!;
      }),
    };
    const curve: ColourTable = { title: '', dimensions: 1, size: 3, low: [-0.5, 0, 0], high: [1.5, 1, 1], points: Float32Array.of(0, 0, 1, 0.4, 0.7, 0.5, 1, 1, 0) };
    const tables = { cube, curve };
    for (const [file, amount] of [
      ['cube', 1],
      ['curve', 1],
      ['cube', 0.25],
    ] as const) {
      const out = worn({ trait: 'table', settings: { file, amount } }, COLOURS, tables);
      COLOURS.forEach((c, i) => sampleTable(tables[file], c).forEach((v, channel) => near(out[i]![channel]!, c[channel]! + amount * (v - c[channel]!))));
    }
    const [left] = worn({ trait: 'table', settings: { file: 'lost' } }, [COLOURS[1]!], tables);
    COLOURS[1]!.forEach((v, i) => near(left![i]!, v));
  });

  test.each(SIZES)('CDL follows its formula on a ramp at %d lines and on colours', (height) => {
    const settings = { slopeRed: 1.2, offsetRed: -0.05, powerRed: 0.8 };
    for (const [input, output] of ramp({ trait: 'cdl', settings }, height)) near(output, held(input * 1.2 - 0.05) ** 0.8);
    const all = {
      slopeRed: 1.2,
      slopeGreen: 0.9,
      slopeBlue: 1,
      offsetRed: -0.05,
      offsetGreen: 0.02,
      offsetBlue: 0.1,
      powerRed: 0.8,
      powerGreen: 1.1,
      powerBlue: 1.5,
      saturation: 0.7,
    };
    const out = worn({ trait: 'cdl', settings: all }, COLOURS);
    COLOURS.forEach((c, i) => {
      const sop = [held(c[0]! * 1.2 - 0.05) ** 0.8, held(c[1]! * 0.9 + 0.02) ** 1.1, held(c[2]! + 0.1) ** 1.5];
      sop.forEach((v, channel) => near(out[i]![channel]!, held(luma(sop) + 0.7 * (v - luma(sop)))));
    });
  });

  test('several of one kind lie over each other, each at its own strength', () => {
    const frame = patches([[0.5, 0.5, 0.5]]);
    const half: TraitUse = { trait: 'wash', settings: { colour: [0, 0, 0], amount: 1, blend: 'normal' }, strength: 0.5 };
    const plane = wearFloat(engine, lookOf([half, half]), frame)[0]!;
    near(plane[4]!, 0.125);
  });

  test('densities do not lose deep shadows', () => {
    const [dark] = worn({ trait: 'exposure', settings: { stops: 3 } }, [[0.01, 0.01, 0.01]]);
    near(log10(light(dark![0]!) / light(0.01)), log10(8), 0.02);
  });
});
