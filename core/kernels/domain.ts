// Changes of domain, in place on one row (`count` samples, padded to 8). Two vectors a turn: each waits on itself most of the time.

import { exp2x4, log2x4 } from './lanes';

/** v -> max(v, floor)^power. */
export function powRow(p: usize, count: i32, power: f32, floor: f32): void {
  const k = f32x4.splat(power);
  const low = f32x4.splat(floor);
  for (const end = p + (<usize>count << 2); p < end; p += 32) {
    const a = log2x4(f32x4.pmax(low, v128.load(p)));
    const b = log2x4(f32x4.pmax(low, v128.load(p, 16)));
    v128.store(p, exp2x4(f32x4.mul(a, k)));
    v128.store(p, exp2x4(f32x4.mul(b, k)), 16);
  }
}

/** v -> scale * log2(max(v, floor)). */
export function logRow(p: usize, count: i32, scale: f32, floor: f32): void {
  const k = f32x4.splat(scale);
  const low = f32x4.splat(floor);
  for (const end = p + (<usize>count << 2); p < end; p += 32) {
    const a = log2x4(f32x4.pmax(low, v128.load(p)));
    const b = log2x4(f32x4.pmax(low, v128.load(p, 16)));
    v128.store(p, f32x4.mul(a, k));
    v128.store(p, f32x4.mul(b, k), 16);
  }
}

/** v -> 2^(scale * v). */
export function expRow(p: usize, count: i32, scale: f32): void {
  const k = f32x4.splat(scale);
  for (const end = p + (<usize>count << 2); p < end; p += 32) {
    const a = exp2x4(f32x4.mul(v128.load(p), k));
    const b = exp2x4(f32x4.mul(v128.load(p, 16), k));
    v128.store(p, a);
    v128.store(p, b, 16);
  }
}
