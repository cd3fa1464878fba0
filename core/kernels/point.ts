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
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) v128.store(dst + x, f32x4.add(v128.load(dst + x), f32x4.mul(v128.load(src + x), s)));
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
  for (const end = p + (<usize>count << 2); p < end; p += 16) {
    const over = f32x4.sub(v128.load(p), f);
    const up = f32x4.pmin(f32x4.mul(k, f32x4.splat(2)), f32x4.pmax(zero, f32x4.add(over, k)));
    const bend = f32x4.mul(f32x4.mul(up, up), quarter);
    v128.store(p, f32x4.add(bend, f32x4.pmax(zero, f32x4.sub(over, k))));
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
  for (let x = 0; x < count; x += 4) {
    const u = f32x4.add(f32x4.splat(start + step * <f32>x), f32x4.mul(f32x4(0, 1, 2, 3), f32x4.splat(step)));
    const d = f32x4.sqrt(f32x4.add(f32x4.mul(u, u), y2));
    const t = f32x4.pmin(one, f32x4.pmax(zero, f32x4.mul(f32x4.sub(d, inner), scale)));
    v128.store(dst + (<usize>x << 2), f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t))));
  }
}

/** dst = dst * src, sample by sample. */
export function timesRow(dst: usize, src: usize, count: i32): void {
  const end = <usize>count << 2;
  for (let x: usize = 0; x < end; x += 16) v128.store(dst + x, f32x4.mul(v128.load(dst + x), v128.load(src + x)));
}
