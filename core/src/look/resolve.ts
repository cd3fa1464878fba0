import { carrierById, type Carrier } from '../carriers';
import { hash, hashText } from '../random/random';
import { traitById } from '../traits/known';
import type { Setting, Value } from '../traits/settings';
import { lacking } from '../traits/fits';
import { ACTS, type Act, type AnyTrait } from '../traits/trait';
import type { Units } from '../traits/units';
import type { Look, TraitUse } from './look';

/** A use with nothing left out. */
export interface ResolvedUse {
  readonly trait: AnyTrait;
  readonly use: TraitUse;
  readonly carrier: Carrier;
  /** Place in the look as written. */
  readonly life: number;
  readonly index: number;
  readonly act: Act;
  /** 0 where it is off, or its carrier has not what it needs. */
  readonly strength: number;
  readonly seed: number;
  /** In the settings' units, before anything moves them. */
  readonly values: Readonly<Record<string, Value>>;
}

/** Values of all settings of a trait, defaults where the use is silent. */
export function valuesOf(trait: AnyTrait, use: TraitUse): Record<string, Value> {
  const settings = trait.settings as Record<string, Setting>;
  return Object.fromEntries(Object.entries(settings).map(([key, s]) => [key, use.settings?.[key] ?? s.default]));
}

/** Values as numbers for a picture (lengths in pixels). */
export function resolveValues(trait: AnyTrait, values: Readonly<Record<string, Value>>, units: Units): Record<string, Value> {
  const settings = trait.settings as Record<string, Setting>;
  return Object.fromEntries(
    Object.entries(values).map(([key, value]) => {
      const s = settings[key]!;
      return [key, s.kind === 'number' ? s.resolve(value as number, units) : value];
    }),
  );
}

/**
 * All uses, in the order the picture meets them: life by life, act by act, and as written within an act.
 *
 * A use's seed comes from the look's seed, its life, its trait and how many of the same trait stand before it, so that
 * adding or moving another trait leaves its pattern alone.
 *
 * @param look one that `checkLook` has passed
 */
export function resolveLook(look: Look): ResolvedUse[] {
  return look.lives.flatMap((life, lifeIndex) => {
    const seen = new Map<string, number>();
    const uses = life.traits.map((use, index): ResolvedUse => {
      const trait = traitById(use.trait)!;
      const carrier = carrierById(life.carrier)!;
      const before = seen.get(use.trait) ?? 0;
      seen.set(use.trait, before + 1);
      return {
        trait,
        use,
        carrier,
        life: lifeIndex,
        index,
        act: use.act ?? trait.act,
        strength: use.on === false || lacking(trait, carrier) ? 0 : (use.strength ?? 1),
        seed: hash(look.seed, lifeIndex, hashText(use.trait), before, use.seed ?? 0),
        values: valuesOf(trait, use),
      };
    });
    return uses.sort((a, b) => ACTS.indexOf(a.act) - ACTS.indexOf(b.act));
  });
}
