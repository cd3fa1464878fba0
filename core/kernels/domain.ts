// Changes of domain, in place on one row (`count` samples, padded to 8). Two vectors a turn: each waits on itself most of the time.

import { exp2x4, log2x4 } from './lanes';

/** v -> max(v, floor)^power: two walks over a row that stays in the first cache are faster than one that runs out of registers. */
export function powRow(p: usize, count: i32, power: f32, floor: f32): void {
  logRow(p, count, power, floor);
  expRow(p, count, 1);
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
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const x = v128.load(a + at), y = v128.load(b + at), z = v128.load(c + at);
    v128.store(a + at, f32x4.add(dot(x, y, z, m), v128.load32_splat(m, 36)));
    v128.store(b + at, f32x4.add(dot(x, y, z, m + 12), v128.load32_splat(m, 40)));
    v128.store(c + at, f32x4.add(dot(x, y, z, m + 24), v128.load32_splat(m, 44)));
  }
}

// @ts-ignore: decorator
@inline
function dot(x: v128, y: v128, z: v128, m: usize): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(x, v128.load32_splat(m)), f32x4.mul(y, v128.load32_splat(m, 4))), f32x4.mul(z, v128.load32_splat(m, 8)));
}
