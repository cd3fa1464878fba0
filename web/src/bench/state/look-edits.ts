import { ACTS, actOf, carrierById, inAct, lacking, refollow, rested, traitById, type Act, type Look, type Motion, type TraitUse, type Value } from '@tin-ghost/core';
import { texts } from '../../messages/state';

/** Which use of a trait: its life and its place in that life. */
export interface UseAt {
  readonly life: number;
  readonly index: number;
}

export const sameUse = (a: UseAt | null, b: UseAt | null): boolean => a?.life === b?.life && a?.index === b?.index;

/**
 * A look one of whose lives has its traits in another order, with others among them: what follows a trait goes on following it.
 * @param places of the traits before, each where it stands now; -1 for a new one
 */
function rearranged(look: Look, life: number, traits: readonly TraitUse[], places: readonly number[]): Look {
  const after: Look = { ...look, lives: look.lives.map((l, i) => (i === life ? { ...l, traits } : l)) };
  return refollow(look, after, (l, index) => {
    if (l !== life) return { life: l, index };
    const now = places.indexOf(index);
    return now < 0 ? undefined : { life, index: now };
  });
}
const numbers = (count: number): number[] => Array.from({ length: count }, (_, i) => i);

const withTraits = (look: Look, life: number, change: (traits: readonly TraitUse[]) => TraitUse[]): Look => ({
  ...look,
  lives: look.lives.map((l, i) => (i === life ? { ...l, traits: change(l.traits) } : l)),
});

export const traitUseAt = (look: Look, at: UseAt | null): TraitUse | undefined => (at ? look.lives[at.life]?.traits[at.index] : undefined);

/** Changes one use. */
export const changeUse = (look: Look, at: UseAt, more: Partial<TraitUse>): Look =>
  withTraits(look, at.life, (traits) => traits.map((use, i) => (i === at.index ? { ...use, ...more } : use)));

/** Why a use cannot act on its carrier, in words; undefined where it can. */
export function cannotAct(look: Look, at: UseAt): string | undefined {
  const trait = traitById(traitUseAt(look, at)?.trait ?? '');
  const carrier = carrierById(look.lives[at.life]?.carrier ?? '');
  const lack = trait && carrier && lacking(trait, carrier);
  return lack && texts.needsWhatCarrierLacks(trait.name, lack, carrier.name);
}

/** Turns a use off or on; one that cannot act stays off. */
export const toggleUse = (look: Look, at: UseAt): Look => {
  const on = traitUseAt(look, at)?.on === false && !cannotAct(look, at);
  return changeUse(look, at, { on });
};

/** Sets one setting; undefined puts it back to its default. */
export function changeSetting(look: Look, at: UseAt, key: string, value: Value | undefined): Look {
  const { [key]: _before, ...rest } = traitUseAt(look, at)?.settings ?? {};
  return changeUse(look, at, { settings: value === undefined ? rest : { ...rest, [key]: value } });
}

/** Sets how a setting moves; undefined lets it rest, and with it what followed this trait for it alone. */
export function changeMotion(look: Look, at: UseAt, key: string, motion: Motion | undefined): Look {
  const { motions = {}, ...bare } = traitUseAt(look, at)!;
  const { [key]: _before, ...rest } = motions;
  const next = motion ? { ...motions, [key]: motion } : rest;
  const use: TraitUse = Object.keys(next).length ? { ...bare, motions: next } : bare;
  return rested(withTraits(look, at.life, (traits) => traits.map((held, i) => (i === at.index ? use : held))));
}

/** Takes a use away; what followed it comes to rest. */
export function removeUse(look: Look, at: UseAt): Look {
  const { traits } = look.lives[at.life]!;
  const kept = numbers(traits.length).filter((i) => i !== at.index);
  return rearranged(
    look,
    at.life,
    kept.map((i) => traits[i]!),
    kept,
  );
}

/** Puts a trait at the end of an act. @param settings what differs from its defaults @returns the look and where the use stands in it */
export function addUse(look: Look, life: number, trait: string, act: Act, settings: TraitUse['settings'] = {}): { look: Look; at: UseAt } {
  const use = inAct({ trait, ...(Object.keys(settings).length > 0 && { settings }) }, act);
  const traits = look.lives[life]!.traits;
  return { look: rearranged(look, life, [...traits, use], [...numbers(traits.length), -1]), at: { life, index: traits.length } };
}

/** Seconds since it began at which an event that is tried is seen, and for which it lasts. */
export const TRIED = { age: 0.45, length: 1 } as const;

/** Plates are shown by one that ships. */
const TRIED_PLATE: TraitUse['settings'] = { plate: 'leak', mode: 'screen' };

/** A look with a trait added so that it is seen at a moment: one that makes events has one under way there. */
export function tryUse(look: Look, life: number, trait: string, act: Act, seconds: number, settings: TraitUse['settings'] = {}): Look {
  const { look: added, at } = addUse(look, life, trait, act, settings);
  if (trait === 'plate') return changeUse(added, at, { settings: TRIED_PLATE });
  if (!traitById(trait)!.events) return added;
  return changeUse(added, at, { events: { pinned: [{ id: 'tried', at: Math.max(0, seconds - TRIED.age), length: TRIED.length, x: 0.5, y: 0.45 }] } });
}

/** Moves a use before another (or to the end of an act where `before` is null). */
export function moveUse(look: Look, from: UseAt, act: Act, before: UseAt | null): { look: Look; at: UseAt } {
  const use = inAct(traitUseAt(look, from)!, act);
  const target = before ? traitUseAt(look, before) : undefined;
  const life = from.life;
  const { traits } = look.lives[life]!;
  const rest = numbers(traits.length).filter((i) => i !== from.index);
  const place = target ? rest.findIndex((i) => traits[i] === target) : rest.length;
  const index = place < 0 ? rest.length : place;
  const order = [...rest.slice(0, index), from.index, ...rest.slice(index)];
  return {
    look: rearranged(
      look,
      life,
      order.map((i) => (i === from.index ? use : traits[i]!)),
      order,
    ),
    at: { life, index },
  };
}

/**
 * Puts colour traits into a look, after those of its first life's Stock that are there already, before what the stock does with them.
 * @returns the look and where the first of them stands
 */
export function insertColour(look: Look, uses: readonly TraitUse[]): { look: Look; at: UseAt } {
  const base: Look = look.lives.length ? look : { ...look, lives: [{ carrier: 'none', traits: [] }] };
  const traits = base.lives[0]!.traits;
  const isColour = (use: TraitUse): boolean => traitById(use.trait)?.family === 'colour' && actOf(use) === 'stock';
  const last = traits.findLastIndex(isColour);
  const firstStock = traits.findIndex((use) => actOf(use) === 'stock');
  const index = last >= 0 ? last + 1 : firstStock >= 0 ? firstStock : traits.length;
  const places = numbers(traits.length);
  return {
    look: rearranged(base, 0, [...traits.slice(0, index), ...uses, ...traits.slice(index)], [...places.slice(0, index), ...uses.map(() => -1), ...places.slice(index)]),
    at: { life: 0, index },
  };
}

/** The look as far as a point of the chain: what stands after it is off. */
export function lookUpTo(look: Look, life: number, act: Act, place: number): Look {
  const reached = ACTS.indexOf(act);
  return {
    ...look,
    lives: look.lives.slice(0, life + 1).map((l, i) => {
      if (i < life) return l;
      let seen = 0;
      return {
        ...l,
        traits: l.traits.map((use) => {
          const at = ACTS.indexOf(actOf(use));
          const after = at > reached || (at === reached && seen++ >= place);
          return after ? { ...use, on: false } : use;
        }),
      };
    }),
  };
}

/** The look as far as the picture that comes to a use: the same, whatever the use itself is set to. */
export function lookBefore(look: Look, at: UseAt): Look {
  const act = actOf(look.lives[at.life]!.traits[at.index]!);
  const place = look.lives[at.life]!.traits.slice(0, at.index).filter((use) => actOf(use) === act).length;
  const before = lookUpTo(look, at.life, act, place);
  const { settings: _settings, strength: _strength, motions: _motions, zone: _zone, ...own } = traitUseAt(before, at)!;
  return { ...before, lives: before.lives.map((life, l) => (l === at.life ? { ...life, traits: life.traits.map((use, i) => (i === at.index ? own : use)) } : life)) };
}
