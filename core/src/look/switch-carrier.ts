import { carrierById, type Carrier } from '../carriers';
import { traitById } from '../traits';
import { lacking } from '../traits/fits';
import type { NumberSetting } from '../traits/settings';
import type { Look, TraitUse } from './look';

export interface Switched {
  readonly look: Look;
  /** What was changed besides the carrier, one sentence each. */
  readonly changes: readonly string[];
}

const nameOf = (use: TraitUse): string => use.name ?? traitById(use.trait)!.name;
const rounded = (v: number, step: number): number => Math.round(v / step) * step;

/** Settings of gate weave that a gauge decides. */
const UNSTEADY = ['sideways', 'upDown', 'shake'] as const;

function steadied(use: TraitUse, from: Carrier, to: Carrier, changes: string[]): TraitUse {
  if (use.trait !== 'gate-weave' || !from.unsteadiness || !to.unsteadiness || from.unsteadiness === to.unsteadiness) return use;
  const by = to.unsteadiness / from.unsteadiness;
  const declared = traitById(use.trait)!.settings as Record<string, NumberSetting>;
  const valueOf = (key: string): number => (use.settings?.[key] as number | undefined) ?? declared[key]!.default;
  const next = Object.fromEntries(UNSTEADY.map((key) => [key, Number(Math.min(declared[key]!.max, rounded(valueOf(key) * by, declared[key]!.step)).toFixed(3))]));
  changes.push(
    `${nameOf(use)} is ${by > 1 ? 'larger' : 'smaller'}: up and down ${valueOf('upDown')} became ${next.upDown} % of the height, as ${to.name} is that much ${by > 1 ? 'less steady' : 'steadier'}.`,
  );
  return { ...use, settings: { ...use.settings, ...next } };
}

function paced(use: TraitUse, from: Carrier, to: Carrier, changes: string[]): TraitUse {
  if (use.trait !== 'cadence') return use;
  const rate = (use.settings?.rate as number | undefined) ?? (traitById(use.trait)!.settings as Record<string, NumberSetting>).rate!.default;
  if (rate !== from.rate || !to.rate || to.rate === rate) return use;
  changes.push(`${nameOf(use)} went from ${rate} to ${to.rate} pictures a second, as is usual on ${to.name}.`);
  return { ...use, settings: { ...use.settings, rate: to.rate } };
}

function fitted(use: TraitUse, to: Carrier, changes: string[]): TraitUse {
  const trait = traitById(use.trait)!;
  const { media } = trait;
  if (use.on === false) return use;
  if (!lacking(trait, to) && (!media || to.medium === 'none' || media.includes(to.medium))) return use;
  changes.push(`${nameOf(use)} is off: ${to.name} has nothing of the kind. Its settings are kept.`);
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
  const changes: string[] = [];
  const traits = held.traits.map((use) => fitted(paced(steadied(use, from, to, changes), from, to, changes), to, changes));
  return { look: { ...look, lives: look.lives.map((l, i) => (i === life ? { ...l, carrier, traits } : l)) }, changes };
}
