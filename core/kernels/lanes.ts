// Mathematics whose results reach a pixel. All of it is built from IEEE additions, multiplications,
// divisions and roundings, so that every processor and every engine gives the same bits.

/** 2^x in four lanes; relative error under 3e-6 for -126 < x < 126, clamped outside. */
// @ts-ignore: decorator
@inline
export function exp2x4(x: v128): v128 {
  x = f32x4.pmin(f32x4.splat(126), f32x4.pmax(f32x4.splat(-126), x));
  // Adding 1.5 * 2^23 rounds to a whole number and leaves it in the low bits.
  const magic = f32x4.splat(12582912);
  const rounded = f32x4.add(x, magic);
  const f = f32x4.sub(x, f32x4.sub(rounded, magic));
  // Terms ln(2)^k / k!; the next would add under 3e-6 for |f| <= 1/2.
  let p = f32x4.splat(0.0013333558146428443);
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(0.009618129107628477));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(0.05550410866482158));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(0.24022650695910072));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(0.6931471805599453));
  p = f32x4.add(f32x4.mul(p, f), f32x4.splat(1));
  // 2^whole goes straight into the exponent.
  return i32x4.add(p, i32x4.shl(rounded, 23));
}

/** log2(x) in four lanes for normal positive x; absolute error under 3e-6, a thousandth of a 10-bit step. */
// @ts-ignore: decorator
@inline
export function log2x4(x: v128): v128 {
  // The mantissa is taken in [sqrt(1/2), sqrt(2)) so that the series in t = (m-1)/(m+1) is short.
  const e = i32x4.shr_s(i32x4.sub(x, i32x4.splat(0x3f3504f3)), 23);
  const m = i32x4.sub(x, i32x4.shl(e, 23));
  const one = f32x4.splat(1);
  const t = f32x4.div(f32x4.sub(m, one), f32x4.add(m, one));
  const t2 = f32x4.mul(t, t);
  let p = f32x4.splat(0.5958);
  p = f32x4.add(f32x4.mul(p, t2), f32x4.splat(0.96179669));
  p = f32x4.add(f32x4.mul(p, t2), f32x4.splat(2.88539008));
  return f32x4.add(f32x4.convert_i32x4_s(e), f32x4.mul(p, t));
}
