import { carrierById, type Carrier } from '../carriers';
import { traitById } from '../traits/known';
import { lacking } from '../traits/fits';
import type { Setting } from '../traits/settings';
import type { Look, TraitUse } from './look';

export interface Switched {
  readonly look: Look;
  /** What was changed besides the carrier, one sentence each. */
  readonly changes: readonly string[];
}

const nameOf = (use: TraitUse): string => use.name ?? traitById(use.trait)!.name;

/** What the carrier decides by itself goes along with it. */
function carried(use: TraitUse, from: Carrier, to: Carrier, changes: string[]): TraitUse {
  const trait = traitById(use.trait)!;
  const defaults = Object.fromEntries(Object.entries(trait.settings as Record<string, Setting>).map(([key, s]) => [key, s.default]));
  const next = trait.onto?.({ ...defaults, ...use.settings }, from, to);
  if (!next) return use;
  changes.push(`${nameOf(use)} ${next.says}`);
  return { ...use, settings: { ...use.settings, ...next.settings } };
}

function fitted(use: TraitUse, to: Carrier, off: string[]): TraitUse {
  const trait = traitById(use.trait)!;
  const { media } = trait;
  if (use.on === false) return use;
  if (!lacking(trait, to) && (!media || to.medium === 'none' || media.includes(to.medium))) return use;
  off.push(nameOf(use));
  return { ...use, on: false };
}

/**
 * A look with one of its lives on another carrier. What is set in the carrier's own measures stays; what a gauge decides by itself
 * (its steadiness, its rate) goes along where it was what the old one has; traits of another medium are turned off, not removed.
 * @throws Error where there is no such life or carrier
 */
export function switchCarrier(look: Look, life: number, carrier: string): Switched {
  const held = look.lives[life];
  const [from, to] = [held && carrierById(held.carrier), carrierById(carrier)];
  if (!held || !from || !to) throw new Error(`there is no life ${life + 1} or no carrier "${carrier}"`);
  const [changes, off]: [string[], string[]] = [[], []];
  const traits = held.traits.map((use) => fitted(carried(use, from, to, changes), to, off));
  // In one sentence: from film to tape most of a look may go.
  if (off.length === 1) changes.push(`${off[0]} is off: ${to.name} has nothing of the kind. Its settings are kept.`);
  if (off.length > 1) changes.push(`${off.slice(0, -1).join(', ')} and ${off.at(-1)} are off: ${to.name} has nothing of the kind. Their settings are kept.`);
  return { look: { ...look, lives: look.lives.map((l, i) => (i === life ? { ...l, carrier, traits } : l)) }, changes };
}
