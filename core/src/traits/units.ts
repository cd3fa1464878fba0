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

/** @param width picture's width in pixels @param height its height in pixels; the gate's height covers it */
export function unitsFor(carrier: Carrier, width: number, height: number): Units {
  return {
    width,
    height,
    micrometresPerPixel: ((carrier.gate ?? REFERENCE_GATE).height * 1000) / height,
    microsecondsPerPixel: LINE_MICROSECONDS / width,
  };
}
