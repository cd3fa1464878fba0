import { carrierById } from '../carriers';
import { DISPLAY_GAMMA } from '../frame/domain-rows';
import type { Colour } from '../traits/settings';

/** Composite signals hold luma and colour together between these levels: 133 and -33 would be full bars; what 75 % bars need still passes, and decks cut above 120. */
const COMPOSITE = { low: -0.26, high: 1.2 } as const;
/** Dyes absorb beside their own band: between two layers no more density than this can lie. */
const DYES = 1.6;
/** Blacker than this no difference of layers is seen. */
const DEEPEST = 0.02;

/**
 * Why a colour is more saturated than a carrier could hold, or null where it is not.
 * @param carrier the carrier's id
 */
export function tooColourful([r, g, b]: Colour, carrier: string): string | null {
  const found = carrierById(carrier);
  if (!found) return null;
  if (found.raster) {
    // U and V of BT.470: the colour's part of a composite signal swings by their length about luma.
    const luma = 0.299 * r + 0.587 * g + 0.114 * b;
    const swing = Math.hypot(0.492 * (b - luma), 0.877 * (r - luma));
    if (luma + swing > COMPOSITE.high || luma - swing < COMPOSITE.low) return `more saturated than ${found.name} could hold`;
  }
  if (found.gate) {
    const densities = [r, g, b].map((v) => -DISPLAY_GAMMA * Math.log10(Math.max(v, DEEPEST)));
    if (Math.max(...densities) - Math.min(...densities) > DYES) return `more saturated than the dyes of ${found.name} could be`;
  }
  return null;
}
