// Mathematics whose results reach a pixel. All of it is built from IEEE additions, multiplications and roundings, so that
// every processor and every engine gives the same bits.
//
// Constants are read from memory: a vector constant written in code is put together anew at each use by today's engines
// (four instructions), a load is one.

/** Of 2^x: bounds, the number that rounds, and minimax coefficients of 2^f over [-1/2, 1/2], the highest power first. */
const EXP: usize = memory.data<f32>([
  126, 126, 126, 126,
  -126, -126, -126, -126,
  12582912, 12582912, 12582912, 12582912,
  0.0095700966, 0.0095700966, 0.0095700966, 0.0095700966,
  0.0559178591, 0.0559178591, 0.0559178591, 0.0559178591,
  0.2402474433, 0.2402474433, 0.2402474433, 0.2402474433,
  0.6931217909, 0.6931217909, 0.6931217909, 0.6931217909,
  0.9999992847, 0.9999992847, 0.9999992847, 0.9999992847,
], 16);

/** Of log2(x): the bits of sqrt(1/2), one, and minimax coefficients of log2(1 + t) / t over [sqrt(1/2) - 1, sqrt(2) - 1]. */
const ROOT_HALF: usize = memory.data<i32>([0x3f3504f3, 0x3f3504f3, 0x3f3504f3, 0x3f3504f3], 16);
const LOG: usize = memory.data<f32>([
  1, 1, 1, 1,
  -0.2065898925, -0.2065898925, -0.2065898925, -0.2065898925,
  0.3221543133, 0.3221543133, 0.3221543133, 0.3221543133,
  -0.3674902618, -0.3674902618, -0.3674902618, -0.3674902618,
  0.4793480635, 0.4793480635, 0.4793480635, 0.4793480635,
  -0.7211318612, -0.7211318612, -0.7211318612, -0.7211318612,
  1.4427134991, 1.4427134991, 1.4427134991, 1.4427134991,
], 16);

/** 2^x in four lanes; relative error under 3e-6 for -126 < x < 126, clamped outside. */
// @ts-ignore: decorator
@inline
export function exp2x4(x: v128): v128 {
  x = f32x4.pmin(v128.load(EXP), f32x4.pmax(v128.load(EXP, 16), x));
  // Adding 1.5 * 2^23 rounds to a whole number and leaves it in the low bits.
  const magic = v128.load(EXP, 32);
  const rounded = f32x4.add(x, magic);
  const f = f32x4.sub(x, f32x4.sub(rounded, magic));
  let p = f32x4.add(f32x4.mul(v128.load(EXP, 48), f), v128.load(EXP, 64));
  p = f32x4.add(f32x4.mul(p, f), v128.load(EXP, 80));
  p = f32x4.add(f32x4.mul(p, f), v128.load(EXP, 96));
  p = f32x4.add(f32x4.mul(p, f), v128.load(EXP, 112));
  // 2^whole goes straight into the exponent.
  return i32x4.add(p, i32x4.shl(rounded, 23));
}

/** log2(x) in four lanes for normal positive x; absolute error under 3e-6, a thousandth of a 10-bit step. */
// @ts-ignore: decorator
@inline
export function log2x4(x: v128): v128 {
  // The mantissa is taken in [sqrt(1/2), sqrt(2)).
  const e = i32x4.shr_s(i32x4.sub(x, v128.load(ROOT_HALF)), 23);
  const t = f32x4.sub(i32x4.sub(x, i32x4.shl(e, 23)), v128.load(LOG));
  let p = f32x4.add(f32x4.mul(v128.load(LOG, 16), t), v128.load(LOG, 32));
  p = f32x4.add(f32x4.mul(p, t), v128.load(LOG, 48));
  p = f32x4.add(f32x4.mul(p, t), v128.load(LOG, 64));
  p = f32x4.add(f32x4.mul(p, t), v128.load(LOG, 80));
  p = f32x4.add(f32x4.mul(p, t), v128.load(LOG, 96));
  return f32x4.add(f32x4.convert_i32x4_s(e), f32x4.mul(p, t));
}

/** 2^23, whose addition leaves a whole number in the low bits, and the mask of those. */
export const ROUND: f32 = 8388608;
const WHOLE: usize = memory.data<f32>([8388608, 8388608, 8388608, 8388608], 16);
export const WHOLE_BITS: usize = memory.data<i32>([0x7fffff, 0x7fffff, 0x7fffff, 0x7fffff], 16);

/** Four numbers from 0 up to 2^22 as integers, rounded to nearest (halves to even). */
// @ts-ignore: decorator
@inline
export function whole(v: v128): v128 {
  return v128.and(f32x4.add(v, v128.load(WHOLE)), v128.load(WHOLE_BITS));
}
