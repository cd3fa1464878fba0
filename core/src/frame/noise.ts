import type { Engine, Store } from '../engine';
import { hash } from '../random/random';
import { bellTaps } from './blur';

/** Spectrum of a noise: as much at every frequency, more at low ones (1/f), more at high ones. */
export type NoiseKind = 'white' | 'pink' | 'blue';

/** Octaves of pink noise: fields of equal variance, each twice as coarse as the one before. */
const OCTAVES = 5;

/**
 * A field of noise of zero mean, addressed by position: a sample is a function of (seed, row, column). White noise is blurred
 * by a bell of `sigma` pixels where a size is set (its sum of weights is 1, so slow variation passes unchanged); blue noise
 * is white less its own mean over 3x3, pink noise a sum of octaves. `share` is the RMS that is left. Rows are made on
 * demand, in any order.
 */
export class NoiseField {
  private readonly rows: Store;
  private readonly raw: Store;
  private readonly weights: Store;
  private readonly list: Store;
  private readonly extra: Store;
  /** What each slot of the ring holds: the seed of its field and its row. */
  private holds: { seed: number; y: number }[] = [];
  private taps: Float32Array = new Float32Array([1]);
  private width = 0;
  private kind: NoiseKind = 'white';

  constructor(private readonly engine: Engine) {
    this.rows = engine.store();
    this.raw = engine.store();
    this.weights = engine.store();
    this.list = engine.store();
    this.extra = engine.store();
  }

  release(): void {
    for (const store of [this.rows, this.raw, this.weights, this.list, this.extra]) store.release();
  }

  /** Sets the width of a row, the bell and the spectrum; what was made for others is dropped. */
  shape(width: number, sigma: number, kind: NoiseKind = 'white'): void {
    this.width = width;
    this.kind = kind;
    this.taps = kind === 'blue' && sigma < 0.2 ? Float32Array.of(-1 / 3, 4 / 3, -1 / 3) : bellTaps(sigma, this.engine.kernels.exp);
    this.holds = Array.from({ length: this.ring }, () => ({ seed: -1, y: 0 }));
    // The middle's weight and those on one side of it.
    this.weights.floats(this.taps.subarray(this.reach));
    this.rows.at(this.ring * this.stride);
    this.raw.at((width + 2 * this.reach + 48) * 4);
    this.list.at(this.ring * 4);
    this.extra.at(3 * this.stride + 128);
  }

  /** RMS of the field. */
  get share(): number {
    if (this.kind === 'pink') return 1;
    return this.taps.reduce((sum, t) => sum + t * t, 0);
  }

  private get reach(): number {
    return (this.taps.length - 1) / 2;
  }

  private get ring(): number {
    return this.taps.length;
  }

  private get stride(): number {
    return ((this.width + 7) & ~7) * 4;
  }

  /** Writes row `y` of the field that `seed` names to `dst`. */
  row(dst: number, seed: number, y: number): void {
    if (this.kind === 'pink') return this.pinkRow(dst, seed, y);
    const k = this.engine.kernels;
    if (this.reach === 0) return k.whiteRow(dst, this.width, hash(seed, y), 0);
    const words = this.engine.words;
    const list = this.list.at(0) >> 2;
    for (let j = 0; j < this.ring; j++) words[list + j] = this.along(seed, y + j - this.reach);
    k.bellRows(dst, this.list.at(0), this.width, this.weights.at(0), this.reach);
  }

  /** Octaves of white noise, each held over squares twice as wide as the last, of equal variance, summed. */
  private pinkRow(dst: number, seed: number, y: number): void {
    const k = this.engine.kernels;
    const { width } = this;
    const a = this.extra.at(0) + 16;
    const b = a + this.stride + 32;
    k.fillRow(dst, width, 0);
    for (let octave = 0; octave < OCTAVES; octave++) {
      const size = 2 ** octave;
      const row = Math.floor(y / size);
      // Held over the square: size pixels wide and high.
      const count = Math.ceil(width / size);
      k.whiteRow(a, count, hash(seed, octave, row), 0);
      const [from, to] = [this.engine.floats(a, count), this.engine.floats(b, width)];
      for (let x = 0; x < width; x++) to[x] = from[Math.floor(x / size)]!;
      k.addRow(dst, b, width, 1 / Math.sqrt(OCTAVES));
    }
  }

  /** A row filtered along. What a slot of the ring holds is named, so that the order of calls cannot matter. */
  private along(seed: number, y: number): number {
    const k = this.engine.kernels;
    const index = ((y % this.ring) + this.ring) % this.ring;
    const at = this.rows.at(0) + index * this.stride;
    const slot = this.holds[index]!;
    if (slot.seed !== seed || slot.y !== y) {
      slot.seed = seed;
      slot.y = y;
      // White noise begins on an even column.
      const lead = (this.reach + 1) & ~1;
      k.whiteRow(this.raw.at(0), this.width + lead + this.reach, hash(seed, y), -lead);
      k.bellRow(at, this.raw.at(0) + lead * 4, this.width, this.weights.at(0), this.reach);
    }
    return at;
  }
}
