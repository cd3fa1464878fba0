import type { Engine, Store } from '../engine';
import { floatStride } from './surface';

/** Full width at half height of a bell, over its sigma. */
export const WIDTH_TO_SIGMA = 2.3548;

/** Halving and doubling each widen a bell by this, in squared samples of the finer picture. */
const WIDENED = 1.25;
/** The mean of two widens by this. */
const PAIRS = 0.25;
/** Bells from here on are made of means of two by two: what is too fine for those is gone after them. */
const LEAST_OF_PAIRS = 4;
/** Discs are not run on a picture so reduced that less than this is left of their radius: their rim would go soft. */
const LEAST_DISC = 5;
/** Places in a pixel, each way, by which it is told how much of it a disc covers. */
const SUBPIXELS = 8;
/** Bells narrower than this (in pixels) are left out: their neighbours' weights are 0.02 and less. */
const NOTHING = 0.2;
/** A bell that runs on a reduced picture may leave so little for it to do: less than nothing, whichever way it is rounded. */
const LEAST_LEFT = 0.99 * NOTHING;

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
  // What is hardly narrower is as good.
  const start = near * WIDER >= NARROWEST ? near : NARROWEST;
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

/** Weights of the pixels of a picture of some size, 0 to 1, falling nowhere along a row from its middle outwards, rows of `stride` bytes: where its address lies. */
export type WeightsOf = (width: number, height: number, stride: number) => number;

/** What a point becomes: a bell, whose size is its sigma, or an even disc, whose size is its radius. */
export type Spread = 'bell' | 'disc';

/** A size of a chain, and its share over those before it: what stands in the weights, scaled and moved, held to 0..1. The first is there whole. */
interface Link {
  readonly size: number;
  readonly scale: number;
  readonly offset: number;
}

/** Where what comes is laid: written, mixed over what is there by weights of the same rows, or added by a share; `next` will be mixed over it by the same weights. */
type Laid = { readonly dst: number } & (
  | { readonly how: 'written'; readonly weights?: number; readonly next?: Link }
  | { readonly how: 'mixed'; readonly weights: number; readonly link: Link; readonly next?: Link }
  | { readonly how: 'added'; readonly share: number }
);
const HOW = ['written', 'mixed', 'added'] as const;

/** Bytes that kernels take to work in: a bell, and halving. */
const bellRoom = (width: number, reach: number): number => floatStride(2 * (width + 2 * reach + 16) + 2 * reach + 8);
const halveRoom = (width: number): number => 4 * (width + 32);
/** Bytes of a `Laying` (`core/kernels/planes.ts`). */
const LAYING_BYTES = 32;

/**
 * Blur of planes of one size, of any radius in about constant time: wide bells run on a reduced picture. Halving by
 * (1 5 10 10 5 1) and doubling by the same spline widen a bell themselves, by 5/4 times 4^level (in squared pixels of the
 * picture) each time; what is left to the bell at the coarsest level follows from that. Edges are continued.
 */
export class Blur {
  private readonly levels: readonly Level[];
  private readonly pyramid: Store;
  private readonly laying: Store;
  private readonly room: Store;
  private readonly taps: Store;
  /** What was at the place that is written, where that is the source's. */
  private readonly own: Store;

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
    [this.pyramid, this.laying, this.room, this.taps, this.own] = [engine.store(), engine.store(), engine.store(), engine.store(), engine.store()];
  }

  release(): void {
    for (const store of [this.pyramid, this.laying, this.room, this.taps, this.own]) store.release();
  }

  /**
   * dst = src blurred by a bell of `size` pixels (its sigma), or by a disc of that radius. `dst` may be `src`.
   * @param stride that of a float plane of this size
   */
  run(dst: number, src: number, stride: number, size: number, spread: Spread = 'bell'): void {
    this.check(stride, 0);
    const { height } = this.levels[0]!;
    const from = dst === src ? this.own.at(stride * height) : src;
    if (from !== src) this.engine.kernels.copy(from, src, stride * height);
    this.lay(0, from, size, spread, { dst, how: 'written' });
  }

  /** dst += share * src blurred by a bell of `sigma` pixels; they lie apart. */
  add(dst: number, src: number, stride: number, sigma: number, share: number): void {
    this.check(stride, 0);
    this.lay(0, src, sigma, 'bell', { dst, how: 'added', share });
  }

  /** Whether a bell of `sigma` pixels is so wide that a plane may be halved by means before it. */
  takesPairs(sigma: number): boolean {
    return this.levels.length > 1 && sigma >= LEAST_OF_PAIRS;
  }

  /**
   * As `add`, from a plane that was halved: each sample the mean of two by two.
   * @param stride that of a float plane of the half size @param sigma one that `takesPairs`
   */
  addOfPairs(dst: number, src: number, stride: number, sigma: number, share: number): void {
    this.check(stride, 1);
    const blurred = this.place(1, 1);
    this.lay(1, src, Math.sqrt(sigma * sigma - PAIRS - WIDENED) / 2, 'bell', { dst: blurred, how: 'written' });
    this.double(0, blurred, { dst, how: 'added', share });
  }

  /**
   * As `run` by a spread whose size goes with the place, evenly from `near` where weights are 0 to `far` where they are 1 (no narrower than `near`). It is made of a few
   * sizes, each so near to the next that a share of both is as good as the one between. `dst` is not `src`.
   */
  runVarying(dst: number, src: number, stride: number, near: number, far: number, weights: WeightsOf, spread: Spread = 'bell'): void {
    this.check(stride, 0);
    const sizes = sizesBetween(near, far, this.cheap(spread), this.engine.kernels.pow);
    const links = sizes.map((size, i): Link => {
      // The first has none before it.
      const from = sizes[i - 1] ?? near - 1;
      return { size, scale: (far - near) / (size - from), offset: (near - from) / (size - from) };
    });
    this.chain(0, dst, src, links, weights, spread);
  }

  private check(stride: number, level: number): void {
    if (stride !== this.levels[level]!.stride) throw new RangeError(`the rows of a plane that is blurred must be ${this.levels[level]!.stride} bytes apart, not ${stride}`);
  }

  /** The narrowest spread that runs on a reduced picture. */
  private cheap(spread: Spread): number {
    return spread === 'disc' ? 2 * LEAST_DISC : Math.sqrt(4 * LEAST_LEFT * LEAST_LEFT + 2 * WIDENED);
  }

  /** What is left of a spread one level down, in samples there; undefined where it is too narrow for that, or the picture too small. */
  private reduced(level: number, size: number, spread: Spread): number | undefined {
    if (level + 1 >= this.levels.length || size < this.cheap(spread)) return undefined;
    // What halving and doubling do to a disc is to soften its rim about where it is.
    return spread === 'disc' ? size / 2 : Math.sqrt(Math.max(0, size * size - 2 * WIDENED)) / 2;
  }

  /** Lays a plane of a level, blurred. */
  private lay(level: number, src: number, size: number, spread: Spread, to: Laid): void {
    const below = this.reduced(level, size, spread);
    if (below === undefined) return spread === 'disc' ? this.disc(level, src, size, to) : this.bell(level, src, size, to);
    const half = this.halve(level, src);
    const blurred = this.place(level + 1, 1);
    this.lay(level + 1, half, below, spread, { dst: blurred, how: 'written' });
    this.double(level, blurred, to);
  }

  /**
   * Writes a plane of a level blurred by each of some sizes, from the narrowest on, each mixed over those before it. Those that may run on a reduced picture
   * do so together and are mixed there, by the share of the first of them here.
   */
  private chain(level: number, dst: number, src: number, links: readonly Link[], weights: WeightsOf, spread: Spread): void {
    if (links.length === 1) return this.lay(level, src, links[0]!.size, spread, { dst, how: 'written' });
    const { width, height, stride } = this.levels[level]!;
    const here = links.filter(({ size }) => this.reduced(level, size, spread) === undefined);
    const below = links.slice(here.length).map((link) => ({ ...link, size: this.reduced(level, link.size, spread)! }));
    const w = weights(width, height, stride);
    const to = (i: number): Laid => {
      // What is laid from a reduced picture is the last.
      const next = i < here.length ? links[i + 1] : undefined;
      return i === 0 ? { dst, how: 'written', weights: w, next } : { dst, how: 'mixed', weights: w, link: links[i]!, next };
    };
    // The last bell halves what it reads on the way.
    const halves = spread === 'bell' && here.length > 0 && below.length > 0;
    here.forEach(({ size }, i) => {
      if (spread === 'disc') this.disc(level, src, size, to(i));
      else if (halves && i === here.length - 1) this.bellAndHalve(level, src, size, to(i));
      else this.bell(level, src, size, to(i));
    });
    if (below.length === 0) return;
    const half = halves ? this.place(level + 1, 0) : this.halve(level, src);
    const blurred = this.place(level + 1, 1);
    this.chain(level + 1, blurred, half, below, weights, spread);
    this.double(level, blurred, to(here.length));
  }

  /** Tells the kernels where rows go. */
  private laid(to: Laid, stride: number): number {
    const at = this.laying.at(LAYING_BYTES);
    this.engine.ints(at, 4).set([to.dst, stride, HOW.indexOf(to.how), to.how === 'added' ? 0 : (to.weights ?? 0)]);
    this.engine.floats(at + 16, 2).set(to.how === 'mixed' ? [to.link.scale, to.link.offset] : [to.how === 'added' ? to.share : 1, 0]);
    const next = to.how === 'added' ? undefined : to.next;
    this.engine.floats(at + 24, 2).set([next?.scale ?? 0, next?.offset ?? 0]);
    return at;
  }

  /** A place for a plane of a level below the first: each has two. */
  private place(level: number, which: number): number {
    const bytes = (l: Level): number => l.stride * l.height;
    const sum = (levels: readonly Level[]): number => levels.reduce((all, l) => all + bytes(l), 0);
    return this.pyramid.at(2 * sum(this.levels.slice(1)) + 64) + 2 * sum(this.levels.slice(1, level)) + which * bytes(this.levels[level]!);
  }

  /** A plane halved into its place of the pyramid. @returns its address */
  private halve(level: number, src: number): number {
    const { width, height, stride } = this.levels[level]!;
    const half = this.place(level + 1, 0);
    this.engine.kernels.halvePlane(half, this.levels[level + 1]!.stride, src, stride, width, height, this.room.at(halveRoom(width)));
    return half;
  }

  /** Lays a plane twice the size of the one of the level below. */
  private double(level: number, half: number, to: Laid): void {
    const { width, height, stride } = this.levels[level]!;
    this.engine.kernels.doublePlane(this.laid(to, stride), half, this.levels[level + 1]!.stride, width, height, this.room.at(4 * (2 * width + 64)));
  }

  /** Lays a plane filtered by the bell itself. */
  private bell(level: number, src: number, sigma: number, to: Laid): void {
    const { width, height, stride } = this.levels[level]!;
    const k = this.engine.kernels;
    const taps = bellTaps(sigma, k.exp);
    const reach = (taps.length - 1) / 2;
    if (reach === 0 && to.how === 'written') return k.copy(to.dst, src, stride * height);
    k.bellPlane(this.laid(to, stride), src, stride, width, height, this.halfOf(taps), reach, this.room.at(bellRoom(width, reach)));
  }

  /** As `bell` and `halve`. */
  private bellAndHalve(level: number, src: number, sigma: number, to: Laid): void {
    const { width, height, stride } = this.levels[level]!;
    const k = this.engine.kernels;
    const taps = bellTaps(sigma, k.exp);
    const reach = (taps.length - 1) / 2;
    const half = this.place(level + 1, 0);
    const room = this.room.at(bellRoom(width, reach) + halveRoom(width));
    const { stride: halfStride } = this.levels[level + 1]!;
    k.bellAndHalvePlane(this.laid(to, stride), half, halfStride, src, stride, width, height, this.halfOf(taps), reach, room, room + bellRoom(width, reach));
  }

  /** The middle's weight and those on one side of it. */
  private halfOf(taps: Float32Array): number {
    return this.taps.floats(taps.subarray((taps.length - 1) / 2));
  }

  /** Lays a plane spread over a disc: for each pair of rows as far from the middle one filter along. */
  private disc(level: number, src: number, radius: number, to: Laid): void {
    const { width, height, stride } = this.levels[level]!;
    const k = this.engine.kernels;
    const taps = discTaps(radius);
    const pad = Math.max(...taps.map((row) => row.length)) - 1;
    const [sums, lists] = [floatStride(width + 2 * pad + 16), floatStride(pad + 1)];
    const sum = this.room.at(2 * sums + 2 * stride + taps.length * lists);
    const padded = sum + sums;
    const along = padded + sums;
    const disc = along + stride;
    const weights = disc + stride;
    taps.forEach((row, i) => this.engine.floats(weights + i * lists, row.length).set(row));
    const rowOf = (y: number): number => src + Math.max(0, Math.min(height - 1, y)) * stride;
    for (let y = 0; y < height; y++) {
      taps.forEach((row, i) => {
        k.copy(sum, rowOf(y - i), stride);
        if (i > 0) k.addRow(sum, rowOf(y + i), width, 1);
        k.padRow(padded, sum, width, pad);
        k.bellRow(i === 0 ? disc : along, padded + pad * 4, width, weights + i * lists, row.length - 1);
        if (i > 0) k.addRow(disc, along, width, 1);
      });
      const row = to.dst + y * stride;
      if (to.how === 'written') k.copy(row, disc, width * 4);
      else if (to.how === 'mixed') k.mixToward(row, disc, to.weights + y * stride, width, to.link.scale, to.link.offset);
      else k.addRow(row, disc, width, to.share);
    }
  }
}
