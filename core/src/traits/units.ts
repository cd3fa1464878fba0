import { REFERENCE_GATE, type Carrier } from '../carriers';

/** The size of things on the picture at hand. */
export interface Units {
  /** Of the picture, in pixels. */
  readonly width: number;
  readonly height: number;
  /** Side of a pixel on the carrier's gate. */
  readonly micrometresPerPixel: number;
}

/** @param width picture's width in pixels @param height its height in pixels; the gate's height covers it */
export function unitsFor(carrier: Carrier, width: number, height: number): Units {
  return { width, height, micrometresPerPixel: ((carrier.gate ?? REFERENCE_GATE).height * 1000) / height };
}
