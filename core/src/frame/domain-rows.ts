import type { Kernels } from '../engine';

/** A display's light is this power of its signal (ITU-R BT.1886). */
export const DISPLAY_GAMMA = 2.4;
const LOG2_10 = 3.321928094887362;
/** Densities end where a 12-bit picture has its last step above black. */
const LEAST_SIGNAL = 2 ** -12;
/** The darkest light that is told apart: that of `LEAST_SIGNAL`. */
const LEAST_LIGHT = 2 ** -29;

type RowChange = (k: Kernels, row: number, count: number) => void;

/** The light of a display's signal, 0 to 1 and more. */
export const lightOf = (k: Pick<Kernels, 'pow'>, signal: number): number => (signal <= 0 ? 0 : k.pow(signal, DISPLAY_GAMMA));

/** Each change between domains of single planes, in place on one row; density = -log10(light) = -2.4 log10(signal). */
export const DOMAIN_ROWS = {
  'display>linear': (k, p, n) => k.displayToLinearRow(p, n, LEAST_SIGNAL),
  'linear>display': (k, p, n) => k.powRow(p, n, 1 / DISPLAY_GAMMA, LEAST_LIGHT),
  'display>density': (k, p, n) => k.logRow(p, n, -DISPLAY_GAMMA / LOG2_10, LEAST_SIGNAL),
  'density>display': (k, p, n) => k.expRow(p, n, -LOG2_10 / DISPLAY_GAMMA),
  'linear>density': (k, p, n) => k.logRow(p, n, -1 / LOG2_10, LEAST_LIGHT),
  'density>linear': (k, p, n) => k.expRow(p, n, -LOG2_10),
} as const satisfies Record<string, RowChange>;
