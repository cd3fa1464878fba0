import type { Engine, Store } from '../engine';
import { floatStride } from './surface';

/** Fills outlines: how much of each sample of a plane lies inside of lines. */
export class OutlineFill {
  private readonly rows: Store;
  private readonly lines: Store;

  constructor(private readonly engine: Engine) {
    [this.rows, this.lines] = [engine.store(), engine.store()];
  }

  release(): void {
    this.rows.release();
    this.lines.release();
  }

  /**
   * Lines in memory, as kernels take them.
   * @param left, top of the plane in the lines' place @param across samples of the plane a unit
   */
  placed(lines: readonly number[], left: number, top: number, across = 1): number {
    const at = this.lines.at(lines.length * 4);
    const floats = this.engine.floats(at, lines.length);
    for (let i = 0; i < lines.length; i += 2) {
      floats[i] = (lines[i]! - left) * across;
      floats[i + 1] = lines[i + 1]! - top;
    }
    return at;
  }

  /** @param plane of rows as long as a float plane's of this width, whose place is (left, top) */
  fill(plane: number, width: number, height: number, lines: readonly number[], left: number, top: number): void {
    const k = this.engine.kernels;
    const bytes = floatStride(width + 2);
    const rows = this.rows.at(bytes * height);
    this.engine.bytes(rows, bytes * height).fill(0);
    k.outlineLines(rows, width, height, bytes, this.placed(lines, left, top), lines.length / 4);
    for (let y = 0; y < height; y++) {
      k.coverageRow(rows + y * bytes, width);
      k.copy(plane + y * floatStride(width), rows + y * bytes, width * 4);
    }
  }
}
