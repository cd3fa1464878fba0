/**
 * What traits do, measured with test signals in their own units, at 360, 720 and 2160 lines: the same look shows the same
 * wear at any size. The carrier is Super 8, whose gate is 4.01 mm high.
 */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import type { TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import { correlation, light, lookOf, mean, newEngine, painted, RGB8, rms, signalFrame, wearFloat } from '../testing';

// Taken once: in hot loops each look-up of a global costs.
const { PI, abs, atan, cos, exp, floor, hypot, log10, max, min, round, sin } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const LINES = [360, 720, 2160];
const near = (value: number, wanted: number, share = 0.05): void => expect(abs(value / wanted - 1)).toBeLessThan(share);

/** Middle of what is bright in a plane, in pixels. */
function middle(plane: Float32Array, width: number): { x: number; y: number } {
  let [sum, sx, sy] = [0, 0, 0];
  plane.forEach((v, i) => {
    sum += v;
    sx += v * ((i % width) + 0.5);
    sy += v * (floor(i / width) + 0.5);
  });
  return { x: sx / sum, y: sy / sum };
}

describe('softness', () => {
  test.each(LINES)('half the width at half height is its radius at %d lines', (height) => {
    // The edge between black and white, differentiated, is the image of a line.
    const width = 160;
    for (const radius of [0.6, 2.4]) {
      const [plane] = wearFloat(
        engine,
        lookOf([{ trait: 'softness', settings: { radius, edges: 0 } }]),
        painted(width, height, (_x, y) => (y < height / 2 ? 0 : 1)),
      );
      const line = Array.from({ length: height - 1 }, (_, y) => light(plane![(y + 1) * width + 80]!) - light(plane![y * width + 80]!));
      const peak = max(...line);
      const crossing = (from: number, by: number): number => {
        let i = from;
        while (line[i]! > peak / 2) i += by;
        return i + by * ((peak / 2 - line[i]!) / (line[i]! - line[i - by]!));
      };
      const top = line.indexOf(peak);
      const wide = abs(crossing(top, 1) - crossing(top, -1)) / 2;
      near((100 * wide) / height, radius);
      expect(line.reduce((a, b) => a + b)).toBeCloseTo(1, 2);
    }
  });

  test('is wider in the corners', () => {
    const [width, height] = [640, 360];
    const frame = painted(width, height, (x, y) => (floor(x / 20) + floor(y / 20)) % 2);
    const [plane] = wearFloat(engine, lookOf([{ trait: 'softness', settings: { radius: 0.1, edges: 2 } }]), frame);
    const contrast = (x0: number, y0: number): number => rms(Array.from({ length: 1600 }, (_, i) => plane![(y0 + floor(i / 40)) * width + x0 + (i % 40)]!));
    expect(contrast(300, 160)).toBeGreaterThan(1.3 * contrast(0, 0));
  });
});

describe('gate weave', () => {
  /** Where a spot stands over many pictures, in hundredths of the height. */
  function track(height: number, settings: Record<string, number>, pictures: number, rate = 18): { x: number[]; y: number[] } {
    const width = round(height / 2);
    const frame = painted(width, height, (x, y) => exp(-((x - width / 2) ** 2 + (y - height / 2) ** 2) / (2 * (height / 16) ** 2)));
    const plan = new Plan(engine, lookOf([{ trait: 'gate-weave', settings }]), { source: frame, target: { width, height, encoding: 'float' }, rate });
    const at = Array.from({ length: pictures }, (_, n) => {
      const [plane] = plan.render(n, frame);
      return middle(new Float32Array(plane!.buffer, plane!.byteOffset, plane!.length / 4), width);
    });
    plan.dispose();
    return { x: at.map((p) => (100 * p.x) / height), y: at.map((p) => (100 * p.y) / height) };
  }

  test.each([240, 480])('drifts by its RMS at %d lines, slowly', (height) => {
    const { x, y } = track(height, { sideways: 0.3, upDown: 0.5, shake: 0, rate: 1.2 }, 400, 4);
    near(rms(x), 0.3, 0.12);
    near(rms(y), 0.5, 0.12);
    expect(abs(correlation(x, y))).toBeLessThan(0.15);
  });

  test('is the same drift at 2160 lines as at 360', () => {
    const settings = { sideways: 0.4, upDown: 0.4, shake: 0.1 };
    const [small, large] = [track(360, settings, 5), track(2160, settings, 5)];
    for (let n = 0; n < 5; n++) {
      expect(large.x[n]! - large.x[0]!).toBeCloseTo(small.x[n]! - small.x[0]!, 2);
      expect(large.y[n]! - large.y[0]!).toBeCloseTo(small.y[n]! - small.y[0]!, 2);
    }
  });

  test('most of the drift’s power lies below 3 Hz; the shake is anew on each picture', () => {
    const slow = track(240, { sideways: 0.4, upDown: 0, shake: 0, rate: 1.2 }, 128).x;
    const steps = slow.slice(1).map((v, i) => v - slow[i]!);
    expect(rms(steps)).toBeLessThan(0.5 * rms(slow));
    const fast = track(240, { sideways: 0, upDown: 0, shake: 0.3 }, 128).x;
    near(rms(fast), 0.3, 0.15);
    expect(abs(correlation(fast.slice(1), fast.slice(0, -1)))).toBeLessThan(0.25);
  });

  test('bares no edge, turned or not', () => {
    const frame = signalFrame('grey', 200, 112, 1);
    for (const turn of [0, 1.5]) {
      for (let n = 0; n < 12; n++) {
        const [plane] = wearFloat(engine, lookOf([{ trait: 'gate-weave', settings: { sideways: 3, upDown: 3, turn, shake: 1 } }]), frame, n);
        expect(plane!.reduce((a, b) => min(a, b))).toBeGreaterThan(0.999);
      }
    }
  });

  test('turns by its RMS in degrees', () => {
    const [width, height] = [320, 240];
    const frame = painted(width, height, (_x, y) => 1 / (1 + exp(-(y - height / 2) / 3)));
    const angles = Array.from({ length: 120 }, (_, n) => {
      const [plane] = wearFloat(engine, lookOf([{ trait: 'gate-weave', settings: { sideways: 0, upDown: 0, shake: 0, turn: 1 } }]), frame, n, 3);
      const edge = (x: number): number => {
        let y = 1;
        while (plane![y * width + x]! < 0.5) y++;
        const [a, b] = [plane![(y - 1) * width + x]!, plane![y * width + x]!];
        return y - (b - 0.5) / (b - a);
      };
      return (atan((edge(260) - edge(60)) / 200) * 180) / PI;
    });
    near(rms(angles), 1, 0.15);
  });
});

describe('flicker', () => {
  test('of a warm lamp swings more in blue than in red, by the same picture', () => {
    const frame = signalFrame('grey', 32, 18, 0.6);
    const swings = Array.from({ length: 60 }, (_, n) =>
      wearFloat(engine, lookOf([{ trait: 'flicker', settings: { amount: 10, uneven: 0, warm: 1 } }]), frame, n, 24).map((p) => Math.log(light(p[100]!))),
    );
    const [red, green, blue] = [0, 1, 2].map((c) => rms(swings.map((s) => s[c]!)));
    near(red! / green!, 0.75, 0.02);
    near(blue! / green!, 1.5, 0.02);
  });

  test.each([54, 216])('swings the light by its RMS, %d lines', (height) => {
    const frame = signalFrame('grey', 64, height, 0.5);
    const plan = new Plan(engine, lookOf([{ trait: 'flicker', settings: { amount: 4, uneven: 0 } }]), {
      source: frame,
      target: { width: 64, height, encoding: 'float' },
      rate: 24,
    });
    const lights = Array.from({ length: 800 }, (_, n) => light(new Float32Array(plan.render(n, frame)[0]!.buffer)[100]!) / light(0.5));
    plan.dispose();
    near(rms(lights), 0.04, 0.08);
    expect(mean(lights)).toBeCloseTo(1, 2);
  });
});

describe('noise', () => {
  test.each([
    ['white', 0],
    ['white', 1.5],
    ['blue', 0],
    ['pink', 0],
  ] as const)('%s of size %d %% has its RMS at two sizes of picture', (kind, size) => {
    for (const height of [360, 1080]) {
      // Of pink noise there is little that is coarse in one picture.
      const pictures = kind === 'pink' ? 12 : 1;
      const planes = Array.from(
        { length: pictures },
        (_, n) => wearFloat(engine, lookOf([{ trait: 'noise', settings: { amount: 0.05, size, kind } }]), signalFrame('grey', 640, height, 0.5), n)[0]!,
      );
      near(Math.sqrt(mean(planes.map((plane) => mean(plane.map((v) => (v - 0.5) ** 2))))), 0.05, 0.05);
      expect(abs(mean(planes.map(mean)) - 0.5)).toBeLessThan(0.008);
    }
  });

  test('pink holds more of the coarse, blue more of the fine', () => {
    const fineShare = (kind: string): number => {
      const [plane] = wearFloat(engine, lookOf([{ trait: 'noise', settings: { amount: 0.1, kind } }]), signalFrame('grey', 512, 128, 0.5));
      const steps = Array.from({ length: 511 * 128 }, (_, i) => plane![i + floor(i / 511) + 1]! - plane![i + floor(i / 511)]!);
      return rms(steps) / rms(plane!);
    };
    expect(fineShare('pink')).toBeLessThan(0.8 * fineShare('white'));
    expect(fineShare('blue')).toBeGreaterThan(1.15 * fineShare('white'));
  });

  test('colour parts the planes; frozen noise stays', () => {
    const at = (settings: TraitUse['settings'], n = 0) =>
      wearFloat(engine, lookOf([{ trait: 'noise', settings: { amount: 0.1, ...settings } }]), signalFrame('grey', 256, 256, 0.5), n);
    const [r, g] = at({ colour: 1 });
    expect(abs(correlation(r!, g!))).toBeLessThan(0.02);
    expect(at({ frozen: true }, 9)).toEqual(at({ frozen: true }, 2));
    expect(at({}, 9)).not.toEqual(at({}, 2));
  });
});

describe('bandwidth on the raster', () => {
  /** Amplitude of a sine of `mhz` along the line after a trait, against before. Colour differences are read where asked. */
  function response(use: TraitUse, mhz: number, width: number, chroma: boolean): number {
    const omega = (2 * PI * mhz * (720 / 13.5)) / width;
    const wave = (x: number): number => 0.5 + 0.2 * sin(omega * x);
    const frame = painted(width, 96, wave);
    const green = painted(width, 96, (x) => 0.5 - (chroma ? (0.2 * 0.299 * sin(omega * x)) / 0.587 : -0.2 * sin(omega * x)));
    const blue = painted(width, 96, chroma ? () => 0.5 : wave);
    const source: RawFrame = { ...frame, planes: [frame.planes[0]!, green.planes[0]!, blue.planes[0]!] };
    const planes = wearFloat(engine, { ...lookOf([use], 'none') }, source);
    const row = planes[0]!.subarray(48 * width, 49 * width);
    let [s, c] = [0, 0];
    const from = floor(width * 0.2);
    const to = floor(width * 0.8);
    for (let x = from; x < to; x++) {
      const w = 0.5 - 0.5 * cos((2 * PI * (x - from)) / (to - from));
      s += w * (row[x]! - 0.5) * sin(omega * (x + 0.5));
      c += w * (row[x]! - 0.5) * cos(omega * (x + 0.5));
    }
    return (4 * hypot(s, c)) / (to - from) / 0.2;
  }

  test.each([720, 1440])('luma has fallen by 3 dB at its limit, %d wide', (width) => {
    for (const limit of [3, 2.2]) {
      const use: TraitUse = { trait: 'luma-bandwidth', settings: { limit } };
      near(20 * log10(response(use, limit, width, false)), -3.01, 0.08);
      expect(response(use, limit / 4, width, false)).toBeGreaterThan(0.97);
      expect(response(use, limit * 1.8, width, false)).toBeLessThan(0.1);
    }
  });

  test.each([720, 1440])('colour has fallen by 3 dB at its limit and comes late, %d wide', (width) => {
    const use: TraitUse = { trait: 'chroma-bandwidth', settings: { limit: 0.5, delay: 0, down: 0 } };
    near(20 * log10(response(use, 0.5, width, true)), -3.01, 0.12);
    // A red bar: the middle of its colour moves by the delay.
    const frame = painted(width, 32, (x) => (abs(x - width / 2) < width / 12 ? 0.7 : 0.2));
    const flat = painted(width, 32, () => 0.2);
    const source: RawFrame = { ...frame, planes: [frame.planes[0]!, flat.planes[0]!, flat.planes[0]!] };
    const shiftOf = (delay: number): number => {
      const [r, , b] = wearFloat(engine, lookOf([{ trait: 'chroma-bandwidth', settings: { limit: 0.5, delay, down: 0 } }], 'none'), source);
      let [sum, sx] = [0, 0];
      for (let x = 0; x < width; x++) {
        const cr = r![16 * width + x]! - b![16 * width + x]!;
        sum += cr;
        sx += cr * x;
      }
      return ((sx / sum) * (720 / 13.5) * 1000) / width;
    };
    near(shiftOf(1200) - shiftOf(0), 1200, 0.03);
  });

  test('colour sits lower by its lines', () => {
    const [width, height] = [720, 486];
    const red = painted(width, height, (_x, y) => (y > height / 2 ? 0.8 : 0.2));
    const flat = painted(width, height, () => 0.2);
    const source: RawFrame = { ...red, planes: [red.planes[0]!, flat.planes[0]!, flat.planes[0]!] };
    const edge = (down: number): number => {
      const [r, , b] = wearFloat(engine, lookOf([{ trait: 'chroma-bandwidth', settings: { down, delay: 0 } }], 'vhs'), source);
      let y = 0;
      while (r![y * width + 360]! - b![y * width + 360]! < 0.3) y++;
      return y;
    };
    expect(edge(4) - edge(0)).toBe(4);
  });
});

describe('dust', () => {
  const covered = (plane: Float32Array, clean: number): number => plane.reduce((n, v) => n + (abs(v - clean) > 0.1 ? 1 : 0), 0);

  test.each([360, 1080])('covers the area its size says, at %d lines', (height) => {
    const width = height;
    const settings = { count: 12, size: 60, bright: 0, soft: 0.2, opacity: 1 };
    const shares = Array.from(
      { length: 12 },
      (_, n) => covered(wearFloat(engine, lookOf([{ trait: 'dust', settings }]), signalFrame('grey', width, height, 0.5), n, 18)[0]!, 0.5) / (width * height),
    );
    // Mean area of lognormal specks of 60 um on a square of 4.01 mm; shapes vary about the disc.
    const disc = (12 * PI * 0.03 ** 2 * exp(2 * 0.55 ** 2)) / 4.01 ** 2;
    expect(mean(shares) / disc).toBeGreaterThan(0.7);
    expect(mean(shares) / disc).toBeLessThan(1.9);
  });

  test('is dark or bright by its share, others on each picture, the same at two sizes', () => {
    const at = (height: number, bright: number, n: number) =>
      wearFloat(engine, lookOf([{ trait: 'dust', settings: { count: 20, size: 90, bright } }]), signalFrame('grey', height, height, 0.5), n, 18)[0]!;
    expect(max(...at(240, 0, 1))).toBeLessThan(0.51);
    expect(min(...at(240, 1, 1))).toBeGreaterThan(0.49);
    expect(at(240, 0.5, 1)).not.toEqual(at(240, 0.5, 2));
    const [small, large] = [at(240, 0, 3), at(480, 0, 3)];
    const halved = Float32Array.from(small, (_, i) => {
      const [x, y] = [2 * (i % 240), 2 * floor(i / 240)];
      return (large[y * 480 + x]! + large[y * 480 + x + 1]! + large[(y + 1) * 480 + x]! + large[(y + 1) * 480 + x + 1]!) / 4;
    });
    expect(correlation(small, halved)).toBeGreaterThan(0.95);
  });
});

describe('splices', () => {
  test.each([240, 720])('lay a line of glue of their width across the picture for their pictures, %d lines', (height) => {
    const use: TraitUse = { trait: 'splices', settings: { count: 0, width: 3, glue: 1, held: 2 }, events: { pinned: [{ id: 'cut', at: 1 }] } };
    const at = (n: number) => wearFloat(engine, lookOf([use]), signalFrame('grey', 120, height, 0.3), n, 18)[0]!;
    const cut = at(18);
    const rows = Array.from({ length: height }, (_, y) => mean(cut.subarray(y * 120, y * 120 + 120)));
    const glued = rows.reduce((sum, v) => sum + (v - 0.3) / 0.5, 0);
    // Soft edges weigh more in the signal than in the light.
    near((100 * glued) / height, 3, 0.2);
    expect(at(17).every((v) => abs(v - 0.3) < 1e-4)).toBe(true);
    expect(at(19)).not.toEqual(at(17));
    expect(at(20).every((v) => abs(v - 0.3) < 1e-4)).toBe(true);
  });
});

test('grain has the same spectrum on the film at 360, 720 and 2160 lines', () => {
  // Read through squares of one pixel of the small picture, so that all three are compared at the same frequencies.
  const settings = { rms: 12, size: 30, colour: 0 };
  const grey = 10 ** (-0.75 / 2.4);
  const read = LINES.map((height) => {
    const cell = height / 360;
    const width = 160 * cell;
    const used = 120 * cell;
    const plan = new Plan(engine, lookOf([{ trait: 'grain', settings }]), { source: { width, height, encoding: RGB8 }, target: { width, height, encoding: 'float' }, rate: 24 });
    const frame = signalFrame('grey', width, height, grey, RGB8);
    const plane = new Float32Array(plan.render(0, frame)[0]!.buffer);
    plan.dispose();
    const cells: number[] = [];
    for (let y = 0; y < used; y += cell)
      for (let x = 0; x < width; x += cell) {
        let sum = 0;
        for (let j = 0; j < cell; j++) for (let i = 0; i < cell; i++) sum += -2.4 * log10(plane[(y + j) * width + x + i]!);
        cells.push(sum / cell ** 2);
      }
    const along = (lag: number): number => {
      const [a, b]: [number[], number[]] = [[], []];
      for (let i = 0; i < cells.length; i++) {
        if ((i % 160) + lag >= 160) continue;
        a.push(cells[i]!);
        b.push(cells[i + lag]!);
      }
      return correlation(a, b);
    };
    return { rms: rms(cells), lags: [1, 2, 3].map(along) };
  });
  for (const other of read.slice(1)) {
    near(other.rms, read[0]!.rms, 0.06);
    other.lags.forEach((v, i) => expect(abs(v - read[0]!.lags[i]!)).toBeLessThan(0.06));
  }
});
