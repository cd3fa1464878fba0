import { encodingFor } from './codings';
import { fileCoding } from './containers';
import { Encoder } from './encode';
import { partPlace } from './part-place';

/** Writes one picture (R'G'B' planes, 8 bits) as a PNG file, whole or not at all. */
export async function writePng(file: string, width: number, height: number, planes: readonly Uint8Array[], signal?: AbortSignal): Promise<void> {
  const place = await partPlace(file);
  const encoder = new Encoder({ file: place.file, coding: 'png', width, height, rate: { num: 1, den: 1 }, encoding: encodingFor('png', 8), fileArgs: fileCoding('png'), signal });
  try {
    await encoder.write(planes);
    await encoder.finish();
    await place.keep();
  } catch (error) {
    encoder.kill();
    await place.discard();
    throw error;
  }
}
