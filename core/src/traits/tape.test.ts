/**
 * What tape and air do to a picture, measured with test signals in the units set: in both line standards, on the raster itself and on results of another
 * width. A line of 720 samples at 13.5 MHz lasts 53.33 us.
 */
import { beforeAll, describe, expect, test } from '@jest/globals';
import { carrierById } from '../carriers';
import type { Engine } from '../engine';
import { RecorderPath } from '../frame/recorder';
import { checkLook } from '../look/check';
import type { TraitUse } from '../look/look';
import { switchCarrier } from '../look/switch-carrier';
import { Plan } from '../plan/plan';
import { amplitude, AIR, dB, edgeOf, LINE_US, luma, sine, STANDARDS, lumaWornBy } from '../testing-lines';
import { lookOf, mean, newEngine, painted, rms, sameBits, wearFloat } from '../testing';

// Taken once: in hot loops each look-up of a global costs.
const { PI, abs, floor, hypot, max, round, sin, sqrt } = Math;

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const wornLuma = lumaWornBy(() => engine);

describe('the raster itself', () => {
  test.each([
    [1920, 'broadcast625', 576],
    [960, 'broadcast', 486],
  ] as const)('costs under 0.2 dB to 5.5 MHz, on a picture %d wide', (width, carrier, height) => {
    for (const f of [0.5, 2, 3, 4, 5, 5.5]) {
      // A hum that nobody sees has the picture go through the raster.
      const plane = wornLuma([{ trait: 'hum', settings: { amount: 0.01, bend: 0 } }], carrier, width, height, sine(f, width));
      expect(abs(dB(amplitude(plane, width, f * LINE_US, [100, 200, 300]) / 0.2))).toBeLessThan(0.2);
    }
  });

  test.each([1920, 1440])('costs no more where luma ends long before it, by a shorter filter, and nothing finer comes back as another, on a picture %d wide', (width) => {
    const tape: TraitUse = { trait: 'tape-noise', settings: { luma: 60, colour: 60, hue: 0 } };
    const worn = (use: Partial<TraitUse>, f: number): Float32Array =>
      wornLuma([{ trait: 'luma-bandwidth', settings: { limit: 3.5 }, ...use }, tape], 'vhs625', width, 576, sine(f, width));
    const rows = [100, 200, 300];
    for (const f of [0.5, 1.5, 2.5, 3.2]) {
      const [short, long] = [worn({}, f), worn({ when: [{ from: 0, to: 10 }] }, f)];
      expect(sameBits([short], [long])).toBe(false);
      expect(abs(dB(amplitude(short, width, f * LINE_US, rows) / amplitude(long, width, f * LINE_US, rows)))).toBeLessThan(0.12);
    }
    for (const f of [10, 11, 12]) expect(dB(amplitude(worn({}, f), width, (13.5 - f) * LINE_US, rows) / 0.2)).toBeLessThan(-40);
    // Nor does what is on the tape stand twice in the result.
    expect(dB(amplitude(worn({}, 2.5), width, (13.5 - 2.5) * LINE_US, rows) / 0.2)).toBeLessThan(-40);
  });
});

test('what comes onto a raster after its luma’s limit and is not recorded leaves it by the long filter, whatever follows', () => {
  const width = 1920;
  const fresh: TraitUse = { trait: 'noise', settings: { amount: 0.05 } };
  for (const after of [[], [{ trait: 'vignette', act: 'screen' as const }]]) {
    const worn = (use: Partial<TraitUse>): Float32Array =>
      wornLuma([{ trait: 'luma-bandwidth', settings: { limit: 3.5 }, ...use }, fresh, ...after], 'vhs625', width, 576, () => 0.5);
    const [short, long] = [worn({}), worn({ when: [{ from: 0, to: 10 }] })];
    expect(rms(long)).toBeGreaterThan(0.01);
    expect(rms(short.map((v, i) => v - long[i]!))).toBeLessThan(1e-5);
  }
});

describe('tape noise', () => {
  const noise = (carrier: string, height: number, settings: Record<string, number>, width = 720, level = 0.5): Float32Array =>
    wornLuma([{ trait: 'tape-noise', settings: { colour: 60, hue: 0, ...settings } }], carrier, width, height, () => level);

  test.each(STANDARDS)('of luma is the S/N set, unweighted, on %s', (carrier, height) => {
    for (const set of [30, 40, 50]) for (const width of [720, 1440]) expect(abs(-dB(rms(noise(carrier, height, { luma: set }, width))) - set)).toBeLessThan(0.5);
    // The mean stays.
    expect(mean(noise(carrier, height, { luma: 30 }))).toBeCloseTo(0.5, 2);
  });

  test('rises with frequency as a demodulator’s does, less the de-emphasis', () => {
    const plane = noise('vhs625', 576, { luma: 40 });
    const rows = Array.from({ length: 570 }, (_, i) => i + 3);
    const power = (f: number): number => sqrt(mean(rows.map((y) => amplitude(plane, 720, f * LINE_US, [y]) ** 2)));
    // |2 sin(pi f / 13.5)| over the emphasis (1 + s 1.3 us) / (1 + s 0.26 us).
    const theory = (f: number): number => (sin((PI * f) / 13.5) * hypot(1, 2 * PI * f * 0.26)) / hypot(1, 2 * PI * f * 1.3);
    for (const f of [0.4, 0.8, 1.5, 2.2]) expect(abs(dB(power(f) / power(1) / (theory(f) / theory(1))))).toBeLessThan(1);
  });

  test('of colour is the S/N set, in streaks of the length set', () => {
    for (const [set, length] of [
      [30, 1],
      [38, 3],
    ] as const) {
      const [r, g, b] = wearFloat(
        engine,
        lookOf([{ trait: 'tape-noise', settings: { luma: 60, colour: set, length, hue: 0 } }], 'vhs625'),
        painted(720, 576, () => 0.5),
      ) as [Float32Array, Float32Array, Float32Array];
      const y = luma([r, g, b]);
      const cb = b.map((v, i) => (v - y[i]!) / 1.772);
      expect(abs(-dB(rms(cb)) - set)).toBeLessThan(0.5);
      // Half the height of the autocorrelation.
      const alike = (lag: number): number => {
        let sum = 0;
        for (let i = 0; i < cb.length - lag; i++) if (i % 720 < 720 - lag) sum += cb[i]! * cb[i + lag]!;
        return sum;
      };
      const whole = alike(0);
      let lag = 1;
      while (alike(lag) / whole > 0.5) lag++;
      const before = alike(lag - 1) / whole;
      const exact = lag - 1 + (before - 0.5) / (before - alike(lag) / whole);
      expect(abs((2 * exact) / 13.5 / length - 1)).toBeLessThan(0.12);
    }
  });

  test('below the threshold of FM it clicks, and how often grows as Rice’s theory says', () => {
    // A click is a whole turn: seen before the filters as a step of the phase. Counted here by what it leaves in luma.
    const clicks = (db: number): number => noise('vhs625', 576, { luma: db }).filter((v) => abs(v - 0.5) > 0.55).length;
    const path = new RecorderPath(engine, carrierById('vhs625')!, 720);
    /** Carrier to noise in the channel, as a ratio of powers, from the S/N set; and erfc of its root. */
    const carrierToNoise = (db: number): number => 1 / (2 * (10 ** (-db / 20) / path.noiseGain) ** 2 * 0.62);
    path.release();
    // Of pictures enough to count them.
    const counts = [20, 16, 14].map(clicks);
    expect(counts[0]).toBe(0);
    expect(counts[1]).toBeGreaterThan(0);
    expect(dB(sqrt(carrierToNoise(20)))).toBeGreaterThan(11);
    expect(dB(sqrt(carrierToNoise(16)))).toBeLessThan(10);
    // Clicks a second = radius of gyration of the noise's band x erfc(sqrt(CNR)); of two levels the ratio is that of erfc, exp(-c) / sqrt(c) for large c. Clicks
    // close together are counted as one, so it is held to a factor.
    const rice = (db: number): number => Math.exp(-carrierToNoise(db)) / sqrt(carrierToNoise(db));
    const grown = counts[2]! / counts[1]!;
    expect(grown).toBeGreaterThan(3);
    expect(abs(Math.log(grown / (rice(14) / rice(16))))).toBeLessThan(0.8);
  });

  test('is never the same twice, and the same again for the same frame', () => {
    const at = (n: number): Float32Array => wornLuma([{ trait: 'tape-noise' }], 'vhs', 720, 486, () => 0.5, n);
    const [a, b] = [at(3), at(4)];
    expect(sameBits([a], [at(3)])).toBe(true);
    expect(rms(a.map((v, i) => v - b[i]!))).toBeGreaterThan(1.3 * rms(a));
  });
});

describe('the recorder', () => {
  test('gives a picture back that nothing happened to: levels, detail and colour', () => {
    const quiet: TraitUse[] = [{ trait: 'tape-noise', settings: { luma: 60, colour: 60, hue: 0 } }];
    for (const level of [0.05, 0.5, 0.95]) expect(mean(wornLuma(quiet, 'vhs625', 720, 576, () => level))).toBeCloseTo(level, 2);
    for (const f of [0.5, 1, 2]) expect(abs(dB(amplitude(wornLuma(quiet, 'vhs625', 720, 576, sine(f, 720, 0.1)), 720, f * LINE_US, [200, 300]) / 0.1))).toBeLessThan(0.5);
  });

  test.each([
    ['vhs625', 576],
    ['component-tape', 486],
  ] as const)('holds what its luma is said to hold, on %s', (carrier, height) => {
    const limit = carrierById(carrier)!.recorder!.luma;
    const plane = wornLuma([{ trait: 'tape-noise', settings: { luma: 60, colour: 60 } }], carrier, 720, height, sine(limit, 720, 0.1));
    expect(dB(amplitude(plane, 720, limit * LINE_US, [200, 300]) / 0.1)).toBeGreaterThan(-3);
  });
});

describe('dropouts', () => {
  test('come by Poisson at the rate set, as events', () => {
    const plan = new Plan(engine, lookOf([{ trait: 'dropouts', settings: { count: 120 } }], 'vhs625'), {
      source: painted(16, 16, () => 0.5),
      target: { width: 16, height: 16, encoding: 'rgba' },
      rate: 25,
    });
    const found = plan.score.events(0, 1200).length;
    plan.dispose();
    expect(abs(found - 2400)).toBeLessThan(4 * sqrt(2400));
  });

  const pinned = (settings: object) =>
    [{ trait: 'dropouts', settings: { count: 0, spread: 0, ...settings }, events: { pinned: [{ id: 'a', at: 0, x: 0.3, y: 0.5 }] } }] as TraitUse[];

  test.each(STANDARDS)('are as long as set, on %s', (carrier, height) => {
    for (const length of [6, 20]) {
      const traits: TraitUse[] = [...pinned({ length, compensated: false }), { trait: 'tape-noise', settings: { luma: 55, colour: 60, hue: 0 } }];
      const plane = wornLuma(traits, carrier, 720, height, () => 0.5);
      const y = floor(height / 2);
      const spoiled: number[] = [];
      for (let x = 0; x < 720; x++) if (abs(plane[y * 720 + x]! - 0.5) > 0.1) spoiled.push(x);
      const seen = (spoiled.at(-1)! - spoiled[0]!) / 13.5;
      // The demodulator's tail, a microsecond or two of de-emphasis, comes after it.
      expect(seen).toBeGreaterThan(length - 1);
      expect(seen).toBeLessThan(length + 5);
      expect(abs(spoiled[0]! - 0.3 * 720)).toBeLessThan(8);
      // And no other line is touched.
      expect(rms(plane.subarray((y - 20) * 720, (y - 10) * 720))).toBeLessThan(0.02);
    }
  });

  test('compensated, show the line above', () => {
    const stripes = (_x: number, y: number): number => (floor(y) % 2 ? 0.7 : 0.3);
    const clean = wornLuma([{ trait: 'tape-noise', settings: { luma: 60, colour: 60, hue: 0 } }], 'vhs625', 720, 576, stripes);
    const plane = wornLuma([...pinned({ length: 20, compensated: true }), { trait: 'tape-noise', settings: { luma: 60, colour: 60, hue: 0 } }], 'vhs625', 720, 576, stripes);
    const middle = 288 * 720 + round(0.3 * 720) + 130;
    expect(abs(plane[middle]! - clean[middle - 720]!)).toBeLessThan(0.02);
    expect(abs(plane[middle]! - clean[middle]!)).toBeGreaterThan(0.3);
  });
});

test('a line is made good by the one above, whatever band that came in and whatever was played before', () => {
  const [width, height, band] = [720, 8, 4];
  const stride = width * 4 + 64;
  const played = (path: RecorderPath): Float32Array => {
    const at = engine.allocate(3 * height * stride);
    const { samples } = engine;
    const row = (plane: number, y: number): number => (at + (plane * height + y) * stride) >> 2;
    for (let y = 0; y < height; y++) for (let plane = 0; plane < 3; plane++) samples.fill(plane ? 0 : 0.1 * (y + 1), row(plane, y), row(plane, y) + width);
    for (let top = 0; top < height; top += band) {
      const surface = { planes: [0, 1, 2].map((plane) => row(plane, top) << 2) as [number, number, number], stride, width, height, top, bottom: top + band };
      path.record(surface);
      path.channel.conceals = 0.5;
      // The first line of the second band is gone.
      if (top === band) engine.samples.fill(0, path.channel.row(0, top) >> 2, (path.channel.row(0, top) >> 2) + width);
      path.play(surface, 1, 0);
    }
    const out = engine.samples.slice(row(0, band), row(0, band) + width);
    engine.release(at);
    return out;
  };
  const path = new RecorderPath(engine, carrierById('vhs625')!, width);
  const [first, again] = [played(path), played(path)];
  path.release();
  // Line 3 holds 0.4, line 4 would be 0.5.
  expect(abs(mean(first) - 0.4)).toBeLessThan(0.01);
  expect(sameBits([first], [again])).toBe(true);
});

describe('lines out of place', () => {
  const edge = (x: number): number => (x < 360 ? 0.2 : 0.8);
  const rest = { waves: 0, steps: 0, bend: 0, jitter: 0 };
  const places = (traits: TraitUse[], carrier: string, height: number, n = 0): number[] => {
    const plane = wornLuma(traits, carrier, 720, height, edge, n);
    return Array.from({ length: height }, (_, y) => edgeOf(plane, 720, y, 20, 700));
  };

  test.each(STANDARDS)('jitter is the RMS set, in ns, on %s', (carrier, height) => {
    for (const set of [60, 250]) {
      const found = [0, 1, 2].flatMap((n) => places([{ trait: 'time-base', settings: { ...rest, jitter: set } }], carrier, height, n));
      expect(abs(((rms(found) / 13.5) * 1000) / set - 1)).toBeLessThan(0.05);
    }
  });

  test('waves are slow down the picture and as large as set; the top bends', () => {
    const found = Array.from({ length: 40 }, (_, n) => places([{ trait: 'time-base', settings: { ...rest, waves: 400, count: 4, rate: 3 } }], 'vhs', 486, n * 7)).flat();
    expect(abs(((rms(found) / 13.5) * 1000) / 400 - 1)).toBeLessThan(0.2);
    const bent = places([{ trait: 'time-base', settings: { ...rest, bend: 4, bendLines: 24 } }], 'vhs625', 576);
    expect(abs((bent[0]! - bent[500]!) / 13.5 / 4 - 1)).toBeLessThan(0.35);
    expect(abs(bent[60]! - bent[500]!)).toBeLessThan(1);
  });

  test('heads are switched at the line set', () => {
    for (const set of [6, 14]) {
      const found = places([{ trait: 'head-switching', settings: { lines: set, shift: 6, noise: 0 } }], 'vhs625', 576);
      const still = found[100]!;
      expect(found.filter((x) => abs(x - still) > 5).length).toBe(set);
      expect(found.findIndex((x) => abs(x - still) > 5)).toBe(576 - set);
      expect(abs((found[576 - set]! - still) / 13.5 - 6)).toBeLessThan(2.5);
    }
  });

  test('edges are never black', () => {
    const plane = wornLuma(
      [
        { trait: 'time-base', settings: { ...rest, bend: 15, bendLines: 100 } },
        { trait: 'tearing', settings: { amount: 20 } },
      ],
      'vhs',
      720,
      486,
      () => 0.6,
    );
    expect(plane.reduce((least, v) => (v < least ? v : least), 1)).toBeGreaterThan(0.5);
  });
});

describe('tracking', () => {
  test('is a band of snow at its place, of its height, that keeps it over any time', () => {
    const settings = { place: 0.4, height: 60, amount: 0.95, speed: 48 };
    // 576 lines are gone through in 12 s, which is 300 frames.
    const at = (n: number): Float32Array => wornLuma([{ trait: 'tracking', settings }], 'vhs625', 720, 576, () => 0.5, n);
    const spoiled = (plane: Float32Array): number[] => Array.from({ length: 576 }, (_, y) => y).filter((y) => rms(plane.subarray(y * 720, y * 720 + 720)) > 0.1);
    const rows = spoiled(at(0));
    expect(abs(mean(rows) - 0.4 * 576)).toBeLessThan(4);
    expect(abs(rows.length / 60 - 1)).toBeLessThan(0.2);
    const later = spoiled(at(200_100));
    expect(abs(mean(later) - 0.4 * 576)).toBeLessThan(4);
  });
});

describe('peaking', () => {
  test.each(STANDARDS)('lifts by the dB set at the frequency set, on %s', (carrier, height) => {
    for (const [gain, frequency] of [
      [3, 2],
      [8, 1.3],
    ] as const) {
      const lifted = (f: number): number =>
        dB(amplitude(wornLuma([{ trait: 'peaking', settings: { gain, frequency } }], carrier, 720, height, sine(f, 720, 0.1)), 720, f * LINE_US, [100, 200]) / 0.1);
      expect(abs(lifted(frequency) / gain - 1)).toBeLessThan(0.05);
      expect(lifted(frequency * 0.8)).toBeLessThan(lifted(frequency));
      expect(lifted(frequency * 1.2)).toBeLessThan(lifted(frequency));
      expect(mean(wornLuma([{ trait: 'peaking', settings: { gain, frequency } }], carrier, 720, height, () => 0.4))).toBeCloseTo(0.4, 4);
    }
  });
});

describe('composite', () => {
  const colours = (traits: TraitUse[], carrier: string, height: number, paint: (x: number, y: number) => readonly [number, number, number] | number, n = 0): Float32Array[] =>
    wearFloat(engine, lookOf(traits, carrier), painted(720, height, paint), n, 25);
  const subcarrier = { broadcast: 3.579545, broadcast625: 4.43361875 } as const;

  test.each(AIR)('gives flat colours back, by notch and by comb, on %s', (carrier, height) => {
    for (const separation of [0, 1]) {
      const planes = colours([{ trait: 'composite', settings: { separation } }], carrier, height, () => [0.7, 0.4, 0.25]);
      [0.7, 0.4, 0.25].forEach((wanted, plane) => expect(abs(mean(planes[plane]!.subarray(720 * 100 + 100, 720 * 100 + 620)) - wanted)).toBeLessThan(0.01));
    }
  });

  test.each(AIR)('turns stripes as fine as the subcarrier to rainbows; a comb knows them apart, on %s', (carrier, height) => {
    const stripes = (x: number): number => 0.5 + 0.2 * sin(2 * PI * (subcarrier[carrier] + 0.1) * (x / 13.5));
    const colour = (separation: number): number => {
      const [r, , b] = colours([{ trait: 'composite', settings: { separation } }], carrier, height, stripes) as [Float32Array, Float32Array, Float32Array];
      const from = 720 * 100;
      return rms(r.subarray(from, from + 720 * 50).map((v, i) => v - b[from + i]!));
    };
    expect(colour(0)).toBeGreaterThan(0.1);
    expect(colour(1)).toBeLessThan(0.25 * colour(0));
    // Grey that is coarse stays grey.
    const [r, , b] = colours([{ trait: 'composite' }], carrier, height, (x) => 0.5 + 0.2 * sin(x / 30)) as [Float32Array, Float32Array, Float32Array];
    expect(rms(r.map((v, i) => v - b[i]!))).toBeLessThan(0.01);
  });

  test('leaves dots along edges of colour, which stand the other way round in the next frame of 525 lines', () => {
    const edge = (x: number): readonly [number, number, number] => (x < 360 ? [0.7, 0.2, 0.2] : [0.2, 0.3, 0.7]);
    const dots = (n: number): Float32Array => {
      const y = luma(colours([{ trait: 'composite', settings: { separation: 0 } }], 'broadcast', 486, edge, n));
      return y.subarray(720 * 100 + 350, 720 * 100 + 380);
    };
    const [a, b, c] = [dots(0), dots(1), dots(2)];
    const swing = a.map((v, i) => (v - b[i]!) / 2);
    expect(max(...swing.map(abs))).toBeGreaterThan(0.02);
    expect(rms(a.map((v, i) => v - c[i]!))).toBeLessThan(1e-3);
  });
});

describe('generation', () => {
  test.each(STANDARDS)('narrows detail as so many recorders one after the other, on %s', (carrier, height) => {
    for (const copies of [1, 3]) {
      const settings = { copies, luma: 3, noise: 60, late: 0 };
      // 3 dB are lost at 3 MHz by each.
      const lost = -dB(amplitude(wornLuma([{ trait: 'generation', settings }], carrier, 720, height, sine(3, 720)), 720, 3 * LINE_US, [100, 200, 300]) / 0.2);
      expect(abs(lost / (3 * copies) - 1)).toBeLessThan(0.03);
    }
  });

  test('adds the noise of each, and brings colour later and lower', () => {
    const one = rms(wornLuma([{ trait: 'generation', settings: { copies: 1, noise: 40 } }], 'vhs625', 720, 576, () => 0.5));
    expect(abs(-dB(one) - 40)).toBeLessThan(0.5);
    const three = rms(wornLuma([{ trait: 'generation', settings: { copies: 3, noise: 40 } }], 'vhs625', 720, 576, () => 0.5));
    // Less than the root of three, as the later ones narrow the earlier ones' noise.
    expect(three / one).toBeGreaterThan(1.4);
    expect(three / one).toBeLessThan(sqrt(3));
    const settings = { copies: 3, noise: 60, late: 200, chroma: 1 };
    const [r, g, b] = wearFloat(
      engine,
      lookOf([{ trait: 'generation', settings }], 'vhs625'),
      painted(720, 576, (x, y) => (x < 360 || y < 288 ? [0.5, 0.5, 0.5] : [0.8, 0.45, 0.4])),
    ) as [Float32Array, Float32Array, Float32Array];
    const cr = r.map((v, i) => v - luma([r.subarray(i, i + 1), g.subarray(i, i + 1), b.subarray(i, i + 1)])[0]!);
    const full = cr[500 * 720 + 600]!;
    const at = Array.from({ length: 200 }, (_, i) => 300 + i).find((x) => cr[500 * 720 + x]! > full / 2)!;
    expect(abs((at - 360) / 13.5 - 0.6)).toBeLessThan(0.1);
    expect(Array.from({ length: 30 }, (_, i) => 280 + i).find((y) => cr[y * 720 + 600]! > full / 2)).toBe(291);
  });

  test('none leaves every bit', () => {
    const clean = wornLuma([], 'vhs', 720, 486, (x) => x / 720);
    expect(sameBits([wornLuma([{ trait: 'generation', settings: { copies: 0 } }], 'vhs', 720, 486, (x) => x / 720)], [clean])).toBe(true);
  });
});

describe('mosaic', () => {
  test.each([540, 1080])('has as many blocks as set, at %d lines, and keeps the mean', (height) => {
    const width = round((height * 16) / 9);
    const plane = wornLuma([{ trait: 'mosaic', settings: { across: 60, down: 40 } }], 'none', width, height, (x) => x / width);
    const row = plane.subarray(0, width);
    expect(new Set(row).size).toBe(60);
    expect(mean(plane)).toBeCloseTo(0.5, 3);
  });
});

describe('strength and place', () => {
  test('of what happens on the tape: half a jitter at half the strength, none where it is kept quiet', () => {
    const edge = (x: number): number => (x < 360 ? 0.2 : 0.8);
    const places = (more: Partial<TraitUse>): number[] => {
      const plane = wornLuma([{ trait: 'time-base', settings: { waves: 0, steps: 0, bend: 0, jitter: 400 }, ...more }], 'vhs625', 720, 576, edge);
      return Array.from({ length: 576 }, (_, y) => edgeOf(plane, 720, y, 20, 700));
    };
    const whole = rms(places({}));
    expect(rms(places({ strength: 0.5 })) / whole).toBeCloseTo(0.5, 1);
    const kept = places({ zone: { kind: 'quiet', x: 0.5, y: 0.5, across: 0.3, down: 0.2, soft: 0.1 } });
    expect(rms(kept.slice(260, 316))).toBeLessThan(0.02 * whole);
    expect(rms(kept.slice(0, 100)) / whole).toBeCloseTo(1, 0);
  });
});

describe('what a carrier has not', () => {
  test('is said with its place, and turned off when the carrier is changed', () => {
    const look = lookOf([{ trait: 'grain' }, { trait: 'tape-noise' }], 'super8');
    expect(() => checkLook(look)).toThrow(/lives\[0\]\.traits\[1\]\.trait: "tape-noise" needs a tape recorder; super8 has none/);
    expect(() => checkLook(lookOf([{ trait: 'snow' }], 'none'))).toThrow(/needs a picture in lines/);
    const { look: switched, changes } = switchCarrier(lookOf([{ trait: 'tape-noise' }, { trait: 'time-base' }], 'vhs'), 0, 'broadcast');
    expect(switched.lives[0]!.traits.map((use) => use.on)).toEqual([false, false]);
    expect(changes).toEqual(['Tape noise and Time base are off: Broadcast 525 has nothing of the kind. Their settings are kept.']);
    expect(() => checkLook(switched)).not.toThrow();
  });
});
