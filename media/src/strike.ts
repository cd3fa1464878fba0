import { AS_SHOT, frameBytes, preparedSize, Score, shownSize, type Encoding, type Look, type PlanOptions, type Preparation } from '@tin-ghost/core';
import { codingsOf, depthsOf, encodingFor, tooSmallFor, type Coding, type Container, type Quality } from './codings';
import { Encoder, type Sound } from './encode';
import { centred, printSize, within } from './film-canvas';
import { CancelledError, systemReason, WorkError } from './errors';
import { rateValue, type Footage, type Rate } from './footage';
import { notOver, partPlace } from './part-place';
import { PlateReader, plannedFiles, type LookFiles } from './plates';
import { newEngine, RenderPool } from './pool';
import { framesAt, retimed, scoredShot } from './retimed';

/** A shot of a print. */
export interface Part {
  readonly footage: Footage;
  readonly look: Look;
  /** What is done to the footage before its look. */
  readonly preparation?: Preparation;
  /** What the look and the preparation refer to. */
  readonly files?: LookFiles;
}

export interface StrikeOptions extends Part {
  /** What comes after it in one film: shown at its rate, each whole and of its own shape within the film's size. */
  readonly following?: readonly Part[];
  /** File to make (for `png` the folder and pattern, such as `out/%05d.png`). Nothing appears under this name before it is whole. */
  readonly file: string;
  readonly container: Container;
  /** One that the container holds; the usual one without. */
  readonly coding?: Coding;
  readonly bits?: number;
  readonly quality?: Quality;
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

/**
 * Strikes a print: decodes, wears and encodes in a pipeline that holds a handful of pictures however long the footage is.
 * @throws InputError, WorkError, CancelledError; whatever it throws, nothing is left under `file` or beside it
 */
export async function strike(options: StrikeOptions): Promise<Struck> {
  const { footage, container, preparation = AS_SHOT, following = [] } = options;
  const rate = options.rate ?? footage.rate;
  const total = framesAt(footage, rate, preparation);
  const from = options.from ?? 0;
  const to = options.to ?? total;
  if (!(Number.isInteger(from) && Number.isInteger(to) && from >= 0 && to > from && to <= total))
    throw new RangeError(`the range ${from} to ${to} does not lie within the ${total} pictures of the shot`);
  if (following.length > 0 && to - from < total) throw new RangeError('a film of several shots has each whole');
  const size = preparedSize(footage, preparation);
  const canvas = printSize(options.width ?? size.width, options.height ?? size.height, container);
  const coding = options.coding ?? codingsOf(container)[0]!;
  const small = tooSmallFor(coding, canvas);
  if (small) throw new WorkError(small);
  const encoding = encodingFor(container, options.bits ?? depthsOf(coding)[0]!);
  const spans: Span[] = [
    { part: options, from, to, size: canvas },
    ...following.map((part) => ({
      part,
      from: 0,
      to: framesAt(part.footage, rate, part.preparation),
      // What a look shows, without the bars it would have in a file of its own.
      size: within(shownSize(part.look, preparedSize(part.footage, part.preparation ?? AS_SHOT)), canvas, container),
    })),
  ];
  await notOver(
    options.file,
    spans.map(({ part }) => part.footage.path),
  );
  const place = await partPlace(options.file, container === 'png');
  const abort = new AbortController();
  const signal = options.signal ? AbortSignal.any([options.signal, abort.signal]) : abort.signal;
  let encoder: Encoder | undefined;
  try {
    const sound = options.sound === false ? [] : spans.map((span) => soundOf(span, rateValue(rate)));
    encoder = new Encoder({ file: place.file, coding, ...canvas, rate, encoding, quality: options.quality, sound, firstNumber: from, signal });
    const frames = spans.reduce((sum, span) => sum + span.to - span.from, 0);
    const meter = new Meter(frames, options.onProgress);
    for (const span of spans)
      await wear(span, { rate, encoding, threads: options.threads, signal }, async (planes) => {
        await encoder!.write(centred(planes, encoding, span.size, canvas));
        meter.tick();
      });
    await encoder.finish();
    await place.keep();
    return { frames, ...canvas };
  } catch (error) {
    abort.abort();
    encoder?.kill();
    await place.discard();
    throw options.signal?.aborted ? new CancelledError() : told(error);
  }
}

/** Pictures of a part, counted at the film's rate, and their size. */
interface Span {
  readonly part: Part;
  readonly from: number;
  readonly to: number;
  readonly size: { readonly width: number; readonly height: number };
}

/** Wears the pictures of a part, and hands each on in its order. */
async function wear(
  { part: { footage, look, preparation = AS_SHOT, files }, from, to, size }: Span,
  { rate, encoding, threads, signal }: { rate: Rate; encoding: Encoding; threads?: number; signal: AbortSignal },
  write: (planes: Uint8Array[]) => Promise<void>,
): Promise<void> {
  const source = { width: footage.width, height: footage.height, encoding: footage.encoding };
  const planned: PlanOptions = { source, target: { ...size, encoding }, rate: rateValue(rate), preparation, ...plannedFiles(files), footage: footage.path };
  const score = new Score(await newEngine(), look, { rate: rateValue(rate), size, plates: planned.plates });
  const pool = await RenderPool.start(score, look, planned, threads);
  const plates = new PlateReader(files?.plates ?? {}, signal);
  try {
    const under: Promise<Uint8Array[]>[] = [];
    const depth = Math.max(1, Math.min(pool.depth, Math.floor(HELD_BYTES / frameBytes(footage.width, footage.height, footage.encoding))));
    for await (const made of retimed(footage, score, scoredShot(footage, rate, preparation), from, to, signal)) {
      const worn = pool.render({ ...made, plates: await plates.read(score.platePictures(made.n)) });
      worn.catch(() => undefined);
      under.push(worn);
      if (under.length >= depth) await write(await under.shift()!);
    }
    while (under.length) await write(await under.shift()!);
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

/** The sound beside pictures of a prepared shot: of the footage's own time, as fast as its pictures. @param rate the film's pictures a second */
function soundOf({ part: { footage, preparation = AS_SHOT }, from, to }: Span, rate: number): Sound {
  const { trim, speed = 1 } = preparation;
  return { footage, from: (trim?.from ?? 0) / rateValue(footage.rate) + (from / rate) * speed, seconds: (to - from) / rate, speed };
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
