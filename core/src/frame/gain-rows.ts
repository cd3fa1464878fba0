import type { Kernels } from '../engine';
import type { Domain } from '../traits/trait';
import { DOMAIN_ROWS } from './domain-rows';

/**
 * Turns a row of gains of light into what does the same in a domain of red, green and blue, by that domain's own change from light:
 * light times g is display times g^(1 / 2.4) and density plus -log10 g.
 * @returns how a row is then changed by it
 */
export function gainsIn(k: Kernels, domain: Domain, gains: number, count: number): (row: number) => void {
  if (domain === 'density') {
    DOMAIN_ROWS['linear>density'](k, gains, count);
    return (row) => k.addRow(row, gains, count, 1);
  }
  if (domain === 'display') DOMAIN_ROWS['linear>display'](k, gains, count);
  return (row) => k.timesRow(row, gains, count);
}
