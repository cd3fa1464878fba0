import type { Engine, Store } from '../engine';
import { hash } from '../random/random';
import { bellTaps } from './blur';
import { floatStride } from './surface';

/** Spectrum of a noise: as much at every frequency, more at low ones (1/f), more at high ones. */
export type NoiseKind = 'white' | 'pink' | 'blue';

/** Octaves of pink noise: fields of equal variance, each twice as coarse as the one before. */
const OCTAVES = 10;
/** Samples on each side that blue noise is filtered over: it rises evenly from 3 % of the sampling rate on. */
const BLUE_REACH = 24;

let blue: Float32Array | undefined;

/** Taps whose response is the square root of 2 sin(pi f), their sum 0: power in proportion to frequency, 10 dB a decade. */
function blueTaps(k: { sin(x: number): number; cos(x: number): number }): Float32Array {
  if (blue) return blue;
  const STEPS = 2048;
  const side = Array.from({ length: BLUE_REACH + 1 }, (_, n) => {
    let sum = 0;
    for (let i = 0; i < STEPS; i++) {
      const f = (i + 0.5) / STEPS;
      sum += Math.sqrt(2 * k.sin(Math.PI * f)) * k.cos(2 * Math.PI * f * n);
    }
    return sum / STEPS;
  });
  side[0]! -= side[0]! + 2 * side.slice(1).reduce((a, b) => a + b, 0);
  blue = Float32Array.from({ length: 2 * BLUE_REACH + 1 }, (_, i) => side[Math.abs(i - BLUE_REACH)]!);
  return blue;
}

/**
 * A field of noise of zero mean, addressed by position: a sample is a function of (seed, row, column). White noise is blurred
 * by a bell of `sigma` pixels where a size is set (its sum of weights is 1, so slow variation passes unchanged); blue noise
 * is white filtered so that its power rises with frequency, pink noise a sum of octaves. `share` is the RMS that is left. Rows are made on
 * demand, in any order.
 */
export class NoiseField {
  /** Rows filtered along, a raw row and a list of addresses. */
  private readonly ring: Store;
  private readonly weights: Store;
  private readonly seeds: Store;
  private readonly extra: Store;
  /** The field whose rows the ring holds, and the first row that has not been made for it. */
  private held = { seed: -1, made: 0 };
  private taps: Float32Array = new Float32Array([1]);
  private width = 0;
  private kind: NoiseKind = 'white';

  constructor(private readonly engine: Engine) {
    [this.ring, this.weights, this.seeds, this.extra] = [engine.store(), engine.store(), engine.store(), engine.store()];
  }

  release(): void {
    for (const store of [this.ring, this.weights, this.seeds, this.extra]) store.release();
  }

  /** Sets the width of a row, the bell and the spectrum; what was made for others is dropped. */
  shape(width: number, sigma: number, kind: NoiseKind = 'white'): void {
    this.width = width;
    this.kind = kind;
    this.taps = kind === 'blue' && sigma < 0.2 ? blueTaps(this.engine.kernels) : bellTaps(sigma, this.engine.kernels.exp);
    this.held = { seed: -1, made: 0 };
    // The middle's weight and those on one side of it.
    this.weights.floats(this.taps.subarray(this.reach));
    this.ring.at((this.taps.length + 1) * this.ringStride + this.taps.length * 4 + 64);
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

  private get stride(): number {
    return floatStride(this.width);
  }

  private get ringStride(): number {
    return floatStride(this.width + 2 * this.reach + 16);
  }

  /** Writes row `y` of the field that `seed` names to `dst`. */
  row(dst: number, seed: number, y: number): void {
    this.fill(dst, 0, seed, y, 1);
  }

  /** Writes rows `y` to `y + rows` of the field that `seed` names, `stride` bytes apart. */
  fill(dst: number, stride: number, seed: number, y: number, rows: number): void {
    const k = this.engine.kernels;
    const { reach } = this;
    if (this.kind === 'pink' || reach === 0) {
      for (let i = 0; i < rows; i++) {
        if (this.kind === 'pink') this.pinkRow(dst + i * stride, seed, y + i);
        else k.whiteRow(dst + i * stride, this.width, hash(seed, y + i), 0);
      }
      return;
    }
    // What the ring holds is named, so that the order of calls cannot matter.
    const { held } = this;
    const goesOn = held.seed === seed && y - reach <= held.made && y - reach >= held.made - this.taps.length;
    const made = goesOn ? held.made : y - reach;
    const end = y + rows + reach;
    const count = Math.max(0, end - made);
    const at = this.seeds.at((count + 1) * 4);
    const seeds = this.engine.ints(at, count);
    for (let i = 0; i < count; i++) seeds[i] = hash(seed, made + i);
    k.bellNoise(dst, stride, y, rows, this.width, this.ring.at(0), this.ringStride, made, at, this.weights.at(0), reach);
    this.held = { seed, made: Math.max(made, end) };
  }

  /** Octaves of white noise, each held over squares twice as wide as the last, of equal variance, summed from the coarsest on. */
  private pinkRow(dst: number, seed: number, y: number): void {
    const k = this.engine.kernels;
    let coarser = 0;
    for (let octave = OCTAVES - 1; octave >= 0; octave--) {
      const size = 2 ** octave;
      const count = Math.ceil(this.width / size);
      const row = octave === 0 ? dst : this.extra.at(0) + (octave % 2) * (this.stride + 64);
      k.whiteRow(row, count, hash(seed, octave, Math.floor(y / size)), 0);
      if (coarser) k.addHeldRow(row, coarser, count);
      coarser = row;
    }
    k.affineRow(dst, this.width, 1 / Math.sqrt(OCTAVES), 0);
  }
}
