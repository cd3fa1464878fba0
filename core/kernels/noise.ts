// Noise addressed by position: a sample is a function of (seed of the row, column), never of what was drawn before.

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

/**
 * White noise of zero mean and unit variance: the sum of the four bytes of a hash, a bell that ends at 3.45 sigma.
 * `from` is the column of the first sample and may be negative.
 */
export function whiteRow(dst: usize, count: i32, seed: u32, from: i32): void {
  const step: u32 = 0x9e3779b1;
  const base = i32x4.splat(<i32>seed);
  let column = i32x4.mul(i32x4.add(i32x4.splat(from), i32x4(0, 1, 2, 3)), i32x4.splat(<i32>step));
  const forward = i32x4.splat(<i32>(step * 4));
  // Sum of four bytes: mean 510, variance 4 (256^2 - 1) / 12 = 21845.
  const scale = f32x4.splat(0.006765875);
  const centre = f32x4.splat(510);
  for (const end = dst + (<usize>count << 2); dst < end; dst += 16) {
    const h = scramble(v128.xor(column, base));
    const sum = i32x4.extadd_pairwise_i16x8_u(i16x8.extadd_pairwise_i8x16_u(h));
    v128.store(dst, f32x4.mul(f32x4.sub(f32x4.convert_i32x4_s(sum), centre), scale));
    column = i32x4.add(column, forward);
  }
}
