// Noise added to density, by density.

/** A third, so that u = sqrt(D / 3); one. */
const THIRD: usize = memory.data<f32>([0.33333334, 0.33333334, 0.33333334, 0.33333334], 16);
const ONE: usize = memory.data<f32>([1, 1, 1, 1], 16);

/** How much grain shows at a density: a parabola through the three tones in sqrt(D / 3), where mid-grey lies at 1/2. */
// @ts-ignore: decorator
@inline
function response(d: v128, zero: v128, c0: v128, c1: v128, c2: v128): v128 {
  const u = f32x4.pmin(v128.load(ONE), f32x4.sqrt(f32x4.mul(f32x4.pmax(zero, d), v128.load(THIRD))));
  return f32x4.pmax(zero, f32x4.add(f32x4.mul(f32x4.add(f32x4.mul(c2, u), c1), u), c0));
}

/** The first four of eight whole numbers, and the last. */
// @ts-ignore: decorator
@inline
function low(sum: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(sum));
}
// @ts-ignore: decorator
@inline
function high(sum: v128): v128 {
  return f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(sum));
}

/** d += response(d) * noise for four samples of the three dye layers. */
// @ts-ignore: decorator
@inline
function layFour(r: usize, g: usize, b: usize, n0: v128, n1: v128, n2: v128, own: v128, shared: v128, zero: v128, k0: v128, k1: v128, k2: v128): void {
  const all = f32x4.mul(f32x4.add(f32x4.add(n0, n1), n2), shared);
  const dr = v128.load(r), dg = v128.load(g), db = v128.load(b);
  v128.store(r, f32x4.add(dr, f32x4.mul(response(dr, zero, k0, k1, k2), f32x4.add(f32x4.mul(n0, own), all))));
  v128.store(g, f32x4.add(dg, f32x4.mul(response(dg, zero, k0, k1, k2), f32x4.add(f32x4.mul(n1, own), all))));
  v128.store(b, f32x4.add(db, f32x4.mul(response(db, zero, k0, k1, k2), f32x4.add(f32x4.mul(n2, own), all))));
}

/** d += response(d) * noise for eight samples of one layer. */
// @ts-ignore: decorator
@inline
function layOne(p: usize, n0: v128, n1: v128, zero: v128, k0: v128, k1: v128, k2: v128): void {
  const d0 = v128.load(p), d1 = v128.load(p, 16);
  v128.store(p, f32x4.add(d0, f32x4.mul(response(d0, zero, k0, k1, k2), n0)));
  v128.store(p, f32x4.add(d1, f32x4.mul(response(d1, zero, k0, k1, k2), n1)), 16);
}

/**
 * d += response(d) * noise for the three dye layers. Each layer has a field, the sum of two windows of whole numbers of 16 bits; its noise is `own` times its own field
 * plus `shared` times the sum of the three; response = c0 + c1 u + c2 u^2 (already scaled by the RMS wanted). Whole groups of eight.
 */
export function grainRow(
  r: usize, g: usize, b: usize, a0: usize, b0: usize, a1: usize, b1: usize, a2: usize, b2: usize, count: i32,
  own: f32, shared: f32, c0: f32, c1: f32, c2: f32,
): void {
  const vOwn = f32x4.splat(own);
  const vShared = f32x4.splat(shared);
  const zero = f32x4.splat(0);
  const k0 = f32x4.splat(c0), k1 = f32x4.splat(c1), k2 = f32x4.splat(c2);
  const end = <usize>count << 2;
  for (let at: usize = 0, x: usize = 0; at < end; at += 32, x += 16) {
    const s0 = i16x8.add_sat_s(v128.load(a0 + x), v128.load(b0 + x));
    const s1 = i16x8.add_sat_s(v128.load(a1 + x), v128.load(b1 + x));
    const s2 = i16x8.add_sat_s(v128.load(a2 + x), v128.load(b2 + x));
    layFour(r + at, g + at, b + at, low(s0), low(s1), low(s2), vOwn, vShared, zero, k0, k1, k2);
    layFour(r + at + 16, g + at + 16, b + at + 16, high(s0), high(s1), high(s2), vOwn, vShared, zero, k0, k1, k2);
  }
}

/** As grainRow with one field for all three layers. */
export function grainRowGrey(r: usize, g: usize, b: usize, a0: usize, b0: usize, count: i32, c0: f32, c1: f32, c2: f32): void {
  const zero = f32x4.splat(0);
  const k0 = f32x4.splat(c0), k1 = f32x4.splat(c1), k2 = f32x4.splat(c2);
  const end = <usize>count << 2;
  for (let at: usize = 0, x: usize = 0; at < end; at += 32, x += 16) {
    const sum = i16x8.add_sat_s(v128.load(a0 + x), v128.load(b0 + x));
    const n0 = low(sum), n1 = high(sum);
    layOne(r + at, n0, n1, zero, k0, k1, k2);
    layOne(g + at, n0, n1, zero, k0, k1, k2);
    layOne(b + at, n0, n1, zero, k0, k1, k2);
  }
}

/** Floats times a scale to whole numbers of 16 bits, to nearest, held at their ends. Whole groups of eight. */
export function floatToShorts(dst: usize, src: usize, count: i32, scale: f32): void {
  const by = f32x4.splat(scale);
  for (const end = src + (<usize>count << 2); src < end; src += 32, dst += 16) {
    const a = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(v128.load(src), by)));
    const b = i32x4.trunc_sat_f32x4_s(f32x4.nearest(f32x4.mul(v128.load(src, 16), by)));
    v128.store(dst, i16x8.narrow_i32x4_s(a, b));
  }
}
