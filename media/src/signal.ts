import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { extname, join } from 'node:path';
import { EMPTY_LOOK, Plan, signalPicture, toCodes, type Colour, type Encoding, type RawFrame, type Signal } from '@tin-ghost/core';
import { codingsOf, encodingFor, usualDepth } from './codings';
import { containerByEnding, fileCoding, joinedPictures, kindOf, type Container } from './containers';
import { Encoder } from './encode';
import type { Rate } from './footage';
import { partPlace } from './part-place';
import { newEngine } from './pool';
import { FFMPEG, LOCAL_ONLY, run } from './process';

export interface SignalFileOptions {
  readonly signal: Signal;
  readonly file: string;
  readonly width: number;
  readonly height: number;
  readonly rate: Rate;
  readonly seconds: number;
  readonly level?: number;
  /** Stops it. */
  readonly abort?: AbortSignal;
}

const RGB16: Encoding = { layout: 'rgb', bits: 16, subX: 0, subY: 0, matrix: 'bt709', range: 'full' };

/** The container a file's name asks for, or undefined. */
export const containerOf = (file: string): Container | undefined => containerByEnding(extname(file).toLowerCase().slice(1));

const framesIn = (seconds: number, { num, den }: Rate): number => Math.max(1, Math.round((seconds * num) / den));

/** Writes one picture, held for some seconds, as a file. */
async function writeHeld(source: RawFrame, { file, rate, seconds, abort }: Pick<SignalFileOptions, 'file' | 'rate' | 'seconds' | 'abort'>): Promise<void> {
  const { width, height } = source;
  const container = containerOf(file)!;
  const coding = codingsOf(container)[0]!;
  const encoding = encodingFor(coding, container === 'mkv' ? 16 : usualDepth(coding));
  const planes = new Plan(await newEngine(), EMPTY_LOOK, { source, target: { width, height, encoding }, rate: 1 }).render(0, source);
  const place = await partPlace(file);
  const encoder = new Encoder({ file: place.file, coding, fileArgs: fileCoding(container), width, height, rate, encoding, signal: abort });
  try {
    const frames = kindOf(container) === 'images' ? 1 : framesIn(seconds, rate);
    for (let n = 0; n < frames; n++) await encoder.write(planes);
    await encoder.finish();
    await place.keep();
  } catch (error) {
    encoder.kill();
    await place.discard();
    throw error;
  }
}

/**
 * Writes a test signal as a file: lossless R'G'B' at 16 bits in mkv, 8-bit in the others; a .png is one picture.
 * @throws WorkError, CancelledError; nothing half-written stays
 */
export async function writeSignal(options: SignalFileOptions): Promise<void> {
  const { width, height } = options;
  await writeHeld({ width, height, encoding: RGB16, planes: toCodes(signalPicture(options.signal, options), 16) }, options);
}

export interface CardFileOptions extends Omit<SignalFileOptions, 'signal' | 'level'> {
  /** Colours as displayed, 0 to 1: at the top and at the bottom, evenly from one to the other. */
  readonly upper: Colour;
  readonly lower: Colour;
}

/** Writes a card of plain colour, or of a gradient, as a .mkv. Throws as `writeSignal`. */
export async function writeCard(options: CardFileOptions): Promise<void> {
  const { width, height, upper, lower, rate, seconds, file, abort: signal } = options;
  const planes = [0, 1, 2].map((plane) => {
    const codes = new Uint16Array(width * height);
    for (let y = 0; y < height; y++) codes.fill(Math.round(65535 * (upper[plane]! + ((lower[plane]! - upper[plane]!) * y) / Math.max(1, height - 1))), y * width, (y + 1) * width);
    return new Uint8Array(codes.buffer);
  });
  const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-card-'));
  const place = await partPlace(file);
  try {
    // One picture is coded, and what it was coded to repeated: every picture of such a file is whole in itself.
    const [one, all] = [join(folder, 'one.mkv'), join(folder, 'all.mkv')];
    await writeHeld({ width, height, encoding: RGB16, planes }, { ...options, file: one, seconds: rate.den / rate.num });
    const copied = (...how: string[]): string[] => [...FFMPEG, ...LOCAL_ONLY, ...how, '-map', '0:v', '-map_metadata', '-1'];
    await run('ffmpeg', [...copied('-stream_loop', String(framesIn(seconds, rate) - 1), '-i', one), '-c', 'copy', ...fileCoding('mkv'), all], { signal });
    // Repeated, each begins at a whole millisecond after the one before.
    await run('ffmpeg', [...copied('-i', all), ...joinedPictures('mkv', rate), ...fileCoding('mkv'), place.file], { signal });
    await place.keep();
  } catch (error) {
    await place.discard();
    throw error;
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
