// Parts of blurs of any radius: bells, halving, doubling, running means, and the filters with memory along a row.
// Loops count in bytes towards an end (see resample.ts).

/**
 * dst[x] = weights[0] src[x] + the sum over i of weights[i] (src[x - i] + src[x + i]), i from 1 to `reach`: a filter that is the same
 * on both sides takes a multiplication for each pair.
 */
export function bellRow(dst: usize, src: usize, count: i32, weights: usize, reach: i32): void {
  const far = <usize>reach << 2;
  const end = src + (<usize>count << 2);
  const to = dst - src;
  const middle = v128.load32_splat(weights);
  let p = src;
  for (; p + 48 < end; p += 64) {
    let a = f32x4.mul(v128.load(p), middle), b = f32x4.mul(v128.load(p, 16), middle);
    let c = f32x4.mul(v128.load(p, 32), middle), d = f32x4.mul(v128.load(p, 48), middle);
    for (let i: usize = 4; i <= far; i += 4) {
      const w = v128.load32_splat(weights + i);
      const l = p - i, r = p + i;
      a = f32x4.add(a, f32x4.mul(f32x4.add(v128.load(l), v128.load(r)), w));
      b = f32x4.add(b, f32x4.mul(f32x4.add(v128.load(l, 16), v128.load(r, 16)), w));
      c = f32x4.add(c, f32x4.mul(f32x4.add(v128.load(l, 32), v128.load(r, 32)), w));
      d = f32x4.add(d, f32x4.mul(f32x4.add(v128.load(l, 48), v128.load(r, 48)), w));
    }
    v128.store(to + p, a);
    v128.store(to + p, b, 16);
    v128.store(to + p, c, 32);
    v128.store(to + p, d, 48);
  }
  for (; p < end; p += 16) {
    let a = f32x4.mul(v128.load(p), middle);
    for (let i: usize = 4; i <= far; i += 4) a = f32x4.add(a, f32x4.mul(f32x4.add(v128.load(p - i), v128.load(p + i)), v128.load32_splat(weights + i)));
    v128.store(to + p, a);
  }
}

/** As bellRow across rows; `rows` holds the addresses of 2 * reach + 1 of them. */
export function bellRows(dst: usize, rows: usize, count: i32, weights: usize, reach: i32): void {
  const far = <usize>reach << 2;
  const centre = rows + far;
  const end = <usize>count << 2;
  const middle = v128.load32_splat(weights);
  let x: usize = 0;
  for (; x + 48 < end; x += 64) {
    const p = <usize>load<u32>(centre) + x;
    let a = f32x4.mul(v128.load(p), middle), b = f32x4.mul(v128.load(p, 16), middle);
    let c = f32x4.mul(v128.load(p, 32), middle), d = f32x4.mul(v128.load(p, 48), middle);
    for (let i: usize = 4; i <= far; i += 4) {
      const w = v128.load32_splat(weights + i);
      const l = <usize>load<u32>(centre - i) + x, r = <usize>load<u32>(centre + i) + x;
      a = f32x4.add(a, f32x4.mul(f32x4.add(v128.load(l), v128.load(r)), w));
      b = f32x4.add(b, f32x4.mul(f32x4.add(v128.load(l, 16), v128.load(r, 16)), w));
      c = f32x4.add(c, f32x4.mul(f32x4.add(v128.load(l, 32), v128.load(r, 32)), w));
      d = f32x4.add(d, f32x4.mul(f32x4.add(v128.load(l, 48), v128.load(r, 48)), w));
    }
    v128.store(dst + x, a);
    v128.store(dst + x, b, 16);
    v128.store(dst + x, c, 32);
    v128.store(dst + x, d, 48);
  }
  for (; x < end; x += 16) {
    let a = f32x4.mul(v128.load(<usize>load<u32>(centre) + x), middle);
    for (let i: usize = 4; i <= far; i += 4) {
      a = f32x4.add(a, f32x4.mul(f32x4.add(v128.load(<usize>load<u32>(centre - i) + x), v128.load(<usize>load<u32>(centre + i) + x)), v128.load32_splat(weights + i)));
    }
    v128.store(dst + x, a);
  }
}

/** Six rows by (1, 5, 10, 10, 5, 1) / 32: what `halveRow` does along, across. */
export function halveRows(dst: usize, r0: usize, r1: usize, r2: usize, r3: usize, r4: usize, r5: usize, count: i32): void {
  const inner = f32x4.splat(0.3125);
  const outer = f32x4.splat(0.15625);
  const rim = f32x4.splat(0.03125);
  const end = r0 + (<usize>count << 2);
  const t1 = r1 - r0, t2 = r2 - r0, t3 = r3 - r0, t4 = r4 - r0, t5 = r5 - r0;
  const to = dst - r0;
  // Two a turn; a row has room for whole groups of eight.
  for (let p = r0; p < end; p += 32) {
    const mid = f32x4.mul(f32x4.add(v128.load(p + t2), v128.load(p + t3)), inner);
    const mid2 = f32x4.mul(f32x4.add(v128.load(p + t2, 16), v128.load(p + t3, 16)), inner);
    const next = f32x4.mul(f32x4.add(v128.load(p + t1), v128.load(p + t4)), outer);
    const next2 = f32x4.mul(f32x4.add(v128.load(p + t1, 16), v128.load(p + t4, 16)), outer);
    const far = f32x4.mul(f32x4.add(v128.load(p), v128.load(p + t5)), rim);
    const far2 = f32x4.mul(f32x4.add(v128.load(p, 16), v128.load(p + t5, 16)), rim);
    v128.store(p + to, f32x4.add(f32x4.add(mid, next), far));
    v128.store(p + to, f32x4.add(f32x4.add(mid2, next2), far2), 16);
  }
}

/** Three rows by (5, 10, 1) / 16: what `doubleRow` does along, across. */
export function doubleRows(dst: usize, side: usize, near: usize, far: usize, count: i32): void {
  const a = f32x4.splat(0.3125);
  const b = f32x4.splat(0.625);
  const c = f32x4.splat(0.0625);
  const end = side + (<usize>count << 2);
  const toNear = near - side, toFar = far - side;
  const to = dst - side;
  for (let p = side; p < end; p += 32) {
    const v = f32x4.add(f32x4.mul(v128.load(p + toNear), b), f32x4.add(f32x4.mul(v128.load(p), a), f32x4.mul(v128.load(p + toFar), c)));
    const w = f32x4.add(f32x4.mul(v128.load(p + toNear, 16), b), f32x4.add(f32x4.mul(v128.load(p, 16), a), f32x4.mul(v128.load(p + toFar, 16), c)));
    v128.store(p + to, v);
    v128.store(p + to, w, 16);
  }
}

/**
 * Half as many samples: (1, 5, 10, 10, 5, 1) / 32 about each pair, so that where a point lies is not lost with its pixel and
 * little of what is too fine for the half comes back coarser. `src` holds 2 * count samples and two more on each side.
 */
export function halveRow(dst: usize, src: usize, count: i32): void {
  const inner = f32x4.splat(0.3125);
  const outer = f32x4.splat(0.15625);
  const rim = f32x4.splat(0.03125);
  for (const end = dst + (<usize>count << 2); dst < end; dst += 16) {
    const p = src;
    src += 32;
    // Even and odd samples of the row, those before and those after.
    const a = v128.load(p - 8), b = v128.load(p, 8);
    const c = v128.load(p), d = v128.load(p, 16);
    const e = v128.load(p, 8), f = v128.load(p, 24);
    const mid = f32x4.add(v128.shuffle<f32>(c, d, 0, 2, 4, 6), v128.shuffle<f32>(c, d, 1, 3, 5, 7));
    const next = f32x4.add(v128.shuffle<f32>(a, b, 1, 3, 5, 7), v128.shuffle<f32>(e, f, 0, 2, 4, 6));
    const far = f32x4.add(v128.shuffle<f32>(a, b, 0, 2, 4, 6), v128.shuffle<f32>(e, f, 1, 3, 5, 7));
    v128.store(dst, f32x4.add(f32x4.add(f32x4.mul(mid, inner), f32x4.mul(next, outer)), f32x4.mul(far, rim)));
  }
}

/**
 * Twice as many samples, by the spline of fourth degree: (5, 10, 1) / 16 and (1, 10, 5) / 16 of the three nearest. `src` holds
 * `count` samples and one more on each side; 2 * count are written.
 */
export function doubleRow(dst: usize, src: usize, count: i32): void {
  const near = f32x4.splat(0.625);
  const side = f32x4.splat(0.3125);
  const far = f32x4.splat(0.0625);
  for (const end = src + (<usize>count << 2); src < end; src += 16) {
    const p = src;
    const before = v128.load(p - 4), after = v128.load(p, 4);
    const c = f32x4.mul(v128.load(p), near);
    const l = f32x4.add(c, f32x4.add(f32x4.mul(before, side), f32x4.mul(after, far)));
    const r = f32x4.add(c, f32x4.add(f32x4.mul(before, far), f32x4.mul(after, side)));
    v128.store(dst, v128.shuffle<f32>(l, r, 0, 4, 1, 5));
    v128.store(dst, v128.shuffle<f32>(l, r, 2, 6, 3, 7), 16);
    dst += 32;
  }
}

/**
 * Mean over 2 * radius + 1 samples of a row that is padded by `radius` and one more on each side, whole groups of four. Sums of 1, 2, 4 and so on samples are made where the
 * source stands, which is lost, and those that make up the number are added.
 */
export function boxRow(dst: usize, src: usize, count: i32, radius: i32): void {
  const samples = 2 * radius + 1;
  const end = <usize>((count + 3) & ~3) << 2;
  let from = src - (<usize>radius << 2);
  let begun = false;
  for (let sum = 1; sum <= samples; sum *= 2) {
    const wide = <usize>sum << 2;
    if (samples & sum) {
      if (begun) for (let x: usize = 0; x < end; x += 16) v128.store(dst + x, f32x4.add(v128.load(dst + x), v128.load(from + x)));
      else memory.copy(dst, from, end);
      begun = true;
      from += wide;
    }
    if (2 * sum > samples) break;
    // Those that are still to be added reach as far as the window does.
    const last = src + (<usize>(radius + 1 - 2 * sum) << 2) + end;
    for (let p = from; p < last; p += 16) v128.store(p, f32x4.add(v128.load(p), v128.load(p + wide)));
  }
  const share = f32x4.splat(1 / <f32>samples);
  for (let x: usize = 0; x < end; x += 16) v128.store(dst + x, f32x4.mul(v128.load(dst + x), share));
}

/**
 * dst += share * the sum of 2 * radius + 1 samples of a row that has `radius` and one more on its left, and `radius` on its right, whole groups of four; by running sums, which
 * stand where the source stood. For what is spread about 0, of which sums stay small.
 */
export function addWindowRow(dst: usize, src: usize, count: i32, radius: i32, share: f32): void {
  const zero = f32x4.splat(0);
  const before = src - (<usize>(radius + 1) << 2);
  const end = src + (<usize>(((count + 3) & ~3) + radius) << 2);
  let sum = zero;
  for (let p = before; p < end; p += 16) {
    let v = v128.load(p);
    v = f32x4.add(v, v128.shuffle<f32>(zero, v, 0, 4, 5, 6));
    v = f32x4.add(sum, f32x4.add(v, v128.shuffle<f32>(zero, v, 0, 1, 4, 5)));
    v128.store(p, v);
    sum = v128.shuffle<f32>(v, v, 3, 3, 3, 3);
  }
  const by = f32x4.splat(share);
  const wide = <usize>(2 * radius + 1) << 2;
  const toSums = before - dst;
  for (const last = dst + (<usize>count << 2); dst < last; dst += 16) {
    const p = dst + toSums;
    v128.store(dst, f32x4.add(v128.load(dst), f32x4.mul(f32x4.sub(v128.load(p + wide), v128.load(p)), by)));
  }
}
