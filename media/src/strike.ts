import { Encoder, type EncodeOptions } from './encode';
import { CancelledError, systemReason, WorkError } from './errors';
import { filmOf, soundsOf, wear, type Film, type FilmOptions } from './film';
import { Meter, type StrikeProgress } from './meter';
import { notOver, partPlace } from './part-place';

export interface StrikeOptions extends FilmOptions {
  /** File to make (for `png` the folder and pattern, such as `out/%05d.png`). Nothing appears under this name before it is whole. */
  readonly file: string;
  readonly sound?: boolean;
  readonly threads?: number;
  readonly signal?: AbortSignal;
  readonly onProgress?: (progress: StrikeProgress) => void;
  /** Sees the planes of every picture as they go to the encoder. */
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
  const { width, height, frames } = film;
  await encoded(film, { from: 0, to: frames }, { ...options, sound: options.sound === false ? [] : soundsOf(film), firstNumber: options.from });
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
  const { width, height, rate, coding, encoding, quality, container, spans } = film;
  await notOver(
    options.file,
    spans.map(({ part }) => part.footage.path),
  );
  const place = await partPlace(options.file, container === 'png');
  const abort = new AbortController();
  const signal = options.signal ? AbortSignal.any([options.signal, abort.signal]) : abort.signal;
  let encoder: Encoder | undefined;
  try {
    const { sound, firstNumber, fileArgs } = options;
    encoder = new Encoder({ file: place.file, coding, width, height, rate, encoding, quality, sound, firstNumber, fileArgs, signal });
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

/** An error of the system in words. */
export function told(error: unknown): unknown {
  const reason = systemReason(error);
  return reason ? new WorkError(reason === 'permission was denied' ? 'the folder cannot be written to' : reason) : error;
}
