// Noise addressed by position: a sample is a function of (seed of the row, column), never of what was drawn before.
import { bellRow, bellRows } from './blur';

/** The multipliers of the finaliser, each four times, read from memory; see lanes.ts. */
const M: usize = memory.data<i32>([0x7feb352d, 0x7feb352d, 0x7feb352d, 0x7feb352d, 0x846ca68b, 0x846ca68b, 0x846ca68b, 0x846ca68b], 16);

/** A 32-bit finaliser (two rounds of xor-shift and multiply), four lanes at once. */
// @ts-ignore: decorator
@inline
function scramble(h: v128): v128 {
  h = v128.xor(h, i32x4.shr_u(h, 16));
  h = i32x4.mul(h, v128.load(M));
  h = v128.xor(h, i32x4.shr_u(h, 15));
  h = i32x4.mul(h, v128.load(M, 16));
  return v128.xor(h, i32x4.shr_u(h, 16));
}

/** Low bytes of eight 16-bit lanes and the high halves of those bytes; the mean and one over the RMS of what `whiteRow` sums. */
const PARTS: usize = memory.data<i32>([0x00ff00ff, 0x00ff00ff, 0x00ff00ff, 0x00ff00ff, 0x00f000f0, 0x00f000f0, 0x00f000f0, 0x00f000f0], 16);
const UNIT: usize = memory.data<f32>([367.5, 367.5, 367.5, 367.5, 0.0078227275, 0.0078227275, 0.0078227275, 0.0078227275], 16);

/** Eight samples from the four hashes of `pairs`. */
// @ts-ignore: decorator
@inline
function eight(dst: usize, h: v128): void {
  const sums = i16x8.add(i16x8.add(v128.and(h, v128.load(PARTS)), v128.and(i16x8.shr_u(h, 4), v128.load(PARTS, 16))), v128.and(i16x8.shr_u(h, 8), v128.load(PARTS, 16)));
  const mean = v128.load(UNIT), scale = v128.load(UNIT, 16);
  v128.store(dst, f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(i32x4.extend_low_i16x8_u(sums)), mean), scale));
  v128.store(dst, f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(i32x4.extend_high_i16x8_u(sums)), mean), scale), 16);
}

/**
 * White noise of zero mean and unit variance: half a hash for each sample, a byte of it and sixteen times each of its two other
 * halves of a byte summed, a bell in 736 steps that ends at 2.87 sigma. `from` is the column of the first sample, even, and may be negative. Writes whole
 * groups of eight.
 */
export function whiteRow(dst: usize, count: i32, seed: u32, from: i32): void {
  const step: u32 = 0x9e3779b1;
  const base = i32x4.splat(<i32>seed);
  let pair = i32x4.mul(i32x4.add(i32x4.splat(from >> 1), i32x4(0, 1, 2, 3)), i32x4.splat(<i32>step));
  const forward = i32x4.splat(<i32>(step * 4));
  // Variance of a byte (256^2 - 1) / 12, of sixteen times half a byte 256 (16^2 - 1) / 12, twice: 16341.25.
  const end = dst + (<usize>count << 2);
  for (; dst + 32 < end; dst += 64) {
    // Two a turn: each waits on itself most of the time.
    const next = i32x4.add(pair, forward);
    const g = scramble(v128.xor(pair, base)), h = scramble(v128.xor(next, base));
    eight(dst, g);
    eight(dst + 32, h);
    pair = i32x4.add(next, forward);
  }
  if (dst < end) eight(dst, scramble(v128.xor(pair, base)));
}

/** Adds a row of half as many samples, each held over two. Writes whole groups of eight. */
export function addHeldRow(dst: usize, src: usize, count: i32): void {
  const end = dst + (<usize>count << 2);
  for (; dst < end; dst += 32, src += 16) {
    const four = v128.load(src);
    v128.store(dst, f32x4.add(v128.load(dst), v128.shuffle<f32>(four, four, 0, 0, 1, 1)));
    v128.store(dst + 16, f32x4.add(v128.load(dst + 16), v128.shuffle<f32>(four, four, 2, 2, 3, 3)));
  }
}

/** Columns that `bellNoise` works on at a time, so that the rows a row is mixed from stay in the first-level cache. */
const STRIPE: i32 = 512;

/**
 * Rows `y` to `y + rows` of white noise blurred by a bell along and across, `stride` bytes apart at `dst`. `ring` holds 2 reach + 1 rows filtered along,
 * `ringStride` bytes apart, row v in place v modulo their number, those before row `made` from an earlier call; after them it has room for two rows. `seeds`
 * are those of the rows from `made` to `y + rows + reach`. `weights` as for bellRow.
 */
export function bellNoise(
  dst: usize, stride: usize, y: i32, rows: i32, count: i32,
  ring: usize, ringStride: usize, made: i32, seeds: usize, weights: usize, reach: i32,
): void {
  const size = 2 * reach + 1;
  const raw = ring + <usize>size * ringStride;
  const list = raw + ringStride;
  // Noise begins on an even column.
  const lead = (reach + 1) & ~1;
  for (let left = 0; left < count; left += STRIPE) {
    const n = min(STRIPE, count - left);
    const at = <usize>left << 2;
    let next = made;
    for (let row = 0; row < rows; row++) {
      const last = y + row + reach;
      for (; next <= last; next++) {
        whiteRow(raw, n + lead + reach, load<u32>(seeds + (<usize>(next - made) << 2)), left - lead);
        bellRow(ring + <usize>placeOf(next, size) * ringStride + at, raw + (<usize>lead << 2), n, weights, reach);
      }
      for (let j = 0; j < size; j++) store<u32>(list + (<usize>j << 2), <u32>(ring + <usize>placeOf(last - size + 1 + j, size) * ringStride + at));
      bellRows(dst + <usize>row * stride + at, list, n, weights, reach);
    }
  }
}

/** v modulo size, also below 0. */
// @ts-ignore: decorator
@inline
function placeOf(v: i32, size: i32): i32 {
  const rest = v % size;
  return rest < 0 ? rest + size : rest;
}
