import { AS_SHOT, frameBytes, preparedSize, Score, type Look, type PlanOptions, type Preparation } from '@tin-ghost/core';
import { Encoder, encodingFor, type Container } from './encode';
import { CancelledError, systemReason, WorkError } from './errors';
import { rateValue, type Footage, type Rate } from './footage';
import { notOver, partPlace } from './part-place';
import { PlateReader, plannedFiles, type LookFiles } from './plates';
import { newEngine, RenderPool } from './pool';
import { framesAt, retimed, scoredShot } from './retimed';

export interface StrikeOptions {
  readonly footage: Footage;
  readonly look: Look;
  /** What is done to the footage before its look. */
  readonly preparation?: Preparation;
  /** What the look and the preparation refer to. */
  readonly files?: LookFiles;
  /** File to make (for `png` the folder and pattern, such as `out/%05d.png`). Nothing appears under this name before it is whole. */
  readonly file: string;
  readonly container: Container;
  readonly bits?: number;
  /** Defaults to the prepared picture's. For codings with halved chroma an odd side is lowered by one. */
  readonly width?: number;
  readonly height?: number;
  /** Defaults to the footage's; pictures are repeated or left out, never blended. */
  readonly rate?: Rate;
  /** First picture and the one after the last, counted at `rate`. */
  readonly from?: number;
  readonly to?: number;
  readonly sound?: boolean;
  readonly threads?: number;
  readonly signal?: AbortSignal;
  readonly onProgress?: (progress: StrikeProgress) => void;
}

export interface StrikeProgress {
  readonly done: number;
  readonly total: number;
  /** Pictures a second, over the last seconds; 0 until it can be told. */
  readonly perSecond: number;
  readonly secondsLeft: number;
}

export interface Struck {
  readonly frames: number;
  readonly width: number;
  readonly height: number;
}

/** The size a coding can hold nearest to the one wanted. */
export function printSize(width: number, height: number, container: Container): { width: number; height: number } {
  if (container === 'mkv' || container === 'png') return { width, height };
  return { width: Math.max(2, width & ~1), height: Math.max(2, height & ~1) };
}

/**
 * Strikes a print: decodes, wears and encodes in a pipeline that holds a handful of pictures however long the footage is.
 * @throws InputError, WorkError, CancelledError; whatever it throws, nothing is left under `file` or beside it
 */
export async function strike(options: StrikeOptions): Promise<Struck> {
  const { footage, look, container, preparation = AS_SHOT, files } = options;
  const rate = options.rate ?? footage.rate;
  const total = framesAt(footage, rate, preparation);
  const from = options.from ?? 0;
  const to = options.to ?? total;
  if (!(Number.isInteger(from) && Number.isInteger(to) && from >= 0 && to > from && to <= total))
    throw new RangeError(`the range ${from} to ${to} does not lie within the ${total} pictures of the shot`);
  const size = preparedSize(footage, preparation);
  const { width, height } = printSize(options.width ?? size.width, options.height ?? size.height, container);
  const encoding = encodingFor(container, options.bits ?? 8);
  await notOver(options.file, [footage.path]);
  const place = await partPlace(options.file, container === 'png');
  const abort = new AbortController();
  const signal = options.signal ? AbortSignal.any([options.signal, abort.signal]) : abort.signal;
  const source = { width: footage.width, height: footage.height, encoding: footage.encoding };
  const planned: PlanOptions = { source, target: { width, height, encoding }, rate: rateValue(rate), preparation, ...plannedFiles(files), footage: footage.path };
  const score = new Score(await newEngine(), look, { rate: rateValue(rate), size: { width, height }, plates: planned.plates });
  const pool = await RenderPool.start(score, look, planned, options.threads);
  const plates = new PlateReader(files?.plates ?? {}, signal);
  let encoder: Encoder | undefined;
  try {
    const sound = options.sound === false ? undefined : soundOf(footage, preparation, from / rateValue(rate), (to - from) / rateValue(rate));
    encoder = new Encoder({ file: place.file, container, width, height, rate, encoding, sound, firstNumber: from, signal });
    const meter = new Meter(to - from, options.onProgress);
    const under: Promise<Uint8Array[]>[] = [];
    const depth = Math.max(1, Math.min(pool.depth, Math.floor(HELD_BYTES / frameBytes(footage.width, footage.height, footage.encoding))));
    const out = async (): Promise<void> => {
      await encoder!.write(await under.shift()!);
      meter.tick();
    };
    for await (const made of retimed(footage, score, scoredShot(footage, rate, preparation), from, to, signal)) {
      const worn = pool.render({ ...made, plates: await plates.read(score.platePictures(made.n)) });
      worn.catch(() => undefined);
      under.push(worn);
      if (under.length >= depth) await out();
    }
    while (under.length) await out();
    await encoder.finish();
    await place.keep();
    return { frames: to - from, width, height };
  } catch (error) {
    abort.abort();
    encoder?.kill();
    await place.discard();
    throw options.signal?.aborted ? new CancelledError() : told(error);
  } finally {
    await plates.close();
    await pool.close();
  }
}

/** Bytes of footage that may be under way at once. */
const HELD_BYTES = 384e6;

function told(error: unknown): unknown {
  const reason = systemReason(error);
  return reason ? new WorkError(reason === 'permission was denied' ? 'the folder cannot be written to' : reason) : error;
}

/** The sound beside pictures of the prepared shot from a second on: of the footage's own time, as fast as its pictures. */
function soundOf(footage: Footage, { trim, speed = 1 }: Preparation, from: number, seconds: number) {
  return { footage, from: (trim?.from ?? 0) / rateValue(footage.rate) + from * speed, seconds, speed };
}

/** A rate is told after this time. */
const SETTLED_MS = 1000;

/** Rate over the last seconds, reported at most ten times a second. */
class Meter {
  private done = 0;
  private readonly marks: { at: number; done: number }[] = [{ at: performance.now(), done: 0 }];
  private said = 0;

  constructor(
    private readonly total: number,
    private readonly report?: (progress: StrikeProgress) => void,
  ) {}

  tick(): void {
    const now = performance.now();
    this.done++;
    if (now - this.said < 100 && this.done < this.total) return;
    this.said = now;
    this.marks.push({ at: now, done: this.done });
    while (this.marks.length > 2 && now - this.marks[0]!.at > 5000) this.marks.shift();
    const first = this.marks[0]!;
    // The first moments pay for starting: threads, kernels, the encoder's look ahead.
    const known = now - this.marks[0]!.at >= SETTLED_MS || this.done === this.total;
    const perSecond = known ? ((this.done - first.done) * 1000) / Math.max(1, now - first.at) : 0;
    this.report?.({ done: this.done, total: this.total, perSecond, secondsLeft: perSecond > 0 ? (this.total - this.done) / perSecond : 0 });
  }
}
