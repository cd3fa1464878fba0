import type { Engine, Store } from '../engine';
import { chromaShares } from './encoding';
import type { Importer } from './import';
import { COARSE, cubicTaps, flatTaps, Resampler, type SincWindow } from './resample';
import { floatStride, rowAt, type Surface } from './surface';

/** A part of a picture, in its samples, edges counted from its left upper corner. */
export interface Part {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** In samples: what a sum of fractions is off by, and no resampling shows. */
const SAME = 1e-6;

/**
 * Reads a part of a file's picture at another size. Each plane is resampled as the file has it, luma at full and chroma at
 * its own size, and only the result is converted: half the work and none of the widening of chroma that a picture
 * would lose again.
 */
export class ScaledImporter {
  private readonly resamplers: Resampler[];
  /** The rows of each plane that are at work, as floats: each is converted once, when it is first met. */
  private readonly rows: Store[];
  /** Of each plane, the last row met, and the load of the importer it was of. */
  private readonly met = [-1, -1, -1];
  private of = 0;
  private readonly matrix: number;
  private taken = '';
  /** Where the part stands whose samples are the picture's own: nothing is resampled. */
  private cut: { readonly left: number; readonly top: number } | undefined;

  constructor(
    private readonly engine: Engine,
    private readonly importer: Importer,
    private readonly width: number,
    private readonly height: number,
    /** Into a line raster: the filter across. */
    private readonly window?: SincWindow,
  ) {
    this.resamplers = importer.shapes.map((shape) => new Resampler(engine, shape.width, shape.height));
    this.rows = importer.shapes.map(() => engine.store());
    this.matrix = engine.allocate(48);
    const { rv, gu, gv, bu } = chromaShares(importer.encoding.matrix);
    engine.floats(this.matrix, 12).set([1, 0, rv, 1, -gu, -gv, 1, bu, 0, 0, 0, 0]);
  }

  release(): void {
    for (const thing of [...this.resamplers, ...this.rows]) thing.release();
    this.engine.release(this.matrix);
  }

  /** Chooses the part that is read from now on. */
  take(part: Part): void {
    const key = `${part.left},${part.top},${part.width},${part.height}`;
    if (key === this.taken) return;
    this.taken = key;
    const { encoding } = this.importer;
    const { width, height } = this;
    this.cut = this.cutOf(part);
    if (this.cut) return;
    this.resamplers.forEach((resampler, i) => {
      const chroma = encoding.layout === 'yuv' && i > 0;
      const x = chroma && encoding.subX ? 0.5 : 1;
      const y = chroma && encoding.subY ? 0.5 : 1;
      // Halved chroma stands on the even columns (a quarter of its own spacing to the left of the middle) and between rows.
      const [from, step] = [part.left * x + (x < 1 ? 0.25 : 0), (part.width * x) / width];
      const across = this.window ? flatTaps(width, from, step, this.engine.kernels.sin, x < 1 ? COARSE : this.window) : cubicTaps(width, from, step);
      resampler.aim(across, cubicTaps(height, part.top * y, (part.height * y) / height));
    });
  }

  private cutOf(part: Part): { left: number; top: number } | undefined {
    const { encoding } = this.importer;
    const [left, top] = [Math.round(part.left), Math.round(part.top)];
    const isNear = (a: number, b: number): boolean => Math.abs(a - b) < SAME;
    const isWhole = isNear(part.left, left) && isNear(part.top, top) && isNear(part.width, this.width) && isNear(part.height, this.height);
    const halved = encoding.layout === 'yuv' && ((encoding.subX && left % 2) || (encoding.subY && top % 2));
    return isWhole && !halved ? { left, top } : undefined;
  }

  /** Fills the rows the surface holds with R'G'B'. Bands of one picture come in their order; some may be left out. */
  run(surface: Surface): void {
    if (this.cut) return this.importer.run(surface, this.cut.left, this.cut.top);
    if (surface.top === 0 || this.of !== this.importer.loads) this.met.fill(-1);
    this.of = this.importer.loads;
    for (let plane = 0; plane < 3; plane++) this.plane(plane, surface);
    if (this.importer.encoding.layout === 'rgb') return;
    const { matrixRow } = this.engine.kernels;
    for (let y = surface.top; y < surface.bottom; y++) matrixRow(rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), surface.width, this.matrix);
  }

  private plane(plane: number, surface: Surface): void {
    const resampler = this.resamplers[plane]!;
    const stride = floatStride(this.importer.shapes[plane]!.width);
    const room = resampler.rowsAtOnce;
    const rows = this.rows[plane]!.at(room * stride);
    let met = this.met[plane]!;
    const make = (y: number): void => {
      // Those before the first that is asked for are not needed.
      for (met = Math.max(met, y - room); met < y;) this.importer.floats(plane, ++met, rows + (met % room) * stride, resampler.columns);
    };
    resampler.runFrom(surface.planes[plane]!, surface.stride, { at: rows, stride, rows: room, make }, surface.top, surface.bottom);
    this.met[plane] = met;
  }
}
