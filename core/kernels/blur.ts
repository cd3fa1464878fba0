// Parts of blurs of any radius: halving, doubling, running means, and the filters with memory along a row.

/**
 * Half as many samples: (1, 3, 3, 1) / 8 about each pair, so that where a point lies is not lost with its pixel. `src` holds
 * 2 * count samples and one more on each side.
 */
export function halveRow(dst: usize, src: usize, count: i32): void {
  const inner = f32x4.splat(0.375);
  const outer = f32x4.splat(0.125);
  for (const end = dst + (<usize>count << 2); dst < end; dst += 16) {
    const p = src;
    src += 32;
    const a = v128.load(p), b = v128.load(p, 16);
    const c = v128.load(p - 4), d = v128.load(p, 12);
    const e = v128.load(p, 8), f = v128.load(p, 24);
    // Even and odd samples of the row, those one before and those two after.
    const mid = f32x4.add(v128.shuffle<f32>(a, b, 0, 2, 4, 6), v128.shuffle<f32>(a, b, 1, 3, 5, 7));
    const rim = f32x4.add(v128.shuffle<f32>(c, d, 0, 2, 4, 6), v128.shuffle<f32>(e, f, 0, 2, 4, 6));
    v128.store(dst, f32x4.add(f32x4.mul(mid, inner), f32x4.mul(rim, outer)));
  }
}

/**
 * Twice as many samples, by the spline of fourth degree: (5, 10, 1) / 16 and (1, 10, 5) / 16 of the three nearest. `src` holds
 * `count` samples and one more on each side; 2 * count are written.
 */
export function doubleRow(dst: usize, src: usize, count: i32): void {
  const near = f32x4.splat(0.625);
  const side = f32x4.splat(0.3125);
  const far = f32x4.splat(0.0625);
  for (const end = src + (<usize>count << 2); src < end; src += 16) {
    const p = src;
    const before = v128.load(p - 4), after = v128.load(p, 4);
    const c = f32x4.mul(v128.load(p), near);
    const l = f32x4.add(c, f32x4.add(f32x4.mul(before, side), f32x4.mul(after, far)));
    const r = f32x4.add(c, f32x4.add(f32x4.mul(before, far), f32x4.mul(after, side)));
    v128.store(dst, v128.shuffle<f32>(l, r, 0, 4, 1, 5));
    v128.store(dst, v128.shuffle<f32>(l, r, 2, 6, 3, 7), 16);
    dst += 32;
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
