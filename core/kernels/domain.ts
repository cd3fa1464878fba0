// Changes of domain, in place on one row (`count` samples, padded to 8). Two vectors a turn: each waits on itself most of the time.

import { exp2x4, log2x4 } from './lanes';

/** v -> max(v, floor)^power: two walks over a row that stays in the first cache are faster than one that runs out of registers. */
export function powRow(p: usize, count: i32, power: f32, floor: f32): void {
  logRow(p, count, power, floor);
  expRow(p, count, 1);
}

/** Of `displayToLinearRow`: the most signal; the coefficients of its polynomial, the highest power first. */
const TO_LINEAR: usize = memory.data<f32>([
  4, 4, 4, 4,
  -0.018063774332404137, -0.018063774332404137, -0.018063774332404137, -0.018063774332404137,
  0.14116410911083221, 0.14116410911083221, 0.14116410911083221, 0.14116410911083221,
  -0.4530687630176544, -0.4530687630176544, -0.4530687630176544, -0.4530687630176544,
  0.7838144302368164, 0.7838144302368164, 0.7838144302368164, 0.7838144302368164,
  -0.8519385457038879, -0.8519385457038879, -0.8519385457038879, -0.8519385457038879,
  1.3682140111923218, 1.3682140111923218, 1.3682140111923218, 1.3682140111923218,
  0.029777411371469498, 0.029777411371469498, 0.029777411371469498, 0.029777411371469498,
], 16);

/** Light of one vector of signals. */
// @ts-ignore: decorator
@inline
function lightOf(v: v128): v128 {
  const s = f32x4.sqrt(v);
  let p = f32x4.add(f32x4.mul(v128.load(TO_LINEAR, 16), s), v128.load(TO_LINEAR, 32));
  p = f32x4.add(f32x4.mul(p, s), v128.load(TO_LINEAR, 48));
  p = f32x4.add(f32x4.mul(p, s), v128.load(TO_LINEAR, 64));
  p = f32x4.add(f32x4.mul(p, s), v128.load(TO_LINEAR, 80));
  p = f32x4.add(f32x4.mul(p, s), v128.load(TO_LINEAR, 96));
  p = f32x4.add(f32x4.mul(p, s), v128.load(TO_LINEAR, 112));
  return f32x4.mul(f32x4.mul(v, v), p);
}

/**
 * A display's signal to light, v -> v^2.4 (BT.1886) for v from `floor` to 4, by v^2 times a minimax polynomial of sqrt(v) for v^0.4: as a signal it is
 * off by less than 7e-5, a fourteenth of a 10-bit step.
 */
export function displayToLinearRow(p: usize, count: i32, floor: f32): void {
  const low = f32x4.splat(floor);
  for (const end = p + (<usize>count << 2); p < end; p += 32) {
    const a = lightOf(f32x4.pmin(v128.load(TO_LINEAR), f32x4.pmax(low, v128.load(p))));
    const b = lightOf(f32x4.pmin(v128.load(TO_LINEAR), f32x4.pmax(low, v128.load(p, 16))));
    v128.store(p, a);
    v128.store(p, b, 16);
  }
}

/** v -> scale * log2(max(v, floor)). */
export function logRow(p: usize, count: i32, scale: f32, floor: f32): void {
  const k = f32x4.splat(scale);
  const low = f32x4.splat(floor);
  for (const end = p + (<usize>count << 2); p < end; p += 32) {
    const a = log2x4(f32x4.pmax(low, v128.load(p)));
    const b = log2x4(f32x4.pmax(low, v128.load(p, 16)));
    v128.store(p, f32x4.mul(a, k));
    v128.store(p, f32x4.mul(b, k), 16);
  }
}

/** v -> 2^(scale * v). */
export function expRow(p: usize, count: i32, scale: f32): void {
  const k = f32x4.splat(scale);
  for (const end = p + (<usize>count << 2); p < end; p += 32) {
    const a = exp2x4(f32x4.mul(v128.load(p), k));
    const b = exp2x4(f32x4.mul(v128.load(p, 16), k));
    v128.store(p, a);
    v128.store(p, b, 16);
  }
}

/**
 * Three planes by a matrix, in place: out = M in + offset. `m` holds 12 floats: the three rows of M, then the offsets.
 * (R'G'B' to Y'CbCr and back, cross-talk, filters.)
 */
export function matrixRow(a: usize, b: usize, c: usize, count: i32, m: usize): void {
  const m0 = v128.load32_splat(m), m1 = v128.load32_splat(m, 4), m2 = v128.load32_splat(m, 8);
  const m3 = v128.load32_splat(m, 12), m4 = v128.load32_splat(m, 16), m5 = v128.load32_splat(m, 20);
  const m6 = v128.load32_splat(m, 24), m7 = v128.load32_splat(m, 28), m8 = v128.load32_splat(m, 32);
  const end = a + (<usize>count << 2);
  const toB = b - a, toC = c - a;
  for (let p = a; p < end; p += 16) {
    const x = v128.load(p), y = v128.load(p + toB), z = v128.load(p + toC);
    v128.store(p, f32x4.add(f32x4.add(f32x4.add(f32x4.mul(x, m0), f32x4.mul(y, m1)), f32x4.mul(z, m2)), v128.load32_splat(m, 36)));
    v128.store(p + toB, f32x4.add(f32x4.add(f32x4.add(f32x4.mul(x, m3), f32x4.mul(y, m4)), f32x4.mul(z, m5)), v128.load32_splat(m, 40)));
    v128.store(p + toC, f32x4.add(f32x4.add(f32x4.add(f32x4.mul(x, m6), f32x4.mul(y, m7)), f32x4.mul(z, m8)), v128.load32_splat(m, 44)));
  }
}

/** Two planes turned into each other, in place: b cos - c sin, and b sin + c cos. */
export function rotateRow(b: usize, c: usize, count: i32, cosine: f32, sine: f32): void {
  const co = f32x4.splat(cosine), si = f32x4.splat(sine);
  const toC = c - b;
  for (const end = b + (<usize>count << 2); b < end; b += 16) {
    const y = v128.load(b), z = v128.load(b + toC);
    v128.store(b, f32x4.sub(f32x4.mul(y, co), f32x4.mul(z, si)));
    v128.store(b + toC, f32x4.add(f32x4.mul(y, si), f32x4.mul(z, co)));
  }
}
