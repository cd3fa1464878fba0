// Separable resampling. Which source samples and weights a target sample takes is worked out outside, once.

/** Continues the edges of a row by `pad` samples on each side. `row` is its first own sample. */
export function extendRow(row: usize, count: i32, pad: i32): void {
  const end = row + (<usize>count << 2);
  const first = load<f32>(row);
  const last = load<f32>(end - 4);
  const before = row - (<usize>pad << 2);
  let k = 0;
  for (const firsts = f32x4.splat(first), lasts = f32x4.splat(last); k + 4 <= pad; k += 4) {
    v128.store(before + (<usize>k << 2), firsts);
    v128.store(end + (<usize>k << 2), lasts);
  }
  for (; k < pad; k++) {
    store<f32>(before + (<usize>k << 2), first);
    store<f32>(end + (<usize>k << 2), last);
  }
}

/** One row into a scratch row with `pad` samples on each side that continue the edges. */
export function padRow(dst: usize, src: usize, count: i32, pad: i32): void {
  const row = dst + (<usize>pad << 2);
  memory.copy(row, src, <usize>count << 2);
  extendRow(row, count, pad);
}

/**
 * Four samples at a time: dst[4g + j] = sum over k of weights[g][k][j] * src[starts[g] + j + k]. `starts` counts from `src`
 * and holds one number for each group of four; `weights` holds `taps` vectors a group.
 */
export function gatherRow(dst: usize, src: usize, count: i32, starts: usize, weights: usize, taps: i32): void {
  const group = <usize>taps << 4;
  const end = dst + (<usize>count << 2);
  for (; dst < end; dst += 16) {
    let p = src + (<usize>load<i32>(starts) << 2);
    starts += 4;
    const last = weights + group;
    let a = f32x4.mul(v128.load(p), v128.load(weights));
    for (weights += 16; weights < last; weights += 16) {
      p += 4;
      a = f32x4.add(a, f32x4.mul(v128.load(p), v128.load(weights)));
    }
    v128.store(dst, a);
  }
}

/** As gatherRow for four rows at once, whose weights are the same: `dstStride` and `srcStride` bytes lie from each to the next. */
export function gatherRows(dst: usize, dstStride: usize, src: usize, srcStride: usize, count: i32, starts: usize, weights: usize, taps: i32): void {
  const group = <usize>taps << 4;
  const end = dst + (<usize>count << 2);
  const dst1 = dstStride, dst2 = 2 * dstStride, dst3 = 3 * dstStride;
  const src1 = srcStride, src2 = 2 * srcStride, src3 = 3 * srcStride;
  for (; dst < end; dst += 16) {
    let p = src + (<usize>load<i32>(starts) << 2);
    starts += 4;
    const last = weights + group;
    let w = v128.load(weights);
    let a = f32x4.mul(v128.load(p), w), b = f32x4.mul(v128.load(p + src1), w);
    let c = f32x4.mul(v128.load(p + src2), w), d = f32x4.mul(v128.load(p + src3), w);
    for (weights += 16; weights + 16 < last; weights += 32) {
      const q = p + src1, r = p + src2, t = p + src3;
      w = v128.load(weights);
      a = f32x4.add(a, f32x4.mul(v128.load(p, 4), w));
      b = f32x4.add(b, f32x4.mul(v128.load(q, 4), w));
      c = f32x4.add(c, f32x4.mul(v128.load(r, 4), w));
      d = f32x4.add(d, f32x4.mul(v128.load(t, 4), w));
      w = v128.load(weights, 16);
      a = f32x4.add(a, f32x4.mul(v128.load(p, 8), w));
      b = f32x4.add(b, f32x4.mul(v128.load(q, 8), w));
      c = f32x4.add(c, f32x4.mul(v128.load(r, 8), w));
      d = f32x4.add(d, f32x4.mul(v128.load(t, 8), w));
      p += 8;
    }
    if (weights < last) {
      p += 4;
      w = v128.load(weights);
      a = f32x4.add(a, f32x4.mul(v128.load(p), w));
      b = f32x4.add(b, f32x4.mul(v128.load(p + src1), w));
      c = f32x4.add(c, f32x4.mul(v128.load(p + src2), w));
      d = f32x4.add(d, f32x4.mul(v128.load(p + src3), w));
      weights += 16;
    }
    v128.store(dst, a);
    v128.store(dst + dst1, b);
    v128.store(dst + dst2, c);
    v128.store(dst + dst3, d);
  }
}

/**
 * A row of twice as many samples: dst[2 m] stands a quarter of a sample before src[m], dst[2 m + 1] as far after it. What a pair of neighbours as far from src[m] adds to
 * one it adds to the other the other way round: so one multiplication of their sum and one of their difference do for both.
 * @param weights of src[m] itself, then for each distance up to `reach` that of the sum and that of the difference
 */
export function twiceRow(dst: usize, src: usize, count: i32, weights: usize, reach: i32): void {
  const far = <usize>reach << 2;
  const middle = v128.load32_splat(weights);
  for (const end = src + (<usize>count << 2); src < end; src += 32) {
    let p = f32x4.mul(v128.load(src), middle), r = f32x4.mul(v128.load(src, 16), middle);
    let q = f32x4.splat(0), s = q;
    for (let i: usize = 4; i <= far; i += 4) {
      const sum = v128.load32_splat(weights + 2 * i - 4), difference = v128.load32_splat(weights + 2 * i);
      const before = src - i, after = src + i;
      let a = v128.load(after), b = v128.load(before);
      p = f32x4.add(p, f32x4.mul(f32x4.add(a, b), sum));
      q = f32x4.add(q, f32x4.mul(f32x4.sub(a, b), difference));
      a = v128.load(after, 16);
      b = v128.load(before, 16);
      r = f32x4.add(r, f32x4.mul(f32x4.add(a, b), sum));
      s = f32x4.add(s, f32x4.mul(f32x4.sub(a, b), difference));
    }
    const even = f32x4.add(p, q), odd = f32x4.sub(p, q), even4 = f32x4.add(r, s), odd4 = f32x4.sub(r, s);
    v128.store(dst, v128.shuffle<f32>(even, odd, 0, 4, 1, 5));
    v128.store(dst, v128.shuffle<f32>(even, odd, 2, 6, 3, 7), 16);
    v128.store(dst, v128.shuffle<f32>(even4, odd4, 0, 4, 1, 5), 32);
    v128.store(dst, v128.shuffle<f32>(even4, odd4, 2, 6, 3, 7), 48);
    dst += 64;
  }
}

// Loops that count in bytes towards an end, instead of samples and taps that are shifted, run twice as fast in V8.
// A turn costs about as much as a tap: gatherRows and mixRows take two a turn and are written out for it. Three or four, or pairs in bells, run out of registers.

/** dst[x] = sum of weights[k] * src[x + k]: one filter for the whole row. */
export function firRow(dst: usize, src: usize, count: i32, weights: usize, taps: i32): void {
  const last = weights + (<usize>taps << 2);
  const end = src + (<usize>count << 2);
  const to = dst - src;
  let p = src;
  for (; p + 48 < end; p += 64) {
    let w = v128.load32_splat(weights);
    let a = f32x4.mul(v128.load(p), w), b = f32x4.mul(v128.load(p, 16), w);
    let c = f32x4.mul(v128.load(p, 32), w), d = f32x4.mul(v128.load(p, 48), w);
    let q = p;
    for (let k = weights + 4; k < last; k += 4) {
      q += 4;
      w = v128.load32_splat(k);
      a = f32x4.add(a, f32x4.mul(v128.load(q), w));
      b = f32x4.add(b, f32x4.mul(v128.load(q, 16), w));
      c = f32x4.add(c, f32x4.mul(v128.load(q, 32), w));
      d = f32x4.add(d, f32x4.mul(v128.load(q, 48), w));
    }
    v128.store(to + p, a);
    v128.store(to + p, b, 16);
    v128.store(to + p, c, 32);
    v128.store(to + p, d, 48);
  }
  for (; p < end; p += 16) {
    let a = f32x4.mul(v128.load(p), v128.load32_splat(weights));
    let q = p;
    for (let k = weights + 4; k < last; k += 4) {
      q += 4;
      a = f32x4.add(a, f32x4.mul(v128.load(q), v128.load32_splat(k)));
    }
    v128.store(to + p, a);
  }
}

/** dst[x] = sum of weights[k] * rows[k][x]; `rows` holds addresses. */
export function mixRows(dst: usize, rows: usize, weights: usize, taps: i32, count: i32): void {
  const last = weights + (<usize>taps << 2);
  const end = <usize>count << 2;
  let x: usize = 0;
  for (; x + 48 < end; x += 64) {
    let w = v128.load32_splat(weights);
    let p = <usize>load<u32>(rows) + x;
    let a = f32x4.mul(v128.load(p), w), b = f32x4.mul(v128.load(p, 16), w);
    let c = f32x4.mul(v128.load(p, 32), w), d = f32x4.mul(v128.load(p, 48), w);
    let r = rows + 4, k = weights + 4;
    for (; k + 4 < last; k += 8, r += 8) {
      p = <usize>load<u32>(r) + x;
      w = v128.load32_splat(k);
      a = f32x4.add(a, f32x4.mul(v128.load(p), w));
      b = f32x4.add(b, f32x4.mul(v128.load(p, 16), w));
      c = f32x4.add(c, f32x4.mul(v128.load(p, 32), w));
      d = f32x4.add(d, f32x4.mul(v128.load(p, 48), w));
      p = <usize>load<u32>(r, 4) + x;
      w = v128.load32_splat(k, 4);
      a = f32x4.add(a, f32x4.mul(v128.load(p), w));
      b = f32x4.add(b, f32x4.mul(v128.load(p, 16), w));
      c = f32x4.add(c, f32x4.mul(v128.load(p, 32), w));
      d = f32x4.add(d, f32x4.mul(v128.load(p, 48), w));
    }
    if (k < last) {
      p = <usize>load<u32>(r) + x;
      w = v128.load32_splat(k);
      a = f32x4.add(a, f32x4.mul(v128.load(p), w));
      b = f32x4.add(b, f32x4.mul(v128.load(p, 16), w));
      c = f32x4.add(c, f32x4.mul(v128.load(p, 32), w));
      d = f32x4.add(d, f32x4.mul(v128.load(p, 48), w));
    }
    v128.store(dst + x, a);
    v128.store(dst + x, b, 16);
    v128.store(dst + x, c, 32);
    v128.store(dst + x, d, 48);
  }
  for (; x < end; x += 16) {
    let a = f32x4.mul(v128.load(<usize>load<u32>(rows) + x), v128.load32_splat(weights));
    let r = rows;
    for (let k = weights + 4; k < last; k += 4) {
      r += 4;
      a = f32x4.add(a, f32x4.mul(v128.load(<usize>load<u32>(r) + x), v128.load32_splat(k)));
    }
    v128.store(dst + x, a);
  }
}

/**
 * Groups of four vectors turned, rows for columns: vector j of group g stands at src + g * srcGroup + j * srcRow and goes to dst + g * dstGroup + j * dstRow (bytes).
 * Reads and writes whole vectors.
 */
function turnRows(dst: usize, dstGroup: usize, dstRow: usize, src: usize, srcGroup: usize, srcRow: usize, groups: i32): void {
  for (let g = 0; g < groups; g++) {
    const s2 = src + 2 * srcRow, d2 = dst + 2 * dstRow;
    const a = v128.load(src), b = v128.load(src + srcRow), c = v128.load(s2), d = v128.load(s2 + srcRow);
    const e = v128.shuffle<f32>(a, b, 0, 4, 1, 5), f = v128.shuffle<f32>(a, b, 2, 6, 3, 7);
    const h = v128.shuffle<f32>(c, d, 0, 4, 1, 5), i = v128.shuffle<f32>(c, d, 2, 6, 3, 7);
    v128.store(dst, v128.shuffle<f32>(e, h, 0, 1, 4, 5));
    v128.store(dst + dstRow, v128.shuffle<f32>(e, h, 2, 3, 6, 7));
    v128.store(d2, v128.shuffle<f32>(f, i, 0, 1, 4, 5));
    v128.store(d2 + dstRow, v128.shuffle<f32>(f, i, 2, 3, 6, 7));
    src += srcGroup;
    dst += dstGroup;
  }
}

/** A row of four times `count` samples as four rows of `count`, `stride` bytes apart: sample 4 n + j becomes sample n of row j. In groups of four. */
export function splitRow(dst: usize, stride: usize, src: usize, count: i32): void {
  turnRows(dst, 16, stride, src, 64, 16, (count + 3) >> 2);
}

/** The other way round: sample n of row j becomes sample 4 n + j. */
export function joinRow(dst: usize, src: usize, stride: usize, count: i32): void {
  turnRows(dst, 64, 16, src, 16, stride, (count + 3) >> 2);
}

/** Adds to each of `columns` sums, in double precision, what a row has in its block: from c count / columns up to (c + 1) count / columns, whole samples. */
export function addBlocks(sums: usize, row: usize, count: i32, columns: i32): void {
  for (let c = 0, x = 0; c < columns; c++, sums += 8) {
    let sum = load<f64>(sums);
    for (const end = ((c + 1) * count) / columns; x < end; x++) sum += <f64>load<f32>(row + (<usize>x << 2));
    store<f64>(sums, sum);
  }
}

/** Writes to each sample of a row the mean of its block: the sum of `addBlocks` over so many rows. */
export function fillBlocks(row: usize, sums: usize, count: i32, columns: i32, rows: i32): void {
  for (let c = 0, x = 0; c < columns; c++, sums += 8) {
    const end = ((c + 1) * count) / columns;
    const mean = <f32>(load<f64>(sums) / <f64>((end - x) * rows));
    for (; x < end; x++) store<f32>(row + (<usize>x << 2), mean);
  }
}
