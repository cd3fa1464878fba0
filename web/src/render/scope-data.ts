import { percentile, type Counts } from '@tin-ghost/core';
import type { ScopeData } from './protocol';

function heights(bins: Uint32Array): Float32Array {
  // The ends hold all that was clipped; they must not press the rest flat.
  let most = 1;
  for (let i = 1; i < bins.length - 1; i++) if (bins[i]! > most) most = bins[i]!;
  const out = new Float32Array(bins.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.min(1, bins[i]! / most);
  return out;
}

export function scopeData(counts: Counts, beyond: { below: number; above: number }): ScopeData {
  return {
    waves: counts.waves,
    vector: counts.vector,
    pixels: counts.pixels,
    bins: counts.bins.map(heights),
    ...beyond,
    low: percentile(counts.bins[0], 0.01),
    median: percentile(counts.bins[0], 0.5),
    high: percentile(counts.bins[0], 0.99),
  };
}

/** Memory that can be handed to another thread. */
export const scopeBuffers = (data: ScopeData): ArrayBuffer[] => [...data.waves, data.vector, ...data.bins].map((a) => a.buffer as ArrayBuffer);
