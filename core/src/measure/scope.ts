import type { Engine } from '../engine';

/** Columns of a waveform; each holds the pixels of as wide a part of the picture. */
export const COLUMNS = 128;
/** Levels of a waveform, and steps of a colour difference: each holds two values of 8 bits. */
export const LEVELS = 128;
/** Levels of a histogram. */
const BINS = 256;
const WAVE = COLUMNS * LEVELS;
/** About so many pixels are counted, and no more than 16 bits count; more would show nothing more and cost the picture its time. */
const ENOUGH = 30_000;

/** How often which value stands where, in one picture; waves and vector are held at 255. */
export interface Counts {
  /** Luma, red, green, blue: `LEVELS` rows of `COLUMNS`, the highest level first. */
  readonly waves: readonly [Uint8Array, Uint8Array, Uint8Array, Uint8Array];
  /** `LEVELS` rows of as many: Cb to the right, Cr upwards; see `vectorPlace`. */
  readonly vector: Uint8Array;
  /** Luma, red, green, blue by level. */
  readonly bins: readonly [Uint32Array, Uint32Array, Uint32Array, Uint32Array];
  readonly pixels: number;
}

/** Counts 8-bit RGBA pictures that lie in the engine's memory. */
export class Scope {
  private readonly counts;
  private readonly columns;

  constructor(private readonly engine: Engine) {
    this.counts = engine.store();
    this.columns = engine.store();
  }

  release(): void {
    for (const store of [this.counts, this.columns]) store.release();
  }

  /** Counts a picture of `width` by `height` at an address, on a grid of some ten thousand pixels. */
  count(picture: number, width: number, height: number): Counts {
    const k = this.engine.kernels;
    const step = Math.max(1, Math.ceil(Math.sqrt((width * height) / ENOUGH)));
    const total = (4 * WAVE + LEVELS * LEVELS) * 2 + 4 * BINS * 4;
    const waves = this.counts.at(total);
    const vector = waves + 4 * WAVE * 2;
    const bins = vector + LEVELS * LEVELS * 2;
    const across = Math.ceil(width / step);
    const columns = this.columns.at(across * 4);
    const offsets = this.engine.ints(columns, across);
    for (let i = 0; i < across; i++) offsets[i] = Math.floor((i * step * COLUMNS) / width) * 2;
    k.clearBytes(waves, total);
    let rows = 0;
    for (let y = 0; y < height; y += step, rows++) k.countRow(picture + y * width * 4, width, step, columns, waves, WAVE * 2, vector, bins);
    // Narrowed in place: the bytes never overtake the counters they are made of.
    k.narrowCounts(waves, waves, 4 * WAVE + LEVELS * LEVELS);
    const bytes = this.engine.bytes(waves, 4 * WAVE + LEVELS * LEVELS).slice();
    const levels = new Uint32Array(this.engine.bytes(bins, 4 * BINS * 4).slice().buffer);
    return {
      waves: [0, 1, 2, 3].map((i) => bytes.slice(i * WAVE, (i + 1) * WAVE)) as unknown as Counts['waves'],
      vector: bytes.slice(4 * WAVE),
      bins: [0, 1, 2, 3].map((i) => levels.slice(i * BINS, (i + 1) * BINS)) as unknown as Counts['bins'],
      pixels: rows * across,
    };
  }
}

/** The level below which a share of the pixels lies, in shares of full scale, straight within a level. */
export function percentile(bins: Uint32Array, share: number): number {
  let total = 0;
  for (const n of bins) total += n;
  const wanted = share * total;
  let before = 0;
  for (let level = 0; level < bins.length; level++) {
    const here = bins[level]!;
    // A level's pixels lie spread about it by half a step to each side.
    if (before + here >= wanted && here > 0) return Math.max(0, Math.min(1, (level - 0.5 + (wanted - before) / here) / (bins.length - 1)));
    before += here;
  }
  return 1;
}

/** Cb and Cr (-1/2..1/2) of a place of the vector scope. */
export const vectorPlace = (column: number, row: number): { cb: number; cr: number } => ({ cb: (2 * column + 0.5 - 128) / 255, cr: (255 - 2 * row - 0.5 - 128) / 255 });

/** Where colour bars of a level (0..1) stand on the vector scope: Cb and Cr, -1/2..1/2 (BT.709). */
export function barTargets(level: number): { name: string; cb: number; cr: number }[] {
  const colours: [string, number, number, number][] = [
    ['R', 1, 0, 0],
    ['Yl', 1, 1, 0],
    ['G', 0, 1, 0],
    ['Cy', 0, 1, 1],
    ['B', 0, 0, 1],
    ['Mg', 1, 0, 1],
  ];
  return colours.map(([name, r, g, b]) => {
    const y = 0.2126 * r + 0.7152 * g + 0.0722 * b;
    return { name, cb: (level * (b - y)) / 1.8556, cr: (level * (r - y)) / 1.5748 };
  });
}
