import type { Kernels } from '../engine';
import type { Domain } from '../traits/trait';
import { DISPLAY_GAMMA } from './domain-rows';

/** Gains below this are held to it, so that density stays finite. */
const LEAST = 2 ** -20;
const LOG2_10 = 3.321928094887362;

/**
 * Turns a row of gains of light into what does the same in a domain of red, green and blue: light multiplied by g is display
 * multiplied by g^(1 / 2.4) and density less log10 g.
 * @returns how a row is then changed by it
 */
export function gainsIn(k: Kernels, domain: Domain, gains: number, count: number): (row: number) => void {
  if (domain === 'density') {
    k.logRow(gains, count, -1 / LOG2_10, LEAST);
    return (row) => k.addRow(row, gains, count, 1);
  }
  if (domain === 'display') k.powRow(gains, count, 1 / DISPLAY_GAMMA, LEAST);
  return (row) => k.timesRow(row, gains, count);
}
