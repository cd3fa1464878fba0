import type { Engine, Store } from '../engine';
import { FLAT, flatTaps } from './resample';
import { floatStride } from './surface';

/** One sample in so many is filtered; the others are made between them. */
const FEWER = 4;
/** A low pass whose limit (cycles a sample) is no higher leaves nothing that a quarter of the samples does not hold. */
export const NARROW = 0.045;
/** Samples on each side that one between them is made of. */
const REACH = 4;

/** A long low pass along rows, worked out at every fourth sample, which hold all that it leaves: a third of the price. */
export class NarrowFilter {
  private readonly weights: Store;
  private readonly list: Store;
  private readonly work: Store;
  private taps = 0;
  private lead = 0;
  private pad = 0;
  /** For where the work stands, and for how many taps, the list was written. */
  private listed = -1;
  private listedTaps = 0;

  /** @param width samples of a row */
  constructor(
    private readonly engine: Engine,
    private readonly width: number,
  ) {
    [this.weights, this.list, this.work] = [engine.store(), engine.store(), engine.store()];
  }

  release(): void {
    for (const store of [this.weights, this.list, this.work]) store.release();
  }

  /** Chooses the filter: sample x becomes the sum of `taps[k]` times sample x + start + k. */
  aim(taps: Float32Array, start: number): void {
    const { sin } = this.engine.kernels;
    this.taps = taps.length;
    // So many samples before the row's first are needed: for those between, and for the taps.
    this.lead = FEWER * REACH - start;
    this.pad = Math.max(this.lead, FEWER * (REACH + 4) + start + taps.length) + 8;
    // At a sample itself, and a quarter, a half and three quarters on.
    const between = flatTaps(FEWER, 0.5 - 0.5 / FEWER, 1 / FEWER, sin, { ...FLAT, reach: REACH });
    this.weights.floats([...taps, ...between.weights]);
  }

  /** Filters a row; edges are continued. */
  run(dst: number, src: number): void {
    const k = this.engine.kernels;
    const { width, taps, pad } = this;
    const fewer = Math.ceil(width / FEWER);
    // In groups of sixteen, which `mixRows` takes at a time.
    const whole = (fewer + 2 * REACH + 15) & ~15;
    const padded = floatStride(width + 2 * pad + 64);
    const part = floatStride(whole + Math.ceil(taps / FEWER) + 32);
    const work = this.work.at(padded + (2 * FEWER + 1) * part + floatStride(width + 64));
    const parts = work + padded;
    const rows = parts + FEWER * part;
    const joined = rows + (FEWER + 1) * part;
    const weights = this.weights.at(0);
    const list = this.list.at(taps * 4);
    k.padRow(work, src, width, pad);
    k.splitRow(parts, part, work + (pad - this.lead) * 4, whole + Math.ceil(taps / FEWER) + 4);
    if (this.listed !== work || this.listedTaps !== taps) {
      const { words } = this.engine;
      for (let i = 0; i < taps; i++) words[(list >> 2) + i] = parts + (i % FEWER) * part + Math.floor(i / FEWER) * 4;
      [this.listed, this.listedTaps] = [work, taps];
    }
    // Every fourth sample, from REACH of them before the row to as many after it.
    const filtered = rows + FEWER * part;
    k.mixRows(filtered, list, weights, taps, whole);
    k.copy(rows, filtered + REACH * 4, fewer * 4);
    for (let i = 1; i < FEWER; i++) k.firRow(rows + i * part, filtered + 4, fewer, weights + (taps + i * 2 * REACH) * 4, 2 * REACH);
    k.joinRow(joined, rows, part, fewer);
    k.copy(dst, joined, width * 4);
  }
}
