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

/** Half the length of the flat filter in samples of the coarser side, and the shape of its window (Kaiser's beta). */
const FLAT_REACH = 7;
const FLAT_BETA = 3.6;
/** As far as that of what has no fine detail of its own: halved chroma, which ends at half the band. */
export const SHORT_REACH = 3;

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
 * As `cubicTaps`, by a sinc in a Kaiser window: flat almost to the end of the band (within 0.1 dB to 0.82 of it), which a line raster asks for (ITU-R BT.601: to
 * 5.5 of 6.75 MHz).
 * @param sin the kernels' sine @param length half the filter, in samples of the coarser side
 */
export function flatTaps(count: number, from: number, step: number, sin: (x: number) => number, length = FLAT_REACH): Taps {
  return flat.get([count, from, step, length].join(), () => flatTapsOf(count, from, step, sin, length));
}

/** Those made last. The kernels' sine is the same in every engine. */
const flat = new Lately<Taps>(12);

function flatTapsOf(count: number, from: number, step: number, sin: (x: number) => number, length: number): Taps {
  const wide = Math.max(1, Math.abs(step));
  const reach = length * wide;
  const taps = Math.ceil(2 * reach);
  const starts = new Int32Array(count);
  const weights = new Float32Array(count * taps);
  const whole = bessel(FLAT_BETA);
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
      row[k] = Math.abs(u) >= 1 ? 0 : ((Math.abs(turn) < 1e-9 ? 1 : sin(turn) / turn) * bessel(FLAT_BETA * Math.sqrt(1 - u * u))) / whole;
      sum += row[k]!;
    }
    for (let k = 0; k < taps; k++) weights[x * taps + k] = row[k]! / sum;
  }
  return trimmed({ count, taps, starts, weights });
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
  private across: Taps | undefined;
  private down: Taps | undefined;
  private taps = 0;
  private pad = 0;
  private used = { from: 0, to: 0 };

  constructor(
    private readonly engine: Engine,
    private readonly sourceWidth: number,
    private readonly sourceHeight: number,
  ) {
    [this.starts, this.weights, this.downWeights, this.padded, this.list] = [0, 1, 2, 3, 4].map(() => engine.store()) as [Store, Store, Store, Store, Store];
  }

  release(): void {
    for (const store of [this.starts, this.weights, this.downWeights, this.padded, this.list]) store.release();
  }

  /** @param across taps on a row of the source @param down taps on a column */
  aim(across: Taps, down: Taps): void {
    const fours = inFours(across);
    const first = fours.starts.reduce((a, b) => Math.min(a, b), 0);
    const last = fours.starts.reduce((a, b) => Math.max(a, b), 0) + fours.taps + 4;
    this.pad = Math.max(-first, last - this.sourceWidth, 0) + 4;
    // Whole groups of eight, as rows are padded.
    this.used = { from: Math.max(0, first) & ~7, to: Math.min(this.sourceWidth, (last + 7) & ~7) };
    this.taps = fours.taps;
    this.across = across;
    this.down = down;
    const starts = this.starts.at(fours.starts.length * 4);
    this.engine.ints(starts, fours.starts.length).set(fours.starts.map((s) => s + this.pad));
    this.weights.floats(fours.weights);
    this.downWeights.floats(down.weights);
    this.padded.at(TOGETHER * this.paddedStride);
    this.list.at(down.taps * 4);
  }

  /** From a plane that lies in memory. Throws Error before `aim`. */
  run(dst: number, dstStride: number, src: number, srcStride: number): void {
    this.runFrom(dst, dstStride, whole(src, srcStride, this.sourceHeight));
  }

  /**
   * From rows that are made as they are asked for. Throws Error before `aim`.
   * @param dst where row `from` of the result goes, those up to `to` after it
   * @param source must hold at least `rowsAtOnce` rows
   */
  runFrom(dst: number, dstStride: number, source: RowSource, from = 0, to = this.down?.count ?? 0): void {
    const k = this.engine.kernels;
    const { across, down } = this;
    if (!across || !down) throw new Error('the resampler has not been aimed');
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
      if (rows === TOGETHER) k.gatherRows(at, dstStride, padded, wide, across.count, starts, weights, this.taps);
      else for (let i = 0; i < rows; i++) k.gatherRow(at + i * dstStride, padded + i * wide, across.count, starts, weights, this.taps);
    }
  }

  /** The columns of the source that the result is made of: of a row, no others are read. */
  get columns(): { readonly from: number; readonly to: number } {
    return this.used;
  }

  /** Rows of the source that one row of the result is made of. */
  get rowsAtOnce(): number {
    return this.down?.taps ?? 0;
  }

  private get paddedStride(): number {
    return floatStride(this.sourceWidth + 2 * this.pad) + 64;
  }
}
