import type { Engine, Store } from '../engine';
import { floatStride } from './surface';

/** Full width at half height of a bell, over its sigma. */
export const WIDTH_TO_SIGMA = 2.3548;

/** Halving and doubling each widen a bell by this, in squared samples of the finer picture. */
const WIDENED = 1.25;
/** Discs are not run on a picture so reduced that less than this is left of their radius: their rim would go soft. */
const LEAST_DISC = 5;
/** Places in a pixel, each way, by which it is told how much of it a disc covers. */
const SUBPIXELS = 8;
/** Samples by which a row that is halved or doubled is continued on each side. */
const EDGE = 3;
/** Bells narrower than this (in pixels) are left out: their neighbours' weights are 0.02 and less. */
const NOTHING = 0.2;

/** Sampled bells narrower than this are narrower than they say; five taps of a bell's second and fourth moment take their place. */
const SAMPLED = 0.7;
/** Up to this a bell that sampled takes seven taps is three taps over three instead: five, of its variance, that let through what it does to a fortieth. */
const TWICE = 0.93;

/** A bell of sigma pixels, out to where its weights fall below a thousandth of the middle's, its sum 1. */
export function bellTaps(sigma: number, exp: (x: number) => number): Float32Array {
  if (sigma < NOTHING) return Float32Array.of(1);
  const variance = sigma * sigma;
  if (sigma < SAMPLED) {
    // 2 a + 8 b = v and 2 a + 32 b = 3 v^2.
    const b = (3 * variance - 1) * (variance / 24);
    const a = variance / 2 - 4 * b;
    return Float32Array.of(b, a, 1 - 2 * (a + b), a, b);
  }
  const reach = Math.floor(3.7 * sigma);
  if (reach === 3 && sigma < TWICE) {
    const [side, middle] = [variance / 4, 1 - variance / 2];
    return Float32Array.of(side * side, 2 * side * middle, middle * middle + 2 * side * side, 2 * side * middle, side * side);
  }
  const taps = Array.from({ length: 2 * reach + 1 }, (_, i) => exp(-((i - reach) ** 2) / (2 * variance)));
  const sum = taps.reduce((a, b) => a + b, 0);
  return Float32Array.from(taps, (t) => t / sum);
}

/** Weights of an even disc, their sum 1: for each row from the middle on, those from the middle column on. */
export function discTaps(radius: number): number[][] {
  const reach = Math.ceil(Math.max(radius, 0) + 0.5) - 1;
  const inside = (x: number, y: number): number => {
    let count = 0;
    for (let j = 0; j < SUBPIXELS; j++)
      for (let i = 0; i < SUBPIXELS; i++) if ((x + (i + 0.5) / SUBPIXELS - 0.5) ** 2 + (y + (j + 0.5) / SUBPIXELS - 0.5) ** 2 <= radius * radius) count++;
    return count;
  };
  const rows = Array.from({ length: reach + 1 }, (_, y) => Array.from({ length: reach + 1 }, (_, x) => inside(x, y)));
  const sum = rows.reduce((all, row, y) => all + row.reduce((a, v, x) => a + v * (x ? 2 : 1), 0) * (y ? 2 : 1), 0);
  if (sum === 0) return [[1]];
  return rows.map((row) => row.slice(0, row.findLastIndex((v) => v > 0) + 1).map((v) => v / sum)).filter((row) => row.length > 0);
}

/** Sizes that a spread which goes with the place is made of, at most; each this much wider than the one before, if they reach; the narrowest that is told from none. */
const MOST_SIZES = 6;
const WIDER = 1.75;
const NARROWEST = 0.5;

/** A size that lies so near below the narrowest that runs on a reduced picture is made that one: it costs a third. */
const SNAPPED = 0.92;

/** Sizes from `near` to `far`, each as much wider than the one before. @param cheap the narrowest that runs on a reduced picture */
function sizesBetween(near: number, far: number, cheap: number, pow: (x: number, y: number) => number): number[] {
  if (far <= near) return [near];
  const start = Math.max(near, NARROWEST);
  if (far <= start) return [near, far];
  const lead = near < start ? [near] : [];
  let steps = 1;
  for (let wide = start * WIDER; wide < far && steps < MOST_SIZES - 1 - lead.length; wide *= WIDER) steps++;
  const between = Array.from({ length: steps - 1 }, (_, i) => start * pow(far / start, (i + 1) / steps));
  return [...lead, start, ...between.map((size) => (size < cheap && size > cheap * SNAPPED ? cheap : size)), far];
}

interface Level {
  readonly width: number;
  readonly height: number;
  readonly stride: number;
}

/** Weights of the pixels of a picture of some size, 0 to 1, rows of `stride` bytes: where its address lies. */
export type WeightsOf = (width: number, height: number, stride: number) => number;

/** What a point becomes: a bell, whose size is its sigma, or an even disc, whose size is its radius. */
export type Spread = 'bell' | 'disc';

/** A size of a chain, and its share over those before it: what stands in the weights, scaled and moved, held to 0..1. The first is there whole. */
interface Link {
  readonly size: number;
  readonly scale: number;
  readonly offset: number;
}

/** Writes row `y` to `dst`; asked for rows from the first to the last. */
type RowMaker = (dst: number, y: number) => void;

/**
 * Gaussian blur of planes of one size, of any radius in about constant time: wide bells run on a reduced picture. Halving by
 * (1 5 10 10 5 1) and doubling by the same spline widen a bell themselves, by 5/4 times 4^level (in squared pixels of the
 * picture) each time; what is left to the bell at the coarsest level follows from that. Edges are continued.
 */
export class Blur {
  private readonly levels: readonly Level[];
  private readonly pyramid: Store;
  private readonly line: Store;
  private readonly waiting: Store;
  /** For the makers that are at work. */
  private readonly scratch: readonly Store[];
  /** For each level, what it needs to be doubled. */
  private readonly doubling: readonly Store[];

  constructor(
    private readonly engine: Engine,
    width: number,
    height: number,
  ) {
    const levels: Level[] = [{ width, height, stride: floatStride(width) }];
    while (levels.at(-1)!.width >= 16 && levels.at(-1)!.height >= 16) {
      const w = (levels.at(-1)!.width + 1) >> 1;
      levels.push({ width: w, height: (levels.at(-1)!.height + 1) >> 1, stride: floatStride(w) });
    }
    this.levels = levels;
    [this.line, this.waiting, this.pyramid] = [engine.store(), engine.store(), engine.store()];
    this.scratch = Array.from({ length: MOST_SIZES }, () => engine.store());
    this.doubling = levels.map(() => engine.store());
  }

  release(): void {
    for (const store of [this.line, this.waiting, this.pyramid, ...this.scratch, ...this.doubling]) store.release();
  }

  /**
   * dst = src blurred by a bell of `size` pixels (its sigma), or by a disc of that radius. `dst` may be `src`.
   * @param stride that of a float plane of this size
   */
  run(dst: number, src: number, stride: number, size: number, spread: Spread = 'bell'): void {
    this.check(stride);
    this.write(0, dst, this.blurred(0, src, size, spread));
  }

  /** As `run`, but each row of what comes is handed on, from the first to the last; it is good until the next. */
  eachRow(src: number, stride: number, sigma: number, use: (row: number, y: number) => void): void {
    this.check(stride);
    const make = this.blurred(0, src, sigma);
    const row = this.line.at(stride + 128);
    for (let y = 0; y < this.levels[0]!.height; y++) {
      make(row, y);
      use(row, y);
    }
  }

  /**
   * As `run` by a spread whose size goes with the place, evenly from `near` where weights are 0 to `far` where they are 1 (no narrower than `near`). It is made of a few
   * sizes, each so near to the next that a share of both is as good as the one between.
   */
  runVarying(dst: number, src: number, stride: number, near: number, far: number, weights: WeightsOf, spread: Spread = 'bell'): void {
    this.check(stride);
    this.write(0, dst, this.varying(0, src, near, far, weights, spread));
  }

  private check(stride: number): void {
    if (stride !== this.levels[0]!.stride) throw new RangeError(`the rows of a plane that is blurred must be ${this.levels[0]!.stride} bytes apart, not ${stride}`);
  }

  private write(level: number, dst: number, make: RowMaker): void {
    const { stride, height } = this.levels[level]!;
    for (let y = 0; y < height; y++) make(dst + y * stride, y);
  }

  /** The narrowest spread that runs on a reduced picture. */
  private cheap(spread: Spread): number {
    return spread === 'disc' ? 2 * LEAST_DISC : Math.sqrt(4 * NOTHING * NOTHING + 2 * WIDENED);
  }

  /** What is left of a spread one level down, in samples there; undefined where it is too narrow for that, or the picture too small. */
  private reduced(level: number, size: number, spread: Spread): number | undefined {
    if (level + 1 >= this.levels.length || size < this.cheap(spread)) return undefined;
    // What halving and doubling do to a disc is to soften its rim about where it is.
    return spread === 'disc' ? size / 2 : Math.sqrt(Math.max(0, size * size - 2 * WIDENED)) / 2;
  }

  /** Rows of a plane at a level, blurred. */
  private blurred(level: number, src: number, size: number, spread: Spread = 'bell'): RowMaker {
    return this.chain(level, src, [{ size, scale: 0, offset: 1 }], () => 0, spread);
  }

  /** A spread whose size goes with the place. */
  private varying(level: number, src: number, near: number, far: number, weights: WeightsOf, spread: Spread): RowMaker {
    const sizes = sizesBetween(near, far, this.cheap(spread), this.engine.kernels.pow);
    const links = sizes.map((size, i): Link => {
      // The first has none before it.
      const from = sizes[i - 1] ?? near - 1;
      return { size, scale: (far - near) / (size - from), offset: (near - from) / (size - from) };
    });
    return this.chain(level, src, links, weights, spread);
  }

  /**
   * Rows of a plane at a level, blurred by each of some sizes, from the narrowest on, and each mixed over those before it. Those that may run on a reduced picture
   * do so together and are mixed there, by the share of the first of them here.
   */
  private chain(level: number, src: number, links: readonly Link[], weights: WeightsOf, spread: Spread): RowMaker {
    const k = this.engine.kernels;
    const { width, height, stride } = this.levels[level]!;
    const here = links.filter(({ size }) => this.reduced(level, size, spread) === undefined);
    const below = links.slice(here.length).map((link) => ({ ...link, size: this.reduced(level, link.size, spread)! }));
    const makers: RowMaker[] = [];
    if (below.length > 0) {
      const half = this.halve(level, src);
      this.write(level + 1, half, this.chain(level + 1, half, below, weights, spread));
      makers.push(this.double(level, half));
    }
    // After those below, which are done with the memory by now.
    makers.unshift(...here.map(({ size }, i) => (spread === 'disc' ? this.disc(src, this.levels[level]!, size, i) : this.bell(src, this.levels[level]!, size, i))));
    if (makers.length === 1) return makers[0]!;
    const w = weights(width, height, stride);
    return (dst, y) => {
      // All before the first is written, as the source may be the target: each keeps what it needs.
      for (let i = makers.length - 1; i > 0; i--) makers[i]!(this.rows(i, stride), y);
      makers[0]!(dst, y);
      for (let i = 1; i < makers.length; i++) k.mixToward(dst, this.rows(i, stride), w + y * stride, width, links[i]!.scale, links[i]!.offset);
    };
  }

  /** Where a row of the size `i` waits to be mixed. */
  private rows(i: number, stride: number): number {
    return this.waiting.at(MOST_SIZES * (stride + 128)) + i * (stride + 128);
  }

  /** A plane halved into its place of the pyramid. @returns its address */
  private halve(level: number, src: number): number {
    const k = this.engine.kernels;
    const [from, to] = [this.levels[level]!, this.levels[level + 1]!];
    const bytes = (l: Level): number => l.stride * l.height;
    // Each level has its own place.
    const place = this.pyramid.at(this.levels.slice(1).reduce((sum, l) => sum + bytes(l), 64)) + this.levels.slice(1, level + 1).reduce((sum, l) => sum + bytes(l), 0);
    const at = this.line.at(this.levels[0]!.stride + 128);
    const middle = at + 16;
    const row = (y: number): number => src + Math.max(0, Math.min(from.height - 1, y)) * from.stride;
    for (let y = 0; y < to.height; y++) {
      k.halveRows(middle, row(2 * y - 2), row(2 * y - 1), row(2 * y), row(2 * y + 1), row(2 * y + 2), row(2 * y + 3), from.width);
      k.extendRow(middle, from.width, EDGE);
      k.halveRow(place + y * to.stride, middle, to.width);
    }
    return place;
  }

  /** Rows of a plane twice the size of the one at the level below. */
  private double(level: number, src: number): RowMaker {
    const k = this.engine.kernels;
    const [to, from] = [this.levels[level]!, this.levels[level + 1]!];
    const length = from.stride + 64;
    const at = this.doubling[level]!.at(length + 2 * from.stride + 128);
    // Mixed into the middle of a row that is then continued by a sample on each side.
    const middle = at + 16;
    const wide = at + length;
    const row = (y: number): number => src + Math.max(0, Math.min(from.height - 1, y)) * from.stride;
    // Whole groups of four are doubled; where they do not fit the row, by way of one that is long enough.
    const fits = 8 * ((from.width + 3) & ~3) <= to.stride;
    return (dst, y) => {
      const near = y >> 1;
      const toward = y % 2 ? 1 : -1;
      k.doubleRows(middle, row(near + toward), row(near), row(near - toward), from.width);
      k.extendRow(middle, from.width, EDGE);
      if (fits) return k.doubleRow(dst, middle, from.width);
      k.doubleRow(wide, middle, from.width);
      k.copy(dst, wide, to.width * 4);
    };
  }

  /** Rows of a plane filtered by the bell itself. */
  private bell(src: number, { width, height, stride }: Level, sigma: number, slot: number): RowMaker {
    const k = this.engine.kernels;
    const taps = bellTaps(sigma, k.exp);
    const reach = (taps.length - 1) / 2;
    if (reach === 0) return (dst, y) => dst !== src + y * stride && k.copy(dst, src + y * stride, width * 4);
    const padded = floatStride(width + 2 * reach + 16);
    // Rows filtered along are kept in a ring as long as the rows about them need them; so source and target may be one.
    const ring = taps.length + 1;
    const lists = floatStride(taps.length);
    const list = this.scratch[slot]!.at(2 * lists + padded + ring * stride);
    // The middle's weight and those on one side of it.
    const weights = list + lists;
    this.engine.floats(weights, reach + 1).set(taps.subarray(reach));
    const scratch = weights + lists;
    const rowOf = (y: number): number => scratch + padded + (y % ring) * stride;
    let made = 0;
    return (dst, y) => {
      for (; made <= Math.min(height - 1, y + reach); made++) {
        k.padRow(scratch, src + made * stride, width, reach);
        k.bellRow(rowOf(made), scratch + reach * 4, width, weights, reach);
      }
      const rows = this.engine.words;
      for (let j = 0; j < taps.length; j++) rows[(list >> 2) + j] = rowOf(Math.max(0, Math.min(height - 1, y + j - reach)));
      k.bellRows(dst, list, width, weights, reach);
    };
  }

  /** Rows of a plane spread over a disc: for each pair of rows as far from the middle one filter along. */
  private disc(src: number, { width, height, stride }: Level, radius: number, slot: number): RowMaker {
    const k = this.engine.kernels;
    const taps = discTaps(radius);
    const down = taps.length - 1;
    const pad = Math.max(...taps.map((row) => row.length)) - 1;
    // Rows as they were are kept in a ring, so source and target may be one.
    const ring = 2 * down + 2;
    const [sums, lists] = [floatStride(width + 2 * pad + 16), floatStride(pad + 1)];
    const sum = this.scratch[slot]!.at(2 * sums + stride + taps.length * lists + ring * stride);
    const padded = sum + sums;
    const along = padded + sums;
    const weights = along + stride;
    const rows = weights + taps.length * lists;
    taps.forEach((row, i) => this.engine.floats(weights + i * lists, row.length).set(row));
    const rowOf = (y: number): number => rows + (Math.max(0, Math.min(height - 1, y)) % ring) * stride;
    let made = 0;
    return (dst, y) => {
      for (; made <= Math.min(height - 1, y + down); made++) k.copy(rowOf(made), src + made * stride, stride);
      taps.forEach((row, i) => {
        k.copy(sum, rowOf(y - i), stride);
        if (i > 0) k.addRow(sum, rowOf(y + i), width, 1);
        k.padRow(padded, sum, width, pad);
        k.bellRow(i === 0 ? dst : along, padded + pad * 4, width, weights + i * lists, row.length - 1);
        if (i > 0) k.addRow(dst, along, width, 1);
      });
    };
  }
}
