// Pictures bent: each sample is taken from a place of its own.

/** dst[x] = start + step * x: the places of an affine move along a row. */
export function rampRow(dst: usize, count: i32, start: f32, step: f32): void {
  const s = f32x4.splat(step);
  for (let x = 0; x < count; x += 4) v128.store(dst + (<usize>x << 2), f32x4.add(f32x4.splat(start), f32x4.mul(s, f32x4.add(f32x4.splat(<f32>x), f32x4(0, 1, 2, 3)))));
}

/** Catmull-Rom weights of the four samples about a place, as polynomials of its fraction: the highest power first. */
const CUBIC: usize = memory.data<f32>([-0.5, 1.5, -1.5, 0.5, 1, -2.5, 2, -0.5, -0.5, 0, 0.5, 0, 0, 1, 0, 0], 16);

/** Those weights for the fraction f. */
// @ts-ignore: decorator
@inline
function cubic(f: f32): v128 {
  const v = f32x4.splat(f);
  let w = f32x4.add(f32x4.mul(v128.load(CUBIC), v), v128.load(CUBIC, 16));
  w = f32x4.add(f32x4.mul(w, v), v128.load(CUBIC, 32));
  return f32x4.add(f32x4.mul(w, v), v128.load(CUBIC, 48));
}

/** Sum of four lanes, outer pairs first. */
// @ts-ignore: decorator
@inline
function sum4(v: v128): f32 {
  const h = f32x4.add(v, v128.shuffle<f32>(v, v, 2, 3, 0, 1));
  return f32x4.extract_lane(h, 0) + f32x4.extract_lane(h, 1);
}

/** Four samples of a row from column i on, the edges continued. */
// @ts-ignore: decorator
@inline
function four(row: usize, i: i32, width: i32): v128 {
  if (i >= 0 && i + 3 < width) return v128.load(row + (<usize>i << 2));
  const last = width - 1;
  return f32x4(
    load<f32>(row + (<usize>min(last, max(0, i)) << 2)),
    load<f32>(row + (<usize>min(last, max(0, i + 1)) << 2)),
    load<f32>(row + (<usize>min(last, max(0, i + 2)) << 2)),
    load<f32>(row + (<usize>min(last, max(0, i + 3)) << 2)),
  );
}

/** One sample of a plane by its weights across and down, well inside the picture. */
// @ts-ignore: decorator
@inline
function inside(p: usize, stride: usize, wx: v128, wy: v128): f32 {
  const upper = f32x4.add(f32x4.mul(v128.load(p), v128.shuffle<f32>(wy, wy, 0, 0, 0, 0)), f32x4.mul(v128.load(p + stride), v128.shuffle<f32>(wy, wy, 1, 1, 1, 1)));
  const q = p + stride + stride;
  const lower = f32x4.add(f32x4.mul(v128.load(q), v128.shuffle<f32>(wy, wy, 2, 2, 2, 2)), f32x4.mul(v128.load(q + stride), v128.shuffle<f32>(wy, wy, 3, 3, 3, 3)));
  return sum4(f32x4.mul(f32x4.add(upper, lower), wx));
}

/** A sample by the cubic at each place (xs, ys), in samples whose centres are whole numbers; edges are continued. */
export function warpCubic(dst: usize, count: i32, xs: usize, ys: usize, src: usize, stride: usize, width: i32, height: i32): void {
  const bottom = height - 1;
  const right = width - 3, below = height - 3;
  for (let n = 0; n < count; n++) {
    const at = <usize>n << 2;
    const x = load<f32>(xs + at), y = load<f32>(ys + at);
    const fx = floor(x), fy = floor(y);
    const i = <i32>fx - 1, j = <i32>fy - 1;
    const wx = cubic(x - fx);
    const wy = cubic(y - fy);
    if (i >= 0 && i < right && j >= 0 && j < below) {
      store<f32>(dst + at, inside(src + <usize>j * stride + (<usize>i << 2), stride, wx, wy));
      continue;
    }
    const r0 = four(src + <usize>min(bottom, max(0, j)) * stride, i, width), r1 = four(src + <usize>min(bottom, max(0, j + 1)) * stride, i, width);
    const r2 = four(src + <usize>min(bottom, max(0, j + 2)) * stride, i, width), r3 = four(src + <usize>min(bottom, max(0, j + 3)) * stride, i, width);
    const upper = f32x4.add(f32x4.mul(r0, v128.shuffle<f32>(wy, wy, 0, 0, 0, 0)), f32x4.mul(r1, v128.shuffle<f32>(wy, wy, 1, 1, 1, 1)));
    const lower = f32x4.add(f32x4.mul(r2, v128.shuffle<f32>(wy, wy, 2, 2, 2, 2)), f32x4.mul(r3, v128.shuffle<f32>(wy, wy, 3, 3, 3, 3)));
    store<f32>(dst + at, sum4(f32x4.mul(f32x4.add(upper, lower), wx)));
  }
}

/** As warpCubic, for three planes of one map: the weights are worked out once. */
export function warpCubicThree(
  d0: usize, d1: usize, d2: usize, count: i32, xs: usize, ys: usize, s0: usize, s1: usize, s2: usize, stride: usize, width: i32, height: i32,
): void {
  const right = width - 3, below = height - 3;
  for (let n = 0; n < count; n++) {
    const at = <usize>n << 2;
    const x = load<f32>(xs + at), y = load<f32>(ys + at);
    const fx = floor(x), fy = floor(y);
    const i = <i32>fx - 1, j = <i32>fy - 1;
    if (i >= 0 && i < right && j >= 0 && j < below) {
      const wx = cubic(x - fx), wy = cubic(y - fy);
      const from = <usize>j * stride + (<usize>i << 2);
      store<f32>(d0 + at, inside(s0 + from, stride, wx, wy));
      store<f32>(d1 + at, inside(s1 + from, stride, wx, wy));
      store<f32>(d2 + at, inside(s2 + from, stride, wx, wy));
      continue;
    }
    warpCubic(d0 + at, 1, xs + at, ys + at, s0, stride, width, height);
    warpCubic(d1 + at, 1, xs + at, ys + at, s1, stride, width, height);
    warpCubic(d2 + at, 1, xs + at, ys + at, s2, stride, width, height);
  }
}

/** As warpCubic, along straight lines between the four nearest samples. */
export function warpLinear(dst: usize, count: i32, xs: usize, ys: usize, src: usize, stride: usize, width: i32, height: i32): void {
  const right = width - 1;
  const bottom = height - 1;
  for (let n = 0; n < count; n++) {
    const at = <usize>n << 2;
    const x = load<f32>(xs + at), y = load<f32>(ys + at);
    const fx = floor(x), fy = floor(y);
    const a = x - fx, b = y - fy;
    const i0 = <usize>min(right, max(0, <i32>fx)) << 2, i1 = <usize>min(right, max(0, <i32>fx + 1)) << 2;
    const r0 = src + <usize>min(bottom, max(0, <i32>fy)) * stride, r1 = src + <usize>min(bottom, max(0, <i32>fy + 1)) * stride;
    const u0 = load<f32>(r0 + i0), u1 = load<f32>(r1 + i0);
    const u = u0 + (load<f32>(r0 + i1) - u0) * a;
    const v = u1 + (load<f32>(r1 + i1) - u1) * a;
    store<f32>(dst + at, u + (v - u) * b);
  }
}
