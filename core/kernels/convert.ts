// Files' pictures (8-bit and wider integers, Y'CbCr or R'G'B') to float planes and back.
//
// Rows of float planes are padded to a multiple of 8 samples; rows of integer planes may be over-read
// by 15 bytes and over-written by up to 8 samples, so every integer plane is followed by slack.

/** Four integers of a plane as floats. `bytes` is 1 or 2. */
// @ts-ignore: decorator
@inline
function load4(p: usize, bytes: i32): v128 {
  const wide = bytes == 1 ? i16x8.extend_low_i8x16_u(v128.load32_zero(p)) : v128.load64_zero(p);
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(wide));
}

/** Rounds (halves to even) and clamps to 0..max: adding 2^23 leaves the whole number in the low bits. */
// @ts-ignore: decorator
@inline
function code(v: v128, max: f32): v128 {
  const held = f32x4.pmin(f32x4.splat(max), f32x4.pmax(f32x4.splat(0), v));
  return v128.and(f32x4.add(held, f32x4.splat(8388608)), i32x4.splat(0x7fffff));
}

/** Eight floats, already scaled to codes, rounded to nearest, clamped to 0..max and stored. */
// @ts-ignore: decorator
@inline
function store8(p: usize, a: v128, b: v128, max: f32, bytes: i32): void {
  const ia = code(a, max);
  const ib = code(b, max);
  const words = i16x8.narrow_i32x4_u(ia, ib);
  if (bytes == 1) v128.store64_lane(p, i8x16.narrow_i16x8_u(words, words), 0);
  else v128.store(p, words);
}

/** codes * scale + offset, for `count` samples of one row (R'G'B' planes, luma alone). */
export function codesToFloat(dst: usize, src: usize, count: i32, bytes: i32, scale: f32, offset: f32): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  for (let x = 0; x < count; x += 4) {
    v128.store(dst + (<usize>x << 2), f32x4.add(f32x4.mul(load4(src + <usize>(x * bytes), bytes), s), o));
  }
}

/** round(v * scale + offset) clamped to 0..max, for `count` samples of one row. */
export function floatToCodes(dst: usize, src: usize, count: i32, bytes: i32, scale: f32, offset: f32, max: f32): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  for (let x = 0; x < count; x += 8) {
    const p = src + (<usize>x << 2);
    const a = f32x4.add(f32x4.mul(v128.load(p), s), o);
    const b = f32x4.add(f32x4.mul(v128.load(p, 16), s), o);
    store8(dst + <usize>(x * bytes), a, b, max, bytes);
  }
}

/** One row of chroma between two rows of a subsampled plane: near * 3/4 + far * 1/4 (or near alone when they are equal). */
export function chromaRow(dst: usize, near: usize, far: usize, count: i32, bytes: i32, scale: f32, offset: f32): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  const a = f32x4.splat(0.75);
  const b = f32x4.splat(0.25);
  for (let x = 0; x < count; x += 4) {
    const q = <usize>(x * bytes);
    const v = f32x4.add(f32x4.mul(load4(near + q, bytes), a), f32x4.mul(load4(far + q, bytes), b));
    v128.store(dst + (<usize>x << 2), f32x4.add(f32x4.mul(v, s), o));
  }
  // The sample after the last continues the edge, for the interpolation between columns.
  store<f32>(dst + (<usize>count << 2), load<f32>(dst + (<usize>(count - 1) << 2)));
}

/** Twice as many columns; even columns stand on the chroma samples (left-sited, BT.601 and H.264's default). */
export function chromaWiden(dst: usize, src: usize, count: i32): void {
  const half = f32x4.splat(0.5);
  for (let x = 0; x < count; x += 4) {
    const p = src + (<usize>x << 2);
    const c = v128.load(p);
    const between = f32x4.mul(f32x4.add(c, v128.load(p, 4)), half);
    v128.store(dst + (<usize>x << 3), v128.shuffle<f32>(c, between, 0, 4, 1, 5));
    v128.store(dst + (<usize>x << 3), v128.shuffle<f32>(c, between, 2, 6, 3, 7), 16);
  }
}

/** Luma codes and float chroma rows (centred on 0) to R'G'B'. */
export function yuvToRgbRow(
  r: usize, g: usize, b: usize, luma: usize, cb: usize, cr: usize, count: i32, bytes: i32,
  scale: f32, offset: f32, rv: f32, gu: f32, gv: f32, bu: f32,
): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  for (let x = 0; x < count; x += 4) {
    const at = <usize>x << 2;
    const y = f32x4.add(f32x4.mul(load4(luma + <usize>(x * bytes), bytes), s), o);
    const u = v128.load(cb + at);
    const v = v128.load(cr + at);
    v128.store(r + at, f32x4.add(y, f32x4.mul(v, f32x4.splat(rv))));
    v128.store(g + at, f32x4.sub(f32x4.sub(y, f32x4.mul(u, f32x4.splat(gu))), f32x4.mul(v, f32x4.splat(gv))));
    v128.store(b + at, f32x4.add(y, f32x4.mul(u, f32x4.splat(bu))));
  }
}

/**
 * R'G'B' to luma codes, and to float Cb and Cr (-1/2..1/2) that are added with `weight` to what the chroma rows hold
 * (0 first clears them), so that two rows can be averaged for 4:2:0.
 */
export function rgbToYuvRow(
  luma: usize, cb: usize, cr: usize, r: usize, g: usize, b: usize, count: i32, bytes: i32,
  scale: f32, offset: f32, max: f32, kr: f32, kb: f32, weight: f32, first: i32,
): void {
  const wr = f32x4.splat(kr);
  const wb = f32x4.splat(kb);
  const wg = f32x4.splat(1 - kr - kb);
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  const wu = f32x4.splat(weight / (2 * (1 - kb)));
  const wv = f32x4.splat(weight / (2 * (1 - kr)));
  for (let x = 0; x < count; x += 8) {
    let at = <usize>x << 2;
    const at2 = at + 16;
    const r0 = v128.load(r + at), g0 = v128.load(g + at), b0 = v128.load(b + at);
    const r1 = v128.load(r + at2), g1 = v128.load(g + at2), b1 = v128.load(b + at2);
    const y0 = f32x4.add(f32x4.add(f32x4.mul(r0, wr), f32x4.mul(g0, wg)), f32x4.mul(b0, wb));
    const y1 = f32x4.add(f32x4.add(f32x4.mul(r1, wr), f32x4.mul(g1, wg)), f32x4.mul(b1, wb));
    store8(luma + <usize>(x * bytes), f32x4.add(f32x4.mul(y0, s), o), f32x4.add(f32x4.mul(y1, s), o), max, bytes);
    let u0 = f32x4.mul(f32x4.sub(b0, y0), wu), u1 = f32x4.mul(f32x4.sub(b1, y1), wu);
    let v0 = f32x4.mul(f32x4.sub(r0, y0), wv), v1 = f32x4.mul(f32x4.sub(r1, y1), wv);
    if (!first) {
      u0 = f32x4.add(u0, v128.load(cb + at));
      u1 = f32x4.add(u1, v128.load(cb + at2));
      v0 = f32x4.add(v0, v128.load(cr + at));
      v1 = f32x4.add(v1, v128.load(cr + at2));
    }
    v128.store(cb + at, u0);
    v128.store(cb + at2, u1);
    v128.store(cr + at, v0);
    v128.store(cr + at2, v1);
  }
}

/** Half the columns, filtered 1/4 1/2 1/4 about the even ones (left-sited). `src` holds `width` samples and has room for one on each side. */
export function chromaNarrow(dst: usize, src: usize, width: i32): void {
  store<f32>(src - 4, load<f32>(src + 4 * <usize>min(1, width - 1)));
  const last = load<f32>(src + (<usize>(width - 1) << 2));
  for (let k = 0; k < 8; k++) store<f32>(src + (<usize>(width + k) << 2), last);
  const count = (width + 1) >> 1;
  const quarter = f32x4.splat(0.25);
  const half = f32x4.splat(0.5);
  for (let x = 0; x < count; x += 4) {
    const p = src + (<usize>x << 3);
    const a = v128.load(p - 4), b = v128.load(p - 4, 16);
    const c = v128.load(p), d = v128.load(p, 16);
    const left = v128.shuffle<f32>(a, b, 0, 2, 4, 6);
    const mid = v128.shuffle<f32>(c, d, 0, 2, 4, 6);
    const right = v128.shuffle<f32>(c, d, 1, 3, 5, 7);
    v128.store(dst + (<usize>x << 2), f32x4.add(f32x4.mul(f32x4.add(left, right), quarter), f32x4.mul(mid, half)));
  }
}

/** R'G'B' floats (0..1) to interleaved 8-bit RGBA, opaque. Writes whole groups of four pixels. */
export function rgbToRgba(dst: usize, r: usize, g: usize, b: usize, count: i32): void {
  const top = f32x4.splat(255);
  const opaque = i32x4.splat(0xff000000);
  for (let x = 0; x < count; x += 4) {
    const at = <usize>x << 2;
    const ir = code(f32x4.mul(v128.load(r + at), top), 255);
    const ig = code(f32x4.mul(v128.load(g + at), top), 255);
    const ib = code(f32x4.mul(v128.load(b + at), top), 255);
    v128.store(dst + at, v128.or(v128.or(ir, i32x4.shl(ig, 8)), v128.or(i32x4.shl(ib, 16), opaque)));
  }
}
