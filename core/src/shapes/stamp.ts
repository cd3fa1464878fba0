import type { Engine, Store } from '../engine';
import { rowAt, type Surface } from '../frame/surface';
import type { Domain } from '../traits/trait';

// Taken once: in hot loops each look-up of a global costs.
const { ceil, floor, max, min } = Math;

/** What a shape may touch, in pixels of the picture; `right` and `bottom` are not part of it. */
export interface Box {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** A shape: where it may cover, and how much (0 to 1) it covers of each pixel of a row. */
export interface Shape {
  readonly box: Box;
  /**
   * Fills `covers`, whose first entry is column `left`, for row `y`.
   * @returns false where nothing is covered
   */
  cover(covers: Float32Array, count: number, left: number, y: number): boolean;
}

/** What `layLightRow` is told of the rows of a domain. */
const PER_LOG: Partial<Record<Domain, number>> = { display: 1, linear: 0, density: -Math.log2(10) };

/** The box about a circle. */
export const boxAbout = (x: number, y: number, reach: number): Box => ({ left: floor(x - reach), top: floor(y - reach), right: ceil(x + reach), bottom: ceil(y + reach) });

/** Lays small shapes of one colour on rows; only their own boxes are touched. */
export class Stamp {
  private readonly row: Store;

  constructor(private readonly engine: Engine) {
    this.row = engine.store();
  }

  release(): void {
    this.row.release();
  }

  /**
   * As it is seen: a wholly covered place shows a signal `share` of the way to the colour's, one covered in part the light of both its parts. So an edge, or a
   * line thinner than a pixel, is as bright at any size.
   * @param domain of the surface: that of light, of densities or of a display @param colour signals of red, green and blue
   */
  laySeen(surface: Surface, domain: Domain, shape: Shape, colour: readonly number[], share: number): void {
    const perLog = PER_LOG[domain];
    if (perLog === undefined) throw new Error(`a shape cannot be laid on a picture in ${domain}`);
    if (share <= 0) return;
    this.each(surface, shape, (row, covers, count, plane) => this.engine.kernels.layLightRow(row, covers, count, colour[plane]!, share, perLog));
  }

  /** @param colour of each plane, in the surface's domain @param share of it that shows */
  lay(surface: Surface, shape: Shape, colour: readonly number[], share: number): void {
    if (share <= 0) return;
    this.each(surface, shape, (row, covers, count, plane) => this.engine.kernels.layRow(row, covers, count, colour[plane]!, share));
  }

  /** Adds what the shape covers times a factor of each plane. */
  add(surface: Surface, shape: Shape, factors: readonly number[]): void {
    this.each(surface, shape, (row, covers, count, plane) => this.engine.kernels.addRow(row, covers, count, factors[plane]!));
  }

  private each(surface: Surface, { box, cover }: Shape, use: (row: number, covers: number, count: number, plane: number) => void): void {
    // Kernels work on groups of four, so the stretch of a row begins on one.
    const left = max(0, box.left) & ~3;
    const count = min(surface.width, box.right) - left;
    if (count <= 0) return;
    const at = this.row.at((count + 8) * 4);
    for (let y = max(surface.top, box.top); y < min(surface.bottom, box.bottom); y++) {
      const covers = this.engine.floats(at, count + 4);
      if (!cover(covers, count, left, y)) continue;
      covers.fill(0, count);
      for (let plane = 0; plane < 3; plane++) use(rowAt(surface, plane, y) + left * 4, at, count, plane);
    }
  }
}
