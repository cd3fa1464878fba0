import type { Engine, Store } from '../../engine';
import { LightCurve } from '../../frame/light-curve';
import type { Matrix, Row } from '../../frame/colorimetry';
import { rowAt, type Surface } from '../../frame/surface';

export const SAME: Matrix = [
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
];

/** Density of the clearest film: no dye lets more through. */
const CLEAR = 0.004;

/** Rows scaled so that each sums to 1: what is neutral stays so. */
export const neutral = (m: Matrix): Matrix => m.map((row) => row.map((v) => v / (row[0] + row[1] + row[2]))) as unknown as Matrix;

/** What a stock or a process is, between none of it (amount 0: light stays as it is) and all of it. */
export interface Emulsion {
  /** Of red, green and blue light in each layer. */
  readonly sees: Matrix;
  /** Density of a layer for the density of the light that it sees. */
  readonly layer: (density: number, plane: number) => number;
  /** Of each layer's density in red, green and blue. */
  readonly dyes: Matrix;
  /** Density everywhere. */
  readonly base: Row;
}

/**
 * Light through an emulsion, row by row, from linear light to density: what each layer sees of red, green and blue, what density it takes, and
 * what of each dye stands in the way of red, green and blue.
 */
export class DyeRows {
  private readonly curves: readonly LightCurve[];
  private readonly sees: Store;
  private readonly dyes: Store;
  private of: Emulsion | undefined;
  private amount = NaN;

  constructor(private readonly engine: Engine) {
    this.curves = [0, 1, 2].map(() => new LightCurve(engine));
    [this.sees, this.dyes] = [engine.store(), engine.store()];
  }

  release(): void {
    for (const store of [...this.curves, this.sees, this.dyes]) store.release();
  }

  /** @param amount 0 to 1: layers see, answer and colour by so much of their own way; at 0 density is that of the light */
  run(surface: Surface, emulsion: Emulsion, amount: number): void {
    if (emulsion !== this.of || amount !== this.amount) this.fill(emulsion, amount);
    const k = this.engine.kernels;
    const { width } = surface;
    const [sees, dyes] = [this.sees.at(0), this.dyes.at(0)];
    for (let y = surface.top; y < surface.bottom; y++) {
      const [r, g, b] = [rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y)];
      k.matrixRow(r, g, b, width, sees);
      this.curves[0]!.run(r, width);
      this.curves[1]!.run(g, width);
      this.curves[2]!.run(b, width);
      k.matrixRow(r, g, b, width, dyes);
      k.holdDyesRow(r, g, b, width, CLEAR, amount);
    }
  }

  private fill(emulsion: Emulsion, amount: number): void {
    [this.of, this.amount] = [emulsion, amount];
    const { log } = this.engine.kernels;
    const part = (m: Matrix): number[] => m.flatMap((row, i) => row.map((v, j) => SAME[i]![j]! + amount * (v - SAME[i]![j]!)));
    this.sees.floats([...part(emulsion.sees), 0, 0, 0]);
    this.dyes.floats([...part(emulsion.dyes), ...emulsion.base.map((v) => v * amount)]);
    this.curves.forEach((curve, plane) =>
      curve.fill((light) => {
        const density = -log(light) / Math.LN10;
        return density + amount * (emulsion.layer(density, plane) - density);
      }),
    );
  }
}
