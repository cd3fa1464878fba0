import { basename } from 'node:path';
import { fileCoding, kindOf } from './containers';
import { Encoder, type EncodeOptions } from './encode';
import { CancelledError, systemReason, WorkError } from './errors';
import { filmOf, soundsOf, wear, type Film, type FilmOptions } from './film';
import { Meter, type StrikeProgress } from './meter';
import { notOver, partPlace } from './part-place';
import { FFMPEG, LOCAL_ONLY, run } from './process';
import { laidSound } from './sound';

export interface StrikeOptions extends FilmOptions {
  /** File to make (for several images the folder and pattern, such as `out/%05d.png`). Nothing appears under this name before it is whole. */
  readonly file: string;
  readonly sound?: boolean;
  readonly threads?: number;
  readonly signal?: AbortSignal;
  readonly onProgress?: (progress: StrikeProgress) => void;
  /** Sees the planes of every picture as they go to the encoder; they are lent to it for the call. */
  readonly onPicture?: (planes: readonly Uint8Array[]) => void;
  /** All pictures are rendered; the encoder has some of them still before it. */
  readonly onRendered?: () => void;
}

export interface Struck {
  readonly frames: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Strikes a print: decodes, wears and encodes in a pipeline that holds a handful of pictures however long the footage is.
 * @throws InputError, WorkError, CancelledError; whatever it throws, nothing is left under `file` or beside it
 */
export async function strike(options: StrikeOptions): Promise<Struck> {
  const film = filmOf(options);
  const { width, height, frames, container, timecode, firstNumber } = film;
  if (kindOf(container) === 'sound') {
    await soundFile(film, options);
    options.onProgress?.({ done: frames, total: frames, perSecond: 0, secondsLeft: 0 });
  } else {
    const sound = options.sound === false || kindOf(container) !== 'film' ? [] : soundsOf(film);
    await encoded(film, { from: 0, to: frames }, { ...options, sound, firstNumber, fileArgs: fileCoding(container, timecode) });
  }
  return { frames, width, height };
}

/**
 * Renders some pictures of a film and encodes them to a file.
 * @throws as `strike`
 */
export async function encoded(
  film: Film,
  { from, to }: { readonly from: number; readonly to: number },
  options: Pick<StrikeOptions, 'file' | 'threads' | 'signal' | 'onProgress' | 'onPicture' | 'onRendered'> & Pick<EncodeOptions, 'sound' | 'firstNumber' | 'fileArgs'>,
): Promise<void> {
  const { width, height, rate, coding, encoding, bits, quality, bitRate, container, ground, spans } = film;
  await notOver(
    options.file,
    spans.map(({ part }) => part.footage.path),
  );
  const place = await partPlace(options.file, kindOf(container) === 'images' && /%0?\d*d/.test(basename(options.file)));
  const abort = new AbortController();
  const signal = options.signal ? AbortSignal.any([options.signal, abort.signal]) : abort.signal;
  let encoder: Encoder | undefined;
  try {
    const { sound, firstNumber, fileArgs } = options;
    encoder = new Encoder({ file: place.file, coding, width, height, rate, encoding, bits, alpha: ground === 'alpha', quality, bitRate, sound, firstNumber, fileArgs, signal });
    const meter = new Meter(to - from, options.onProgress);
    await wear(film, from, to, { threads: options.threads, signal }, async (planes) => {
      options.onPicture?.(planes);
      await encoder!.write(planes);
      meter.tick();
    });
    options.onRendered?.();
    await encoder.finish();
    await place.keep();
  } catch (error) {
    abort.abort();
    encoder?.kill();
    await place.discard();
    throw options.signal?.aborted ? new CancelledError() : told(error);
  }
}

/**
 * The sound of a film in a file of its own.
 * @throws as `strike`
 */
export async function soundFile(film: Film, { file, signal }: Pick<StrikeOptions, 'file' | 'signal'>): Promise<void> {
  await notOver(
    file,
    film.spans.map(({ part }) => part.footage.path),
  );
  const place = await partPlace(file);
  try {
    const { input, maps } = laidSound(soundsOf(film), 0);
    await run('ffmpeg', [...FFMPEG, '-progress', 'pipe:1', ...LOCAL_ONLY, ...input, ...maps, '-map_metadata', '-1', ...fileCoding(film.container), place.file], { signal });
    await place.keep();
  } catch (error) {
    await place.discard();
    throw signal?.aborted ? new CancelledError() : told(error);
  }
}

/** An error of the system in words. */
export function told(error: unknown): unknown {
  const reason = systemReason(error);
  return reason ? new WorkError(reason === 'permission was denied' ? 'the folder cannot be written to' : reason) : error;
}
