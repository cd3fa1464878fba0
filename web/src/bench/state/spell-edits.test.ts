import { describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, type Look, type Span } from '@tin-ghost/core';
import { traitUseAt } from './look-edits';
import { addSpell, changeSpell, heldSpell, moveSpell, setSpells } from './spell-edits';

const AT = { life: 0, index: 0 };
const RATE = 25;
const look = (when?: Span[]): Look => ({ ...EMPTY_LOOK, lives: [{ carrier: 'none', traits: [{ trait: 'caption', ...(when && { when }) }] }] });
const spells = (of: Look): readonly Span[] | undefined => traitUseAt(of, AT)!.when;

describe('a spell', () => {
  test('stands on pictures, within its shot, with ramps that fit into it', () => {
    expect(heldSpell({ from: 1.013, to: 2.987, in: 0.5, out: 0.25 }, 8, RATE)).toEqual({ from: 1, to: 3, in: 0.5, out: 0.25 });
    expect(heldSpell({ from: -3, to: 99, in: 6, out: 6 }, 8, RATE)).toEqual({ from: 0, to: 8, in: 6, out: 2 });
    expect(heldSpell({ from: 4, to: 4, in: -1 }, 8, RATE)).toEqual({ from: 4, to: 4.04, in: 0, out: 0 });
    expect(heldSpell({ from: 8, to: 8 }, 8, RATE)).toEqual({ from: 7.96, to: 8, in: 0, out: 0 });
  });

  test('is added where the picture stands, as much of it as the shot holds', () => {
    expect(spells(addSpell(look(), AT, 1, 8, RATE))).toEqual([{ from: 1, to: 3, in: 0.4, out: 0.4 }]);
    expect(spells(addSpell(look(), AT, 7.9, 8, RATE))).toEqual([{ from: 6, to: 8, in: 0.4, out: 0.4 }]);
    expect(spells(addSpell(look([{ from: 0, to: 1 }]), AT, 4, 8, RATE))).toHaveLength(2);
  });

  test('is moved as it is, as far as the shot goes', () => {
    const two = look([
      { from: 0, to: 1 },
      { from: 2, to: 4, in: 0.5, out: 0.5 },
    ]);
    expect(spells(moveSpell(two, AT, 1, 3.01, 8, RATE))).toEqual([
      { from: 0, to: 1 },
      { from: 3, to: 5, in: 0.5, out: 0.5 },
    ]);
    expect(spells(moveSpell(two, AT, 1, 100, 8, RATE))![1]).toMatchObject({ from: 6, to: 8 });
    expect(spells(moveSpell(two, AT, 1, -5, 8, RATE))![1]).toMatchObject({ from: 0, to: 2 });
    expect(moveSpell(two, AT, 7, 1, 8, RATE)).toBe(two);
  });

  test('is changed alone; without one the trait acts always', () => {
    const one = look([{ from: 2, to: 4, in: 0.5, out: 0.5 }]);
    expect(spells(changeSpell(one, AT, 0, { to: 2.5 }, 8, RATE))).toEqual([{ from: 2, to: 2.52, in: 0.5, out: 0.02 }]);
    expect(spells(setSpells(one, AT, []))).toBeUndefined();
  });
});
