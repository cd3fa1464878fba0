import type { Kernels } from '../engine';
import { bell } from '../random/random';

const REACH = 3;

/**
 * Smooth noise: zero mean, unit RMS, nothing above `rate` but a short skirt. Random numbers stand 1 / (2 rate) apart and are
 * joined by a sinc in a Lanczos window of three; the sum of squares of its taps is held to 1, so that the RMS is the same
 * at every moment.
 * @param seconds the moment @param rate in Hz; at 0 it stands still at 0
 */
export function wander(k: Pick<Kernels, 'sin'>, seed: number, seconds: number, rate: number): number {
  if (rate <= 0) return 0;
  const at = seconds * 2 * rate;
  const first = Math.floor(at) - REACH + 1;
  let sum = 0;
  let power = 0;
  for (let i = 0; i < 2 * REACH; i++) {
    const x = at - (first + i);
    const px = Math.PI * x;
    const weight = Math.abs(x) < 1e-9 ? 1 : ((k.sin(px) / px) * k.sin(px / REACH) * REACH) / px;
    sum += weight * bell(seed, first + i);
    power += weight * weight;
  }
  return sum / Math.sqrt(power);
}
