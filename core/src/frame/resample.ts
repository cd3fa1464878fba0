import type { Engine, Store } from '../engine';
import { Lately } from '../lately';
import { floatStride } from './surface';

/** For each target sample, the first source sample it takes and the weights of it and those after. */
export interface Taps {
  readonly count: number;
  /** Weights a sample. */
  readonly taps: number;
  /** May reach outside the source; whoever applies it continues the edges. */
  readonly starts: Int32Array;
  readonly weights: Float32Array;
  /** Where the target has exactly twice as many samples, each half a sample from the next, what `twiceRow` takes. */
  readonly twice?: Float32Array;
}

/**
 * Taps of a target whose sample x takes the source at `from + (x + 1/2) * step` (source samples, their centres at 1/2).
 * Catmull-Rom cubic, which runs through the samples; widened by `step` where the picture shrinks, against aliasing.
 */
export function cubicTaps(count: number, from: number, step: number): Taps {
  const wide = Math.max(1, Math.abs(step));
  const taps = Math.ceil(4 * wide);
  const starts = new Int32Array(count);
  const weights = new Float32Array(count * taps);
  const row = new Float64Array(taps);
  for (let x = 0; x < count; x++) {
    const centre = from + (x + 0.5) * step - 0.5;
    const start = Math.floor(centre - 2 * wide) + 1;
    starts[x] = start;
    let sum = 0;
    for (let k = 0; k < taps; k++) {
      row[k] = catmullRom((start + k - centre) / wide);
      sum += row[k]!;
    }
    for (let k = 0; k < taps; k++) weights[x * taps + k] = row[k]! / sum;
  }
  return trimmed({ count, taps, starts, weights });
}

/** A sinc in a Kaiser window: half its length in samples of the coarser side, and the window's shape. */
export interface SincWindow {
  readonly reach: number;
  readonly beta: number;
}
/** Into a line raster and out of it: within 0.1 dB to 0.82 of the band (ITU-R BT.601: to 5.5 of 6.75 MHz). */
export const FLAT: SincWindow = { reach: 7, beta: 3.6 };
/** For what ends at 3.6 of those 6.75 MHz: within 0.02 dB till there; from 9.5 MHz on, where its mirror images stand, 50 dB down. */
export const NARROW: SincWindow = { reach: 4, beta: 5 };
/** For what has no fine detail of its own: halved chroma, which ends at half the band. */
export const COARSE: SincWindow = { reach: 3, beta: 3.6 };

/** The modified Bessel function of the first kind and order 0, by its series. */
function bessel(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; term > sum * 1e-12; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}

/**
 * As `cubicTaps`, by a sinc in a Kaiser window, which is flat further towards the end of the band.
 * @param sin the kernels' sine
 */
export function flatTaps(count: number, from: number, step: number, sin: (x: number) => number, window = FLAT): Taps {
  return flat.get([count, from, step, window.reach, window.beta].join(), () => flatTapsOf(count, from, step, sin, window));
}

/** Those made last. The kernels' sine is the same in every engine. */
const flat = new Lately<Taps>(12);

function flatTapsOf(count: number, from: number, step: number, sin: (x: number) => number, { reach: length, beta }: SincWindow): Taps {
  const wide = Math.max(1, Math.abs(step));
  const reach = length * wide;
  const taps = Math.ceil(2 * reach);
  const starts = new Int32Array(count);
  const weights = new Float32Array(count * taps);
  const whole = bessel(beta);
  const row = new Float64Array(taps);
  for (let x = 0; x < count; x++) {
    const centre = from + (x + 0.5) * step - 0.5;
    const start = Math.floor(centre - reach) + 1;
    starts[x] = start;
    let sum = 0;
    for (let k = 0; k < taps; k++) {
      const t = (start + k - centre) / wide;
      const u = t / length;
      const turn = Math.PI * t;
      row[k] = Math.abs(u) >= 1 ? 0 : ((Math.abs(turn) < 1e-9 ? 1 : sin(turn) / turn) * bessel(beta * Math.sqrt(1 - u * u))) / whole;
      sum += row[k]!;
    }
    for (let k = 0; k < taps; k++) weights[x * taps + k] = row[k]! / sum;
  }
  const made = trimmed({ count, taps, starts, weights });
  return from === 0 && step === 0.5 ? { ...made, twice: sumsAndDifferences(made) } : made;
}

/**
 * The taps of every even sample, which stands a quarter of a source's sample before one, for pairs of that one's neighbours: of their sum and of their difference. Those of
 * the odd samples are the same from the other end.
 */
function sumsAndDifferences({ taps, starts, weights }: Taps): Float32Array {
  const of = (k: number): number => (k >= starts[0]! && k < starts[0]! + taps ? weights[k - starts[0]!]! : 0);
  const reach = Math.max(-starts[0]!, starts[0]! + taps - 1);
  return Float32Array.from({ length: 2 * reach + 1 }, (_, i) => {
    const k = (i + 1) >> 1;
    if (k === 0) return of(0);
    return i % 2 ? (of(k) + of(-k)) / 2 : (of(k) - of(-k)) / 2;
  });
}

/** Without the taps at either end that count nowhere: samples that fall on those of the source take one each. */
function trimmed({ count, taps, starts, weights }: Taps): Taps {
  const counts = (k: number): boolean => starts.some((_, x) => weights[x * taps + k] !== 0);
  let [first, last] = [0, taps - 1];
  while (first < last && !counts(first)) first++;
  while (last > first && !counts(last)) last--;
  if (first === 0 && last === taps - 1) return { count, taps, starts, weights };
  const left = last - first + 1;
  const kept = new Float32Array(count * left);
  for (let x = 0; x < count; x++) kept.set(weights.subarray(x * taps + first, x * taps + last + 1), x * left);
  return { count, taps: left, starts: starts.map((start) => start + first), weights: kept };
}

/** The cubic of E. Catmull and R. Rom (1974): support 2, value 1 at 0, 0 at the other whole numbers. */
function catmullRom(x: number): number {
  const t = Math.abs(x);
  if (t >= 2) return 0;
  return t < 1 ? (1.5 * t - 2.5) * t * t + 1 : ((-0.5 * t + 2.5) * t - 4) * t + 2;
}

/** Rows of a plane as they come: row y lies in place y modulo `rows`, `stride` bytes from the one before. */
export interface RowSource {
  readonly at: number;
  readonly stride: number;
  readonly rows: number;
  /** Makes the rows up to this one; asked for in their order. */
  make(y: number): void;
}

const nothingToMake = (): void => undefined;

/** The rows of a plane that is all there. */
export const whole = (at: number, stride: number, rows: number): RowSource => ({ at, stride, rows, make: nothingToMake });

/** Rows that `gatherRows` takes. */
const TOGETHER = 4;

/** Taps laid out for `gatherRow`: one start and `taps` vectors for each four samples, wide enough for all four. */
function inFours(across: Taps): InFours {
  const made = keptFours.get(across) ?? laidInFours(across);
  keptFours.set(across, made);
  return made;
}

/** Of taps that outlive a plan. */
const keptFours = new WeakMap<Taps, InFours>();

interface InFours {
  readonly taps: number;
  readonly starts: Int32Array;
  readonly weights: Float32Array;
}

function laidInFours({ count, taps, starts, weights }: Taps): InFours {
  const groups = Math.ceil(count / 4);
  const first = new Int32Array(groups);
  let wide = taps;
  const offset = (g: number, j: number): number => starts[Math.min(count - 1, 4 * g + j)]! - j;
  for (let g = 0; g < groups; g++) {
    const offsets = [0, 1, 2, 3].map((j) => offset(g, j));
    first[g] = Math.min(...offsets);
    wide = Math.max(wide, Math.max(...offsets) - first[g]! + taps);
  }
  const laid = new Float32Array(groups * wide * 4);
  for (let g = 0; g < groups; g++) {
    for (let j = 0; j < 4; j++) {
      const x = Math.min(count - 1, 4 * g + j);
      const lag = offset(g, j) - first[g]!;
      for (let k = 0; k < taps; k++) laid[(g * wide + lag + k) * 4 + j] = weights[x * taps + k]!;
    }
  }
  return { taps: wide, starts: first, weights: laid };
}

/** One plane resampled across by one set of taps and down by another; edges are continued, never black. */
export class Resampler {
  private readonly starts: Store;
  private readonly weights: Store;
  private readonly downWeights: Store;
  private readonly padded: Store;
  private readonly list: Store;
  private readonly ring: Store;
  private across: Taps | undefined;
  private down: Taps | undefined;
  /** Rows are resampled across first, each once, where that takes less; to twice their samples by a kernel of its own. */
  private acrossFirst = false;
  private twice = false;
  /** What the ring holds, resampled across: the last row, of which source, and the row of the result that is expected next. */
  private gathered = -1;
  private gatheredOf = 0;
  private next = -1;
  private taps = 0;
  private pad = 0;
  private used = { from: 0, to: 0 };

  constructor(
    private readonly engine: Engine,
    private readonly sourceWidth: number,
    private readonly sourceHeight: number,
  ) {
    [this.starts, this.weights, this.downWeights, this.padded, this.list, this.ring] = [0, 1, 2, 3, 4, 5].map(() => engine.store()) as [Store, Store, Store, Store, Store, Store];
  }

  release(): void {
    for (const store of [this.starts, this.weights, this.downWeights, this.padded, this.list, this.ring]) store.release();
  }

  /** @param across taps on a row of the source @param down taps on a column */
  aim(across: Taps, down: Taps): void {
    const fours = inFours(across);
    const { sourceWidth, sourceHeight } = this;
    const first = fours.starts.reduce((a, b) => Math.min(a, b), 0);
    const last = fours.starts.reduce((a, b) => Math.max(a, b), 0) + fours.taps + 4;
    this.pad = Math.max(-first, last - sourceWidth, 0) + 4;
    // Whole groups of eight, as rows are padded.
    this.used = { from: Math.max(0, first) & ~7, to: Math.min(sourceWidth, (last + 7) & ~7) };
    this.across = across;
    this.down = down;
    this.next = -1;
    const ordered = down.starts.every((start, i) => i === 0 || start >= down.starts[i - 1]!);
    const taken = across.twice ? across.twice.length / 2 : fours.taps;
    this.acrossFirst = ordered && across.count * (sourceHeight * taken + down.count * down.taps) < down.count * (sourceWidth * down.taps + across.count * fours.taps);
    this.twice = this.acrossFirst && across.twice !== undefined;
    this.taps = this.twice ? across.twice!.length >> 1 : fours.taps;
    if (this.acrossFirst) this.ring.at(this.ringRows * this.ringStride);
    const starts = this.starts.at(fours.starts.length * 4);
    this.engine.ints(starts, fours.starts.length).set(fours.starts.map((s) => s + this.pad));
    this.weights.floats(this.twice ? across.twice! : fours.weights);
    this.downWeights.floats(down.weights);
    this.padded.at(TOGETHER * this.paddedStride);
    this.list.at(down.taps * 4);
  }

  /** From a plane that lies in memory. Throws Error before `aim`. */
  run(dst: number, dstStride: number, src: number, srcStride: number): void {
    this.runFrom(dst, dstStride, whole(src, srcStride, this.sourceHeight));
  }

  /**
   * From rows that are made as they are asked for. Parts of a picture had best come in their order, plane by plane in resamplers of their own: then no row is gathered twice. Throws Error before `aim`.
   * @param dst where row `from` of the result goes, those up to `to` after it
   * @param source must hold at least `rowsAtOnce` rows
   */
  runFrom(dst: number, dstStride: number, source: RowSource, from = 0, to = this.down?.count ?? 0): void {
    const { across, down } = this;
    if (!across || !down) throw new Error('the resampler has not been aimed');
    if (from === 0 || from !== this.next || source.at !== this.gatheredOf) this.gathered = -1;
    [this.next, this.gatheredOf] = [to, source.at];
    if (this.acrossFirst) this.runAcrossFirst(dst, dstStride, source, across.count, down, from, to);
    else this.runDownFirst(dst, dstStride, source, across.count, down, from, to);
  }

  private runAcrossFirst(dst: number, dstStride: number, source: RowSource, count: number, down: Taps, from: number, to: number): void {
    const k = this.engine.kernels;
    const { ringRows } = this;
    const [ring, stride] = [this.ring.at(0), this.ringStride];
    const [downWeights, list] = [this.downWeights.at(0), this.list.at(0)];
    const last = this.sourceHeight - 1;
    for (let y = from; y < to; y++) {
      const start = down.starts[y]!;
      this.gatherUpTo(Math.max(0, Math.min(last, start)), Math.max(0, Math.min(last, start + down.taps - 1)), source);
      const { words } = this.engine;
      for (let j = 0; j < down.taps; j++) words[(list >> 2) + j] = ring + (Math.max(0, Math.min(last, start + j)) % ringRows) * stride;
      k.mixRows(dst + (y - from) * dstStride, list, downWeights + y * down.taps * 4, down.taps, count);
    }
  }

  /** Rows of the source resampled across into the ring, those from `first` to `y`, as many as are gathered together at a time. */
  private gatherUpTo(first: number, y: number, source: RowSource): void {
    const k = this.engine.kernels;
    const count = this.across!.count;
    const [starts, weights, padded, ring] = [this.starts.at(0), this.weights.at(0), this.padded.at(0), this.ring.at(0)];
    const stride = this.ringStride;
    for (let top = Math.max(this.gathered + 1, first - (first % TOGETHER)); top <= y; top += TOGETHER) {
      const rows = Math.min(TOGETHER, this.sourceHeight - top);
      source.make(top + rows - 1);
      for (let i = 0; i < rows; i++) this.ownPadded(padded + i * this.paddedStride, source.at + ((top + i) % source.rows) * source.stride);
      const at = ring + (top % this.ringRows) * stride;
      if (this.twice) for (let i = 0; i < rows; i++) k.twiceRow(at + i * stride, padded + i * this.paddedStride + this.pad * 4, this.sourceWidth, weights, this.taps);
      else if (rows === TOGETHER) k.gatherRows(at, stride, padded, this.paddedStride, count, starts, weights, this.taps);
      else for (let i = 0; i < rows; i++) k.gatherRow(at + i * stride, padded + i * this.paddedStride, count, starts, weights, this.taps);
      this.gathered = top + TOGETHER - 1;
    }
  }

  /** The part of a row that is used, with its edges continued. */
  private ownPadded(padded: number, row: number): void {
    const k = this.engine.kernels;
    const { from, to } = this.used;
    const middle = padded + this.pad * 4;
    k.copy(middle + from * 4, row + from * 4, (to - from) * 4);
    k.extendRow(middle, this.sourceWidth, this.pad);
  }

  private runDownFirst(dst: number, dstStride: number, source: RowSource, count: number, down: Taps, from: number, to: number): void {
    const k = this.engine.kernels;
    const [starts, weights, downWeights, padded, list] = [this.starts.at(0), this.weights.at(0), this.downWeights.at(0), this.padded.at(0), this.list.at(0)];
    const wide = this.paddedStride;
    const { from: left, to: right } = this.used;
    const last = this.sourceHeight - 1;
    // Rows that are gathered together share their weights.
    for (let y = from; y < to; y += TOGETHER) {
      const rows = Math.min(TOGETHER, to - y);
      const at = dst + (y - from) * dstStride;
      for (let i = 0; i < rows; i++) {
        const start = down.starts[y + i]!;
        const { words } = this.engine;
        source.make(Math.max(0, Math.min(last, start + down.taps - 1)));
        for (let j = 0; j < down.taps; j++) words[(list >> 2) + j] = source.at + (Math.max(0, Math.min(last, start + j)) % source.rows) * source.stride + left * 4;
        const middle = padded + i * wide + this.pad * 4;
        k.mixRows(middle + left * 4, list, downWeights + (y + i) * down.taps * 4, down.taps, right - left);
        // Beside an edge that is not used this writes what nobody reads.
        k.extendRow(middle, this.sourceWidth, this.pad);
      }
      if (rows === TOGETHER) k.gatherRows(at, dstStride, padded, wide, count, starts, weights, this.taps);
      else for (let i = 0; i < rows; i++) k.gatherRow(at + i * dstStride, padded + i * wide, count, starts, weights, this.taps);
    }
  }

  /** The columns of the source that the result is made of: of a row, no others are read. */
  get columns(): { readonly from: number; readonly to: number } {
    return this.used;
  }

  /** Rows of the source that are read at a time. */
  get rowsAtOnce(): number {
    return this.acrossFirst ? TOGETHER : (this.down?.taps ?? 0);
  }

  /** So many that those of one row of the result are there when the last of them has come, with those it came with. */
  private get ringRows(): number {
    return Math.ceil(((this.down?.taps ?? 0) + TOGETHER - 1) / TOGETHER) * TOGETHER;
  }

  /** Kernels write whole groups. */
  private get ringStride(): number {
    return floatStride((this.across?.count ?? 0) + 16);
  }

  private get paddedStride(): number {
    return floatStride(this.sourceWidth + 2 * this.pad) + 64;
  }
}
