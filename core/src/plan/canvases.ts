import type { Engine } from '../engine';
import { floatStride, type Surface } from '../frame/surface';
import { sizeKey, type Size } from '../score/size';

/** Bytes of the three planes that a band may take, to stay in a processor's second-level cache. */
const BAND_BYTES = 256 * 1024;

interface Canvas {
  whole?: Surface;
  spare?: number[];
  under?: number[];
  underRows?: number;
  band?: [number, number, number];
}

/** The planes a plan works on: for each size of picture whole ones where they are needed, else a band. */
export class Canvases {
  private readonly canvases = new Map<string, Canvas>();
  private readonly held: number[] = [];

  constructor(
    private readonly engine: Engine,
    private readonly rows?: number,
  ) {}

  release(): void {
    for (const at of this.held) this.engine.release(at);
    this.held.length = 0;
    this.canvases.clear();
  }

  bandRows({ width }: Size): number {
    // Fours, as rows are resampled together.
    return this.rows ?? Math.max(4, Math.floor(BAND_BYTES / (floatStride(width) * 3)) & ~3);
  }

  /** The whole picture of a size. From when it is first asked for, bands of that size are its parts. */
  whole(size: Size): Surface {
    const canvas = this.canvas(size);
    canvas.whole ??= { planes: this.planes(size, size.height), stride: floatStride(size.width), ...size, top: 0, bottom: size.height };
    return canvas.whole;
  }

  /** Three more whole planes, to write into. */
  spare(size: Size): number[] {
    const canvas = this.canvas(size);
    canvas.spare ??= this.planes(size, size.height);
    return canvas.spare;
  }

  /** Three planes for what was under a trait: as high as the picture, or as a band. */
  under(size: Size, whole: boolean): readonly number[] {
    const canvas = this.canvas(size);
    const rows = whole ? size.height : Math.min(size.height, this.bandRows(size));
    if (!canvas.under || whole) canvas.under = this.grown(canvas, size, rows);
    return canvas.under;
  }

  /** The picture of a size band by band. */
  *bands(size: Size): Generator<Surface> {
    const canvas = this.canvas(size);
    const stride = floatStride(size.width);
    const rows = this.bandRows(size);
    for (let top = 0; top < size.height; top += rows) {
      const bottom = Math.min(size.height, top + rows);
      const { whole } = canvas;
      if (!whole) canvas.band ??= this.planes(size, Math.min(size.height, rows));
      const planes = whole ? (whole.planes.map((p) => p + top * stride) as [number, number, number]) : canvas.band!;
      yield { planes: [...planes], stride, ...size, top, bottom };
    }
  }

  private canvas(size: Size): Canvas {
    const key = sizeKey(size);
    let canvas = this.canvases.get(key);
    if (!canvas) this.canvases.set(key, (canvas = {}));
    return canvas;
  }

  private grown(canvas: Canvas, size: Size, rows: number): number[] {
    if (canvas.under && (canvas.underRows ?? 0) >= rows) return canvas.under;
    canvas.underRows = rows;
    return this.planes(size, rows);
  }

  private planes(size: Size, rows: number): [number, number, number] {
    const one = (): number => {
      const at = this.engine.allocate(floatStride(size.width) * rows);
      this.held.push(at);
      return at;
    };
    return [one(), one(), one()];
  }
}
