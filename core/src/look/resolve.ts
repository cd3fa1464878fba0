import { carrierById, type Carrier } from '../carriers';
import { hash, hashText } from '../random/random';
import { traitById } from '../traits';
import type { Setting } from '../traits/settings';
import { ACTS, type AnyTrait } from '../traits/trait';
import { unitsFor } from '../traits/units';
import type { Look, TraitUse } from './look';

/** A use that acts, with nothing left out. */
export interface ResolvedUse {
  readonly trait: AnyTrait;
  readonly carrier: Carrier;
  /** Place in the look as written. */
  readonly life: number;
  readonly index: number;
  readonly strength: number;
  readonly seed: number;
  /** In the settings' units. */
  readonly values: Readonly<Record<string, number | boolean>>;
}

/** Values of all settings of a trait, defaults where the use is silent. */
export function valuesOf(trait: AnyTrait, use: TraitUse): Record<string, number | boolean> {
  const settings = trait.settings as Record<string, Setting>;
  return Object.fromEntries(Object.entries(settings).map(([key, s]) => [key, use.settings?.[key] ?? s.default]));
}

/** Values as numbers for a picture of this size (lengths in pixels). */
export function resolveValues(use: ResolvedUse, width: number, height: number): Record<string, number | boolean> {
  const units = unitsFor(use.carrier, width, height);
  const settings = use.trait.settings as Record<string, Setting>;
  return Object.fromEntries(
    Object.entries(use.values).map(([key, value]) => {
      const s = settings[key]!;
      return [key, s.kind === 'number' ? s.resolve(value as number, units) : value];
    }),
  );
}

/**
 * The uses that act, in the order the picture meets them: life by life, act by act, and as written within an act. Uses
 * that are off or of no strength are left out.
 *
 * A use's seed comes from the look's seed, its life, its trait and how many of the same trait stand before it, so that
 * adding or moving another trait leaves its pattern alone.
 *
 * @param look one that `checkLook` has passed
 */
export function resolveLook(look: Look): ResolvedUse[] {
  return look.lives.flatMap((life, lifeIndex) => {
    const seen = new Map<string, number>();
    const uses = life.traits.map((use, index) => {
      const trait = traitById(use.trait)!;
      const before = seen.get(use.trait) ?? 0;
      seen.set(use.trait, before + 1);
      const seed = hash(look.seed, lifeIndex, hashText(use.trait), before, use.seed ?? 0);
      const strength = use.on === false ? 0 : (use.strength ?? 1);
      return {
        act: ACTS.indexOf(use.act ?? trait.act),
        resolved: { trait, carrier: carrierById(life.carrier)!, life: lifeIndex, index, strength, seed, values: valuesOf(trait, use) },
      };
    });
    return uses
      .sort((a, b) => a.act - b.act)
      .map((use) => use.resolved)
      .filter((use) => use.strength > 0);
  });
}
