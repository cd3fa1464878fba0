import type { Engine, Store } from '../../engine';

/** Mid-grey, 18 % of white, as density. */
export const MID_GREY = 0.7447;
/** Densities tabled: from four stops over white to beyond any print's black, in steps of 1/256. */
const [LOW, HIGH, STEPS] = [-1.2, 4.2, 256];
const SIZE = (HIGH - LOW) * STEPS + 1;
/** White lies so far over mid-grey, film's black so far below it, in log10 of exposure. */
const TO_WHITE = MID_GREY;
const TO_BLACK = 2.25;

interface Maths {
  exp(x: number): number;
  log(x: number): number;
}

/** How a film answers exposure. Toe and shoulder 0 (sharp) to 1 (long). */
export interface Response {
  readonly contrast: number;
  readonly toe: number;
  readonly shoulder: number;
}

/** The smaller of two numbers with a rounded corner: soft over about `s`. */
function softMin(k: Maths, a: number, b: number, s: number): number {
  return Math.min(a, b) - s * k.log(1 + k.exp(-Math.abs(a - b) / s));
}

/**
 * The characteristic curve: density for density, mid-grey kept. Straight with a slope of `contrast` in the middle, led into a
 * shoulder toward white and into a toe toward black, neither of which is ever quite reached (F. Hurter and V. C. Driffield's curve).
 */
export function characteristic(k: Maths, density: number, { contrast, toe, shoulder }: Response): number {
  const [high, low] = [0.02 + 0.3 * shoulder, 0.02 + 0.45 * toe];
  const bright = (u: number): number => softMin(k, u, TO_WHITE, high);
  const dark = (v: number): number => -softMin(k, -v, TO_BLACK, low);
  const through = (u: number): number => dark(bright(u));
  // The corners' roundness lowers the middle a little; it is put back, white kept where it is.
  const rest = through(0);
  return MID_GREY - ((through(contrast * (MID_GREY - density)) - rest) * TO_WHITE) / (TO_WHITE - rest);
}

/** A function of density laid into the engine's memory. */
export class DensityTable {
  private readonly store: Store;
  private place = 0;

  constructor(private readonly engine: Engine) {
    this.store = engine.store();
  }

  release(): void {
    this.store.release();
  }

  fill(of: (density: number) => number): void {
    this.place = this.store.floats(Float32Array.from({ length: SIZE }, (_, i) => of(LOW + i / STEPS)));
  }

  run(row: number, count: number): void {
    this.engine.kernels.tableRow(row, count, this.place, SIZE, LOW, STEPS);
  }
}
