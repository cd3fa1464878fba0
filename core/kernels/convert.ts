// Files' pictures (8-bit and wider integers, Y'CbCr or R'G'B') to float planes and back.
//
// Rows of float planes are padded to a multiple of 8 samples; rows of integer planes may be over-read
// by 15 bytes and over-written by up to 8 samples, so every integer plane is followed by slack.
import { whole } from './lanes';

/** Four integers of a plane as floats. `bytes` is 1 or 2. */
// @ts-ignore: decorator
@inline
function load4(p: usize, bytes: usize): v128 {
  const wide = bytes == 1 ? i16x8.extend_low_i8x16_u(v128.load32_zero(p)) : v128.load64_zero(p);
  return f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(wide));
}

/** Rounds and clamps to 0..max. */
// @ts-ignore: decorator
@inline
function code(v: v128, max: v128): v128 {
  return whole(f32x4.pmin(max, f32x4.pmax(f32x4.splat(0), v)));
}

/** Eight floats, already scaled to codes, rounded to nearest, clamped to 0..max and stored. */
// @ts-ignore: decorator
@inline
function store8(p: usize, a: v128, b: v128, max: v128, bytes: usize): void {
  const words = i16x8.narrow_i32x4_u(code(a, max), code(b, max));
  if (bytes == 1) v128.store64_lane(p, i8x16.narrow_i16x8_u(words, words), 0);
  else v128.store(p, words);
}

// Each conversion is written once for a width of integers that is known when it is compiled, and runs for 1 or 2 bytes: a choice
// made at each group would cost as much as the group. Loops count in bytes towards an end (see resample.ts).

// @ts-ignore: decorator
@inline
function codesOf(dst: usize, src: usize, count: i32, bytes: usize, scale: f32, offset: f32): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  for (const end = dst + (<usize>count << 2); dst < end; dst += 16) {
    v128.store(dst, f32x4.add(f32x4.mul(load4(src, bytes), s), o));
    src += 4 * bytes;
  }
}

/** codes * scale + offset, for `count` samples of one row (R'G'B' planes, luma alone). */
export function codesToFloat(dst: usize, src: usize, count: i32, bytes: i32, scale: f32, offset: f32): void {
  if (bytes == 1) codesOf(dst, src, count, 1, scale, offset);
  else codesOf(dst, src, count, 2, scale, offset);
}

// @ts-ignore: decorator
@inline
function floatsOf(dst: usize, src: usize, count: i32, bytes: usize, scale: f32, offset: f32, max: f32): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  const top = f32x4.splat(max);
  const end = src + (<usize>count << 2);
  if (bytes == 1) {
    for (; src + 32 < end; src += 64) {
      const a = code(f32x4.add(f32x4.mul(v128.load(src), s), o), top), b = code(f32x4.add(f32x4.mul(v128.load(src, 16), s), o), top);
      const c = code(f32x4.add(f32x4.mul(v128.load(src, 32), s), o), top), d = code(f32x4.add(f32x4.mul(v128.load(src, 48), s), o), top);
      v128.store(dst, i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_u(a, b), i16x8.narrow_i32x4_u(c, d)));
      dst += 16;
    }
  }
  for (; src < end; src += 32) {
    store8(dst, f32x4.add(f32x4.mul(v128.load(src), s), o), f32x4.add(f32x4.mul(v128.load(src, 16), s), o), top, bytes);
    dst += 8 * bytes;
  }
}

/** round(v * scale + offset) clamped to 0..max, for `count` samples of one row. */
export function floatToCodes(dst: usize, src: usize, count: i32, bytes: i32, scale: f32, offset: f32, max: f32): void {
  if (bytes == 1) floatsOf(dst, src, count, 1, scale, offset, max);
  else floatsOf(dst, src, count, 2, scale, offset, max);
}

// @ts-ignore: decorator
@inline
function chromaOf(dst: usize, near: usize, far: usize, count: i32, bytes: usize, scale: f32, offset: f32): void {
  const a = f32x4.splat(scale * 0.75);
  const b = f32x4.splat(scale * 0.25);
  const o = f32x4.splat(offset);
  const end = dst + (<usize>count << 2);
  for (let p = dst; p < end; p += 16) {
    v128.store(p, f32x4.add(f32x4.add(f32x4.mul(load4(near, bytes), a), f32x4.mul(load4(far, bytes), b)), o));
    near += 4 * bytes;
    far += 4 * bytes;
  }
  // The sample after the last continues the edge, for the interpolation between columns.
  store<f32>(end, load<f32>(end - 4));
}

/** One row of chroma between two rows of a subsampled plane: near * 3/4 + far * 1/4 (or near alone when they are equal). */
export function chromaRow(dst: usize, near: usize, far: usize, count: i32, bytes: i32, scale: f32, offset: f32): void {
  if (bytes == 1) chromaOf(dst, near, far, count, 1, scale, offset);
  else chromaOf(dst, near, far, count, 2, scale, offset);
}

/** One pixel group's R'G'B' from luma and chroma (centred on 0). */
// @ts-ignore: decorator
@inline
function storeRgb(r: usize, g: usize, b: usize, y: v128, u: v128, v: v128, rv: v128, gu: v128, gv: v128, bu: v128): void {
  v128.store(r, f32x4.add(y, f32x4.mul(v, rv)));
  v128.store(g, f32x4.sub(f32x4.sub(y, f32x4.mul(u, gu)), f32x4.mul(v, gv)));
  v128.store(b, f32x4.add(y, f32x4.mul(u, bu)));
}

// @ts-ignore: decorator
@inline
function rgbOf(
  r: usize, g: usize, b: usize, luma: usize, cb: usize, cr: usize, count: i32, bytes: usize,
  scale: f32, offset: f32, rv: f32, gu: f32, gv: f32, bu: f32,
): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  const vr = f32x4.splat(rv), ug = f32x4.splat(gu), vg = f32x4.splat(gv), ub = f32x4.splat(bu);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const y = f32x4.add(f32x4.mul(load4(luma, bytes), s), o);
    luma += 4 * bytes;
    storeRgb(r + at, g + at, b + at, y, v128.load(cb + at), v128.load(cr + at), vr, ug, vg, ub);
  }
}

/** Luma codes and float chroma rows (centred on 0) of the same width to R'G'B'. */
export function yuvToRgbRow(
  r: usize, g: usize, b: usize, luma: usize, cb: usize, cr: usize, count: i32, bytes: i32,
  scale: f32, offset: f32, rv: f32, gu: f32, gv: f32, bu: f32,
): void {
  if (bytes == 1) rgbOf(r, g, b, luma, cb, cr, count, 1, scale, offset, rv, gu, gv, bu);
  else rgbOf(r, g, b, luma, cb, cr, count, 2, scale, offset, rv, gu, gv, bu);
}

// @ts-ignore: decorator
@inline
function rgbOfHalf(
  r: usize, g: usize, b: usize, luma: usize, cb: usize, cr: usize, count: i32, bytes: usize,
  scale: f32, offset: f32, rv: f32, gu: f32, gv: f32, bu: f32,
): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  const vr = f32x4.splat(rv), ug = f32x4.splat(gu), vg = f32x4.splat(gv), ub = f32x4.splat(bu);
  const half = f32x4.splat(0.5);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 32) {
    const u = v128.load(cb), v = v128.load(cr);
    const uu = f32x4.mul(f32x4.add(u, v128.load(cb, 4)), half), vv = f32x4.mul(f32x4.add(v, v128.load(cr, 4)), half);
    cb += 16;
    cr += 16;
    const y0 = f32x4.add(f32x4.mul(load4(luma, bytes), s), o), y1 = f32x4.add(f32x4.mul(load4(luma + 4 * bytes, bytes), s), o);
    luma += 8 * bytes;
    storeRgb(r + at, g + at, b + at, y0, v128.shuffle<f32>(u, uu, 0, 4, 1, 5), v128.shuffle<f32>(v, vv, 0, 4, 1, 5), vr, ug, vg, ub);
    storeRgb(r + at + 16, g + at + 16, b + at + 16, y1, v128.shuffle<f32>(u, uu, 2, 6, 3, 7), v128.shuffle<f32>(v, vv, 2, 6, 3, 7), vr, ug, vg, ub);
  }
}

/**
 * As yuvToRgbRow from chroma rows of half the width (with one sample more): even columns stand on the chroma samples
 * (left-sited, BT.601 and H.264's default), odd ones halfway between two.
 */
export function yuvHalfToRgbRow(
  r: usize, g: usize, b: usize, luma: usize, cb: usize, cr: usize, count: i32, bytes: i32,
  scale: f32, offset: f32, rv: f32, gu: f32, gv: f32, bu: f32,
): void {
  if (bytes == 1) rgbOfHalf(r, g, b, luma, cb, cr, count, 1, scale, offset, rv, gu, gv, bu);
  else rgbOfHalf(r, g, b, luma, cb, cr, count, 2, scale, offset, rv, gu, gv, bu);
}

/** Chroma of one pixel group, laid on what stands there. */
// @ts-ignore: decorator
@inline
function lay(p: usize, v: v128, first: i32): void {
  v128.store(p, first ? v : f32x4.add(v, v128.load(p)));
}

// @ts-ignore: decorator
@inline
function yuvOf(
  luma: usize, cb: usize, cr: usize, r: usize, g: usize, b: usize, count: i32, bytes: usize,
  scale: f32, offset: f32, max: f32, kr: f32, kb: f32, weight: f32, first: i32,
): void {
  const wr = f32x4.splat(kr);
  const wb = f32x4.splat(kb);
  const wg = f32x4.splat(1 - kr - kb);
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  const wu = f32x4.splat(weight / (2 * (1 - kb)));
  const wv = f32x4.splat(weight / (2 * (1 - kr)));
  const top = f32x4.splat(max);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 32) {
    const r0 = v128.load(r + at), g0 = v128.load(g + at), b0 = v128.load(b + at);
    const r1 = v128.load(r + at, 16), g1 = v128.load(g + at, 16), b1 = v128.load(b + at, 16);
    const y0 = f32x4.add(f32x4.add(f32x4.mul(r0, wr), f32x4.mul(g0, wg)), f32x4.mul(b0, wb));
    const y1 = f32x4.add(f32x4.add(f32x4.mul(r1, wr), f32x4.mul(g1, wg)), f32x4.mul(b1, wb));
    store8(luma, f32x4.add(f32x4.mul(y0, s), o), f32x4.add(f32x4.mul(y1, s), o), top, bytes);
    luma += 8 * bytes;
    lay(cb + at, f32x4.mul(f32x4.sub(b0, y0), wu), first);
    lay(cb + at + 16, f32x4.mul(f32x4.sub(b1, y1), wu), first);
    lay(cr + at, f32x4.mul(f32x4.sub(r0, y0), wv), first);
    lay(cr + at + 16, f32x4.mul(f32x4.sub(r1, y1), wv), first);
  }
}

/**
 * R'G'B' to luma codes, and to float Cb and Cr (-1/2..1/2) that are added with `weight` to what the chroma rows hold
 * (`first` 1 clears them before), so that two rows can be averaged for 4:2:0.
 */
export function rgbToYuvRow(
  luma: usize, cb: usize, cr: usize, r: usize, g: usize, b: usize, count: i32, bytes: i32,
  scale: f32, offset: f32, max: f32, kr: f32, kb: f32, weight: f32, first: i32,
): void {
  if (bytes == 1) yuvOf(luma, cb, cr, r, g, b, count, 1, scale, offset, max, kr, kb, weight, first);
  else yuvOf(luma, cb, cr, r, g, b, count, 2, scale, offset, max, kr, kb, weight, first);
}

/** Half the columns, filtered 1/4 1/2 1/4 about the even ones (left-sited). `src` holds `width` samples and has room for one on each side. */
export function chromaNarrow(dst: usize, src: usize, width: i32): void {
  store<f32>(src - 4, load<f32>(src + 4 * <usize>min(1, width - 1)));
  const last = load<f32>(src + (<usize>(width - 1) << 2));
  for (let k = 0; k < 8; k++) store<f32>(src + (<usize>(width + k) << 2), last);
  const count = (width + 1) >> 1;
  const quarter = f32x4.splat(0.25);
  const half = f32x4.splat(0.5);
  for (const end = dst + (<usize>count << 2); dst < end; dst += 16) {
    const p = src;
    src += 32;
    const a = v128.load(p - 4), b = v128.load(p - 4, 16);
    const c = v128.load(p), d = v128.load(p, 16);
    const left = v128.shuffle<f32>(a, b, 0, 2, 4, 6);
    const mid = v128.shuffle<f32>(c, d, 0, 2, 4, 6);
    const right = v128.shuffle<f32>(c, d, 1, 3, 5, 7);
    v128.store(dst, f32x4.add(f32x4.mul(f32x4.add(left, right), quarter), f32x4.mul(mid, half)));
  }
}

/** R'G'B' floats (0..1) to interleaved 8-bit RGBA, opaque. Writes whole groups of four pixels. */
export function rgbToRgba(dst: usize, r: usize, g: usize, b: usize, count: i32): void {
  const top = f32x4.splat(255);
  const opaque = i32x4.splat(0xff000000);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const ir = code(f32x4.mul(v128.load(r + at), top), top);
    const ig = code(f32x4.mul(v128.load(g + at), top), top);
    const ib = code(f32x4.mul(v128.load(b + at), top), top);
    v128.store(dst + at, v128.or(v128.or(ir, i32x4.shl(ig, 8)), v128.or(i32x4.shl(ib, 16), opaque)));
  }
}
