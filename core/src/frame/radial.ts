import type { Engine, Store } from '../engine';
import { floatStride } from './surface';

/** How a picture is drawn together or apart about its middle: source distance = distance x zoom x (1 + amount x r^power), r 1 in the corners. */
export interface Radial {
  readonly amount: number;
  readonly power: number;
  readonly zoom: number;
}

/** Planes sampled along a radial map, by the cubic; edges are continued. */
export class RadialWarp {
  private readonly rows: Store;

  constructor(
    private readonly engine: Engine,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.rows = engine.store();
  }

  release(): void {
    this.rows.release();
  }

  /** Places in the source that the pixels of row `y` take: addresses of their columns and rows, valid until the next call. */
  places(y: number, { amount, power, zoom }: Radial): { xs: number; ys: number } {
    const k = this.engine.kernels;
    const { width, height } = this;
    const stride = floatStride(width);
    const xs = this.rows.at(2 * stride);
    const ys = xs + stride;
    const dy = y + 0.5 - height / 2;
    const corner = 4 / (width * width + height * height);
    k.rampRow(xs, width, 0.5 - width / 2, 1);
    k.copy(ys, xs, stride);
    k.timesRow(ys, xs, width);
    k.affineRow(ys, width, corner, dy * dy * corner);
    if (power !== 2) k.powRow(ys, width, power / 2, 1e-12);
    k.affineRow(ys, width, amount * zoom, zoom);
    k.timesRow(xs, ys, width);
    k.affineRow(xs, width, 1, width / 2 - 0.5);
    k.affineRow(ys, width, dy, height / 2 - 0.5);
    return { xs, ys };
  }

  /** dst = src along the map; they may not be one. */
  run(dst: number, src: number, stride: number, map: Radial): void {
    for (let y = 0; y < this.height; y++) {
      const { xs, ys } = this.places(y, map);
      this.engine.kernels.warpCubic(dst + y * stride, this.width, xs, ys, src, stride, this.width, this.height);
    }
  }

  /** As `run`, for three planes of one map. */
  runThree(dst: readonly number[], src: readonly number[], stride: number, map: Radial): void {
    const [d0, d1, d2] = dst as [number, number, number];
    const [s0, s1, s2] = src as [number, number, number];
    for (let y = 0; y < this.height; y++) {
      const { xs, ys } = this.places(y, map);
      const row = y * stride;
      this.engine.kernels.warpCubicThree(d0 + row, d1 + row, d2 + row, this.width, xs, ys, s0, s1, s2, stride, this.width, this.height);
    }
  }
}
