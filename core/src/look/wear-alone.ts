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
  const left = new Set<string>();
  const places = new Map<string, { life: number; index: number }>();
  const lives = look.lives
    .map((life, l) => ({
      carrier: life.carrier,
      traits: life.traits.filter((use, i) => {
        const lies = LIES_ON.has(use.trait);
        if (lies) places.set(`${l}.${i}`, { life: 0, index: i });
        else if (use.on !== false) left.add(traitById(use.trait)!.name);
        return lies;
      }),
      was: l,
    }))
    .filter(({ traits }) => traits.length > 0);
  lives.forEach(({ was }, life) => {
    let index = 0;
    look.lives[was]!.traits.forEach((_, i) => {
      if (places.has(`${was}.${i}`)) places.set(`${was}.${i}`, { life, index: index++ });
    });
  });
  const worn: Look = { ...look, shape: 'file', lives: lives.map(({ carrier, traits }) => ({ carrier, traits: traits.map(atRest) })) };
  return { look: refollow(look, worn, (life, index) => places.get(`${life}.${index}`)), left: [...left] };
}
