// Separable resampling. Which source samples and weights a target sample takes is worked out outside, once.

/** One row into a scratch row with `pad` samples on each side that continue the edges. */
export function padRow(dst: usize, src: usize, count: i32, pad: i32): void {
  const first = load<f32>(src);
  const last = load<f32>(src + (<usize>(count - 1) << 2));
  for (let k = 0; k < pad; k++) store<f32>(dst + (<usize>k << 2), first);
  memory.copy(dst + (<usize>pad << 2), src, <usize>count << 2);
  const end = dst + (<usize>(pad + count) << 2);
  for (let k = 0; k < pad; k++) store<f32>(end + (<usize>k << 2), last);
}

/**
 * Four samples at a time: dst[4g + j] = sum over k of weights[g][k][j] * src[starts[g] + j + k]. `starts` counts from `src`
 * and holds one number for each group of four; `weights` holds `taps` vectors a group.
 */
export function gatherRow(dst: usize, src: usize, count: i32, starts: usize, weights: usize, taps: i32): void {
  for (let x = 0; x < count; x += 4) {
    const p = src + (<usize>load<i32>(starts + <usize>x) << 2);
    let acc = f32x4.mul(v128.load(p), v128.load(weights));
    for (let k = 1; k < taps; k++) {
      acc = f32x4.add(acc, f32x4.mul(v128.load(p + (<usize>k << 2)), v128.load(weights + (<usize>k << 4))));
    }
    weights += <usize>taps << 4;
    v128.store(dst + (<usize>x << 2), acc);
  }
}

/** dst[x] = sum of weights[k] * src[x + k]: one filter for the whole row. */
export function firRow(dst: usize, src: usize, count: i32, weights: usize, taps: i32): void {
  let x = 0;
  for (; x + 12 < count; x += 16) {
    const p = src + (<usize>x << 2);
    let w = v128.load32_splat(weights);
    let a = f32x4.mul(v128.load(p), w), b = f32x4.mul(v128.load(p, 16), w);
    let c = f32x4.mul(v128.load(p, 32), w), d = f32x4.mul(v128.load(p, 48), w);
    for (let k = 1; k < taps; k++) {
      const q = p + (<usize>k << 2);
      w = v128.load32_splat(weights + (<usize>k << 2));
      a = f32x4.add(a, f32x4.mul(v128.load(q), w));
      b = f32x4.add(b, f32x4.mul(v128.load(q, 16), w));
      c = f32x4.add(c, f32x4.mul(v128.load(q, 32), w));
      d = f32x4.add(d, f32x4.mul(v128.load(q, 48), w));
    }
    const o = dst + (<usize>x << 2);
    v128.store(o, a);
    v128.store(o, b, 16);
    v128.store(o, c, 32);
    v128.store(o, d, 48);
  }
  for (; x < count; x += 4) {
    const p = src + (<usize>x << 2);
    let a = f32x4.mul(v128.load(p), v128.load32_splat(weights));
    for (let k = 1; k < taps; k++) {
      a = f32x4.add(a, f32x4.mul(v128.load(p + (<usize>k << 2)), v128.load32_splat(weights + (<usize>k << 2))));
    }
    v128.store(dst + (<usize>x << 2), a);
  }
}

/** dst[x] = sum of weights[k] * rows[k][x]; `rows` holds addresses. */
export function mixRows(dst: usize, rows: usize, weights: usize, taps: i32, count: i32): void {
  let x = 0;
  for (; x + 12 < count; x += 16) {
    const at = <usize>x << 2;
    let w = v128.load32_splat(weights);
    let p = <usize>load<u32>(rows) + at;
    let a = f32x4.mul(v128.load(p), w), b = f32x4.mul(v128.load(p, 16), w);
    let c = f32x4.mul(v128.load(p, 32), w), d = f32x4.mul(v128.load(p, 48), w);
    for (let k = 1; k < taps; k++) {
      p = <usize>load<u32>(rows + (<usize>k << 2)) + at;
      w = v128.load32_splat(weights + (<usize>k << 2));
      a = f32x4.add(a, f32x4.mul(v128.load(p), w));
      b = f32x4.add(b, f32x4.mul(v128.load(p, 16), w));
      c = f32x4.add(c, f32x4.mul(v128.load(p, 32), w));
      d = f32x4.add(d, f32x4.mul(v128.load(p, 48), w));
    }
    v128.store(dst + at, a);
    v128.store(dst + at, b, 16);
    v128.store(dst + at, c, 32);
    v128.store(dst + at, d, 48);
  }
  for (; x < count; x += 4) {
    const at = <usize>x << 2;
    let a = f32x4.mul(v128.load(<usize>load<u32>(rows) + at), v128.load32_splat(weights));
    for (let k = 1; k < taps; k++) {
      a = f32x4.add(a, f32x4.mul(v128.load(<usize>load<u32>(rows + (<usize>k << 2)) + at), v128.load32_splat(weights + (<usize>k << 2))));
    }
    v128.store(dst + at, a);
  }
}
