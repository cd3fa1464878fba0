import type { Engine, Kernels, Store } from '../engine';
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

/** The part of a row that a shape is asked about: `count` pixels from column `left` of row `y`. */
export interface RowPart {
  readonly count: number;
  readonly left: number;
  readonly y: number;
  readonly kernels: Kernels;
  /** Where how much of each pixel is covered (0 to 1) is to be written, with room for a whole group of four at its end; and the same as numbers. */
  readonly at: number;
  readonly covers: Float32Array;
  /** Where the shape's own numbers lie. */
  readonly numbers: number;
}

/** A shape: where it may cover, and how much it covers of each pixel of a row. */
export interface Shape {
  readonly box: Box;
  /** Numbers that its kernel reads. */
  readonly numbers?: Float32Array;
  /** @returns false where nothing is covered */
  cover(row: RowPart): boolean;
}

/** A shape and how it is seen. */
export interface Mark {
  readonly shape: Shape;
  /** Signals of red, green and blue. */
  readonly colour: readonly number[];
  /** Of it that shows. */
  readonly share: number;
  /** Of the light that it holds back where it covers; left out where it is all. */
  readonly opacity?: number;
}

/** What `layLightRow` is told of the rows of a domain; of densities log2 of 10. */
const PER_LOG: Partial<Record<Domain, number>> = { display: 1, linear: 0, density: -3.321928094887362 };

/** The box about a circle. */
export const boxAbout = (x: number, y: number, reach: number): Box => ({ left: floor(x - reach), top: floor(y - reach), right: ceil(x + reach), bottom: ceil(y + reach) });

/** Lays small shapes of one colour on rows; only their own boxes are touched. */
export class Stamp {
  private readonly row: Store;
  private readonly numbers: Store;

  constructor(private readonly engine: Engine) {
    [this.row, this.numbers] = [engine.store(), engine.store()];
  }

  release(): void {
    this.row.release();
    this.numbers.release();
  }

  /**
   * As it is seen: a wholly covered place shows a signal `share` of the way to the colour's, one covered in part the light of both its parts. So an edge, or a
   * line thinner than a pixel, is as bright at any size.
   * @param domain of the surface: that of light, of densities or of a display
   */
  laySeen(surface: Surface, domain: Domain, marks: readonly Mark[]): void {
    const perLog = PER_LOG[domain];
    if (perLog === undefined) throw new Error(`a shape cannot be laid on a picture in ${domain}`);
    const k = this.engine.kernels;
    for (const { shape, colour, share, opacity = 1 } of marks) {
      if (share <= 0 || opacity <= 0) continue;
      this.each(surface, shape, (row, covers, count, plane) => {
        if (plane === 0 && opacity < 1) k.affineRow(covers, count, opacity, 0);
        k.layLightRow(row, covers, count, colour[plane]!, share, perLog);
      });
    }
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

  private each(surface: Surface, shape: Shape, use: (row: number, covers: number, count: number, plane: number) => void): void {
    const { box } = shape;
    const { kernels } = this.engine;
    // Kernels work on groups of four, so the stretch of a row begins on one.
    const left = max(0, box.left) & ~3;
    const count = min(surface.width, box.right) - left;
    if (count <= 0 || box.bottom <= surface.top || box.top >= surface.bottom) return;
    const numbers = shape.numbers ? this.numbers.floats(shape.numbers) : 0;
    const at = this.row.at((count + 8) * 4);
    const covers = this.engine.floats(at, count + 4);
    for (let y = max(surface.top, box.top); y < min(surface.bottom, box.bottom); y++) {
      if (!shape.cover({ count, left, y, kernels, at, covers, numbers })) continue;
      covers.fill(0, count);
      for (let plane = 0; plane < 3; plane++) use(rowAt(surface, plane, y) + left * 4, at, count, plane);
    }
  }
}
