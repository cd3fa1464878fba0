import { exp2x4 } from './lanes';

/**
 * One row of a beam-scanned picture, in place, in linear light. The beam is a bell whose full width at half height is
 * `width + widening * sqrt(light)` lines; a row of such bells, one a line, is the Fourier series
 * 1 + 2 sum a^(m^2) cos(2 pi m y) with a = exp(-2 pi^2 sigma^2). c1..c3 are the cosines at this row, already damped
 * by the height of a pixel.
 */
export function scanlineRow(p: usize, count: i32, width: f32, widening: f32, c1: f32, c2: f32, c3: f32): void {
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  const w0 = f32x4.splat(width);
  const w1 = f32x4.splat(widening);
  // -2 pi^2 log2(e) / 2.3548^2: sigma from the width at half height.
  const k = f32x4.splat(-5.135627);
  const f1 = f32x4.splat(2 * c1), f2 = f32x4.splat(2 * c2), f3 = f32x4.splat(2 * c3);
  for (const end = p + (<usize>count << 2); p < end; p += 16) {
    const light = f32x4.pmax(zero, v128.load(p));
    const w = f32x4.add(w0, f32x4.mul(w1, f32x4.sqrt(f32x4.pmin(one, light))));
    const a = exp2x4(f32x4.mul(f32x4.mul(w, w), k));
    const a2 = f32x4.mul(a, a);
    const a4 = f32x4.mul(a2, a2);
    // 1 + f1 a + f2 a^4 + f3 a^9.
    const inner = f32x4.add(f2, f32x4.mul(f3, f32x4.mul(a4, a)));
    const factor = f32x4.add(one, f32x4.add(f32x4.mul(a, f1), f32x4.mul(a4, inner)));
    v128.store(p, f32x4.mul(light, f32x4.pmax(zero, factor)));
  }
}
