import { actOf, inAct, LOOK_LIMITS, refollow, withoutFollows, type Act, type Look, type TraitUse } from '@tin-ghost/core';
import { type UseAt } from './look-edits';

type Lives = Look['lives'];

/** A look with other lives: what follows a trait goes on following it. @param places of the lives before, each where it stands now */
function relived(look: Look, lives: Lives, places: (life: number) => number | undefined): Look {
  return refollow(look, { ...look, lives }, (life, index) => {
    const now = places(life);
    return now === undefined ? undefined : { life: now, index };
  });
}

export const mayAddLife = (look: Look): boolean => look.lives.length < LOOK_LIMITS.lives;

/** Puts a life without traits after another. @param after -1 puts it first */
export const addLife = (look: Look, after: number, carrier: string): Look =>
  relived(look, [...look.lives.slice(0, after + 1), { carrier, traits: [] }, ...look.lives.slice(after + 1)], (life) => (life > after ? life + 1 : life));

/** Puts a copy of a life after it; its traits fall differently. */
export function copyLife(look: Look, life: number): Look {
  const { carrier, traits } = look.lives[life]!;
  const copy = { carrier, traits: traits.map(withoutFollows).map(reseeded) };
  return relived(look, [...look.lives.slice(0, life + 1), copy, ...look.lives.slice(life + 1)], (at) => (at > life ? at + 1 : at));
}

/** Moves a life to another place among them. */
export function moveLife(look: Look, from: number, to: number): Look {
  const order = look.lives.map((_, i) => i).filter((i) => i !== from);
  order.splice(Math.max(0, Math.min(order.length, to)), 0, from);
  return relived(
    look,
    order.map((i) => look.lives[i]!),
    (life) => order.indexOf(life),
  );
}

export const removeLife = (look: Look, life: number): Look =>
  relived(
    look,
    look.lives.filter((_, i) => i !== life),
    (at) => (at === life ? undefined : at > life ? at - 1 : at),
  );

/** Turns all traits of a life, or of one act of it, off where any is on; else on. */
export function toggleAll(look: Look, life: number, act?: Act): Look {
  const meant = (use: TraitUse): boolean => act === undefined || actOf(use) === act;
  const on = !look.lives[life]!.traits.some((use) => meant(use) && use.on !== false);
  return { ...look, lives: look.lives.map((l, i) => (i === life ? { ...l, traits: l.traits.map((use) => (meant(use) ? { ...use, on } : use)) } : l)) };
}

/** The same wear, fallen differently. */
const reseeded = (use: TraitUse): TraitUse => ({ ...use, seed: ((use.seed ?? 0) + 1) % 1000 });

/**
 * Puts copies of uses into a life: after a use, into its act; else at the end of an act, or of their own.
 * @returns the look and where the last of them stands
 */
export function pasteUses(look: Look, life: number, uses: readonly TraitUse[], after: UseAt | null, into?: Act): { look: Look; at: UseAt } {
  const { traits } = look.lives[life]!;
  const neighbour = after?.life === life ? traits[after.index] : undefined;
  const place = neighbour ? after!.index + 1 : traits.length;
  const act = neighbour ? actOf(neighbour) : into;
  const copies = uses.slice(0, LOOK_LIMITS.traits - traits.length).map((use) => reseeded(withoutFollows(act ? inAct(use, act) : use)));
  const next = [...traits.slice(0, place), ...copies, ...traits.slice(place)];
  const pasted = refollow(look, { ...look, lives: look.lives.map((l, i) => (i === life ? { ...l, traits: next } : l)) }, (l, index) =>
    l === life && index >= place ? { life: l, index: index + copies.length } : { life: l, index },
  );
  return { look: pasted, at: { life, index: Math.max(0, place + copies.length - 1) } };
}
