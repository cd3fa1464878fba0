// Putting a worn picture back over what was under it, and small shapes on it.

import { exp2x4, log2x4 } from './lanes';

/** dst = under + share * (dst - under): the strength of a trait. */
export function mix(dst: usize, under: usize, count: i32, share: f32): void {
  const s = f32x4.splat(share);
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) {
    const u = v128.load(under + x);
    v128.store(dst + x, f32x4.add(u, f32x4.mul(f32x4.sub(v128.load(dst + x), u), s)));
  }
}

/** dst = under + share * weights * (dst - under): a trait that acts in a part of the picture. */
export function mixWeighted(dst: usize, under: usize, weights: usize, count: i32, share: f32): void {
  const s = f32x4.splat(share);
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) {
    const u = v128.load(under + x);
    const w = f32x4.mul(v128.load(weights + x), s);
    v128.store(dst + x, f32x4.add(u, f32x4.mul(f32x4.sub(v128.load(dst + x), u), w)));
  }
}

/** dst = the mean of two rows, and `level` times by how much one row exceeds another: lines of which what is turned from one to the other cancels. */
export function combRow(dst: usize, own: usize, above: usize, near: usize, far: usize, count: i32, level: f32): void {
  const half = f32x4.splat(0.5), s = f32x4.splat(level);
  const toOwn = own - dst, toAbove = above - dst, toNear = near - dst, toFar = far - dst;
  for (const end = dst + (<usize>count << 2); dst < end; dst += 16) {
    const mean = f32x4.mul(f32x4.add(v128.load(dst + toOwn), v128.load(dst + toAbove)), half);
    v128.store(dst, f32x4.add(mean, f32x4.mul(f32x4.sub(v128.load(dst + toNear), v128.load(dst + toFar)), s)));
  }
}

/** dst = dst + share * (top - dst), share = weights * scale + offset, held to 0..1. */
export function mixToward(dst: usize, top: usize, weights: usize, count: i32, scale: f32, offset: f32): void {
  const s = f32x4.splat(scale), o = f32x4.splat(offset);
  const zero = f32x4.splat(0), one = f32x4.splat(1);
  const toTop = top - dst, toWeights = weights - dst;
  for (const end = dst + (<usize>count << 2); dst < end; dst += 32) {
    const a = v128.load(dst), b = v128.load(dst, 16);
    const v = f32x4.pmin(one, f32x4.pmax(zero, f32x4.add(f32x4.mul(v128.load(dst + toWeights), s), o)));
    const w = f32x4.pmin(one, f32x4.pmax(zero, f32x4.add(f32x4.mul(v128.load(dst + toWeights, 16), s), o)));
    v128.store(dst, f32x4.add(a, f32x4.mul(f32x4.sub(v128.load(dst + toTop), a), v)));
    v128.store(dst, f32x4.add(b, f32x4.mul(f32x4.sub(v128.load(dst + toTop, 16), b), w)), 16);
  }
}

/** dst = dst + cover * share * (value - dst): a small shape of one colour laid on a row. */
export function layRow(dst: usize, cover: usize, count: i32, value: f32, share: f32): void {
  const v = f32x4.splat(value);
  const s = f32x4.splat(share);
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) {
    const d = v128.load(dst + x);
    v128.store(dst + x, f32x4.add(d, f32x4.mul(f32x4.sub(v, d), f32x4.mul(v128.load(cover + x), s))));
  }
}

/** Where densities end: the light and the signal of a 12-bit picture's last step above black. */
// @ts-ignore: decorator
@inline
const LEAST_LIGHT: f32 = 1.862645149230957e-9;
// @ts-ignore: decorator
@inline
const LEAST_SIGNAL: f32 = 0.000244140625;
// @ts-ignore: decorator
@inline
const GAMMA: f32 = 2.4;

/**
 * A small shape laid on a row as it is seen: what is wholly covered has a signal `share` of the way to `signal`; of a pixel covered in part the light of
 * both parts is seen. Pixels that are not covered stay bit for bit.
 * @param perLog what the row is: below 0 densities, log2 of whose light is this many times the density; 0 light; 1 a display's signals
 */
export function layLightRow(dst: usize, cover: usize, count: i32, signal: f32, share: f32, perLog: f32): void {
  const zero = f32x4.splat(0);
  const least = f32x4.splat(LEAST_LIGHT);
  const gamma = f32x4.splat(GAMMA);
  const perGamma = f32x4.splat(1 / GAMMA);
  const scale = f32x4.splat(perLog);
  const back = f32x4.splat(perLog < 0 ? 1 / perLog : 0);
  const to = f32x4.splat(signal);
  const part = f32x4.splat(share);
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) {
    const c = v128.load(cover + x);
    if (!v128.any_true(c)) continue;
    const d = v128.load(dst + x);
    // log2 of the light of each pixel.
    let log: v128;
    if (perLog < 0) log = f32x4.mul(d, scale);
    else if (perLog > 0) log = f32x4.mul(log2x4(f32x4.pmax(d, f32x4.splat(LEAST_SIGNAL))), gamma);
    else log = log2x4(f32x4.pmax(d, least));
    const light = exp2x4(log);
    const seen = exp2x4(f32x4.mul(log, perGamma));
    const covered = f32x4.add(seen, f32x4.mul(f32x4.sub(to, seen), part));
    const under = exp2x4(f32x4.mul(log2x4(f32x4.pmax(covered, f32x4.splat(LEAST_SIGNAL))), gamma));
    let now = f32x4.add(light, f32x4.mul(f32x4.sub(under, light), c));
    if (perLog != 0) {
      now = log2x4(f32x4.pmax(now, least));
      now = perLog < 0 ? f32x4.mul(now, back) : exp2x4(f32x4.mul(now, perGamma));
    }
    v128.store(dst + x, v128.bitselect(d, now, f32x4.eq(c, zero)));
  }
}

/** One mode of the W3C's Compositing and Blending Level 1, or add (12) and subtract (13). b is under, s on top; all 0..1. */
// @ts-ignore: decorator
@inline
function blended(b: v128, s: v128, mode: i32): v128 {
  const one = f32x4.splat(1);
  const zero = f32x4.splat(0);
  const two = f32x4.splat(2);
  if (mode == 1) return f32x4.mul(b, s);
  if (mode == 2) return f32x4.sub(f32x4.add(b, s), f32x4.mul(b, s));
  if (mode == 3) return hard(s, b);
  if (mode == 4) return f32x4.pmin(b, s);
  if (mode == 5) return f32x4.pmax(b, s);
  if (mode == 6) {
    // Dodge: 0 over black, 1 over a full source, else b / (1 - s).
    const q = f32x4.pmin(one, f32x4.div(b, f32x4.sub(one, s)));
    const full = v128.bitselect(one, q, f32x4.ge(s, one));
    return v128.bitselect(zero, full, f32x4.le(b, zero));
  }
  if (mode == 7) {
    const q = f32x4.sub(one, f32x4.pmin(one, f32x4.div(f32x4.sub(one, b), s)));
    const none = v128.bitselect(zero, q, f32x4.le(s, zero));
    return v128.bitselect(one, none, f32x4.ge(b, one));
  }
  if (mode == 8) return hard(b, s);
  if (mode == 9) {
    const lowSide = f32x4.sub(b, f32x4.mul(f32x4.mul(f32x4.sub(one, f32x4.mul(two, s)), b), f32x4.sub(one, b)));
    const four = f32x4.splat(4);
    const small = f32x4.mul(f32x4.add(f32x4.mul(f32x4.sub(f32x4.mul(f32x4.splat(16), b), f32x4.splat(12)), b), four), b);
    const d = v128.bitselect(small, f32x4.sqrt(f32x4.pmax(zero, b)), f32x4.le(b, f32x4.splat(0.25)));
    const highSide = f32x4.add(b, f32x4.mul(f32x4.sub(f32x4.mul(two, s), one), f32x4.sub(d, b)));
    return v128.bitselect(lowSide, highSide, f32x4.le(s, f32x4.splat(0.5)));
  }
  if (mode == 10) return f32x4.abs(f32x4.sub(b, s));
  if (mode == 11) return f32x4.sub(f32x4.add(b, s), f32x4.mul(two, f32x4.mul(b, s)));
  if (mode == 12) return f32x4.add(b, s);
  if (mode == 13) return f32x4.sub(b, s);
  return s;
}

/** Hard light of s over b: multiply where s is dark, screen where it is bright. */
// @ts-ignore: decorator
@inline
function hard(b: v128, s: v128): v128 {
  const one = f32x4.splat(1);
  const two = f32x4.mul(f32x4.splat(2), s);
  const up = f32x4.sub(two, one);
  return v128.bitselect(f32x4.mul(b, two), f32x4.sub(f32x4.add(b, up), f32x4.mul(b, up)), f32x4.le(s, f32x4.splat(0.5)));
}

// @ts-ignore: decorator
@inline
function blendOf(dst: usize, under: usize, count: i32, mode: i32): void {
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) v128.store(dst + x, blended(v128.load(under + x), v128.load(dst + x), mode));
}

/**
 * dst = blend(under, dst) for a row. Modes: 0 normal, then in the order of `BLENDS` in look/look.ts. Each is a loop of its own: the
 * mode is chosen once a row, not once a group.
 */
export function blendRow(dst: usize, under: usize, count: i32, mode: i32): void {
  if (mode == 1) blendOf(dst, under, count, 1);
  else if (mode == 2) blendOf(dst, under, count, 2);
  else if (mode == 3) blendOf(dst, under, count, 3);
  else if (mode == 4) blendOf(dst, under, count, 4);
  else if (mode == 5) blendOf(dst, under, count, 5);
  else if (mode == 6) blendOf(dst, under, count, 6);
  else if (mode == 7) blendOf(dst, under, count, 7);
  else if (mode == 8) blendOf(dst, under, count, 8);
  else if (mode == 9) blendOf(dst, under, count, 9);
  else if (mode == 10) blendOf(dst, under, count, 10);
  else if (mode == 11) blendOf(dst, under, count, 11);
  else if (mode == 12) blendOf(dst, under, count, 12);
  else if (mode == 13) blendOf(dst, under, count, 13);
}

export function copy(dst: usize, src: usize, bytes: usize): void {
  memory.copy(dst, src, bytes);
}

export function fillRow(dst: usize, count: i32, value: f32): void {
  const v = f32x4.splat(value);
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) v128.store(dst + x, v);
}

// @ts-ignore: decorator
@inline
function layOf(dst: usize, top: usize, cover: usize, count: i32, share: f32, mode: i32): void {
  const s = f32x4.splat(share), zero = f32x4.splat(0), one = f32x4.splat(1);
  const end = <usize>count << 2;
  if (cover == 0) {
    for (let x: usize = 0; x < end; x += 16) {
      const d = v128.load(dst + x);
      const t = f32x4.pmin(one, f32x4.pmax(zero, v128.load(top + x)));
      v128.store(dst + x, f32x4.add(d, f32x4.mul(f32x4.sub(blended(d, t, mode), d), s)));
    }
    return;
  }
  for (let x: usize = 0; x < end; x += 16) {
    const d = v128.load(dst + x);
    const t = f32x4.pmin(one, f32x4.pmax(zero, v128.load(top + x)));
    v128.store(dst + x, f32x4.add(d, f32x4.mul(f32x4.sub(blended(d, t, mode), d), f32x4.mul(v128.load(cover + x), s))));
  }
}

/**
 * dst = dst + share * cover * (blend(dst, top) - dst) for a row: something laid over a picture. What is on top is held to 0..1. `cover` 0 (no address): it covers all.
 * Whole groups of four. Modes as in `blendRow`.
 */
export function layBlendedRow(dst: usize, top: usize, cover: usize, count: i32, share: f32, mode: i32): void {
  if (mode == 1) layOf(dst, top, cover, count, share, 1);
  else if (mode == 2) layOf(dst, top, cover, count, share, 2);
  else if (mode == 3) layOf(dst, top, cover, count, share, 3);
  else if (mode == 4) layOf(dst, top, cover, count, share, 4);
  else if (mode == 5) layOf(dst, top, cover, count, share, 5);
  else if (mode == 6) layOf(dst, top, cover, count, share, 6);
  else if (mode == 7) layOf(dst, top, cover, count, share, 7);
  else if (mode == 8) layOf(dst, top, cover, count, share, 8);
  else if (mode == 9) layOf(dst, top, cover, count, share, 9);
  else if (mode == 10) layOf(dst, top, cover, count, share, 10);
  else if (mode == 11) layOf(dst, top, cover, count, share, 11);
  else if (mode == 12) layOf(dst, top, cover, count, share, 12);
  else if (mode == 13) layOf(dst, top, cover, count, share, 13);
  else layOf(dst, top, cover, count, share, 0);
}
