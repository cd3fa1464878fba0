import type { Engine, Store } from '../engine';
import { clouds } from './clouds';
import { cubicTaps, Resampler } from '../frame/resample';
import { floatStride } from '../frame/surface';

/** Cells of the coarse grid in the widest patch. */
const FINE = 6;

/** A plane of soft patches that change smoothly from place to place, worked out on a coarse grid and enlarged. */
export class CloudPlane {
  private readonly coarse: Store;
  private readonly whole: Store;
  private resampler: Resampler | undefined;
  private of = '';

  constructor(
    private readonly engine: Engine,
    private readonly width: number,
    private readonly height: number,
  ) {
    [this.coarse, this.whole] = [engine.store(), engine.store()];
  }

  release(): void {
    this.coarse.release();
    this.whole.release();
    this.resampler?.release();
  }

  /**
   * Address of the plane, its rows as those of a surface of this size; -1 to 1.
   * @param size of a patch in pixels @param x and y by which the patches have moved, in patches @param octaves of smaller patches on them
   */
  at(seed: number, size: number, x: number, y: number, octaves: number): number {
    const { width, height } = this;
    const plane = this.whole.at(floatStride(width) * height);
    const key = [seed, size, x, y, octaves].join();
    if (key === this.of) return plane;
    this.of = key;
    const step = Math.max(1, size / (FINE * 2 ** (octaves - 1)));
    const [columns, rows] = [Math.max(4, Math.ceil(width / step)), Math.max(4, Math.ceil(height / step))];
    const stride = floatStride(columns);
    const at = this.coarse.at(stride * rows);
    const cells = this.engine.floats(at, (stride / 4) * rows);
    for (let j = 0; j < rows; j++)
      for (let i = 0; i < columns; i++) cells[(j * stride) / 4 + i] = clouds(seed, ((i + 0.5) * width) / columns / size + x, ((j + 0.5) * height) / rows / size + y, octaves);
    this.resampler?.release();
    this.resampler = new Resampler(this.engine, columns, rows);
    this.resampler.aim(cubicTaps(width, 0, columns / width), cubicTaps(height, 0, rows / height));
    this.resampler.run(plane, floatStride(width), at, stride);
    return plane;
  }
}
