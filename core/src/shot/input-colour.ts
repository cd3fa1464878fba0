import type { Engine } from '../engine';
import type { ColourTable } from '../formats/cube';
import { rowAt, type Surface } from '../frame/surface';
import { HLG_GAMMA, HLG_PEAK, INPUT_CURVES, REFERENCE_WHITE, rolledOff, toBt709, type Curve } from './curves';
import type { Preparation } from './preparation';
import { TableRows } from '../frame/table-rows';

/** Values to light are tabled this finely; a 12-bit value is a point. */
const VALUES = 4097;
/** Light to display is tabled over powers of two. */
const [DARKEST, BRIGHTEST, PER_STOP] = [-29, 10, 128];
const LIGHTS = (BRIGHTEST - DARKEST) * PER_STOP + 1;
const GAMMA = 2.4;

/** Whether footage's values must be changed to be display values. */
export const needsColour = ({ curve = 'display', primaries, table }: Preparation): boolean => Boolean(table) || curve !== 'display' || (primaries ?? 'bt709') !== 'bt709';

/** Brings what a preparation says the footage's values are to display R'G'B'; highlights over white are rolled off. */
export class InputColour {
  private readonly held: number[] = [];
  private readonly curve: Curve;
  private readonly light: number = 0;
  private readonly matrix: number = 0;
  private readonly display: number = 0;
  private readonly luma: number = 0;
  private readonly table: TableRows | undefined;

  constructor(
    private readonly engine: Engine,
    preparation: Preparation,
    width: number,
    table: ColourTable | undefined,
  ) {
    const k = engine.kernels;
    this.curve = INPUT_CURVES[preparation.curve ?? 'display'];
    if (preparation.table) {
      if (table) this.table = new TableRows(engine, table);
      return;
    }
    const { curve } = this;
    this.light = this.keep(Float32Array.from({ length: VALUES }, (_, i) => curve.light(i / (VALUES - 1), k)));
    this.matrix = this.keep([...toBt709(preparation.primaries ?? curve.primaries).flat(), 0, 0, 0]);
    this.display = this.keep(
      Float32Array.from({ length: LIGHTS }, (_, i) => {
        const light = k.pow(2, DARKEST + i / PER_STOP);
        return k.pow(curve.beyondWhite ? rolledOff(light, k) : light, 1 / GAMMA);
      }),
    );
    this.luma = this.keep(new Float32Array(width + 16));
  }

  release(): void {
    for (const at of this.held) this.engine.release(at);
    this.table?.release();
  }

  run(surface: Surface): void {
    for (let y = surface.top; y < surface.bottom; y++) this.row([0, 1, 2].map((plane) => rowAt(surface, plane, y)) as [number, number, number], surface.width);
  }

  private keep(values: ArrayLike<number>): number {
    const at = this.engine.allocate(values.length * 4);
    this.engine.floats(at, values.length).set(values);
    this.held.push(at);
    return at;
  }

  private row(rows: readonly [number, number, number], width: number): void {
    const k = this.engine.kernels;
    if (this.table) return this.table.run(rows, width);
    if (!this.light) return;
    for (const row of rows) k.tableRow(row, width, this.light, VALUES, 0, VALUES - 1);
    if (this.curve.scene) {
      // BT.2100: display light = peak x scene luminance^(gamma - 1) x scene light.
      k.lumaRow(this.luma, rows[0], rows[1], rows[2], width, 0.2627, 0.0593);
      k.powRow(this.luma, width, HLG_GAMMA - 1, 2 ** DARKEST);
      k.affineRow(this.luma, width, HLG_PEAK / REFERENCE_WHITE, 0);
      for (const row of rows) k.timesRow(row, this.luma, width);
    }
    k.matrixRow(rows[0], rows[1], rows[2], width, this.matrix);
    for (const row of rows) {
      k.logRow(row, width, 1, 2 ** DARKEST);
      k.tableRow(row, width, this.display, LIGHTS, DARKEST, PER_STOP);
    }
  }
}
