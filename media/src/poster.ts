import { rm } from 'node:fs/promises';
import { kindOf, type Container } from './containers';
import { WorkError } from './errors';
import { fileInput } from './inputs';
import { partPlace } from './part-place';
import { FFMPEG, run } from './process';
import { extract, list, openZip } from './zip';

/** The size within which stills of prints are made. */
const POSTER = { width: 384, height: 216 };

/** A finished print. */
interface Finished {
  readonly path: string;
  readonly container: Container;
  readonly frames: number;
  readonly seconds: number;
}

/**
 * Makes a still from the middle of a print.
 * @param file JPEG to make; it appears whole or not at all
 * @throws WorkError where it has no pictures, or they cannot be read, CancelledError
 */
export async function printPoster(print: Finished, file: string, signal?: AbortSignal): Promise<void> {
  const { container, frames, path, seconds } = print;
  const kind = kindOf(container);
  if (kind === 'sound') throw new WorkError('there are no pictures in it');
  const place = await partPlace(file);
  const image = `${place.file}.images`;
  try {
    const archive = kind === 'images' && frames > 1;
    if (archive) await middleImage(path, frames, image);
    const within = `scale=${POSTER.width}:${POSTER.height}:force_original_aspect_ratio=decrease:force_divisible_by=2`;
    // Files of light are shown as the display has it.
    const read = [...(container === 'exr' ? ['-gamma', '2.4'] : []), ...(kind === 'images' ? [] : ['-ss', (seconds / 2).toFixed(3)]), ...fileInput(archive ? image : path)];
    await run('ffmpeg', [...FFMPEG, ...read, '-frames:v', '1', '-vf', within, '-q:v', '3', '-update', '1', '-f', 'image2', place.file], { signal });
    await place.keep();
  } catch (error) {
    await place.discard();
    throw error;
  } finally {
    await rm(image, { force: true });
  }
}

async function middleImage(path: string, frames: number, image: string): Promise<void> {
  const archive = await openZip(path, path);
  try {
    const entries = await list(archive, path, frames);
    await extract(archive, entries[entries.length >> 1]!, image, path);
  } finally {
    archive.close();
  }
}
