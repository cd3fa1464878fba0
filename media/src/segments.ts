/** A film made in segments, by whoever has time, and joined without coding a picture again. */
import { writeFile, rm } from 'node:fs/promises';
import { fileCoding, joinedPictures, segmentCoding } from './codings';
import { CancelledError, WorkError } from './errors';
import { soundsOf, type Film } from './film';
import { rateValue } from './footage';
import { notOver, partPlace } from './part-place';
import { FFMPEG, LOCAL_ONLY, run } from './process';
import { laidSound } from './sound';
import { encoded, told, type StrikeOptions } from './strike';

/** Pictures of a film from `from` to before `to`. */
export interface Segment {
  readonly from: number;
  readonly to: number;
}

/** About as long as a segment is: long against what it costs to begin one, short against what is lost with one. */
export const SEGMENT_SECONDS = 8;

/** Segments of a film, in order and as good as equally long. @param perSecond pictures a second */
export function segmentsOf(frames: number, perSecond: number, seconds = SEGMENT_SECONDS): Segment[] {
  const count = Math.max(1, Math.round(frames / (perSecond * seconds)));
  return Array.from({ length: count }, (_, i) => ({ from: Math.round((i * frames) / count), to: Math.round(((i + 1) * frames) / count) }));
}

/**
 * Renders a segment of a film to a file of its own, without sound.
 * @throws as `strike`; nothing is left under `file` or beside it
 */
export const strikeSegment = (
  film: Film,
  segment: Segment,
  options: Pick<StrikeOptions, 'file' | 'threads' | 'signal' | 'onProgress' | 'onPicture' | 'onRendered'>,
): Promise<void> => encoded(film, segment, { ...options, fileArgs: segmentCoding(film.container) });

export interface JoinOptions {
  /** Files of all segments, in order. */
  readonly segments: readonly (Segment & { readonly file: string })[];
  /** File to make. Nothing appears under this name before it is whole. */
  readonly file: string;
  readonly sound?: boolean;
  readonly signal?: AbortSignal;
}

/**
 * Joins segments to the film and lays its sound in.
 * @throws WorkError where pictures are missing or the file cannot be written, CancelledError; nothing is left under `file` or beside it
 */
export async function joinSegments(film: Film, { segments, file, sound = true, signal }: JoinOptions): Promise<void> {
  await notOver(file, [...film.spans.map(({ part }) => part.footage.path), ...segments.map((segment) => segment.file)]);
  const place = await partPlace(file);
  const list = `${place.file}.list`;
  const perSecond = rateValue(film.rate);
  try {
    await writeFile(list, segments.map(({ from, to, file: path }) => `file ${quoted(path)}\nduration ${((to - from) / perSecond).toFixed(6)}\n`).join(''));
    const { input, maps } = laidSound(sound ? soundsOf(film) : []);
    // Its progress shows that it moves.
    const read = ['-progress', 'pipe:1', ...LOCAL_ONLY, '-f', 'concat', '-safe', '0', '-i', list, ...input];
    await run(
      'ffmpeg',
      [...FFMPEG, ...read, '-map', '0:v', ...maps, '-map_metadata', '-1', ...joinedPictures(film.container, film.rate), ...fileCoding(film.container), place.file],
      { signal },
    );
    const { printed } = await run(
      'ffprobe',
      ['-v', 'error', '-select_streams', 'v:0', '-count_packets', '-show_entries', 'stream=nb_read_packets', '-of', 'csv=p=0', `file:${place.file}`],
      { signal },
    );
    const frames = Number.parseInt(printed.toString(), 10);
    if (frames !== film.frames) throw new WorkError(`the joined film has ${frames} pictures where ${film.frames} were made`);
    await place.keep();
  } catch (error) {
    await place.discard();
    throw signal?.aborted ? new CancelledError() : told(error);
  } finally {
    await rm(list, { force: true });
  }
}

/** A path as a list of the concat demuxer has it. */
const quoted = (path: string): string => `'${path.replaceAll("'", "'\\''")}'`;
