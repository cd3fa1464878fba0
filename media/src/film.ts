/** Shots one after the other as the pictures of a film: what is rendered for which of them, whoever encodes them. */
import { availableParallelism } from 'node:os';
import {
  AS_SHOT,
  frameBytes,
  preparedSize,
  readTimecode,
  Score,
  shownSize,
  timecodeText,
  wearAlone,
  type Encoding,
  type Ground,
  type Look,
  type PlanOptions,
  type Preparation,
} from '@tin-ghost/core';
import { codingsOf, encodingFor, takesBitRate, tooSmallFor, unfitForGround, usualDepth, type Coding, type Quality } from './codings';
import { unfitFor, type Container } from './containers';
import { WorkError } from './errors';
import { centred, printSize, within } from './film-canvas';
import { rateValue, type Footage, type Rate } from './footage';
import { PlateReader, plannedFiles, type LookFiles } from './plates';
import { newEngine, RenderPool } from './pool';
import { framesAt, retimed, scoredShot } from './retimed';
import type { Sound } from './sound';

/** A shot of a print. */
export interface Part {
  readonly footage: Footage;
  readonly look: Look;
  /** What is done to the footage before its look. */
  readonly preparation?: Preparation;
  /** What the look and the preparation refer to. */
  readonly files?: LookFiles;
}

export interface FilmOptions extends Part {
  /** What comes after it in one film: shown at its rate, each whole and of its own shape within the film's size. */
  readonly following?: readonly Part[];
  readonly container: Container;
  /** One that the container holds; the usual one without. */
  readonly coding?: Coding;
  readonly bits?: number;
  readonly quality?: Quality;
  /** Mean Mbit/s of the pictures, in place of a quality. */
  readonly bitRate?: number;
  /** Defaults to the prepared picture's. For codings with halved chroma an odd side is lowered by one. */
  readonly width?: number;
  readonly height?: number;
  /** Defaults to the footage's; pictures are repeated or left out, never blended. */
  readonly rate?: Rate;
  /** First picture and the one after the last, counted at `rate`. */
  readonly from?: number;
  readonly to?: number;
  /** The wear alone, so that it can be laid over the picture elsewhere (`wearAlone`). */
  readonly ground?: Ground;
  /** Number of the first of several images; the shot's own number of it, from 0, without. */
  readonly firstNumber?: number;
}

/** Pictures of a part, counted at the film's rate, and their size. */
interface Span {
  readonly part: Part;
  readonly from: number;
  readonly to: number;
  readonly size: { readonly width: number; readonly height: number };
}

/** What a film is made of and how it is coded. Its pictures are counted from 0. */
export interface Film {
  readonly spans: readonly Span[];
  readonly frames: number;
  readonly width: number;
  readonly height: number;
  readonly rate: Rate;
  readonly container: Container;
  readonly coding: Coding;
  /** Of the pictures as they are rendered. */
  readonly encoding: Encoding;
  /** Bits of the file. */
  readonly bits: number;
  readonly quality?: Quality;
  readonly bitRate?: number;
  readonly ground?: Ground;
  /** Of the first picture, as the footage counts it; undefined at a rate that no timecode counts by. */
  readonly timecode: string | undefined;
  readonly firstNumber: number;
}

/** A part as it is seen where only its wear is. */
const alone = (part: Part): Part => ({ ...part, look: wearAlone(part.look).look });

/** Frames a second by which the files' timecode can count: a byte, from 1. */
const MOST_COUNTED = 255;

/** Timecode of a film's first picture; undefined where its rate has none. @param trimmed pictures of the footage before the shot @param from of the shot, counted at the film's rate */
function firstTimecode(footage: Pick<Footage, 'rate' | 'timecode'>, rate: Rate, trimmed: number, from: number): string | undefined {
  const counted = Math.round(rateValue(rate));
  if (counted < 1 || counted > MOST_COUNTED) return undefined;
  const began = readTimecode(footage.timecode ?? '', footage.rate);
  const frame = ((began?.frame ?? 0) + trimmed) * (counted / Math.max(1, Math.round(rateValue(footage.rate))));
  return timecodeText(Math.round(frame) + from, rate, began?.drop);
}

/** What an encoder is handed: the wear alone is told in R'G'B'. */
const handed = (coding: Coding, bits: number, ground?: Ground): Encoding =>
  ground === undefined ? encodingFor(coding, bits) : encodingFor('png', encodingFor(coding, bits).layout === 'rgb' && bits === 8 ? 8 : 16);

/** @throws RangeError where the range does not lie within the shot, WorkError where the coding does not take the size, the rate, the length or the alpha */
export function filmOf(options: FilmOptions): Film {
  const { footage, container, quality, bitRate, preparation = AS_SHOT, ground } = options;
  const [first, ...following] = [options, ...(options.following ?? [])].map((part) => (ground === undefined ? part : alone(part)));
  const rate = options.rate ?? footage.rate;
  const total = framesAt(footage, rate, preparation);
  const from = options.from ?? 0;
  const to = options.to ?? total;
  if (!(Number.isInteger(from) && Number.isInteger(to) && from >= 0 && to > from && to <= total))
    throw new RangeError(`the range ${from} to ${to} does not lie within the ${total} pictures of the shot`);
  if (following.length > 0 && to - from < total) throw new RangeError('a film of several shots has each whole');
  const size = preparedSize(footage, preparation);
  const coding = options.coding ?? codingsOf(container)[0]!;
  const canvas = printSize(options.width ?? size.width, options.height ?? size.height, coding);
  const small = tooSmallFor(coding, canvas);
  if (small) throw new WorkError(small);
  const bits = options.bits ?? usualDepth(coding, quality);
  if (bitRate !== undefined && !takesBitRate(coding)) throw new WorkError(`a bit rate cannot be set for ${coding}`);
  const groundless = ground && unfitForGround(coding, bits, ground);
  if (groundless) throw new WorkError(groundless);
  const encoding = handed(coding, bits, ground);
  const spans: Span[] = [
    { part: first!, from, to, size: canvas },
    ...following.map((part) => ({
      part,
      from: 0,
      to: framesAt(part.footage, rate, part.preparation),
      // What a look shows, without the bars it would have in a file of its own.
      size: within(shownSize(part.look, preparedSize(part.footage, part.preparation ?? AS_SHOT)), canvas, coding),
    })),
  ];
  const frames = spans.reduce((sum, span) => sum + span.to - span.from, 0);
  const unfit = unfitFor(container, { rate, frames, sound: spans.some(({ part }) => part.footage.sound !== null) });
  if (unfit) throw new WorkError(unfit);
  const timecode = following.length ? firstTimecode({ rate }, rate, 0, 0) : firstTimecode(footage, rate, preparation.trim?.from ?? 0, from);
  return { spans, frames, ...canvas, rate, container, coding, encoding, bits, quality, bitRate, ground, timecode, firstNumber: options.firstNumber ?? from };
}

/** The sound beside each shot of a film: of the footage's own time, as fast as its pictures. */
export function soundsOf({ spans, rate }: Film): Sound[] {
  const perSecond = rateValue(rate);
  return spans.map(({ part: { footage, preparation = AS_SHOT }, from, to }) => {
    const { trim, speed = 1 } = preparation;
    return { footage, from: (trim?.from ?? 0) / rateValue(footage.rate) + (from / perSecond) * speed, seconds: (to - from) / perSecond, speed };
  });
}

/** Whether all pictures of a part are the same, so that one stands for all. */
const isMotionless = ({ footage, look, preparation }: Part): boolean => footage.kind === 'still' && look.lives.length === 0 && !preparation?.moves;

export interface WearOptions {
  readonly threads?: number;
  readonly signal: AbortSignal;
}

/** Renders the pictures of a film from `from` to before `to`, and hands each on in its order. It is read only: one that is held is handed on again. */
export async function wear(film: Film, from: number, to: number, options: WearOptions, write: (planes: readonly Uint8Array[]) => Promise<void>): Promise<void> {
  let at = 0;
  for (const span of film.spans) {
    const [first, after] = [Math.max(from, at), Math.min(to, at + span.to - span.from)];
    if (first < after) {
      const [begin, end] = [span.from + first - at, span.from + after - at];
      const same = isMotionless(span.part);
      await wearSpan({ ...span, from: begin, to: same ? begin + 1 : end }, film, options, async (planes) => {
        const picture = centred(planes, film.encoding, span.size, film);
        for (let n = same ? end - begin : 1; n > 0; n--) await write(picture);
      });
    }
    at += span.to - span.from;
  }
}

async function wearSpan(
  { part: { footage, look, preparation = AS_SHOT, files }, from, to, size }: Span,
  { rate, encoding, ground }: Film,
  { threads, signal }: WearOptions,
  write: (planes: Uint8Array[]) => Promise<void>,
): Promise<void> {
  const source = { width: footage.width, height: footage.height, encoding: footage.encoding };
  const planned: PlanOptions = { source, target: { ...size, encoding }, rate: rateValue(rate), preparation, ...plannedFiles(files), footage: footage.path };
  const score = new Score(await newEngine(), look, { rate: rateValue(rate), size, plates: planned.plates });
  // Threads that would have no picture to make only take time to start.
  const pool = await RenderPool.start(score, look, planned, { threads: Math.min(threads ?? availableParallelism(), to - from), ground });
  const plates = new PlateReader(files?.plates ?? {}, signal);
  try {
    const under: Promise<Uint8Array[]>[] = [];
    let newest: Uint8Array[] | undefined;
    const writeNext = async (): Promise<void> => {
      const planes = await under.shift()!;
      if (newest && newest !== planes) pool.done(newest);
      newest = planes;
      await write(planes);
    };
    const depth = Math.max(1, Math.min(pool.depth, Math.floor(HELD_BYTES / frameBytes(footage.width, footage.height, footage.encoding))));
    for await (const made of retimed(footage, score, scoredShot(footage, rate, preparation), from, to, { memory: pool.memory, signal })) {
      const worn = pool.render({ ...made, plates: await plates.read(score.platePictures(made.n)) });
      worn.catch(() => undefined);
      under.push(worn);
      if (under.length >= depth) await writeNext();
    }
    while (under.length) await writeNext();
  } finally {
    await plates.close();
    await pool.close();
  }
}

/** Bytes of footage that may be under way at once. */
const HELD_BYTES = 384e6;
