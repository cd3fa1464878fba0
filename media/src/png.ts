import { rename, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { Encoder, encodingFor } from './encode';

/** Writes one picture (R'G'B' planes, 8 bits) as a PNG file, whole or not at all. */
export async function writePng(file: string, width: number, height: number, planes: readonly Uint8Array[]): Promise<void> {
  const part = join(dirname(file), `.${basename(file).replaceAll('%', '_')}.part-${process.pid}`);
  const encoder = new Encoder({ file: part, container: 'png', width, height, rate: { num: 1, den: 1 }, encoding: encodingFor('png', 8) });
  try {
    await encoder.write(planes);
    await encoder.finish();
    await rename(part, file);
  } catch (error) {
    await rm(part, { force: true });
    throw error;
  }
}
