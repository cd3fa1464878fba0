import type { Encoding } from '@tin-ghost/core';

/** Pictures a second as a fraction, so that 30000/1001 stays exact. */
export interface Rate {
  readonly num: number;
  readonly den: number;
}

export const rateValue = (rate: Rate): number => rate.num / rate.den;

/** What is known of a piece of footage: all that is needed to read its pictures and its sound. */
export interface Footage {
  /** File, or the printf pattern of an image sequence. */
  readonly path: string;
  readonly kind: 'clip' | 'still' | 'sequence';
  /** Name of the container or image format. */
  readonly format: string;
  readonly codec: string;
  /** As seen: turned by the file's flag, with square pixels. */
  readonly width: number;
  readonly height: number;
  readonly rate: Rate;
  /** False: pictures come at uneven times and are brought to `rate`. */
  readonly constantRate: boolean;
  readonly frames: number;
  readonly encoding: Encoding;
  /** ffmpeg's name of the layout pictures are read in. */
  readonly pixelFormat: string;
  readonly interlaced: boolean;
  /** True where the file's pixels are not square and are stretched on reading. */
  readonly stretched: boolean;
  /** Degrees clockwise that the file's flag turns the picture. */
  readonly rotation: number;
  /** Index of the picture's stream. */
  readonly stream: number;
  /** Seconds from the container's start to the first picture. */
  readonly start: number;
  /** Of its first picture, as the file says (00:00:00:00, with a semicolon where it drops numbers); left out where it says none. */
  readonly timecode?: string;
  /** Its pictures hold two, one above the other: colours times their alpha, and the alpha (plates alone). */
  readonly stacked?: boolean;
  /** Mean brightness of each picture, 0 to 1 (plates alone). */
  readonly light?: readonly number[];
  readonly sound: { readonly codec: string; readonly channels: number; readonly sampleRate: number } | null;
}

export const footageSeconds = (footage: Footage): number => footage.frames / rateValue(footage.rate);

/** Stills and sequences have no rate of their own. */
export const STILL_RATE: Rate = { num: 24, den: 1 };
export const STILL_SECONDS = 5;

/** Largest side and count of pixels that are taken in: 8K of any shape and more. */
export const LARGEST_SIDE = 16_384;
export const LARGEST_PIXELS = 50_000_000;
