// Parts of blurs of any radius: halving, doubling, running means, and the filters with memory along a row.

/** Means of 2x2 squares: `count` samples from twice as many of two rows. */
export function halveRow(dst: usize, upper: usize, lower: usize, count: i32): void {
  const quarter = f32x4.splat(0.25);
  for (let x = 0; x < count; x += 4) {
    const p = <usize>x << 3;
    const a = f32x4.add(v128.load(upper + p), v128.load(lower + p));
    const b = f32x4.add(v128.load(upper + p, 16), v128.load(lower + p, 16));
    const sum = f32x4.add(v128.shuffle<f32>(a, b, 0, 2, 4, 6), v128.shuffle<f32>(a, b, 1, 3, 5, 7));
    v128.store(dst + (<usize>x << 2), f32x4.mul(sum, quarter));
  }
}

/**
 * Twice as many samples, 3/4 and 1/4 of the two nearest. `src` holds `count` samples and one more on each side; 2 * count
 * are written.
 */
export function doubleRow(dst: usize, src: usize, count: i32): void {
  const near = f32x4.splat(0.75);
  const far = f32x4.splat(0.25);
  for (let x = 0; x < count; x += 4) {
    const p = src + (<usize>x << 2);
    const c = f32x4.mul(v128.load(p), near);
    const l = f32x4.add(c, f32x4.mul(v128.load(p - 4), far));
    const r = f32x4.add(c, f32x4.mul(v128.load(p, 4), far));
    v128.store(dst + (<usize>x << 3), v128.shuffle<f32>(l, r, 0, 4, 1, 5));
    v128.store(dst + (<usize>x << 3), v128.shuffle<f32>(l, r, 2, 6, 3, 7), 16);
  }
}

/** Mean over 2 * radius + 1 samples of a row that is padded by `radius` and one more on each side. */
export function boxRow(dst: usize, src: usize, count: i32, radius: i32): void {
  let sum: f64 = 0;
  for (let k = -radius; k <= radius; k++) sum += <f64>load<f32>(src + (<usize>k << 2));
  const share: f64 = 1 / <f64>(2 * radius + 1);
  for (let x = 0; x < count; x++) {
    store<f32>(dst + (<usize>x << 2), <f32>(sum * share));
    sum += <f64>load<f32>(src + (<usize>(x + radius + 1) << 2)) - <f64>load<f32>(src + (<usize>(x - radius) << 2));
  }
}

/**
 * A low pass with memory along the row, y += a (x - y), on four rows at once (the rows `stride` bytes apart), in place.
 * `from` holds the four states before the first sample and takes those after the last.
 */
export function recursiveRows(p: usize, stride: usize, count: i32, a: f32, from: usize): void {
  const k = f32x4.splat(a);
  let y = v128.load(from);
  const p1 = p + stride, p2 = p1 + stride, p3 = p2 + stride;
  for (let x = 0; x < count; x += 4) {
    const at = <usize>x << 2;
    const r0 = v128.load(p + at), r1 = v128.load(p1 + at), r2 = v128.load(p2 + at), r3 = v128.load(p3 + at);
    // Turned so that a vector holds one column.
    const a0 = v128.shuffle<f32>(r0, r1, 0, 4, 1, 5), a1 = v128.shuffle<f32>(r0, r1, 2, 6, 3, 7);
    const b0 = v128.shuffle<f32>(r2, r3, 0, 4, 1, 5), b1 = v128.shuffle<f32>(r2, r3, 2, 6, 3, 7);
    const c0 = (y = f32x4.add(y, f32x4.mul(f32x4.sub(v128.shuffle<f32>(a0, b0, 0, 1, 4, 5), y), k)));
    const c1 = (y = f32x4.add(y, f32x4.mul(f32x4.sub(v128.shuffle<f32>(a0, b0, 2, 3, 6, 7), y), k)));
    const c2 = (y = f32x4.add(y, f32x4.mul(f32x4.sub(v128.shuffle<f32>(a1, b1, 0, 1, 4, 5), y), k)));
    const c3 = (y = f32x4.add(y, f32x4.mul(f32x4.sub(v128.shuffle<f32>(a1, b1, 2, 3, 6, 7), y), k)));
    const d0 = v128.shuffle<f32>(c0, c1, 0, 4, 1, 5), d1 = v128.shuffle<f32>(c0, c1, 2, 6, 3, 7);
    const e0 = v128.shuffle<f32>(c2, c3, 0, 4, 1, 5), e1 = v128.shuffle<f32>(c2, c3, 2, 6, 3, 7);
    v128.store(p + at, v128.shuffle<f32>(d0, e0, 0, 1, 4, 5));
    v128.store(p1 + at, v128.shuffle<f32>(d0, e0, 2, 3, 6, 7));
    v128.store(p2 + at, v128.shuffle<f32>(d1, e1, 0, 1, 4, 5));
    v128.store(p3 + at, v128.shuffle<f32>(d1, e1, 2, 3, 6, 7));
  }
  v128.store(from, y);
}
