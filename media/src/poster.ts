import { fileInput } from './inputs';
import { partPlace } from './part-place';
import { FFMPEG, run } from './process';

/** The size within which stills of prints are made. */
const POSTER = { width: 384, height: 216 };

/**
 * Makes a still from the middle of a film.
 * @param film its file, and its length in seconds
 * @param file JPEG to make; it appears whole or not at all
 * @throws WorkError, CancelledError
 */
export async function filmPoster(film: { readonly path: string; readonly seconds: number }, file: string, signal?: AbortSignal): Promise<void> {
  const place = await partPlace(file);
  const within = `scale=${POSTER.width}:${POSTER.height}:force_original_aspect_ratio=decrease:force_divisible_by=2`;
  try {
    const read = ['-ss', (film.seconds / 2).toFixed(3), ...fileInput(film.path)];
    await run('ffmpeg', [...FFMPEG, ...read, '-frames:v', '1', '-vf', within, '-q:v', '3', '-update', '1', '-f', 'image2', place.file], { signal });
    await place.keep();
  } catch (error) {
    await place.discard();
    throw error;
  }
}
