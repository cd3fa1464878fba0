import { smoothHeld } from '../../shapes/smooth';

/** Lumas at which ranges meet and how softly, as they come: the trait's own, and what pictures are measured by. */
export const RANGES_MEET = { low: 0.33, high: 0.66, soft: 0.3 } as const;

/** Shares of shadows, middles and highlights at a luma; they sum to 1. */
export function rangeWeights(luma: number, low: number, high: number, soft: number): [number, number, number] {
  const above = smoothHeld((luma - low) / soft + 0.5);
  const bright = Math.min(above, smoothHeld((luma - Math.max(low, high)) / soft + 0.5));
  return [1 - above, above - bright, bright];
}
