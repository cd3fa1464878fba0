import type { Engine } from '../engine';
import type { ColourTable } from '../formats/cube';
import { DISPLAY_GAMMA } from '../frame/domain-rows';
import { LUMA_WEIGHTS } from '../frame/encoding';
import { SampledCurve } from '../frame/sampled-curve';
import { rowAt, type Surface } from '../frame/surface';
import { TableRows } from '../frame/table-rows';
import { HLG_GAMMA, HLG_PEAK, INPUT_CURVES, REFERENCE_WHITE, rolledOff, toBt709, type Curve } from './curves';
import type { Preparation } from './preparation';

/** Values to light are sampled so finely that a 12-bit value is a sample. */
const PER_VALUE = 4096;
/** Light to display is sampled over powers of two. */
const [DARKEST, BRIGHTEST, PER_STOP] = [-29, 10, 128];

/** Changes rows of the footage's values to display R'G'B'. */
interface RowColour {
  run(rows: readonly [number, number, number], width: number): void;
  release(): void;
}

/** What brings a preparation's footage to display; undefined where its values are display values. */
export interface InputColour {
  run(surface: Surface): void;
  release(): void;
}

/** Whether footage's values must be changed to be display values. */
export const needsColour = ({ curve = 'display', primaries, table }: Preparation): boolean => Boolean(table) || curve !== 'display' || (primaries ?? 'bt709') !== 'bt709';

/** @param table that which the preparation names; without it the values pass as they are */
export function inputColour(engine: Engine, preparation: Preparation, widest: number, table: ColourTable | undefined): InputColour | undefined {
  if (!needsColour(preparation) || (preparation.table && !table)) return undefined;
  const rows: RowColour = preparation.table ? new TableRows(engine, table!) : new CurveColour(engine, preparation, widest);
  return {
    run(surface) {
      for (let y = surface.top; y < surface.bottom; y++) rows.run([rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y)], surface.width);
    },
    release: () => rows.release(),
  };
}

/** By a curve and primaries with public formulas; highlights over white are rolled off. */
class CurveColour implements RowColour {
  private readonly curve: Curve;
  private readonly light: SampledCurve;
  private readonly display: SampledCurve;
  private readonly matrix;
  private readonly luma;

  constructor(
    private readonly engine: Engine,
    preparation: Preparation,
    widest: number,
  ) {
    const k = engine.kernels;
    const curve: Curve = INPUT_CURVES[preparation.curve ?? 'display'];
    this.curve = curve;
    this.light = new SampledCurve(engine, 0, 1, PER_VALUE);
    this.light.fill((v) => curve.light(v, k));
    this.display = new SampledCurve(engine, DARKEST, BRIGHTEST, PER_STOP);
    this.display.fill((stop) => {
      const light = k.pow(2, stop);
      return k.pow(curve.beyondWhite ? rolledOff(light, k) : light, 1 / DISPLAY_GAMMA);
    });
    this.matrix = engine.store();
    this.matrix.floats([...toBt709(preparation.primaries ?? curve.primaries).flat(), 0, 0, 0]);
    this.luma = engine.store();
    this.luma.at((widest + 16) * 4);
  }

  release(): void {
    for (const held of [this.light, this.display, this.matrix, this.luma]) held.release();
  }

  run(rows: readonly [number, number, number], width: number): void {
    const k = this.engine.kernels;
    for (const row of rows) this.light.run(row, width);
    if (this.curve.scene) {
      // BT.2100: display light = peak x scene luminance^(gamma - 1) x scene light.
      const luma = this.luma.at(0);
      k.lumaRow(luma, rows[0], rows[1], rows[2], width, LUMA_WEIGHTS.bt2020.kr, LUMA_WEIGHTS.bt2020.kb);
      k.powRow(luma, width, HLG_GAMMA - 1, 2 ** DARKEST);
      k.affineRow(luma, width, HLG_PEAK / REFERENCE_WHITE, 0);
      for (const row of rows) k.timesRow(row, luma, width);
    }
    k.matrixRow(rows[0], rows[1], rows[2], width, this.matrix.at(0));
    for (const row of rows) {
      k.logRow(row, width, 1, 2 ** DARKEST);
      this.display.run(row, width);
    }
  }
}
