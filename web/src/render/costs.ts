import { traitById } from '@tin-ghost/core';
import type { Costs } from './protocol';

/**
 * The share of a picture's time that each trait takes, the dearest first.
 * @param spent milliseconds by step, as a plan keeps them: a step's name and its size @param whole milliseconds of all
 */
export function sharesOf(spent: ReadonlyMap<string, number>, whole: number): Costs['traits'] {
  const byTrait = new Map<string, number>();
  for (const [step, milliseconds] of spent) {
    const [name] = step.split(' ') as [string];
    if (traitById(name)) byTrait.set(name, (byTrait.get(name) ?? 0) + milliseconds);
  }
  return [...byTrait].map(([trait, milliseconds]) => ({ trait, share: milliseconds / whole })).sort((a, b) => b.share - a.share);
}
