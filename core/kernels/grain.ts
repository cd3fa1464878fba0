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

/**
 * d += response(d) * noise for the three dye layers. Each layer's noise is `own` times its own field plus `shared`
 * times the sum of the three; response = c0 + c1 u + c2 u^2 (already scaled by the RMS wanted).
 */
export function grainRow(
  r: usize, g: usize, b: usize, n0: usize, n1: usize, n2: usize, count: i32,
  own: f32, shared: f32, c0: f32, c1: f32, c2: f32,
): void {
  const vOwn = f32x4.splat(own);
  const vShared = f32x4.splat(shared);
  const zero = f32x4.splat(0);
  const k0 = f32x4.splat(c0), k1 = f32x4.splat(c1), k2 = f32x4.splat(c2);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const a = v128.load(n0 + at), b1 = v128.load(n1 + at), c = v128.load(n2 + at);
    const all = f32x4.mul(f32x4.add(f32x4.add(a, b1), c), vShared);
    const dr = v128.load(r + at), dg = v128.load(g + at), db = v128.load(b + at);
    v128.store(r + at, f32x4.add(dr, f32x4.mul(response(dr, zero, k0, k1, k2), f32x4.add(f32x4.mul(a, vOwn), all))));
    v128.store(g + at, f32x4.add(dg, f32x4.mul(response(dg, zero, k0, k1, k2), f32x4.add(f32x4.mul(b1, vOwn), all))));
    v128.store(b + at, f32x4.add(db, f32x4.mul(response(db, zero, k0, k1, k2), f32x4.add(f32x4.mul(c, vOwn), all))));
  }
}

/** As grainRow with one field for all three layers. */
export function grainRowGrey(r: usize, g: usize, b: usize, n: usize, count: i32, c0: f32, c1: f32, c2: f32): void {
  const zero = f32x4.splat(0);
  const k0 = f32x4.splat(c0), k1 = f32x4.splat(c1), k2 = f32x4.splat(c2);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const a = v128.load(n + at);
    const dr = v128.load(r + at), dg = v128.load(g + at), db = v128.load(b + at);
    v128.store(r + at, f32x4.add(dr, f32x4.mul(response(dr, zero, k0, k1, k2), a)));
    v128.store(g + at, f32x4.add(dg, f32x4.mul(response(dg, zero, k0, k1, k2), a)));
    v128.store(b + at, f32x4.add(db, f32x4.mul(response(db, zero, k0, k1, k2), a)));
  }
}
