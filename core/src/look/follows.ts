import type { Motion } from '../motion/motion';
import { traitById } from '../traits/known';
import type { Look, TraitUse } from './look';

/** A use and where it stands in the look as written. */
export interface Placed {
  readonly use: TraitUse;
  readonly life: number;
  readonly index: number;
}

const placed = (look: Look): Placed[] => look.lives.flatMap((life, l) => life.traits.map((use, index) => ({ use, life: l, index })));

/** The use that a motion's `of` names: a trait's id, or id:2 for the second such use in the look. */
export function followed(look: Look, of: string): Placed | undefined {
  const [id, nth] = of.split(':');
  return placed(look).filter(({ use }) => use.trait === id)[nth === undefined ? 0 : Number(nth) - 1];
}

/** What a motion's `of` calls the use at a place of a look. */
export function followName(look: Look, life: number, index: number): string {
  const trait = look.lives[life]!.traits[index]!.trait;
  const same = placed(look).filter(({ use }) => use.trait === trait);
  const nth = same.findIndex((p) => p.life === life && p.index === index);
  return nth === 0 ? trait : `${trait}:${nth + 1}`;
}

/** Whether a trait can be followed by itself: it makes events or tells how active it is. Otherwise one of its motions must move it. */
const lively = ({ use }: Placed): boolean => {
  const trait = traitById(use.trait)!;
  return Boolean(trait.events || trait.activity || Object.keys(use.motions ?? {}).length);
};

/** What is wrong with the follows of a look whose traits and shapes are right: names that are none, and circles. */
export function followProblems(look: Look): { life: number; index: number; key: string; message: string }[] {
  const problems: { life: number; index: number; key: string; message: string }[] = [];
  const name = (p: Placed): string => `${p.life}.${p.index}`;
  const next = (p: Placed): Placed[] =>
    Object.values(p.use.motions ?? {}).flatMap((m) => {
      const target = m.motion === 'follow' ? followed(look, m.of) : undefined;
      return target ? [target] : [];
    });
  const comesBack = (start: Placed, at: Placed, seen: Set<string>): boolean =>
    next(at).some((p) => {
      if (name(p) === name(start)) return true;
      if (seen.has(name(p))) return false;
      seen.add(name(p));
      return comesBack(start, p, seen);
    });
  for (const p of placed(look)) {
    for (const [key, motion] of Object.entries(p.use.motions ?? {})) {
      if (motion.motion !== 'follow') continue;
      const target = followed(look, motion.of);
      const at = { life: p.life, index: p.index, key };
      if (!target) problems.push({ ...at, message: `there is no "${motion.of}" in this look to follow` });
      else if (name(target) === name(p) || comesBack(p, target, new Set()))
        problems.push({ ...at, message: `following "${motion.of}" would go round in a circle: it follows this one in turn` });
      else if (!lively(target)) problems.push({ ...at, message: `"${motion.of}" does not move and makes no events, so there is nothing to follow` });
    }
  }
  return problems;
}

/** Gives the uses of a look's follows the names that `name` finds for them; where it finds none, the setting comes to rest. */
function renamed(look: Look, name: (of: string) => string | undefined): Look {
  const use = (before: TraitUse): TraitUse => {
    const entries = Object.entries(before.motions ?? {});
    if (!entries.some(([, m]) => m.motion === 'follow' && name(m.of) !== m.of)) return before;
    const kept = entries.flatMap(([key, m]): [string, Motion][] => {
      if (m.motion !== 'follow') return [[key, m]];
      const of = name(m.of);
      return of === undefined ? [] : [[key, { ...m, of }]];
    });
    const { motions: _moved, ...bare } = before;
    return kept.length ? { ...bare, motions: Object.fromEntries(kept) } : bare;
  };
  return { ...look, lives: look.lives.map((life) => ({ ...life, traits: life.traits.map(use) })) };
}

/**
 * A look whose traits were added, moved or taken away, its follows brought along: each still follows the same use, and what followed one that is
 * gone, or that nothing moves any more, comes to rest.
 * @param place where a use of the look before stands now; undefined where it is gone
 */
export function refollow(before: Look, after: Look, place: (life: number, index: number) => { life: number; index: number } | undefined): Look {
  const found = renamed(after, (of) => {
    const target = followed(before, of);
    const now = target && place(target.life, target.index);
    return now && followName(after, now.life, now.index);
  });
  return rested(found);
}

/** A look without those of its follows that cannot be: they come to rest. */
export function rested(look: Look): Look {
  const [problem] = followProblems(look);
  if (!problem) return look;
  const use = look.lives[problem.life]!.traits[problem.index]!;
  const { [problem.key]: _gone, ...motions } = use.motions!;
  const { motions: _all, ...bare } = use;
  const next: TraitUse = Object.keys(motions).length ? { ...bare, motions } : bare;
  // Without it, what followed this one may have nothing to follow.
  return rested({
    ...look,
    lives: look.lives.map((life, l) => (l === problem.life ? { ...life, traits: life.traits.map((t, i) => (i === problem.index ? next : t)) } : life)),
  });
}

/** Uses that the setting of a use may follow, by the name that its motion calls them. */
export function followable(look: Look, life: number, index: number, key: string): { readonly name: string; readonly use: TraitUse }[] {
  return placed(look).flatMap((target) => {
    const name = followName(look, target.life, target.index);
    const tried: Look = {
      ...look,
      lives: look.lives.map((held, l) =>
        l === life
          ? { ...held, traits: held.traits.map((use, i) => (i === index ? { ...use, motions: { ...use.motions, [key]: { motion: 'follow' as const, of: name, gain: 1 } } } : use)) }
          : held,
      ),
    };
    return followProblems(tried).some((p) => p.life === life && p.index === index && p.key === key) ? [] : [{ name, use: target.use }];
  });
}

/** A use among others than those it was made for: what it followed is not there, and rests. */
export function withoutFollows({ motions, ...use }: TraitUse): TraitUse {
  const kept = Object.entries(motions ?? {}).filter(([, motion]) => motion.motion !== 'follow');
  return kept.length ? { ...use, motions: Object.fromEntries(kept) } : use;
}
