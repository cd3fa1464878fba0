/** A film made in segments, by whoever has time, and joined without coding a picture again. */
import { copyFile, mkdir, readdir, rm, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileCoding, joinedPictures, endingOf, kindOf, segmentCoding } from './containers';
import { CancelledError, WorkError } from './errors';
import { soundsOf, type Film } from './film';
import { rateValue } from './footage';
import { notOver, partPlace } from './part-place';
import { FFMPEG, LOCAL_ONLY, run } from './process';
import { laidSound } from './sound';
import { encoded, soundFile, told, type StrikeOptions } from './strike';
import { zipOf, zipsJoined } from './zip';

/** Pictures of a film from `from` to before `to`. */
export interface Segment {
  readonly from: number;
  readonly to: number;
}

/** About as long as a segment is: long against what it costs to begin one, short against what is lost with one. */
export const SEGMENT_SECONDS = 8;

/** Segments of a film, in order and as good as equally long. A loop is made in one go, as its pictures are coded with each other; of sound alone none is. */
export function segmentsFor({ container, frames, rate }: Pick<Film, 'container' | 'frames' | 'rate'>): Segment[] {
  const kind = kindOf(container);
  if (kind === 'sound') return [];
  return kind === 'loop' ? [{ from: 0, to: frames }] : segmentsOf(frames, rateValue(rate));
}

/** Equal parts of about so many seconds. @param perSecond pictures a second */
export function segmentsOf(frames: number, perSecond: number, seconds = SEGMENT_SECONDS): Segment[] {
  const count = Math.max(1, Math.round(frames / (perSecond * seconds)));
  return Array.from({ length: count }, (_, i) => ({ from: Math.round((i * frames) / count), to: Math.round(((i + 1) * frames) / count) }));
}

type SegmentOptions = Pick<StrikeOptions, 'file' | 'threads' | 'signal' | 'onProgress' | 'onPicture' | 'onRendered'>;

/** Whether a film is several images: they stand in an archive. */
const isArchive = ({ container, frames }: Film): boolean => kindOf(container) === 'images' && frames > 1;

/**
 * Renders a segment of a film to a file of its own, without sound; images go into an archive.
 * @throws as `strike`; nothing is left under `file` or beside it
 */
export function strikeSegment(film: Film, segment: Segment, options: SegmentOptions): Promise<void> {
  if (isArchive(film)) return archived(film, segment, options);
  return encoded(film, segment, { ...options, fileArgs: segmentCoding(film.container, film.ground === 'alpha') });
}

async function archived(film: Film, segment: Segment, options: SegmentOptions): Promise<void> {
  const place = await partPlace(options.file);
  const images = `${place.file}.images`;
  try {
    await mkdir(images);
    const file = join(images.replaceAll('%', '%%'), `%09d.${film.container}`);
    await encoded(film, segment, { ...options, file, firstNumber: segment.from, fileArgs: segmentCoding(film.container) });
    const names = (await readdir(images)).sort();
    await zipOf(
      place.file,
      names.map((name) => ({ name, path: join(images, name) })),
      options.signal,
    );
    await place.keep();
  } catch (error) {
    await place.discard();
    throw options.signal?.aborted ? new CancelledError() : told(error);
  } finally {
    await rm(images, { recursive: true, force: true });
  }
}

export interface JoinOptions {
  /** Files of all segments, in order. */
  readonly segments: readonly (Segment & { readonly file: string })[];
  /** File to make. Nothing appears under this name before it is whole. */
  readonly file: string;
  readonly sound?: boolean;
  /** What the images of an archive are called, before their numbers. */
  readonly stem?: string;
  readonly signal?: AbortSignal;
}

/**
 * Joins segments to the film and lays its sound in.
 * @throws WorkError where pictures are missing or the file cannot be written, CancelledError; nothing is left under `file` or beside it
 */
export async function joinSegments(film: Film, options: JoinOptions): Promise<void> {
  const kind = kindOf(film.container);
  if (kind === 'film') return joinFilm(film, options);
  if (kind === 'sound') return soundFile(film, options);
  const { segments, file, stem = 'frame', signal } = options;
  const place = await partPlace(file);
  try {
    if (isArchive(film)) {
      const digits = String(film.firstNumber + film.frames - 1).length;
      const naming = (n: number): string => `${stem}.${String(film.firstNumber + n).padStart(Math.max(4, digits), '0')}.${endingOf(film.container)}`;
      const parts = segments.map((segment) => segment.file);
      whole(await zipsJoined(place.file, parts, naming, film.frames, signal), film);
    } else {
      whole(segments[0] ? segments[0].to - segments[0].from : 0, film);
      await copyFile(segments[0]!.file, place.file);
    }
    await place.keep();
  } catch (error) {
    await place.discard();
    throw signal?.aborted ? new CancelledError() : told(error);
  }
}

/** @throws WorkError where pictures are missing */
function whole(frames: number, film: Film): void {
  if (frames !== film.frames) throw new WorkError(`the joined film has ${frames} pictures where ${film.frames} were made`);
}

async function joinFilm(film: Film, { segments, file, sound = true, signal }: JoinOptions): Promise<void> {
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
      [
        ...FFMPEG,
        ...read,
        '-map',
        '0:v',
        ...maps,
        '-map_metadata',
        '-1',
        ...joinedPictures(film.container, film.rate, film.ground === 'alpha'),
        ...fileCoding(film.container, film.timecode),
        place.file,
      ],
      { signal },
    );
    const { printed } = await run(
      'ffprobe',
      ['-v', 'error', '-select_streams', 'v:0', '-count_packets', '-show_entries', 'stream=nb_read_packets', '-of', 'csv=p=0', `file:${place.file}`],
      { signal },
    );
    whole(Number.parseInt(printed.toString(), 10), film);
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
