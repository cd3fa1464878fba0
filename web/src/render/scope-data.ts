import { COLUMNS, LEVELS, percentile, type Counts } from '@tin-ghost/core';
import type { ScopeData } from './protocol';

/** How many pixels at one place are drawn as dark as can be, in those that a place would hold if all were spread evenly. */
const FULL = 24;

/** Counts as degrees of darkness: few pixels are still seen, many do not drown the rest. */
function darkness(counts: Uint32Array, full: number): Uint8Array {
  const out = new Uint8Array(counts.length);
  const scale = 255 / Math.log2(1 + full);
  const known = new Uint8Array(1024);
  for (let n = 1; n < known.length; n++) known[n] = Math.min(255, 40 + scale * Math.log2(1 + n));
  for (let i = 0; i < counts.length; i++) {
    const n = counts[i]!;
    if (n) out[i] = n < 1024 ? known[n]! : 255;
  }
  return out;
}

function heights(bins: Uint32Array): Float32Array {
  // The ends hold all that was clipped; they must not press the rest flat.
  let most = 1;
  for (let i = 1; i < LEVELS - 1; i++) if (bins[i]! > most) most = bins[i]!;
  return Float32Array.from(bins, (n) => Math.min(1, n / most));
}

export function scopeData(counts: Counts, beyond: { below: number; above: number }): ScopeData {
  const even = counts.pixels / (COLUMNS * LEVELS);
  return {
    waves: counts.waves.map((wave) => darkness(wave, FULL * even)),
    vector: darkness(counts.vector, FULL * (counts.pixels / (LEVELS * LEVELS))),
    bins: counts.bins.map(heights),
    ...beyond,
    low: percentile(counts.bins[0], 0.01),
    median: percentile(counts.bins[0], 0.5),
    high: percentile(counts.bins[0], 0.99),
  };
}

/** Memory that can be handed to another thread. */
export const scopeBuffers = (data: ScopeData): ArrayBuffer[] => [...data.waves, data.vector, ...data.bins].map((a) => a.buffer as ArrayBuffer);
