import type { Engine, Store } from '../engine';
import type { Importer } from './import';
import { ScaledImporter } from './scaled-import';
import { floatStride, rowAt, type Surface } from './surface';

/** Where the middle of the picture lies on the footage and how its axes run there, in pixels of the footage a pixel of the picture. */
export interface Placing {
  readonly x: number;
  readonly y: number;
  /** A step to the right in the picture. */
  readonly right: readonly [number, number];
  /** A step down in the picture. */
  readonly down: readonly [number, number];
  /** What lies past the footage is black, else its edge is continued. */
  readonly black: boolean;
}

/** Reads footage turned, mirrored, or past its edges. Where the picture is smaller, the footage is first brought near its size. */
export class TurnedImporter {
  private readonly planes: Store;
  private readonly rows: Store;
  private scaled: { key: string; importer: ScaledImporter } | undefined;

  constructor(
    private readonly engine: Engine,
    private readonly importer: Importer,
  ) {
    this.planes = engine.store();
    this.rows = engine.store();
  }

  release(): void {
    for (const store of [this.planes, this.rows]) store.release();
    this.scaled?.importer.release();
  }

  /** Fills a whole surface with R'G'B'. */
  run(surface: Surface, placing: Placing): void {
    const k = this.engine.kernels;
    const [stepX, stepY] = placing.right;
    const step = Math.sqrt(stepX * stepX + stepY * stepY);
    const shrink = Math.max(1, step);
    const width = Math.max(1, Math.round(this.importer.width / shrink));
    const height = Math.max(1, Math.round(this.importer.height / shrink));
    const read = this.read(width, height);
    const [scaleX, scaleY] = [width / this.importer.width, height / this.importer.height];
    const xs = this.rows.at(2 * surface.stride + 64);
    const ys = xs + surface.stride + 32;
    const [rx, ry] = [placing.right[0] * scaleX, placing.right[1] * scaleY];
    const [dx, dy] = [placing.down[0] * scaleX, placing.down[1] * scaleY];
    for (let y = surface.top; y < surface.bottom; y++) {
      const v = y + 0.5 - surface.height / 2;
      // Samples' middles are whole numbers for the kernel.
      const x0 = placing.x * scaleX + rx * (0.5 - surface.width / 2) + dx * v - 0.5;
      const y0 = placing.y * scaleY + ry * (0.5 - surface.width / 2) + dy * v - 0.5;
      k.rampRow(xs, surface.width, x0, rx);
      k.rampRow(ys, surface.width, y0, ry);
      const rows = [0, 1, 2].map((plane) => rowAt(surface, plane, y));
      rows.forEach((row, plane) => k.warpCubic(row, surface.width, xs, ys, read.planes[plane]!, read.stride, width, height));
      if (placing.black) this.blacken(rows, surface.width, x0, rx, y0, ry, width, height);
    }
  }

  /** What lies past the footage's edges in a row. */
  private blacken(rows: readonly number[], count: number, x0: number, rx: number, y0: number, ry: number, width: number, height: number): void {
    let [from, to] = [0, count];
    for (const [start, step, size] of [
      [x0, rx, width],
      [y0, ry, height],
    ] as const) {
      const [low, high] = [-0.5 - start, size - 0.5 - start];
      if (Math.abs(step) < 1e-9) {
        if (low > 0 || high < 0) to = 0;
        continue;
      }
      const [a, b] = step > 0 ? [low / step, high / step] : [high / step, low / step];
      from = Math.max(from, Math.ceil(a - 1e-6));
      to = Math.min(to, Math.floor(b + 1e-6) + 1);
    }
    for (const row of rows) {
      const values = this.engine.floats(row, count);
      if (to <= from) values.fill(0);
      else values.fill(0, 0, from).fill(0, to);
    }
  }

  /** The whole footage at a size. */
  private read(width: number, height: number): Surface {
    const stride = floatStride(width);
    const at = this.planes.at(3 * stride * height + 192);
    const surface: Surface = { planes: [at, at + stride * height + 64, at + 2 * (stride * height + 64)], stride, width, height, top: 0, bottom: height };
    if (width === this.importer.width && height === this.importer.height) {
      this.importer.run(surface);
      return surface;
    }
    const key = `${width}x${height}`;
    if (this.scaled?.key !== key) {
      this.scaled?.importer.release();
      const importer = new ScaledImporter(this.engine, this.importer, width, height);
      importer.take({ left: 0, top: 0, width: this.importer.width, height: this.importer.height });
      this.scaled = { key, importer };
    }
    this.scaled.importer.run(surface);
    return surface;
  }
}
