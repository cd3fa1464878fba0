import { traitById } from '../traits/known';
import { refollow } from './follows';
import type { Look, TraitUse } from './look';

/**
 * Traits that lie on the picture and leave it in its place and its colours: what they do can be told without it. What moves, blurs, colours or cuts the picture
 * up, and what a recorder does to its signal, cannot.
 */
const LIES_ON: ReadonlySet<string> = new Set([
  'grain',
  'noise',
  'dust',
  'hairs',
  'filaments',
  'scratches',
  'blotches',
  'stains',
  'burn',
  'cue-dots',
  'gate-hair',
  'gate-frame',
  'light-leak',
  'dirt',
  'motes',
  'plate',
]);

/** Settings that would move the picture under what lies on it, with the values that leave it where it is: the frame then stands at the picture's edge. */
const AT_REST: Readonly<Record<string, Readonly<Record<string, number>>>> = { 'gate-frame': { scale: 100, open: 0 } };

function atRest(use: TraitUse): TraitUse {
  const rest = AT_REST[use.trait];
  if (!rest) return use;
  const { motions = {}, ...still } = use;
  const kept = Object.entries(motions).filter(([key]) => !(key in rest));
  return { ...still, settings: { ...use.settings, ...rest }, ...(kept.length && { motions: Object.fromEntries(kept) }) };
}

export interface WearAlone {
  /** In the file's shape: the wear is laid over another picture as it is. */
  readonly look: Look;
  /** Names of the traits that are left out, each once. */
  readonly left: readonly string[];
}

/** What of a look can be laid over a picture by another program. */
export function wearAlone(look: Look): WearAlone {
  const uses = look.lives.map(({ traits }) => traits.map((use, index) => ({ use, index, lies: LIES_ON.has(use.trait) })));
  /** What is kept of each life, as it stands in the look; lives with nothing are gone. */
  const kept = uses.map((all, was) => ({ was, all: all.filter(({ lies }) => lies) })).filter(({ all }) => all.length > 0);
  const lives = kept.map(({ was, all }) => ({ carrier: look.lives[was]!.carrier, traits: all.map(({ use }) => atRest(use)) }));
  const left = uses.flat().filter(({ use, lies }) => !lies && use.on !== false);
  const placeOf = (of: number, at: number): { life: number; index: number } | undefined => {
    const life = kept.findIndex(({ was }) => was === of);
    const index = kept[life]?.all.findIndex((one) => one.index === at) ?? -1;
    return index < 0 ? undefined : { life, index };
  };
  return { look: refollow(look, { ...look, shape: 'file', lives }, placeOf), left: [...new Set(left.map(({ use }) => traitById(use.trait)!.name))] };
}
