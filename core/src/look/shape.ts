import { carrierById } from '../carriers';
import type { Look } from './look';

/** Tape, air and tubes show 4 : 3. */
const RASTER_SHAPE = 4 / 3;

/** Width over height of the picture that a carrier shows; undefined where it has none of its own. */
export function carrierShape(id: string): number | undefined {
  const carrier = carrierById(id);
  if (carrier?.raster) return RASTER_SHAPE;
  return carrier?.gate && carrier.gate.width / carrier.gate.height;
}

/** Width over height that a look asks for; undefined where it takes the file's. */
export function lookShape({ shape, lives }: Look): number | undefined {
  const last = lives.at(-1);
  return shape === 'carrier' && last ? carrierShape(last.carrier) : undefined;
}

/** The part of a picture of some size that a look fills, about the middle; the rest are bars, each of an even number of pixels: chroma of half the size is not split. */
export function shownSize(look: Look, { width, height }: { readonly width: number; readonly height: number }): { width: number; height: number } {
  const shape = lookShape(look);
  if (shape === undefined) return { width, height };
  const within = (v: number, most: number): number => Math.max(1, most - 4 * Math.round((most - v) / 4));
  return width / height > shape ? { width: within(height * shape, width), height } : { width, height: within(width / shape, height) };
}
