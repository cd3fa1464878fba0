import type { Engine, Store } from '../engine';

/** What `lightRow` takes: so many entries for each doubling of light, from 2^-29 to 2^7. */
const [PER_DOUBLING, DARKEST, BRIGHTEST] = [32, -29, 7] as const;
const SIZE = (BRIGHTEST - DARKEST) * PER_DOUBLING + 1;

/** A function of light, sampled into the engine's memory at steps of a share of the light, for rows; straight between samples, held beyond the ends. */
export class LightCurve {
  private readonly store: Store;

  constructor(private readonly engine: Engine) {
    this.store = engine.store();
  }

  release(): void {
    this.store.release();
  }

  fill(of: (light: number) => number): void {
    this.store.floats(
      // Steps within a doubling are even, as the numbers' own are.
      Float32Array.from({ length: SIZE }, (_, i) => of(2 ** (DARKEST + Math.floor(i / PER_DOUBLING)) * (1 + (i % PER_DOUBLING) / PER_DOUBLING))),
    );
  }

  /** Changes `count` samples of linear light at `row`, in place. */
  run(row: number, count: number): void {
    this.engine.kernels.lightRow(row, count, this.store.at(0));
  }
}
