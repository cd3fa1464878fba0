// Tables of one and of three dimensions.
import { whole } from './lanes';

/** The share `f` of the way from an entry to the one after it, for four at the byte offsets `i`. */
// @ts-ignore: decorator
@inline
function between(table: usize, i: v128, f: v128): v128 {
  // An entry and the one after it are loaded as a pair.
  let a = v128.load64_zero(table + <usize>i32x4.extract_lane(i, 0));
  a = v128.load64_lane(table + <usize>i32x4.extract_lane(i, 1), a, 1);
  let b = v128.load64_zero(table + <usize>i32x4.extract_lane(i, 2));
  b = v128.load64_lane(table + <usize>i32x4.extract_lane(i, 3), b, 1);
  const near = v128.shuffle<f32>(a, b, 0, 2, 4, 6);
  return f32x4.add(near, f32x4.mul(f32x4.sub(v128.shuffle<f32>(a, b, 1, 3, 5, 7), near), f));
}

/** v -> table[(v - low) * scale], between entries along a line, held at both ends. `table` holds `size` floats. */
export function tableRow(p: usize, count: i32, table: usize, size: i32, low: f32, scale: f32): void {
  const last = f32x4.splat(<f32>(size - 1));
  const before = f32x4.splat(<f32>(size - 2));
  const from = f32x4.splat(low);
  const by = f32x4.splat(scale);
  // Two vectors a turn: each waits on what it looks up.
  for (const end = p + (<usize>count << 2); p < end; p += 32) {
    const a = f32x4.pmin(last, f32x4.pmax(f32x4.splat(0), f32x4.mul(f32x4.sub(v128.load(p), from), by)));
    const b = f32x4.pmin(last, f32x4.pmax(f32x4.splat(0), f32x4.mul(f32x4.sub(v128.load(p, 16), from), by)));
    const i = f32x4.pmin(before, f32x4.floor(a)), j = f32x4.pmin(before, f32x4.floor(b));
    v128.store(p, between(table, i32x4.shl(whole(i), 2), f32x4.sub(a, i)));
    v128.store(p, between(table, i32x4.shl(whole(j), 2), f32x4.sub(b, j)), 16);
  }
}

/** Of `lightRow`: the least and the most light, and one; the bits of the way to the next entry. */
const LIGHT: usize = memory.data<f32>([1.862645149230957e-9, 1.862645149230957e-9, 1.862645149230957e-9, 1.862645149230957e-9, 127.99999, 127.99999, 127.99999, 127.99999, 1, 1, 1, 1], 16);
const LIGHT_BITS: usize = memory.data<i32>([0x3ffff, 0x3ffff, 0x3ffff, 0x3ffff], 16);

/**
 * Light (linear) through a table whose entries stand 32 to each doubling, from 2^-29 to 2^7 (1153 of them), straight between: what
 * depends on how many times brighter a thing is needs no logarithm first.
 */
export function lightRow(p: usize, count: i32, table: usize): void {
  // An entry's place is the upper bits of its number: exponent and five bits of the mantissa; the 18 below are the way to the next.
  const first = table - (0x31000000 >> 16);
  for (const end = p + (<usize>count << 2); p < end; p += 16) {
    const v = f32x4.pmin(v128.load(LIGHT, 16), f32x4.pmax(v128.load(LIGHT), v128.load(p)));
    const i = i32x4.shl(i32x4.shr_u(v, 18), 2);
    const f = f32x4.sub(v128.or(i32x4.shl(v128.and(v, v128.load(LIGHT_BITS)), 5), v128.load(LIGHT, 32)), v128.load(LIGHT, 32));
    v128.store(p, between(first, i, f));
  }
}

/** One colour of four: the near corner, two on the way and the far one, each by its share. */
// @ts-ignore: decorator
@inline
function blend(p: usize, q: usize, s: usize, far: usize, w0: v128, w1: v128, w2: v128, w3: v128): v128 {
  return f32x4.add(f32x4.add(f32x4.mul(v128.load(p), w0), f32x4.mul(v128.load(q), w1)), f32x4.add(f32x4.mul(v128.load(s), w2), f32x4.mul(v128.load(far), w3)));
}

/**
 * Three planes through a cube of colours, tetrahedral between its points (red runs fastest; `cube` holds 4 floats a point, the
 * last unused, `size` points a side). Input is held to 0..1.
 */
export function cubeRow(r: usize, g: usize, b: usize, count: i32, cube: usize, size: i32): void {
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  const last = f32x4.splat(<f32>(size - 1));
  const before = f32x4.splat(<f32>(size - 2));
  const side = i32x4.splat(size);
  const sx = i32x4.splat(16), sy = i32x4.splat(16 * size), sz = i32x4.splat(16 * size * size);
  const across = 16 + 16 * size + 16 * size * size;
  for (let x = 0; x < count; x += 4) {
    const at = <usize>x << 2;
    const fr = f32x4.pmin(last, f32x4.pmax(zero, f32x4.mul(v128.load(r + at), last)));
    const fg = f32x4.pmin(last, f32x4.pmax(zero, f32x4.mul(v128.load(g + at), last)));
    const fb = f32x4.pmin(last, f32x4.pmax(zero, f32x4.mul(v128.load(b + at), last)));
    const ir = f32x4.pmin(before, f32x4.floor(fr)), ig = f32x4.pmin(before, f32x4.floor(fg)), ib = f32x4.pmin(before, f32x4.floor(fb));
    const dr = f32x4.sub(fr, ir), dg = f32x4.sub(fg, ig), db = f32x4.sub(fb, ib);
    const near = i32x4.shl(i32x4.add(whole(ir), i32x4.mul(side, i32x4.add(whole(ig), i32x4.mul(side, whole(ib))))), 4);
    // The path from the near corner to the far one goes along the largest fraction first, along the smallest last.
    const low2 = f32x4.pmin(dr, dg), high2 = f32x4.pmax(dr, dg);
    const hi = f32x4.pmax(high2, db), lo = f32x4.pmin(low2, db);
    const mid = f32x4.pmax(low2, f32x4.pmin(high2, db));
    const first = v128.bitselect(v128.bitselect(sx, sy, f32x4.ge(dr, dg)), sz, f32x4.ge(high2, db));
    const final = v128.bitselect(v128.bitselect(sx, sy, f32x4.lt(dr, dg)), sz, f32x4.le(low2, db));
    const w0 = f32x4.sub(one, hi), w1 = f32x4.sub(hi, mid), w2 = f32x4.sub(mid, lo);
    const p0 = cube + <usize>i32x4.extract_lane(near, 0), p1 = cube + <usize>i32x4.extract_lane(near, 1);
    const p2 = cube + <usize>i32x4.extract_lane(near, 2), p3 = cube + <usize>i32x4.extract_lane(near, 3);
    const c0 = blend(p0, p0 + <usize>i32x4.extract_lane(first, 0), p0 + <usize>(across - i32x4.extract_lane(final, 0)), p0 + <usize>across,
      v128.shuffle<f32>(w0, w0, 0, 0, 0, 0), v128.shuffle<f32>(w1, w1, 0, 0, 0, 0), v128.shuffle<f32>(w2, w2, 0, 0, 0, 0), v128.shuffle<f32>(lo, lo, 0, 0, 0, 0));
    const c1 = blend(p1, p1 + <usize>i32x4.extract_lane(first, 1), p1 + <usize>(across - i32x4.extract_lane(final, 1)), p1 + <usize>across,
      v128.shuffle<f32>(w0, w0, 1, 1, 1, 1), v128.shuffle<f32>(w1, w1, 1, 1, 1, 1), v128.shuffle<f32>(w2, w2, 1, 1, 1, 1), v128.shuffle<f32>(lo, lo, 1, 1, 1, 1));
    const c2 = blend(p2, p2 + <usize>i32x4.extract_lane(first, 2), p2 + <usize>(across - i32x4.extract_lane(final, 2)), p2 + <usize>across,
      v128.shuffle<f32>(w0, w0, 2, 2, 2, 2), v128.shuffle<f32>(w1, w1, 2, 2, 2, 2), v128.shuffle<f32>(w2, w2, 2, 2, 2, 2), v128.shuffle<f32>(lo, lo, 2, 2, 2, 2));
    const c3 = blend(p3, p3 + <usize>i32x4.extract_lane(first, 3), p3 + <usize>(across - i32x4.extract_lane(final, 3)), p3 + <usize>across,
      v128.shuffle<f32>(w0, w0, 3, 3, 3, 3), v128.shuffle<f32>(w1, w1, 3, 3, 3, 3), v128.shuffle<f32>(w2, w2, 3, 3, 3, 3), v128.shuffle<f32>(lo, lo, 3, 3, 3, 3));
    const u = v128.shuffle<f32>(c0, c1, 0, 4, 1, 5), v = v128.shuffle<f32>(c2, c3, 0, 4, 1, 5);
    v128.store(r + at, v128.shuffle<f32>(u, v, 0, 1, 4, 5));
    v128.store(g + at, v128.shuffle<f32>(u, v, 2, 3, 6, 7));
    v128.store(b + at, v128.shuffle<f32>(v128.shuffle<f32>(c0, c1, 2, 6, 3, 7), v128.shuffle<f32>(c2, c3, 2, 6, 3, 7), 0, 1, 4, 5));
  }
}
