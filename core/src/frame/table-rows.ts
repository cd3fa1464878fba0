import type { Engine } from '../engine';
import type { ColourTable } from '../formats/cube';

/** A table of colours laid into the engine's memory, for rows of three planes. */
export class TableRows {
  private readonly at: number;

  constructor(
    private readonly engine: Engine,
    private readonly table: ColourTable,
  ) {
    const { dimensions, size, points } = table;
    const count = points.length / 3;
    // As the kernels read it: a cube's points in fours, curves one after the other.
    const laid = new Float32Array(dimensions === 3 ? count * 4 : count * 3);
    for (let n = 0; n < count; n++) for (let i = 0; i < 3; i++) laid[dimensions === 3 ? n * 4 + i : i * size + n] = points[n * 3 + i]!;
    this.at = engine.allocate(laid.length * 4);
    engine.floats(this.at, laid.length).set(laid);
  }

  release(): void {
    this.engine.release(this.at);
  }

  run(rows: readonly [number, number, number], width: number): void {
    const k = this.engine.kernels;
    const { dimensions, size, low, high } = this.table;
    rows.forEach((row, i) => {
      const scale = 1 / (high[i]! - low[i]!);
      if (dimensions === 1) k.tableRow(row, width, this.at + i * size * 4, size, low[i]!, scale * (size - 1));
      else if (scale !== 1 || low[i] !== 0) k.affineRow(row, width, scale, -low[i]! * scale);
    });
    if (dimensions === 3) k.cubeRow(rows[0], rows[1], rows[2], width, this.at, size);
  }
}
