import { traitById } from '../traits';
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
