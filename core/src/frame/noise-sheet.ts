import type { Engine, Store } from '../engine';
import { hash } from '../random/random';
import { NoiseField } from './noise';
import { floatStride } from './surface';

/** Samples by which a sheet is wider and higher than the picture, as a power of two. */
const SPARE_BITS = 8;
const SPARE = 2 ** SPARE_BITS;
/** One over the plastic number and over its square, in 2^-32: what the R2 sequence goes on by in each direction. */
const STEP = [0xc13fa9a9, 0x91e10da5];
/** Steps of a stored sample to the RMS of the sheet: the highest peaks are a little over five RMS. */
const STEPS = 4096;
/** Rows that are made at a time. */
const TOGETHER = 4;
const SEED = 0x5eed;

/**
 * White noise blurred by a bell, made once for a picture size, of which every picture takes windows: a field of its own is the sum of two of them. It costs a few loads a sample
 * where a field made anew costs a hash and two filters; no window repeats inside the picture, and none is soon used again.
 */
export class NoiseSheet {
  private readonly field: NoiseField;
  private readonly samples: Store;
  private readonly rows: Store;
  private made = '';
  private stride = 0;
  private rms = 0;

  constructor(private readonly engine: Engine) {
    this.field = new NoiseField(engine);
    [this.samples, this.rows] = [engine.store(), engine.store()];
  }

  release(): void {
    for (const thing of [this.field, this.samples, this.rows]) thing.release();
  }

  /** Makes the sheet for a picture of so many samples, unless it is there. @param sigma of the bell, in samples */
  shape(width: number, height: number, sigma: number): void {
    const key = `${width},${height},${sigma}`;
    if (key === this.made) return;
    this.made = key;
    const k = this.engine.kernels;
    const [wide, high] = [width + SPARE, height + SPARE];
    const row = floatStride(wide);
    this.stride = row / 2;
    const at = this.samples.at(this.stride * high + 64);
    const rows = this.rows.at(TOGETHER * row + 64);
    this.field.shape(wide, sigma);
    this.rms = this.field.share;
    for (let top = 0; top < high; top += TOGETHER) {
      const count = Math.min(TOGETHER, high - top);
      this.field.fill(rows, row, SEED, top, count);
      for (let i = 0; i < count; i++) k.floatToShorts(at + (top + i) * this.stride, rows + i * row, wide, STEPS / this.rms);
    }
  }

  /** What a step of the sum of two windows is worth: their RMS is that of white noise of unit variance behind the bell. */
  get unit(): number {
    return this.rms / STEPS / Math.SQRT2;
  }

  /** Bytes from a row of a window to the next. */
  get rowBytes(): number {
    return this.stride;
  }

  /**
   * Where the windows of a picture begin, two for each of its fields. They follow the R2 sequence (M. Roberts, 2018), whose points keep apart: those of
   * pictures that are seen together never come near each other.
   */
  windows(seed: number, picture: number, fields: number): number[] {
    const at = this.samples.at(0);
    return Array.from({ length: 2 * fields }, (_, i) => {
      const n = 2 * fields * picture + i;
      const [across, down] = STEP.map((step, axis) => ((Math.imul(n, step) + hash(seed, axis)) >>> 0) >>> (32 - SPARE_BITS)) as [number, number];
      return at + down * this.stride + 2 * across;
    });
  }
}
