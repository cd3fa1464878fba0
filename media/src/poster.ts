import { readFile, rm, writeFile } from 'node:fs/promises';
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
  /** Whether its pictures have alpha: they are seen over grey. */
  readonly alpha?: boolean;
}

/**
 * Makes a still from the middle of a print.
 * @param file JPEG to make; it appears whole or not at all
 * @throws WorkError where it has no pictures, or they cannot be read, CancelledError
 */
export async function printPoster(print: Finished, file: string, signal?: AbortSignal): Promise<void> {
  const { container, frames, path, seconds, alpha = false } = print;
  const kind = kindOf(container);
  if (kind === 'sound') throw new WorkError('there are no pictures in it');
  const place = await partPlace(file);
  const image = `${place.file}.images`;
  try {
    const apart = kind === 'images' && frames > 1 ? middleImage(path, frames, image) : container === 'webp' ? firstOfLoop(path, image) : undefined;
    await apart;
    // Files of light are shown as the display has it; of the decoders of VP9 one alone reads alpha.
    const asked = container === 'exr' ? ['-gamma', '2.4'] : container === 'webm' && alpha ? ['-c:v', 'libvpx-vp9'] : [];
    const middle = apart || kind === 'images' ? [] : ['-ss', (seconds / 2).toFixed(3)];
    const within = `scale=${POSTER.width}:${POSTER.height}:force_original_aspect_ratio=decrease:force_divisible_by=2`;
    const seen = alpha ? [...GREY, '-filter_complex', `[0:v]${within},format=rgba[wear];[1:v][wear]overlay=(W-w)/2:(H-h)/2`] : ['-vf', within];
    await run('ffmpeg', [...FFMPEG, ...asked, ...middle, ...fileInput(apart ? image : path), ...seen, '-frames:v', '1', '-q:v', '3', '-update', '1', '-f', 'image2', place.file], {
      signal,
    });
    await place.keep();
  } catch (error) {
    await place.discard();
    throw error;
  } finally {
    await rm(image, { force: true });
  }
}

/** What wear is seen on. */
const GREY = ['-f', 'lavfi', '-i', `color=0x808080:s=${POSTER.width}x${POSTER.height}`] as const;

/**
 * The first picture of a WebP loop as a still of its own, which ffmpeg reads where it does not read loops: the data of its first frame (the RIFF chunk ANMF,
 * after 16 bytes of its place and time) under a header of their own.
 */
async function firstOfLoop(path: string, image: string): Promise<void> {
  const bytes = await readFile(path);
  const frame = bytes.indexOf('ANMF');
  if (frame < 0) throw new WorkError('there are no pictures in it');
  const data = bytes.subarray(frame + 24, frame + 8 + bytes.readUInt32LE(frame + 4));
  const head = Buffer.from('RIFF....WEBP', 'latin1');
  head.writeUInt32LE(4 + data.length, 4);
  await writeFile(image, Buffer.concat([head, data]));
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
