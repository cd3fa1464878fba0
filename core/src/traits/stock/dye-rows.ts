import type { Engine, Store } from '../../engine';
import { DOMAIN_ROWS } from '../../frame/domain-rows';
import { rowAt, type Surface } from '../../frame/surface';

export type Row = readonly [number, number, number];
export type Matrix = readonly [Row, Row, Row];

export const SAME: Matrix = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** Rows scaled so that each sums to 1: what is neutral stays so. */
export const neutral = (m: Matrix): Matrix => m.map((row) => row.map((v) => v / (row[0] + row[1] + row[2]))) as unknown as Matrix;

/**
 * Light through an emulsion, row by row, from linear light to density: what each layer sees of red, green and blue, what density it takes, and
 * what of each dye stands in the way of red, green and blue.
 */
export class DyeRows {
  private readonly under: Store;
  private readonly sees: Store;
  private readonly dyes: Store;

  constructor(private readonly engine: Engine) {
    [this.under, this.sees, this.dyes] = [engine.store(), engine.store(), engine.store()];
  }

  release(): void {
    for (const store of [this.under, this.sees, this.dyes]) store.release();
  }

  /**
   * @param sees of red, green and blue light in each layer @param layer changes one layer's row of densities
   * @param dyes of each layer's density in red, green and blue @param base density everywhere @param amount share that shows
   */
  run(surface: Surface, sees: Matrix, layer: (row: number, plane: number, count: number) => void, dyes: Matrix, base: Row, amount: number): void {
    const k = this.engine.kernels;
    const { width, stride } = surface;
    const seen = this.sees.floats([...sees.flat(), 0, 0, 0]);
    const through = this.dyes.floats([...dyes.flat(), ...base]);
    const under = this.under.at(3 * stride);
    for (let y = surface.top; y < surface.bottom; y++) {
      const rows = [0, 1, 2].map((plane) => rowAt(surface, plane, y)) as [number, number, number];
      if (amount < 1) rows.forEach((row, i) => k.copy(under + i * stride, row, width * 4));
      k.matrixRow(rows[0], rows[1], rows[2], width, seen);
      rows.forEach((row, plane) => {
        DOMAIN_ROWS['linear>density'](k, row, width);
        layer(row, plane, width);
      });
      k.matrixRow(rows[0], rows[1], rows[2], width, through);
      if (amount === 1) continue;
      rows.forEach((row, i) => {
        DOMAIN_ROWS['density>linear'](k, row, width);
        k.mix(row, under + i * stride, width, amount);
        DOMAIN_ROWS['linear>density'](k, row, width);
      });
    }
  }
}
