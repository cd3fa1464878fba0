import { REFERENCE_GATE, type Carrier } from '../carriers';

/** The size of things on the picture at hand. */
export interface Units {
  /** Of the picture, in pixels. */
  readonly width: number;
  readonly height: number;
  /** Side of a pixel on the carrier's gate. */
  readonly micrometresPerPixel: number;
  /** Time a beam takes along a pixel. */
  readonly microsecondsPerPixel: number;
}

/** What 720 samples at 13.5 MHz last (ITU-R BT.601); where there is no raster, the width of the picture lasts as long. */
const LINE_MICROSECONDS = 720 / 13.5;

/**
 * Of a gate, the picture uses the largest part of its own shape: a wide picture the whole width, a narrow one the whole height. Without a gate, the height of the
 * reference gate covers it.
 * @param width picture's width in pixels @param height its height in pixels
 */
export function unitsFor(carrier: Carrier, width: number, height: number): Units {
  const { gate } = carrier;
  const used = gate ? Math.min(gate.height, (gate.width * height) / width) : REFERENCE_GATE.height;
  return { width, height, micrometresPerPixel: (used * 1000) / height, microsecondsPerPixel: LINE_MICROSECONDS / width };
}

/** From a picture on the film to the next, in pixels: the picture, and the frame line as wide as the film has it. Undefined where the carrier is no film. */
export const framePitch = ({ film, gate }: Carrier, { height, micrometresPerPixel }: Units): number | undefined =>
  film && gate && height + ((film.pitch - gate.height) * 1000) / micrometresPerPixel;
