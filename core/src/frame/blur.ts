import type { Engine, Store } from '../engine';
import { floatStride } from './surface';

/** Full width at half height of a bell, over its sigma. */
export const WIDTH_TO_SIGMA = 2.3548;

/** A blur narrower than this at its level would let the halving show. */
const LEAST_SIGMA = 1.25;
/** Columns that are blurred together: a multiple of 16. */
const STRIPE = 512;
/** Bells narrower than this (in pixels) are left out: their neighbours' weights fall below 1e-5. */
const NOTHING = 0.2;

/** A sampled bell of sigma pixels, out to where its weights fall below a thousandth of the middle's, its sum 1. */
export function bellTaps(sigma: number, exp: (x: number) => number): Float32Array {
  const reach = sigma < NOTHING ? 0 : Math.max(1, Math.floor(3.7 * sigma));
  const taps = Array.from({ length: 2 * reach + 1 }, (_, i) => exp(-((i - reach) ** 2) / (2 * Math.max(sigma, 1e-6) ** 2)));
  const sum = taps.reduce((a, b) => a + b, 0);
  return Float32Array.from(taps, (t) => t / sum);
}

interface Level {
  readonly width: number;
  readonly height: number;
  readonly stride: number;
}

/**
 * Gaussian blur of planes of one size, of any radius in about constant time: wide bells run on a reduced picture. Halving by
 * (1 3 3 1) and doubling by a spline widen a bell themselves, by 3/4 and 5/4 times 4^level (in squared pixels of the
 * picture) each time; what is left to the bell at the coarsest level follows from that. Edges are continued.
 */
export class Blur {
  private readonly pyramid: Store;
  private readonly scratch: Store;
  private readonly taps: Store;
  private readonly list: Store;

  constructor(
    private readonly engine: Engine,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.pyramid = engine.store();
    this.scratch = engine.store();
    this.taps = engine.store();
    this.list = engine.store();
  }

  release(): void {
    for (const store of [this.pyramid, this.scratch, this.taps, this.list]) store.release();
  }

  /** dst = src blurred by a bell of `sigma` pixels across and down. `dst` may be `src`. */
  run(dst: number, src: number, stride: number, sigma: number): void {
    let depth = 0;
    const left = (level: number): number => Math.sqrt(Math.max(0, sigma * sigma - (2 * (4 ** level - 1)) / 3)) / 2 ** level;
    while (left(depth + 1) >= LEAST_SIGMA && this.width >> (depth + 1) >= 8 && this.height >> (depth + 1) >= 8) depth++;
    const levels = this.levels(depth, stride);
    const sizes = levels.map((l, i) => (i === 0 ? 0 : l.stride * l.height));
    const base = this.pyramid.at(sizes.reduce((a, b) => a + b, 64));
    const places = [src];
    let at = base;
    for (let i = 1; i <= depth; i++) {
      places.push(at);
      at += sizes[i]!;
      this.halve(places[i]!, levels[i]!, places[i - 1]!, levels[i - 1]!);
    }
    if (depth === 0) return this.bell(dst, src, levels[0]!, sigma);
    this.bell(places[depth]!, places[depth]!, levels[depth]!, left(depth));
    for (let i = depth; i > 0; i--) this.double(i === 1 ? dst : places[i - 1]!, levels[i - 1]!, places[i]!, levels[i]!);
  }

  private levels(depth: number, stride: number): Level[] {
    const levels: Level[] = [{ width: this.width, height: this.height, stride }];
    for (let i = 1; i <= depth; i++) {
      const { width, height } = levels[i - 1]!;
      const w = (width + 1) >> 1;
      levels.push({ width: w, height: (height + 1) >> 1, stride: floatStride(w) });
    }
    return levels;
  }

  private halve(dst: number, to: Level, src: number, from: Level): void {
    const k = this.engine.kernels;
    const at = this.scratch.at(from.stride + 128);
    const middle = at + 16;
    const weights = this.taps.floats([0.125, 0.375, 0.375, 0.125]);
    const list = this.list.at(16);
    const { width } = from;
    for (let y = 0; y < to.height; y++) {
      const rows = this.engine.words;
      for (let i = 0; i < 4; i++) rows[(list >> 2) + i] = src + Math.max(0, Math.min(from.height - 1, 2 * y - 1 + i)) * from.stride;
      k.mixRows(middle, list, weights, 4, width);
      this.continued(at, width);
      k.halveRow(dst + y * to.stride, middle, to.width);
    }
  }

  /** Continues a row that begins four samples after `at` by one sample on the left and three on the right. */
  private continued(at: number, width: number): void {
    // Moved as bits.
    const row = this.engine.words;
    const first = (at >> 2) + 4;
    row[first - 1] = row[first]!;
    row.fill(row[first + width - 1]!, first + width, first + width + 3);
  }

  private double(dst: number, to: Level, src: number, from: Level): void {
    const k = this.engine.kernels;
    const length = from.stride + 64;
    const at = this.scratch.at(length + 2 * from.stride + 128);
    const wide = at + length;
    const fits = 8 * ((from.width + 3) & ~3) <= to.stride;
    const weights = this.taps.floats([0.3125, 0.625, 0.0625]);
    const list = this.list.at(12);
    for (let y = 0; y < to.height; y++) {
      const near = y >> 1;
      const toward = y % 2 ? 1 : -1;
      const rows = this.engine.words;
      for (let i = 0; i < 3; i++) rows[(list >> 2) + i] = src + Math.max(0, Math.min(from.height - 1, near + toward * (1 - i))) * from.stride;
      // Mixed into the middle of a row that is then continued by a sample on each side.
      const middle = at + 16;
      k.mixRows(middle, list, weights, 3, from.width);
      this.continued(at, from.width);
      // Whole groups of four are written; where they do not fit the row, by way of one that is long enough.
      if (fits) k.doubleRow(dst + y * to.stride, middle, from.width);
      else {
        k.doubleRow(wide, middle, from.width);
        k.copy(dst + y * to.stride, wide, to.width * 4);
      }
    }
  }

  private bell(dst: number, src: number, level: Level, sigma: number): void {
    const k = this.engine.kernels;
    const taps = bellTaps(sigma, k.exp);
    const reach = (taps.length - 1) / 2;
    const { width, height, stride } = level;
    if (reach === 0) {
      if (dst !== src) k.copy(dst, src, stride * height);
      return;
    }
    const weights = this.taps.floats(taps);
    // In stripes, so that the rows a row is mixed from stay near; in place it must be whole rows.
    const stripe = dst === src ? width : Math.min(width, STRIPE);
    const padded = floatStride(stripe + 4 * reach + 16);
    const wide = floatStride(stripe);
    // Rows filtered along are kept in a ring as long as the rows about them need them; so source and target may be one.
    const ring = taps.length + 1;
    const scratch = this.scratch.at(padded + ring * wide);
    const rowOf = (y: number): number => scratch + padded + (y % ring) * wide;
    const list = this.list.at(taps.length * 4);
    for (let left = 0; left < width; left += stripe) {
      const count = Math.min(stripe, width - left);
      const [from, to] = [Math.max(0, left - reach), Math.min(width, left + count + reach)];
      let made = 0;
      for (let y = 0; y < height; y++) {
        for (; made <= Math.min(height - 1, y + reach); made++) {
          k.padRow(scratch, src + made * stride + from * 4, to - from, reach);
          k.firRow(rowOf(made), scratch + (left - from) * 4, count, weights, taps.length);
        }
        const rows = this.engine.words;
        for (let j = 0; j < taps.length; j++) rows[(list >> 2) + j] = rowOf(Math.max(0, Math.min(height - 1, y + j - reach)));
        k.mixRows(dst + y * stride + left * 4, list, weights, taps.length, count);
      }
    }
  }
}
