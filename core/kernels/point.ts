// Work on single samples: bounds, knees, weights of zones.

/** v -> scale * v + offset. */
export function affineRow(p: usize, count: i32, scale: f32, offset: f32): void {
  const s = f32x4.splat(scale);
  const o = f32x4.splat(offset);
  for (const end = p + (<usize>count << 2); p < end; p += 16) v128.store(p, f32x4.add(f32x4.mul(v128.load(p), s), o));
}

export function clampRow(p: usize, count: i32, low: f32, high: f32): void {
  const a = f32x4.splat(low);
  const b = f32x4.splat(high);
  for (const end = p + (<usize>count << 2); p < end; p += 16) v128.store(p, f32x4.pmin(b, f32x4.pmax(a, v128.load(p))));
}

/** dst = dst + src * scale. */
export function addRow(dst: usize, src: usize, count: i32, scale: f32): void {
  const s = f32x4.splat(scale);
  const end = dst + (<usize>count << 2);
  const from = src - dst;
  for (; dst + 48 < end; dst += 64) {
    const a = f32x4.add(v128.load(dst), f32x4.mul(v128.load(dst + from), s)), b = f32x4.add(v128.load(dst, 16), f32x4.mul(v128.load(dst + from, 16), s));
    const c = f32x4.add(v128.load(dst, 32), f32x4.mul(v128.load(dst + from, 32), s)), d = f32x4.add(v128.load(dst, 48), f32x4.mul(v128.load(dst + from, 48), s));
    v128.store(dst, a);
    v128.store(dst, b, 16);
    v128.store(dst, c, 32);
    v128.store(dst, d, 48);
  }
  for (; dst < end; dst += 16) v128.store(dst, f32x4.add(v128.load(dst), f32x4.mul(v128.load(dst + from), s)));
}

/**
 * What lies over a threshold, with a soft knee: 0 below from - knee, v - from above from + knee, a parabola between
 * that meets both with their slopes.
 */
export function kneeRow(p: usize, count: i32, from: f32, knee: f32): void {
  const f = f32x4.splat(from);
  const k = f32x4.splat(max<f32>(knee, 1e-6));
  const zero = f32x4.splat(0);
  const quarter = f32x4.splat(0.25 / max<f32>(knee, 1e-6));
  const twice = f32x4.add(k, k);
  for (const end = p + (<usize>count << 2); p < end; p += 32) {
    const a = over(v128.load(p), f, k, twice, quarter, zero), b = over(v128.load(p, 16), f, k, twice, quarter, zero);
    v128.store(p, a);
    v128.store(p, b, 16);
  }
}

/** Of one vector, as kneeRow. */
// @ts-ignore: decorator
@inline
function over(v: v128, from: v128, knee: v128, twice: v128, quarter: v128, zero: v128): v128 {
  const o = f32x4.sub(v, from);
  const up = f32x4.pmin(twice, f32x4.pmax(zero, f32x4.add(o, knee)));
  return f32x4.add(f32x4.mul(f32x4.mul(up, up), quarter), f32x4.pmax(zero, f32x4.sub(o, knee)));
}

/** dst[x] = the mean of what lies over a threshold, as by kneeRow, in samples 2 x and 2 x + 1 of two rows. Writes whole groups of four. */
export function halveOverRow(dst: usize, a: usize, b: usize, count: i32, from: f32, knee: f32): void {
  const f = f32x4.splat(from);
  const k = f32x4.splat(max<f32>(knee, 1e-6));
  const twice = f32x4.add(k, k);
  const zero = f32x4.splat(0);
  const quarter = f32x4.splat(0.25 / max<f32>(knee, 1e-6));
  const mean = f32x4.splat(0.25);
  for (const end = dst + (<usize>count << 2); dst < end; dst += 16, a += 32, b += 32) {
    const first = f32x4.add(over(v128.load(a), f, k, twice, quarter, zero), over(v128.load(b), f, k, twice, quarter, zero));
    const next = f32x4.add(over(v128.load(a, 16), f, k, twice, quarter, zero), over(v128.load(b, 16), f, k, twice, quarter, zero));
    v128.store(dst, f32x4.mul(f32x4.add(v128.shuffle<f32>(first, next, 0, 2, 4, 6), v128.shuffle<f32>(first, next, 1, 3, 5, 7)), mean));
  }
}

/** Luma of a row by the weights of red and blue. */
export function lumaRow(dst: usize, r: usize, g: usize, b: usize, count: i32, kr: f32, kb: f32): void {
  const wr = f32x4.splat(kr);
  const wb = f32x4.splat(kb);
  const wg = f32x4.splat(1 - kr - kb);
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) {
    v128.store(dst + x, f32x4.add(f32x4.add(f32x4.mul(v128.load(r + x), wr), f32x4.mul(v128.load(g + x), wg)), f32x4.mul(v128.load(b + x), wb)));
  }
}

/**
 * Weights of one row of an ellipse with a soft border: 0 inside, 1 outside, a smooth step over `soft` of its radius.
 * `start` and `step` are the row's first x and its step in radii from the middle, `across` the row's y in radii, squared.
 */
export function ellipseRow(dst: usize, count: i32, start: f32, step: f32, across: f32, soft: f32): void {
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  const y2 = f32x4.splat(across);
  const inner = f32x4.splat(1 - soft);
  const scale = f32x4.splat(1 / max<f32>(soft, 1e-4));
  const three = f32x4.splat(3);
  const lanes = f32x4.mul(f32x4(0, 1, 2, 3), f32x4.splat(step));
  for (let x = 0; x < count; x += 4) {
    const u = f32x4.add(f32x4.splat(start + step * <f32>x), lanes);
    const d = f32x4.sqrt(f32x4.add(f32x4.mul(u, u), y2));
    const t = f32x4.pmin(one, f32x4.pmax(zero, f32x4.mul(f32x4.sub(d, inner), scale)));
    v128.store(dst, f32x4.mul(f32x4.mul(t, t), f32x4.sub(three, f32x4.add(t, t))));
    dst += 16;
  }
}

/** dst = dst * src, sample by sample. */
export function timesRow(dst: usize, src: usize, count: i32): void {
  const end = dst + (<usize>count << 2);
  const from = src - dst;
  for (; dst + 48 < end; dst += 64) {
    const a = f32x4.mul(v128.load(dst), v128.load(dst + from)), b = f32x4.mul(v128.load(dst, 16), v128.load(dst + from, 16));
    const c = f32x4.mul(v128.load(dst, 32), v128.load(dst + from, 32)), d = f32x4.mul(v128.load(dst, 48), v128.load(dst + from, 48));
    v128.store(dst, a);
    v128.store(dst, b, 16);
    v128.store(dst, c, 32);
    v128.store(dst, d, 48);
  }
  for (; dst < end; dst += 16) v128.store(dst, f32x4.mul(v128.load(dst), v128.load(dst + from)));
}
