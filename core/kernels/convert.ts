// Files' pictures (8-bit and wider integers, Y'CbCr or R'G'B') to float planes and back.
//
// Rows of float planes are padded to a multiple of 8 samples; rows of integer planes may be over-read
// by 15 bytes and over-written by up to 8 samples, so every integer plane is followed by slack.
import { ROUND, WHOLE_BITS } from './lanes';

/** Four integers of a plane. `bytes` is 1 or 2. */
// @ts-ignore: decorator
@inline
function ints4(p: usize, bytes: usize): v128 {
  if (bytes == 2) return v128.load_ext<u16>(p);
  return i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(p)));
}

/** As `ints4`, as floats. */
// @ts-ignore: decorator
@inline
function load4(p: usize, bytes: usize): v128 {
  return f32x4.convert_i32x4_s(ints4(p, bytes));
}

/** What turns floats, scaled to codes, into codes: the bounds before `offset` is added, and the number whose addition adds it and rounds. */
// @ts-ignore: decorator
@inline
function code(v: v128, low: v128, high: v128, round: v128): v128 {
  return v128.and(f32x4.add(f32x4.pmin(high, f32x4.pmax(low, v)), round), v128.load(WHOLE_BITS));
}

/** Eight floats, already scaled to codes, rounded to nearest, clamped and stored. */
// @ts-ignore: decorator
@inline
function store8(p: usize, a: v128, b: v128, low: v128, high: v128, round: v128, bytes: usize): void {
  const words = i16x8.narrow_i32x4_u(code(a, low, high, round), code(b, low, high, round));
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
  for (const end = dst + (<usize>count << 2); dst < end; dst += 32) {
    const words = bytes == 1 ? v128.load_ext<u8>(src) : v128.load(src);
    const a = f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(words)), b = f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(words));
    v128.store(dst, f32x4.add(f32x4.mul(a, s), o));
    v128.store(dst, f32x4.add(f32x4.mul(b, s), o), 16);
    src += 8 * bytes;
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
  const low = f32x4.splat(-offset), high = f32x4.splat(max - offset), round = f32x4.splat(ROUND + offset);
  const end = src + (<usize>count << 2);
  if (bytes == 1) {
    for (; src + 32 < end; src += 64) {
      const a = code(f32x4.mul(v128.load(src), s), low, high, round), b = code(f32x4.mul(v128.load(src, 16), s), low, high, round);
      const c = code(f32x4.mul(v128.load(src, 32), s), low, high, round), d = code(f32x4.mul(v128.load(src, 48), s), low, high, round);
      v128.store(dst, i8x16.narrow_i16x8_u(i16x8.narrow_i32x4_u(a, b), i16x8.narrow_i32x4_u(c, d)));
      dst += 16;
    }
  }
  for (; src < end; src += 32) {
    store8(dst, f32x4.mul(v128.load(src), s), f32x4.mul(v128.load(src, 16), s), low, high, round, bytes);
    dst += 8 * bytes;
  }
}

/** round(v * scale + offset) clamped to 0..max, `offset` a whole number, for `count` samples of one row. */
export function floatToCodes(dst: usize, src: usize, count: i32, bytes: i32, scale: f32, offset: f32, max: f32): void {
  if (bytes == 1) floatsOf(dst, src, count, 1, scale, offset, max);
  else floatsOf(dst, src, count, 2, scale, offset, max);
}

/** One pixel group's R'G'B' from luma and chroma (centred on 0). */
// @ts-ignore: decorator
@inline
function storeRgb(r: usize, g: usize, b: usize, y: v128, u: v128, v: v128, rv: v128, gu: v128, gv: v128, bu: v128): void {
  v128.store(r, f32x4.add(y, f32x4.mul(v, rv)));
  v128.store(g, f32x4.sub(f32x4.sub(y, f32x4.mul(u, gu)), f32x4.mul(v, gv)));
  v128.store(b, f32x4.add(y, f32x4.mul(u, bu)));
}

/** Two groups from luma of one byte and chroma in 16 bits. */
// @ts-ignore: decorator
@inline
function store8Rgb(r: usize, g: usize, b: usize, luma: usize, u: v128, v: v128, s: v128, o: v128, rv: v128, gu: v128, gv: v128, bu: v128): void {
  const y0 = f32x4.add(f32x4.mul(load4(luma, 1), s), o), y1 = f32x4.add(f32x4.mul(load4(luma + 4, 1), s), o);
  storeRgb(r, g, b, y0, f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(u)), f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_s(v)), rv, gu, gv, bu);
  storeRgb(r + 16, g + 16, b + 16, y1, f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(u)), f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_s(v)), rv, gu, gv, bu);
}

// Between two rows and two columns of subsampled chroma whole numbers do: three quarters of the near row and one of the far,
// in quarters of a code; then, where columns are halved too, in eighths.

/** Four samples of chroma between a near and a far row, in quarters of a code, less `middle` (as many quarters). */
// @ts-ignore: decorator
@inline
function between(near: usize, far: usize, bytes: usize, middle: v128): v128 {
  const n = ints4(near, bytes);
  return i32x4.sub(i32x4.add(i32x4.add(n, i32x4.add(n, n)), ints4(far, bytes)), middle);
}

/** As `between` for eight samples of one byte, in 16 bits. */
// @ts-ignore: decorator
@inline
function between8(near: usize, far: usize, middle: v128): v128 {
  const n = v128.load_ext<u8>(near);
  return i16x8.sub(i16x8.add(i16x8.add(n, i16x8.add(n, n)), v128.load_ext<u8>(far)), middle);
}

// @ts-ignore: decorator
@inline
function rgbOf(
  r: usize, g: usize, b: usize, luma: usize, cb: usize, cbFar: usize, cr: usize, crFar: usize, count: i32, bytes: usize,
  scale: f32, offset: f32, middle: i32, rv: f32, gu: f32, gv: f32, bu: f32,
): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  const m = i32x4.splat(4 * middle);
  const vr = f32x4.splat(rv), ug = f32x4.splat(gu), vg = f32x4.splat(gv), ub = f32x4.splat(bu);
  const end = <usize>count << 2;
  let c: usize = 0;
  for (let at: usize = 0; at < end; at += 16) {
    const u = f32x4.convert_i32x4_s(between(cb + c, cbFar + c, bytes, m)), v = f32x4.convert_i32x4_s(between(cr + c, crFar + c, bytes, m));
    storeRgb(r + at, g + at, b + at, f32x4.add(f32x4.mul(load4(luma + c, bytes), s), o), u, v, vr, ug, vg, ub);
    c += 4 * bytes;
  }
}

/** One row of Y'CbCr codes, and where its R'G'B' goes. Addresses, then numbers, four bytes each, in this order. */
@unmanaged
export class YuvRow {
  r: usize;
  g: usize;
  b: usize;
  luma: usize;
  /** Chroma lies a quarter of the way from the near row to the far one, which may be the same. */
  cb: usize;
  cbFar: usize;
  cr: usize;
  crFar: usize;
  count: i32;
  bytes: i32;
  scale: f32;
  offset: f32;
  /** Code of no colour. */
  middle: i32;
  /** What a quarter of a code of Cr (an eighth, where chroma is halved across) adds to red; `gu`, `gv` and `bu` alike. */
  rv: f32;
  gu: f32;
  gv: f32;
  bu: f32;
}

/** Luma codes and chroma codes of the same width to R'G'B'. */
export function yuvToRgbRow(row: YuvRow): void {
  if (row.bytes == 1)
    rgbOf(row.r, row.g, row.b, row.luma, row.cb, row.cbFar, row.cr, row.crFar, row.count, 1, row.scale, row.offset, row.middle, row.rv, row.gu, row.gv, row.bu);
  else rgbOf(row.r, row.g, row.b, row.luma, row.cb, row.cbFar, row.cr, row.crFar, row.count, 2, row.scale, row.offset, row.middle, row.rv, row.gu, row.gv, row.bu);
}

// @ts-ignore: decorator
@inline
function rgbOfHalf(
  r: usize, g: usize, b: usize, luma: usize, cb: usize, cbFar: usize, cr: usize, crFar: usize, count: i32, bytes: usize,
  scale: f32, offset: f32, middle: i32, rv: f32, gu: f32, gv: f32, bu: f32,
): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  const vr = f32x4.splat(rv), ug = f32x4.splat(gu), vg = f32x4.splat(gv), ub = f32x4.splat(bu);
  const end = <usize>count << 2;
  // Samples of chroma gone through, in bytes.
  let c: usize = 0;
  let at: usize = 0;
  if (bytes == 1) {
    const m = i16x8.splat(<i16>(4 * middle));
    let u = between8(cb, cbFar, m), v = between8(cr, crFar, m);
    for (; at + 32 < end; at += 64) {
      const nextU = between8(cb + c + 8, cbFar + c + 8, m), nextV = between8(cr + c + 8, crFar + c + 8, m);
      const u0 = i16x8.add(u, u), u1 = i16x8.add(u, v128.shuffle<i16>(u, nextU, 1, 2, 3, 4, 5, 6, 7, 8));
      const v0 = i16x8.add(v, v), v1 = i16x8.add(v, v128.shuffle<i16>(v, nextV, 1, 2, 3, 4, 5, 6, 7, 8));
      const ul = v128.shuffle<i16>(u0, u1, 0, 8, 1, 9, 2, 10, 3, 11), vl = v128.shuffle<i16>(v0, v1, 0, 8, 1, 9, 2, 10, 3, 11);
      store8Rgb(r + at, g + at, b + at, luma, ul, vl, s, o, vr, ug, vg, ub);
      const uh = v128.shuffle<i16>(u0, u1, 4, 12, 5, 13, 6, 14, 7, 15), vh = v128.shuffle<i16>(v0, v1, 4, 12, 5, 13, 6, 14, 7, 15);
      store8Rgb(r + at + 32, g + at + 32, b + at + 32, luma + 8, uh, vh, s, o, vr, ug, vg, ub);
      luma += 16;
      u = nextU;
      v = nextV;
      c += 8;
    }
  }
  const m = i32x4.splat(4 * middle);
  for (; at < end; at += 32) {
    const u = between(cb + c, cbFar + c, bytes, m), v = between(cr + c, crFar + c, bytes, m);
    const u0 = i32x4.add(u, u), u1 = i32x4.add(u, between(cb + c + bytes, cbFar + c + bytes, bytes, m));
    const v0 = i32x4.add(v, v), v1 = i32x4.add(v, between(cr + c + bytes, crFar + c + bytes, bytes, m));
    c += 4 * bytes;
    const y0 = f32x4.add(f32x4.mul(load4(luma, bytes), s), o), y1 = f32x4.add(f32x4.mul(load4(luma + 4 * bytes, bytes), s), o);
    luma += 8 * bytes;
    const ul = f32x4.convert_i32x4_s(v128.shuffle<i32>(u0, u1, 0, 4, 1, 5)), uh = f32x4.convert_i32x4_s(v128.shuffle<i32>(u0, u1, 2, 6, 3, 7));
    const vl = f32x4.convert_i32x4_s(v128.shuffle<i32>(v0, v1, 0, 4, 1, 5)), vh = f32x4.convert_i32x4_s(v128.shuffle<i32>(v0, v1, 2, 6, 3, 7));
    storeRgb(r + at, g + at, b + at, y0, ul, vl, vr, ug, vg, ub);
    storeRgb(r + at + 16, g + at + 16, b + at + 16, y1, uh, vh, vr, ug, vg, ub);
  }
}

/** As `between` for one sample, in eighths. */
// @ts-ignore: decorator
@inline
function betweenOne(near: usize, far: usize, bytes: i32, middle: i32): f32 {
  const n: i32 = bytes == 1 ? load<u8>(near) : load<u16>(near);
  const f: i32 = bytes == 1 ? load<u8>(far) : load<u16>(far);
  return <f32>((3 * n + f - 4 * middle) << 1);
}

/**
 * As yuvToRgbRow from chroma rows of half the width: even columns stand on the chroma samples (left-sited, BT.601 and H.264's
 * default), odd ones halfway between two, the last on its own.
 */
export function yuvHalfToRgbRow(row: YuvRow): void {
  if (row.bytes == 1)
    rgbOfHalf(row.r, row.g, row.b, row.luma, row.cb, row.cbFar, row.cr, row.crFar, row.count, 1, row.scale, row.offset, row.middle, row.rv, row.gu, row.gv, row.bu);
  else rgbOfHalf(row.r, row.g, row.b, row.luma, row.cb, row.cbFar, row.cr, row.crFar, row.count, 2, row.scale, row.offset, row.middle, row.rv, row.gu, row.gv, row.bu);
  const count = row.count, bytes = row.bytes;
  if (count & 1) return;
  // What was read as its neighbour to the right is of the next row.
  const x = <usize>(count - 1), c = (x >> 1) * bytes;
  const y = <f32>(bytes == 1 ? <i32>load<u8>(row.luma + x) : <i32>load<u16>(row.luma + 2 * x)) * row.scale + row.offset;
  const u = betweenOne(row.cb + c, row.cbFar + c, bytes, row.middle), v = betweenOne(row.cr + c, row.crFar + c, bytes, row.middle);
  store<f32>(row.r + 4 * x, y + v * row.rv);
  store<f32>(row.g + 4 * x, y - u * row.gu - v * row.gv);
  store<f32>(row.b + 4 * x, y + u * row.bu);
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
  const wu = f32x4.splat(weight / (2 * (1 - kb)));
  const wv = f32x4.splat(weight / (2 * (1 - kr)));
  const low = f32x4.splat(-offset), high = f32x4.splat(max - offset), round = f32x4.splat(ROUND + offset);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 32) {
    const r0 = v128.load(r + at), g0 = v128.load(g + at), b0 = v128.load(b + at);
    const r1 = v128.load(r + at, 16), g1 = v128.load(g + at, 16), b1 = v128.load(b + at, 16);
    const y0 = f32x4.add(f32x4.add(f32x4.mul(r0, wr), f32x4.mul(g0, wg)), f32x4.mul(b0, wb));
    const y1 = f32x4.add(f32x4.add(f32x4.mul(r1, wr), f32x4.mul(g1, wg)), f32x4.mul(b1, wb));
    store8(luma, f32x4.mul(y0, s), f32x4.mul(y1, s), low, high, round, bytes);
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

// @ts-ignore: decorator
@inline
function yuvOfVideo(
  luma: usize, cb: usize, cr: usize, y: usize, u: usize, v: usize, count: i32, bytes: usize,
  scale: f32, offset: f32, max: f32, mix: usize, weight: f32, first: i32,
): void {
  const s = f32x4.splat(scale);
  const yu = v128.load32_splat(mix), yv = v128.load32_splat(mix, 4);
  const uu = f32x4.splat(weight * load<f32>(mix, 8)), uv = f32x4.splat(weight * load<f32>(mix, 12));
  const vu = f32x4.splat(weight * load<f32>(mix, 16)), vv = f32x4.splat(weight * load<f32>(mix, 20));
  const low = f32x4.splat(-offset), high = f32x4.splat(max - offset), round = f32x4.splat(ROUND + offset);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 32) {
    const u0 = v128.load(u + at), v0 = v128.load(v + at);
    const u1 = v128.load(u + at, 16), v1 = v128.load(v + at, 16);
    const y0 = f32x4.add(f32x4.add(v128.load(y + at), f32x4.mul(u0, yu)), f32x4.mul(v0, yv));
    const y1 = f32x4.add(f32x4.add(v128.load(y + at, 16), f32x4.mul(u1, yu)), f32x4.mul(v1, yv));
    store8(luma, f32x4.mul(y0, s), f32x4.mul(y1, s), low, high, round, bytes);
    luma += 8 * bytes;
    lay(cb + at, f32x4.add(f32x4.mul(u0, uu), f32x4.mul(v0, uv)), first);
    lay(cb + at + 16, f32x4.add(f32x4.mul(u1, uu), f32x4.mul(v1, uv)), first);
    lay(cr + at, f32x4.add(f32x4.mul(u0, vu), f32x4.mul(v0, vv)), first);
    lay(cr + at + 16, f32x4.add(f32x4.mul(u1, vu), f32x4.mul(v1, vv)), first);
  }
}

/**
 * As rgbToYuvRow from luma and colour differences of another matrix. `mix` holds six floats: shares of Cb and Cr in luma, in the
 * new Cb, in the new Cr.
 */
export function videoToYuvRow(
  luma: usize, cb: usize, cr: usize, y: usize, u: usize, v: usize, count: i32, bytes: i32,
  scale: f32, offset: f32, max: f32, mix: usize, weight: f32, first: i32,
): void {
  if (bytes == 1) yuvOfVideo(luma, cb, cr, y, u, v, count, 1, scale, offset, max, mix, weight, first);
  else yuvOfVideo(luma, cb, cr, y, u, v, count, 2, scale, offset, max, mix, weight, first);
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
  const none = f32x4.splat(0), top = f32x4.splat(255), round = f32x4.splat(ROUND);
  const opaque = i32x4.splat(0xff000000);
  const end = <usize>count << 2;
  for (let at: usize = 0; at < end; at += 16) {
    const ir = code(f32x4.mul(v128.load(r + at), top), none, top, round);
    const ig = code(f32x4.mul(v128.load(g + at), top), none, top, round);
    const ib = code(f32x4.mul(v128.load(b + at), top), none, top, round);
    v128.store(dst + at, v128.or(v128.or(ir, i32x4.shl(ig, 8)), v128.or(i32x4.shl(ib, 16), opaque)));
  }
}

/** Positive floats up to 16 as 16 bits: five of the exponent, eleven of the fraction, so what is dark is as exact as what is bright (1 part in 4096). Less than 2^-28 is 0. */
export function floatsToHalves(dst: usize, src: usize, count: i32): void {
  const base = i32x4.splat((99 << 23) - 2048);
  const zero = i32x4.splat(0);
  const most = i32x4.splat(65535);
  for (let x = 0; x < count; x += 8) {
    const from = src + (<usize>x << 2);
    const a = i32x4.min_s(most, i32x4.shr_s(i32x4.max_s(zero, i32x4.sub(v128.load(from), base)), 12));
    const b = i32x4.min_s(most, i32x4.shr_s(i32x4.max_s(zero, i32x4.sub(v128.load(from, 16), base)), 12));
    v128.store(dst + (<usize>x << 1), i16x8.narrow_i32x4_u(a, b));
  }
}

/** dst += share times what `floatsToHalves` wrote. */
export function addHalvesRow(dst: usize, src: usize, count: i32, share: f32): void {
  const base = i32x4.splat(99 << 23);
  const zero = i32x4.splat(0);
  const scale = f32x4.splat(share);
  for (let x = 0; x < count; x += 8) {
    const codes = v128.load(src + (<usize>x << 1));
    const a = i32x4.extend_low_i16x8_u(codes);
    const b = i32x4.extend_high_i16x8_u(codes);
    const to = dst + (<usize>x << 2);
    v128.store(to, f32x4.add(v128.load(to), f32x4.mul(scale, v128.and(i32x4.add(i32x4.shl(a, 12), base), i32x4.gt_s(a, zero)))));
    v128.store(to + 16, f32x4.add(v128.load(to + 16), f32x4.mul(scale, v128.and(i32x4.add(i32x4.shl(b, 12), base), i32x4.gt_s(b, zero)))));
  }
}
