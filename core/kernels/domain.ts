// Changes of domain, in place on one row (`count` samples, padded to 4).
import { exp2x4, log2x4 } from './lanes';

/** v -> max(v, floor)^power. */
export function powRow(p: usize, count: i32, power: f32, floor: f32): void {
  const k = f32x4.splat(power);
  const low = f32x4.splat(floor);
  for (const end = p + (<usize>count << 2); p < end; p += 16) {
    v128.store(p, exp2x4(f32x4.mul(log2x4(f32x4.pmax(low, v128.load(p))), k)));
  }
}

/** v -> scale * log2(max(v, floor)). */
export function logRow(p: usize, count: i32, scale: f32, floor: f32): void {
  const k = f32x4.splat(scale);
  const low = f32x4.splat(floor);
  for (const end = p + (<usize>count << 2); p < end; p += 16) {
    v128.store(p, f32x4.mul(log2x4(f32x4.pmax(low, v128.load(p))), k));
  }
}

/** v -> 2^(scale * v). */
export function expRow(p: usize, count: i32, scale: f32): void {
  const k = f32x4.splat(scale);
  for (const end = p + (<usize>count << 2); p < end; p += 16) {
    v128.store(p, exp2x4(f32x4.mul(v128.load(p), k)));
  }
}
