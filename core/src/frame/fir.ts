import type { Kernels } from '../engine';
import { Lately } from '../lately';

type Mathematics = Pick<Kernels, 'sin' | 'cos'>;

/** Longest filter; what is narrower than it can hold is held to it. */
const MOST_REACH = 60;

/** Response of symmetric taps at a frequency in cycles a sample. */
export function responseOf(taps: ArrayLike<number>, frequency: number, cos: (x: number) => number): number {
  const reach = (taps.length - 1) / 2;
  let sum = taps[reach]!;
  for (let i = 1; i <= reach; i++) sum += 2 * taps[reach + i]! * cos(2 * Math.PI * frequency * i);
  return sum;
}

/** A sinc of cut-off `cut` in a Blackman window, its sum 1. */
function windowed(cut: number, reach: number, k: Mathematics): Float32Array {
  const taps = new Float64Array(2 * reach + 1);
  let sum = 0;
  for (let i = -reach; i <= reach; i++) {
    const x = 2 * Math.PI * cut * i;
    const w = Math.PI * (1 + i / (reach + 1));
    const tap = (i === 0 ? 1 : k.sin(x) / x) * (0.42 - 0.5 * k.cos(w) + 0.08 * k.cos(2 * w));
    taps[i + reach] = tap;
    sum += tap;
  }
  return Float32Array.from(taps, (t) => t / sum);
}

/**
 * Taps of a low pass along a row whose response has fallen by 3 dB at `frequency` (cycles a sample, under 1/2).
 * A windowed sinc is 6 dB down at its cut-off, so the cut-off is sought that is 3 dB down where it is wanted.
 * @param steepness half the filter's length in cycles of that frequency
 * @returns what is not to be written to: it is kept
 */
export const lowPassTaps = (frequency: number, k: Mathematics, steepness = 1.6): Float32Array =>
  frequency >= 0.47 ? Float32Array.of(1) : lowPasses.get(`${frequency},${steepness}`, () => lowPassTapsOf(frequency, k, steepness));

const lowPasses = new Lately<Float32Array>(24);

function lowPassTapsOf(frequency: number, k: Mathematics, steepness: number): Float32Array {
  const reach = Math.max(3, Math.min(MOST_REACH, Math.ceil(steepness / frequency)));
  let [low, high] = [frequency * 0.5, Math.min(0.5, frequency * 2.5)];
  for (let i = 0; i < 24; i++) {
    const middle = (low + high) / 2;
    if (responseOf(windowed(middle, reach, k), frequency, k.cos) < Math.SQRT1_2) low = middle;
    else high = middle;
  }
  return windowed((low + high) / 2, reach, k);
}

/** Two filters one after the other, as one. */
export function joined(a: ArrayLike<number>, b: ArrayLike<number>): Float32Array<ArrayBuffer> {
  const out = new Float32Array(a.length + b.length - 1);
  for (let i = 0; i < a.length; i++) for (let j = 0; j < b.length; j++) out[i + j]! += a[i]! * b[j]!;
  return out;
}
