import { describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, LOOK_LIMITS, rested, type Look } from '@tin-ghost/core';
import { addLife, copyLife, mayAddLife, moveLife, pasteUses, removeLife, toggleAll } from './life-edits';

/** Film, then tape; the tape's tearing follows the film's splices. */
const look: Look = {
  ...EMPTY_LOOK,
  lives: [
    { carrier: 'super8', traits: [{ trait: 'splices' }, { trait: 'grain', seed: 4 }] },
    { carrier: 'vhs', traits: [{ trait: 'tearing', motions: { amount: { motion: 'follow', of: 'splices', gain: 1 } } }] },
  ],
};
const carriersOf = ({ lives }: Look): string[] => lives.map(({ carrier }) => carrier);
const followed = ({ lives }: Look): string | undefined => {
  const motion = lives.flatMap(({ traits }) => traits).find(({ trait }) => trait === 'tearing')?.motions?.amount;
  return motion?.motion === 'follow' ? motion.of : undefined;
};

describe('lives', () => {
  test('one is put anywhere, moved, copied and removed, and what follows a trait of another life goes on following it', () => {
    const added = addLife(look, 0, 'film16');
    expect(carriersOf(added)).toEqual(['super8', 'film16', 'vhs']);
    expect(carriersOf(addLife(look, -1, 'film16'))).toEqual(['film16', 'super8', 'vhs']);
    const moved = moveLife(added, 0, 1);
    expect(carriersOf(moved)).toEqual(['film16', 'super8', 'vhs']);
    for (const one of [added, moved, addLife(look, -1, 'film16')]) {
      expect(followed(one)).toBeDefined();
      expect(rested(one)).toBe(one);
    }
    expect(carriersOf(removeLife(added, 1))).toEqual(carriersOf(look));
  });

  test('what followed a trait of a life that is gone comes to rest', () => {
    const left = removeLife(look, 0);
    expect(carriersOf(left)).toEqual(['vhs']);
    expect(left.lives[0]!.traits[0]!.motions).toBeUndefined();
  });

  test('a copy falls differently, and follows nothing', () => {
    const twice = copyLife(look, 1);
    expect(carriersOf(twice)).toEqual(['super8', 'vhs', 'vhs']);
    expect(followed(twice)).toBeDefined();
    expect(twice.lives[2]!.traits[0]!.motions).toBeUndefined();
    expect(copyLife(look, 0).lives[1]!.traits[1]!.seed).toBe(5);
  });

  test('there are no more than a look may have', () => {
    let full = look;
    while (mayAddLife(full)) full = addLife(full, 0, 'super8');
    expect(full.lives).toHaveLength(LOOK_LIMITS.lives);
  });

  test('all of a life or of an act go off, and on again', () => {
    const off = toggleAll(look, 0, 'years');
    expect(off.lives[0]!.traits.map(({ on }) => on)).toEqual([false, undefined]);
    expect(toggleAll(off, 0, 'years').lives[0]!.traits[0]!.on).toBe(true);
    expect(toggleAll(off, 0).lives[0]!.traits.map(({ on }) => on)).toEqual([false, false]);
  });
});

describe('copies of traits', () => {
  const uses = [
    { trait: 'dust', settings: { count: 9 } },
    { trait: 'tearing', motions: { amount: { motion: 'follow', of: 'splices', gain: 1 } } },
  ] as const;

  test('go after a use into its act, or to the ends of their own', () => {
    const beside = pasteUses(look, 0, uses, { life: 0, index: 0 });
    expect(beside.look.lives[0]!.traits.map(({ trait }) => trait)).toEqual(['splices', 'dust', 'tearing', 'grain']);
    expect(beside.look.lives[0]!.traits[2]).toMatchObject({ act: 'years' });
    expect(beside.look.lives[0]!.traits[2]!.motions).toBeUndefined();
    expect(beside.at).toEqual({ life: 0, index: 2 });
    expect(followed({ ...beside.look, lives: [beside.look.lives[1]!] })).toBeDefined();
    const atEnd = pasteUses(look, 1, uses, null);
    expect(atEnd.look.lives[1]!.traits.map(({ trait, act }) => [trait, act])).toEqual([
      ['tearing', undefined],
      ['dust', undefined],
      ['tearing', undefined],
    ]);
  });

  test('never more than a look may have', () => {
    const full: Look = { ...look, lives: [{ carrier: 'super8', traits: Array.from({ length: LOOK_LIMITS.traits - 1 }, () => ({ trait: 'dust' })) }] };
    expect(pasteUses(full, 0, uses, null).look.lives[0]!.traits).toHaveLength(LOOK_LIMITS.traits);
  });
});
