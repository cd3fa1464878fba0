import type { Look, TraitUse } from './look';

/** Whether two looks make the same pictures because they differ only in what is set at uses that are off. Others may make the same, too. */
export const showsAlike = (a: Look, b: Look): boolean => a === b || JSON.stringify(shown(a)) === JSON.stringify(shown(b));

/** What follows a use that is off is not moved by it; but it keeps its place, as the uses of its trait are counted. */
const shown = (look: Look): Look => ({ ...look, lives: look.lives.map((life) => ({ ...life, traits: life.traits.map(shownUse) })) });
const shownUse = (use: TraitUse): TraitUse => (use.on === false ? { trait: use.trait, act: use.act, on: false } : use);
