import type { Kernels } from '../engine';
import { rowAt, type Surface } from '../frame/surface';
import type { Domain } from '../traits/trait';

/** A display's light is this power of its signal (ITU-R BT.1886). */
const GAMMA = 2.4;
const LOG2_10 = 3.321928094887362;
/** Densities end where a 12-bit picture has its last step above black. */
const LEAST_SIGNAL = 2 ** -12;
const LEAST_LIGHT = 2 ** -29;

type Row = (k: Kernels, p: number, count: number) => void;

/** Each change of domain in one pass; density = -log10(light) = -2.4 log10(signal). */
const CHANGES: Record<string, Row> = {
  'display>linear': (k, p, n) => k.powRow(p, n, GAMMA, LEAST_SIGNAL),
  'linear>display': (k, p, n) => k.powRow(p, n, 1 / GAMMA, LEAST_LIGHT),
  'display>density': (k, p, n) => k.logRow(p, n, -GAMMA / LOG2_10, LEAST_SIGNAL),
  'density>display': (k, p, n) => k.expRow(p, n, -LOG2_10 / GAMMA),
  'linear>density': (k, p, n) => k.logRow(p, n, -1 / LOG2_10, LEAST_LIGHT),
  'density>linear': (k, p, n) => k.expRow(p, n, -LOG2_10),
};

/** Changes the rows of a surface from one domain to another, in place. */
export function changeDomain(k: Kernels, surface: Surface, from: Domain, to: Domain): void {
  const row = CHANGES[`${from}>${to}`]!;
  for (let plane = 0; plane < 3; plane++) {
    for (let y = surface.top; y < surface.bottom; y++) row(k, rowAt(surface, plane, y), surface.width);
  }
}
