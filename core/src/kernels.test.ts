/** Each kernel against its plain twin. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from './engine';
import { sampleTable, type ColourTable } from './formats/cube';
import { Blur } from './frame/blur';
import { cubicTaps, Resampler } from './frame/resample';
import { newEngine } from './testing';
import * as twin from './twins';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** Numbers that look random between low and high. */
function numbers(count: number, seed = 1, low = 0, high = 1): Float32Array {
  let h = seed;
  return Float32Array.from({ length: count }, () => {
    h = (Math.imul(h, 1664525) + 1013904223) >>> 0;
    return low + ((high - low) * h) / 4294967296;
  });
}

/** Puts rows into the engine, runs, and reads `count` floats back from the first. */
function run(rows: ArrayLike<number>[], work: (at: number[]) => void, count = rows[0]!.length): Float32Array {
  const at = rows.map((row) => {
    const place = engine.allocate(row.length * 4 + 256);
    engine.floats(place, row.length).set(row);
    return place;
  });
  work(at);
  const out = engine.floats(at[0]!, count).slice();
  at.forEach((place) => engine.release(place));
  return out;
}

function alike(got: ArrayLike<number>, wanted: ArrayLike<number>, tolerance = 2e-6): void {
  expect(got.length).toBe(wanted.length);
  let worst = 0;
  for (let i = 0; i < got.length; i++) {
    const off = Math.abs(got[i]! - wanted[i]!);
    if (!(off <= worst)) worst = off;
  }
  expect(worst).toBeLessThan(tolerance);
}

/** Lengths that do and do not fill groups of four, eight and sixteen. */
const LENGTHS = [1, 4, 7, 16, 33, 100];

describe.each(LENGTHS)('rows of %d', (n) => {
  const [a, b, c] = [numbers(n, 1), numbers(n, 2), numbers(n, 3)];
  test('laying over', () => {
    const k = engine.kernels;
    alike(
      run([a, b], ([p, q]) => k.mix(p!, q!, n, 0.3)),
      twin.mix(a, b, 0.3),
    );
    const d = numbers(n, 4);
    alike(
      run([numbers(n, 5), a, b, c, d], ([to, p, q, r, s]) => k.combRow(to!, p!, q!, r!, s!, n, -0.2)),
      twin.comb(a, b, c, d, -0.2),
    );
    alike(
      run([a, b, c], ([p, q, w]) => k.mixWeighted(p!, q!, w!, n, 0.7)),
      twin.mixWeighted(a, b, c, 0.7),
    );
    alike(
      run([b, a, c], ([p, q, w]) => k.mixToward(p!, q!, w!, n, 3, -1)),
      twin.mixWeighted(
        a,
        b,
        c.map((v) => Math.max(0, Math.min(1, 3 * v - 1))),
        1,
      ),
    );
    alike(
      run([a, b], ([p, q]) => k.layRow(p!, q!, n, 0.9, 0.5)),
      twin.layRow(a, b, 0.9, 0.5),
    );
    // Every third pixel is not covered, and stays.
    const cover = c.map((v, i) => (i % 3 === 0 ? 0 : v));
    for (const [row, perLog] of [
      [numbers(n, 8, 0.01, 1), 1],
      [numbers(n, 9, 0.0001, 1), 0],
      [numbers(n, 10, 0, 3), -Math.log2(10)],
    ] as const) {
      const laid = run([row, cover], ([p, q]) => k.layLightRow(p!, q!, n, 0.9, 0.8, perLog));
      alike(laid, twin.layLightRow(row, cover, 0.9, 0.8, perLog), 2e-5);
      expect(laid.filter((v, i) => i % 3 === 0 && v !== row[i])).toHaveLength(0);
      expect(laid.filter((v, i) => i % 3 !== 0 && v === row[i]).length).toBeLessThan(3);
    }
  });

  test('how much blobs and strokes cover', () => {
    const k = engine.kernels;
    const [wide, left] = [61, 40];
    const blobs = Float32Array.of(66.2, 30.4, 40, 0.8, 0.3, 71.5, 33.1, 14, 1.3, -0.6, 60.7, 27.9, 9, 0.6, 0.1);
    const line = Float32Array.of(44.5, 22.1, 60.3, 30.9, 71.2, 31.4, 98.6, 40.2);
    const empty = new Float32Array(wide + 3);
    let seen = 0;
    for (let y = 15; y < 50; y++) {
      let any = 0;
      const blobbed = run([empty, blobs], ([p, b]) => (any = k.blobsRow(p!, wide, left, y, b!, 3, 1.15, 0.4)), wide);
      alike(blobbed, twin.blobsRow(wide, left, y, blobs, 1.15, 0.4), 2e-5);
      expect(any !== 0).toBe(blobbed.some((v) => v > 0));
      const drawn = run([empty, line], ([p, q]) => (any = k.strokeRow(p!, wide, left, y, q!, 3, 1.4, 2.2, 3.5, 0.45, 0.7)), wide);
      alike(drawn, twin.strokeRow(wide, left, y, line, 1.4, 2.2, 0.45, 0.7), 2e-5);
      expect(any !== 0).toBe(drawn.some((v) => v > 0));
      seen += (blobbed.some((v) => v > 0) ? 1 : 0) + (drawn.some((v) => v > 0) ? 1 : 0);
    }
    expect(seen).toBeGreaterThan(20);
  });

  test('bounds, knees, sums, products', () => {
    const k = engine.kernels;
    alike(
      run([a], ([p]) => k.clampRow(p!, n, 0.25, 0.75)),
      twin.clampRow(a, 0.25, 0.75),
    );
    alike(
      run([a], ([p]) => k.kneeRow(p!, n, 0.5, 0.2)),
      twin.kneeRow(a, 0.5, 0.2),
    );
    const half = n >> 1;
    const [over, under] = [twin.kneeRow(a, 0.5, 0.2), twin.kneeRow(b, 0.5, 0.2)];
    alike(
      run([new Float32Array(n + 8), a, b], ([d, p, q]) => k.halveOverRow(d!, p!, q!, half, 0.5, 0.2)).subarray(0, half),
      Array.from({ length: half }, (_, x) => (over[2 * x]! + over[2 * x + 1]! + under[2 * x]! + under[2 * x + 1]!) / 4),
    );
    alike(
      run([a], ([p]) => k.affineRow(p!, n, -2, 0.3)),
      twin.affineRow(a, -2, 0.3),
    );
    alike(
      run([a, b], ([p, q]) => k.addRow(p!, q!, n, 0.4)),
      a.map((v, i) => v + 0.4 * b[i]!),
    );
    alike(
      run([a, b], ([p, q]) => k.timesRow(p!, q!, n)),
      a.map((v, i) => v * b[i]!),
    );
    alike(
      run([a, b, c, a], ([d, r, g, bl]) => k.lumaRow(d!, r!, g!, bl!, n, 0.2126, 0.0722)),
      b.map((v, i) => 0.2126 * v + 0.7152 * c[i]! + 0.0722 * a[i]!),
    );
  });

  test('matrices, tables, cubes', () => {
    const k = engine.kernels;
    const m = numbers(12, 9, -1, 1);
    [0, 1, 2].forEach((plane) => {
      const got = run([[a, b, c][plane]!, ...[a, b, c].filter((_, i) => i !== plane), m], (at) => {
        const places = [0, 1, 2].map((i) => (i === plane ? at[0]! : at[i < plane ? i + 1 : i]!));
        k.matrixRow(places[0]!, places[1]!, places[2]!, n, at[3]!);
      });
      alike(got, twin.matrix([a, b, c], m)[plane]!);
    });
    const [c1, s1] = [Math.cos(0.7), Math.sin(0.7)];
    alike(
      run([a, b], ([p, q]) => k.rotateRow(p!, q!, n, c1, s1)),
      a.map((v, i) => v * c1 - b[i]! * s1),
    );
    alike(
      run([b, a], ([q, p]) => k.rotateRow(p!, q!, n, c1, s1)),
      a.map((v, i) => v * s1 + b[i]! * c1),
    );
    const points = numbers(17, 5);
    const signals = numbers(n, 22, -0.2, 5);
    alike(
      run([signals], ([p]) => k.displayToLinearRow(p!, n, 0.001)).map((v) => v ** (1 / 2.4)),
      signals.map((v) => Math.min(4, Math.max(0.001, v))),
      7e-5,
    );
    // Light from 2^-32 to 2^10, by a table of its logarithm: straight between entries it is at most (1/32)^2 / 8 / ln 2 below.
    const light = Float32Array.from(numbers(n, 21, -32, 10), (v) => 2 ** v);
    const logs = Float32Array.from({ length: 1153 }, (_, i) => -29 + Math.floor(i / 32) + Math.log2(1 + (i % 32) / 32));
    alike(
      run([light, logs], ([p, t]) => k.lightRow(p!, n, t!)),
      light.map((v) => Math.min(7, Math.max(-29, Math.log2(v)))),
      1.8e-4,
    );
    alike(
      run([numbers(n, 8, -0.5, 1.5), points], ([p, t]) => k.tableRow(p!, n, t!, 17, 0, 16)),
      twin.table(numbers(n, 8, -0.5, 1.5), points, 0, 16),
      4e-6,
    );
    const size = 5;
    const lattice = numbers(size ** 3 * 4, 4);
    const table: ColourTable = { title: '', dimensions: 3, size, low: [0, 0, 0], high: [1, 1, 1], points: lattice.filter((_, i) => i % 4 < 3) };
    const wanted = Array.from({ length: n }, (_, i) => sampleTable(table, [a[i]!, b[i]!, c[i]!]));
    [0, 1, 2].forEach((plane) => {
      const got = run([[a, b, c][plane]!, ...[a, b, c].filter((_, i) => i !== plane), lattice], (at) => {
        const places = [0, 1, 2].map((i) => (i === plane ? at[0]! : at[i < plane ? i + 1 : i]!));
        k.cubeRow(places[0]!, places[1]!, places[2]!, n, at[3]!, size);
      });
      alike(
        got,
        wanted.map((v) => v[plane]!),
        4e-6,
      );
    });
  });

  test('filters along and across rows', () => {
    const k = engine.kernels;
    const taps = numbers(9, 6, -0.3, 0.5);
    const padded = new Float32Array(n + 32);
    alike(
      run([new Float32Array(n + 16), a, padded, taps], ([d, s, p, w]) => {
        k.padRow(p!, s!, n, 6);
        k.firRow(d!, p! + 8, n, w!, 9);
      }).subarray(0, n),
      twin.fir(a, taps, -4),
    );
    const list = new Float32Array(8);
    alike(
      run([new Float32Array(n + 16), a, b, c, list, Float32Array.of(0.2, 0.5, 0.3)], ([d, p, q, r, l, w]) => {
        engine.ints(l!, 3).set([p!, q!, r!]);
        k.mixRows(d!, l!, w!, 3, n);
      }).subarray(0, n),
      a.map((v, i) => 0.2 * v + 0.5 * b[i]! + 0.3 * c[i]!),
    );
    // What is the same on both sides: the middle's weight and those of each pair.
    const half = [0.4, 0.2, 0.1];
    alike(
      run([new Float32Array(n + 16), a, padded, half], ([d, s, p, w]) => {
        k.padRow(p!, s!, n, 6);
        k.bellRow(d!, p! + 24, n, w!, 2);
      }).subarray(0, n),
      twin.fir(a, [0.1, 0.2, 0.4, 0.2, 0.1], -2),
    );
    alike(
      run([new Float32Array(n + 16), a, b, c, list, half], ([d, p, q, r, l, w]) => {
        engine.ints(l!, 5).set([p!, q!, r!, q!, p!]);
        k.bellRows(d!, l!, n, w!, 2);
      }).subarray(0, n),
      a.map((v, i) => 0.2 * v + 0.4 * b[i]! + 0.4 * c[i]!),
    );
    const radius = 3;
    alike(
      run([new Float32Array(n + 16), a, padded], ([d, s, p]) => {
        k.padRow(p!, s!, n, radius + 1);
        k.boxRow(d!, p! + 4 * (radius + 1), n, radius);
      }).subarray(0, n),
      twin.box(a, radius),
    );
    alike(
      run([b, a, padded], ([d, s, p]) => {
        k.padRow(p!, s!, n, radius + 1);
        k.addWindowRow(d!, p! + 4 * (radius + 1), n, radius, 0.25);
      }),
      twin.box(a, radius).map((mean, i) => b[i]! + 0.25 * (2 * radius + 1) * mean),
    );
    // Of x - 1 and x + 1, and of x, with what each adds to the sample a quarter before x, and to the one after it.
    const at = (x: number): number => a[Math.max(0, Math.min(n - 1, x))]!;
    alike(
      run([new Float32Array(2 * n + 32), a, padded, [0.6, 0.2, 0.1]], ([d, s, p, w]) => {
        k.padRow(p!, s!, n, 6);
        k.twiceRow(d!, p! + 24, n, w!, 1);
      }).subarray(0, 2 * n),
      Float32Array.from({ length: 2 * n }, (_, i) => {
        const [x, side] = [i >> 1, i % 2 ? -1 : 1];
        return 0.6 * at(x) + (0.2 + side * 0.1) * at(x + 1) + (0.2 - side * 0.1) * at(x - 1);
      }),
    );
  });

  test('saturation that is the same at every luma has the bits of a table that says so', () => {
    const k = engine.kernels;
    for (const amount of [0, 0.86, 2.5]) {
      const table = [1, amount, 0, 0, 0, 0, 0, 0];
      // Each plane in its turn is the one that is read.
      for (const [rows, place] of [
        [
          [a, b, c],
          [0, 1, 2],
        ],
        [
          [b, a, c],
          [1, 0, 2],
        ],
        [
          [c, b, a],
          [2, 1, 0],
        ],
      ] as const) {
        const even = run([...rows], (at) => k.saturateRow(at[place[0]]!, at[place[1]]!, at[place[2]]!, n, amount, 0.2126, 0.0722));
        const told = run([...rows, [...table, ...table]], (at) => k.byLumaRow(at[place[0]]!, at[place[1]]!, at[place[2]]!, n, at[3]!, 2, 0.2126, 0.0722));
        expect(even).toEqual(told);
        expect(even).not.toEqual(rows[0]);
      }
    }
  });

  test('grain of two windows by layer', () => {
    const k = engine.kernels;
    const windows = [11, 12, 13, 14, 15, 16].map((seed) => numbers(n, seed, -3, 3));
    const shorts = (row: Float32Array): Float32Array => row.map((v) => Math.round(v * 1000));
    /** Windows as the kernel takes them, in the place of floats. */
    const packed = (at: number[]): void => at.forEach((place) => k.floatToShorts(place, place, n, 1000));
    const [own, shared, parabola] = [0.4, 0.3, [2e-4, 3e-4, -1e-4]] as const;
    const laid = (d: Float32Array, noise: (i: number) => number): Float32Array =>
      d.map((v, i) => {
        const u = Math.sqrt(v / 3);
        return v + Math.max(0, (parabola[2] * u + parabola[1]) * u + parabola[0]) * noise(i);
      });
    const sums = [0, 1, 2].map((layer) => shorts(windows[2 * layer]!).map((v, i) => v + shorts(windows[2 * layer + 1]!)[i]!));
    [0, 1, 2].forEach((layer) => {
      // The layer that is read stands first.
      const others = [a, b, c].filter((_, i) => i !== layer);
      const got = run([[a, b, c][layer]!, ...others, ...windows], ([p, q, r, ...at]) => {
        packed(at);
        const places = [[p!, q!, r!] as const, [q!, p!, r!] as const, [q!, r!, p!] as const][layer]!;
        k.grainRow(...places, ...(at as [number, number, number, number, number, number]), n, own, shared, ...parabola);
      });
      alike(
        got,
        laid([a, b, c][layer]!, (i) => own * sums[layer]![i]! + shared * sums.reduce((sum, of) => sum + of[i]!, 0)),
        5e-6,
      );
    });
    alike(
      run([b, a, c, windows[0]!, windows[1]!], ([g, r, bl, ...at]) => {
        packed(at);
        k.grainRowGrey(r!, g!, bl!, at[0]!, at[1]!, n, ...parabola);
      }),
      laid(b, (i) => sums[0]![i]!),
      5e-6,
    );
  });

  test('noise by its address, on either side of zero', () => {
    const k = engine.kernels;
    for (const from of [0, -6, 1234566]) {
      alike(run([new Float32Array(n + 8)], ([d]) => k.whiteRow(d!, n, 0xdeadbeef, from)).subarray(0, n), twin.white(n, 0xdeadbeef | 0, from), 1e-5);
    }
    const [fine, coarse] = [new Float32Array(n + 8).map((_, i) => i * 0.5), new Float32Array(n + 8).map((_, i) => 100 - i)];
    alike(
      run([fine, coarse], ([d, s]) => k.addHeldRow(d!, s!, n)).subarray(0, n),
      fine.subarray(0, n).map((v, i) => v + coarse[i >> 1]!),
    );
  });

  test('halving, doubling, ellipses, ramps', () => {
    const k = engine.kernels;
    const u = numbers(2 * n, 11);
    alike(run([new Float32Array(n + 8), [u[0]!, u[0]!, ...u, u[2 * n - 1]!, u[2 * n - 1]!]], ([d, s]) => k.halveRow(d!, s! + 8, n)).subarray(0, n), twin.halve(u));
    const weighted = (weights: readonly number[], rows: readonly Float32Array[]): Float32Array => a.map((_, x) => weights.reduce((sum, w, j) => sum + w * rows[j]![x]!, 0));
    alike(
      run([new Float32Array(n + 8), a, b, c], ([d, p, q, r]) => k.halveRows(d!, p!, q!, r!, q!, p!, r!, n)).subarray(0, n),
      weighted(
        [1, 5, 10, 10, 5, 1].map((w) => w / 32),
        [a, b, c, b, a, c],
      ),
    );
    alike(
      run([new Float32Array(n + 8), a, b, c], ([d, p, q, r]) => k.doubleRows(d!, p!, q!, r!, n)).subarray(0, n),
      weighted(
        [5, 10, 1].map((w) => w / 16),
        [a, b, c],
      ),
    );
    alike(run([new Float32Array(2 * n + 16), [a[0]!, ...a, a[n - 1]!]], ([d, s]) => k.doubleRow(d!, s! + 4, n)).subarray(0, 2 * n), twin.double(a));
    alike(run([new Float32Array(n + 8)], ([d]) => k.ellipseRow(d!, n, -1.2, 2.4 / n, 0.1, 0.4)).subarray(0, n), twin.ellipse(n, -1.2, 2.4 / n, 0.1, 0.4), 1e-5);
    alike(
      run([new Float32Array(n + 8)], ([d]) => k.rampRow(d!, n, -3, 0.25)).subarray(0, n),
      a.map((_, i) => -3 + 0.25 * i),
    );
  });
});

describe('pictures bent', () => {
  const [width, height] = [23, 17];
  const plane = numbers(width * height, 31);
  const places = Array.from({ length: 60 }, (_, i) => ({ x: -4 + (i * 31) / 60, y: 20 - (i * 24) / 60 }));
  test.each(['warpCubic', 'warpLinear'] as const)('%s takes each sample from its place, edges continued', (name) => {
    const got = run([new Float32Array(60), places.map((p) => p.x), places.map((p) => p.y), plane], ([d, x, y, s]) =>
      engine.kernels[name](d!, 60, x!, y!, s!, width * 4, width, height),
    );
    const sample = name === 'warpCubic' ? twin.sampleCubic : twin.sampleLinear;
    alike(
      got,
      places.map((p) => sample(plane, width, height, Math.fround(p.x), Math.fround(p.y))),
      1e-5,
    );
  });

  test('three planes at once are the same bits as one by one', () => {
    const three = numbers(3 * width * height, 37);
    const of = (one: boolean): Float32Array =>
      run([new Float32Array(180), places.map((p) => p.x), places.map((p) => p.y), three], ([d, x, y, s]) => {
        const [dst, src] = [d!, s!].map((at, i) => [0, 1, 2].map((plane) => at + plane * (i === 0 ? 240 : width * height * 4))) as [number[], number[]];
        if (one) for (let plane = 0; plane < 3; plane++) engine.kernels.warpCubic(dst[plane]!, 60, x!, y!, src[plane]!, width * 4, width, height);
        else engine.kernels.warpCubicThree(dst[0]!, dst[1]!, dst[2]!, 60, x!, y!, src[0]!, src[1]!, src[2]!, width * 4, width, height);
      });
    expect([...of(false)]).toEqual([...of(true)]);
    expect(new Set(of(true)).size).toBeGreaterThan(100);
  });

  test.each([
    [46, 34],
    [23, 17],
    [11, 9],
    [7, 17],
  ])('resizing to %d x %d is the cubic at each place, or its mean where it shrinks', (w, h) => {
    const across = cubicTaps(w, 0, width / w);
    const down = cubicTaps(h, 0, height / h);
    const held: number[] = [];
    const reserve = (bytes: number): number => {
      const at = engine.allocate(bytes);
      held.push(at);
      return at;
    };
    const resampler = new Resampler(engine, width, height);
    resampler.aim(across, down);
    const stride = ((w + 7) & ~7) * 4;
    const sourceStride = ((width + 7) & ~7) * 4;
    const src = reserve(sourceStride * height);
    for (let y = 0; y < height; y++) engine.floats(src + y * sourceStride, width).set(plane.subarray(y * width, (y + 1) * width));
    const dst = reserve(stride * h);
    resampler.run(dst, stride, src, sourceStride);
    for (let y = 0; y < h; y++) {
      const wanted = Array.from({ length: w }, (_, x) => {
        let sum = 0;
        for (let j = 0; j < down.taps; j++)
          for (let i = 0; i < across.taps; i++) {
            const row = Math.min(height - 1, Math.max(0, down.starts[y]! + j));
            const column = Math.min(width - 1, Math.max(0, across.starts[x]! + i));
            sum += down.weights[y * down.taps + j]! * across.weights[x * across.taps + i]! * plane[row * width + column]!;
          }
        return sum;
      });
      alike(engine.floats(dst + y * stride, w), wanted, 1e-5);
    }
    held.forEach((at) => engine.release(at));
  });
});

describe('the Gaussian', () => {
  test.each([0.6, 1.5, 3])('of sigma %d is near the one by its definition', (sigma) => {
    const [width, height] = [93, 71];
    const plane = numbers(width * height, 41);
    const blur = new Blur(engine, width, height);
    const stride = ((width + 7) & ~7) * 4;
    const at = engine.allocate(stride * height);
    for (let y = 0; y < height; y++) engine.floats(at + y * stride, width).set(plane.subarray(y * width, (y + 1) * width));
    blur.run(at, at, stride, sigma);
    const wanted = twin.gaussian(plane, width, height, sigma);
    // Of the swing that is left; at the very edges a reduced picture continues them a little otherwise.
    const [got, asked]: number[][] = [[], []];
    const rim = Math.ceil(sigma);
    for (let y = rim; y < height - rim; y++)
      for (let x = rim; x < width - rim; x++) {
        got!.push(engine.floats(at + y * stride, width)[x]!);
        asked!.push(wanted[y * width + x]!);
      }
    const mean = asked!.reduce((s, v) => s + v, 0) / asked!.length;
    const swing = Math.sqrt(asked!.reduce((s, v) => s + (v - mean) ** 2, 0) / asked!.length);
    const error = Math.sqrt(asked!.reduce((s, v, i) => s + (v - got![i]!) ** 2, 0) / asked!.length);
    expect(error / swing).toBeLessThan(0.09);
    engine.release(at);
    blur.release();
  });

  test.each([3.5, 7, 15, 31])('of sigma %d makes a bell of a point, wherever the point lies', (sigma) => {
    const side = 2 * Math.ceil(5 * sigma) + 33;
    const blur = new Blur(engine, side, side);
    const stride = ((side + 7) & ~7) * 4;
    const at = engine.allocate(stride * side);
    const peak = 1 / (2 * Math.PI * sigma * sigma);
    for (const [px, py] of [
      [0, 0],
      [3, 1],
      [6, 5],
    ] as const) {
      const [cx, cy] = [(side >> 1) + px, (side >> 1) + py];
      for (let y = 0; y < side; y++) engine.floats(at + y * stride, side).fill(0);
      engine.floats(at + cy * stride, side)[cx] = 1;
      blur.run(at, at, stride, sigma);
      let [sum, worst, spread] = [0, 0, 0];
      for (let y = 0; y < side; y++) {
        const row = engine.floats(at + y * stride, side);
        for (let x = 0; x < side; x++) {
          sum += row[x]!;
          spread += row[x]! * ((x - cx) ** 2 + (y - cy) ** 2);
          worst = Math.max(worst, Math.abs(row[x]! / peak - Math.exp(-((x - cx) ** 2 + (y - cy) ** 2) / (2 * sigma * sigma))));
        }
      }
      expect(sum).toBeCloseTo(1, 3);
      expect(Math.sqrt(spread / 2 / sum) / sigma).toBeGreaterThan(0.96);
      expect(Math.sqrt(spread / 2 / sum) / sigma).toBeLessThan(1.04);
      expect(worst).toBeLessThan(0.09);
    }
    engine.release(at);
    blur.release();
  });

  // What counts for nothing at a place is not worked out there: nothing of what lay there before may be left.
  test.each([
    [1, 1],
    [7, 3],
    [17, 9],
    [33, 41],
    [130, 97],
    [401, 64],
  ])('whose size goes with the place writes every pixel of %d by %d, and keeps what is even', (width, height) => {
    const blur = new Blur(engine, width, height);
    const stride = ((width + 7) & ~7) * 4;
    const [src, dst] = [engine.allocate(stride * height), engine.allocate(stride * height)];
    const planes: number[] = [];
    /** 0 in the middle, 1 in the corners, more than one size in between. */
    const weights = (columns: number, rows: number, bytes: number): number => {
      const at = engine.allocate(bytes * rows);
      planes.push(at);
      for (let y = 0; y < rows; y++) {
        const row = engine.floats(at + y * bytes, columns);
        for (let x = 0; x < columns; x++) row[x] = Math.min(1, Math.max(0, Math.hypot((2 * (x + 0.5)) / columns - 1, (2 * (y + 0.5)) / rows - 1) - 0.3));
      }
      return at;
    };
    const ends: [number, number][] = [
      [0, 0.9],
      [0.4, 3],
      [0.9, 2.8],
      [1.3, 9],
      [3, 20],
    ];
    for (const [near, far] of ends) {
      for (let y = 0; y < height; y++) {
        engine.floats(src + y * stride, width).fill(0.625);
        engine.floats(dst + y * stride, width).fill(NaN);
      }
      blur.runVarying(dst, src, stride, near, far, weights);
      let other = 0;
      for (let y = 0; y < height; y++) for (const v of engine.floats(dst + y * stride, width)) if (!(Math.abs(v - 0.625) < 1e-5)) other++;
      expect([near, far, other]).toEqual([near, far, 0]);
    }
    for (const at of [src, dst, ...planes]) engine.release(at);
    blur.release();
  });

  test('whose size goes with the place is, column by column, of the size that its share says', () => {
    const [width, height] = [512, 64];
    const blur = new Blur(engine, width, height);
    const stride = width * 4;
    const [src, dst] = [engine.allocate(stride * height), engine.allocate(stride * height)];
    const planes: number[] = [];
    const share = (x: number, columns: number): number => Math.min(1, Math.max(0, (Math.abs((2 * (x + 0.5)) / columns - 1) - 0.25) * 2));
    const weights = (columns: number, rows: number, bytes: number): number => {
      const at = engine.allocate(bytes * rows);
      planes.push(at);
      for (let y = 0; y < rows; y++) engine.floats(at + y * bytes, columns).set(Float32Array.from({ length: columns }, (_, x) => share(x, columns)));
      return at;
    };
    const [near, far] = [1, 4];
    // A line across the middle of the picture spreads up and down by the size of each column.
    for (let y = 0; y < height; y++) engine.floats(src + y * stride, width).fill(y === height / 2 ? 1 : 0);
    blur.runVarying(dst, src, stride, near, far, weights);
    for (let x = 4; x < width - 4; x += 7) {
      let [sum, spread] = [0, 0];
      for (let y = 0; y < height; y++) {
        const v = engine.floats(dst + y * stride, width)[x]!;
        sum += v;
        spread += v * (y - height / 2) ** 2;
      }
      expect(sum).toBeCloseTo(1, 4);
      const asked = near + (far - near) * share(x, width);
      // A mixture of two sizes has the mean of their squares: a little more than the square of their mean.
      expect(Math.sqrt(spread) / asked).toBeGreaterThan(0.95);
      expect(Math.sqrt(spread) / asked).toBeLessThan(1.09);
    }
    for (const at of [src, dst, ...planes]) engine.release(at);
    blur.release();
  });
});
