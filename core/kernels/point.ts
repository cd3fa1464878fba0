// Work on single samples: bounds, knees, tables, weights of zones.

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

/** dst = max(dst, src), sample by sample. */
export function maxRow(dst: usize, src: usize, count: i32): void {
  for (let x: usize = 0; x < <usize>count << 2; x += 16) v128.store(dst + x, f32x4.pmax(v128.load(dst + x), v128.load(src + x)));
}

/** dst = min(dst, src), sample by sample. */
export function minRow(dst: usize, src: usize, count: i32): void {
  for (let x: usize = 0; x < <usize>count << 2; x += 16) v128.store(dst + x, f32x4.pmin(v128.load(dst + x), v128.load(src + x)));
}

/** dst = dst + src * scale. */
export function addRow(dst: usize, src: usize, count: i32, scale: f32): void {
  const s = f32x4.splat(scale);
  for (let x: usize = 0; x < <usize>count << 2; x += 16) v128.store(dst + x, f32x4.add(v128.load(dst + x), f32x4.mul(v128.load(src + x), s)));
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
  for (let x: usize = 0; x < <usize>count << 2; x += 16) {
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
  for (let x: usize = 0; x < <usize>count << 2; x += 16) v128.store(dst + x, f32x4.mul(v128.load(dst + x), v128.load(src + x)));
}

/** v -> table[(v - low) * scale], between entries along a line, held at both ends. `table` holds `size` floats. */
export function tableRow(p: usize, count: i32, table: usize, size: i32, low: f32, scale: f32): void {
  const last = <f32>(size - 1);
  for (const end = p + (<usize>count << 2); p < end; p += 4) {
    const at = min<f32>(last, max<f32>(0, (load<f32>(p) - low) * scale));
    const i = min<i32>(size - 2, <i32>at);
    const f = at - <f32>i;
    const q = table + (<usize>i << 2);
    const a = load<f32>(q);
    store<f32>(p, a + (load<f32>(q, 4) - a) * f);
  }
}

/**
 * Three planes through a cube of colours, tetrahedral between its points (red runs fastest; `cube` holds 3 floats a point,
 * `size` points a side). Input is held to 0..1.
 */
export function cubeRow(r: usize, g: usize, b: usize, count: i32, cube: usize, size: i32): void {
  const last = <f32>(size - 1);
  const sx: usize = 12;
  const sy = <usize>size * 12;
  const sz = sy * <usize>size;
  for (let x = 0; x < count; x++) {
    const at = <usize>x << 2;
    const fr = min<f32>(last, max<f32>(0, load<f32>(r + at) * last));
    const fg = min<f32>(last, max<f32>(0, load<f32>(g + at) * last));
    const fb = min<f32>(last, max<f32>(0, load<f32>(b + at) * last));
    const ir = min<i32>(size - 2, <i32>fr), ig = min<i32>(size - 2, <i32>fg), ib = min<i32>(size - 2, <i32>fb);
    const dr = fr - <f32>ir, dg = fg - <f32>ig, db = fb - <f32>ib;
    const p = cube + <usize>ir * sx + <usize>ig * sy + <usize>ib * sz;
    // The path from the near corner to the far one goes along the largest fraction first.
    let q: usize, s: usize, a: f32, m: f32, c: f32;
    if (dr >= dg) {
      if (dg >= db) { q = p + sx; s = q + sy; a = dr; m = dg; c = db; }
      else if (dr >= db) { q = p + sx; s = q + sz; a = dr; m = db; c = dg; }
      else { q = p + sz; s = q + sx; a = db; m = dr; c = dg; }
    } else if (db >= dg) { q = p + sz; s = q + sy; a = db; m = dg; c = dr; }
    else if (db >= dr) { q = p + sy; s = q + sz; a = dg; m = db; c = dr; }
    else { q = p + sy; s = q + sx; a = dg; m = dr; c = db; }
    const far = p + sx + sy + sz;
    const w0: f32 = <f32>1 - a, w1: f32 = a - m, w2: f32 = m - c;
    store<f32>(r + at, load<f32>(p) * w0 + load<f32>(q) * w1 + load<f32>(s) * w2 + load<f32>(far) * c);
    store<f32>(g + at, load<f32>(p, 4) * w0 + load<f32>(q, 4) * w1 + load<f32>(s, 4) * w2 + load<f32>(far, 4) * c);
    store<f32>(b + at, load<f32>(p, 8) * w0 + load<f32>(q, 8) * w1 + load<f32>(s, 8) * w2 + load<f32>(far, 8) * c);
  }
}
