import { extname } from 'node:path';
import { Engine, EMPTY_LOOK, Plan, signalPicture, toCodes, type Encoding, type Signal } from '@tin-ghost/core';
import { Encoder, encodingFor, type Container } from './encode';
import type { Rate } from './footage';
import { partPlace } from './part-place';
import { newEngine } from './pool';

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
const CONTAINERS: Record<string, Container> = { '.mp4': 'mp4', '.webm': 'webm', '.mkv': 'mkv', '.png': 'png' };

/** The container a file's name asks for, or undefined. */
export const containerOf = (file: string): Container | undefined => CONTAINERS[extname(file).toLowerCase()];

/**
 * Writes a test signal as a file: lossless R'G'B' at 16 bits in mkv, 8-bit in the others; a .png is one picture.
 * @throws WorkError, CancelledError; nothing half-written stays
 */
export async function writeSignal(options: SignalFileOptions): Promise<void> {
  const { width, height, rate } = options;
  const container = containerOf(options.file)!;
  const encoding = encodingFor(container, container === 'mkv' ? 16 : 8);
  const source = { width, height, encoding: RGB16, planes: toCodes(signalPicture(options.signal, options), 16) };
  const engine: Engine = await newEngine();
  const planes = new Plan(engine, EMPTY_LOOK, { source, target: { width, height, encoding }, rate: 1 }).render(0, source);
  const place = await partPlace(options.file);
  const encoder = new Encoder({ file: place.file, container, width, height, rate, encoding, signal: options.abort });
  try {
    const frames = container === 'png' ? 1 : Math.max(1, Math.round((options.seconds * rate.num) / rate.den));
    for (let n = 0; n < frames; n++) await encoder.write(planes);
    await encoder.finish();
    await place.keep();
  } catch (error) {
    encoder.kill();
    await place.discard();
    throw error;
  }
}
