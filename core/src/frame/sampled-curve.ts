import type { Engine, Store } from '../engine';

/** A function of one number, sampled at even steps into the engine's memory, for rows; straight between samples, held beyond the ends. */
export class SampledCurve {
  private readonly store: Store;
  private readonly size: number;
  private place = 0;

  /** @param perUnit samples in a distance of 1 */
  constructor(
    private readonly engine: Engine,
    private readonly low: number,
    high: number,
    private readonly perUnit: number,
  ) {
    this.store = engine.store();
    this.size = Math.round((high - low) * perUnit) + 1;
  }

  release(): void {
    this.store.release();
  }

  fill(of: (v: number) => number): void {
    const samples = new Float32Array(this.size);
    for (let i = 0; i < this.size; i++) samples[i] = of(this.low + i / this.perUnit);
    this.place = this.store.floats(samples);
  }

  run(row: number, count: number): void {
    this.engine.kernels.tableRow(row, count, this.place, this.size, this.low, this.perUnit);
  }
}
