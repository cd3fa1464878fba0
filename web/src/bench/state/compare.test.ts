import { describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, type Look } from '@tin-ghost/core';
import { insertColour } from './look-edits';
import { lookWithout, wipePath } from './compare';
import { keyed, withFraming } from './framing';

const look = (...traits: { trait: string; act?: 'lens' }[]): Look => ({ ...EMPTY_LOOK, lives: [{ carrier: 'super8', traits }] });

describe('comparing', () => {
  test('without one trait, without its act', () => {
    const all = look({ trait: 'softness' }, { trait: 'grain' }, { trait: 'channel-offset' }, { trait: 'dust' });
    const off = (l: Look): number[] => l.lives[0]!.traits.flatMap((use, i) => (use.on === false ? [i] : []));
    expect(off(lookWithout(all, { life: 0, index: 1 }))).toEqual([1]);
    expect(off(lookWithout(all, { life: 0, index: 1 }, 'stock'))).toEqual([1, 2]);
  });

  test('the wiped part lies to the right of an upright line, below a level one', () => {
    const corners = (angle: number) =>
      wipePath({ x: 0.5, y: 0.5, angle }, 16 / 9)
        .slice(8, -1)
        .split(', ')
        .map((p) => p.split(' ').map((v) => Number(v.replace('%', ''))));
    const upright = corners(0);
    expect(upright[0]![0]).toBeCloseTo(50, 1);
    expect(upright[1]![0]).toBeGreaterThan(100);
    expect(upright[0]![1]).toBeLessThan(0);
    const level = corners(90);
    expect(level[0]![1]).toBeCloseTo(50, 1);
    expect(level[1]![1]).toBeGreaterThan(100);
  });
});

describe('colour put into a look', () => {
  const names = (l: Look): string[] => l.lives[0]!.traits.map((use) => use.trait);
  const match = [{ trait: 'tone-curves' }, { trait: 'ranges' }];

  test('comes after the colour of the stock, before what the stock does', () => {
    expect(names(insertColour(look({ trait: 'softness' }, { trait: 'grain' }), match).look)).toEqual(['softness', 'tone-curves', 'ranges', 'grain']);
    const placed = insertColour(look({ trait: 'exposure' }, { trait: 'grain' }), match);
    expect(names(placed.look)).toEqual(['exposure', 'tone-curves', 'ranges', 'grain']);
    expect(placed.at).toEqual({ life: 0, index: 1 });
  });

  test('an empty look gets a life for it', () => {
    expect(insertColour(EMPTY_LOOK, match).look.lives).toEqual([{ carrier: 'none', traits: match }]);
  });
});

describe('framing', () => {
  const at = (x: number) => ({ x, y: 0.5, scale: 1, turn: 0 });

  test('the whole picture is none at all', () => {
    expect(withFraming({}, at(0.5), 0)).toEqual({ framing: undefined });
    expect(withFraming({}, at(0.51), 3)).toEqual({ framing: at(0.51) });
  });

  test('where it moves, a change is one of its moment', () => {
    const moves = [
      { at: 0, ...at(0.4) },
      { at: 2, ease: 'line' as const, ...at(0.6) },
    ];
    expect(withFraming({ moves }, at(0.7), 2)).toEqual({ moves: [moves[0], { at: 2, ease: 'line', ...at(0.7) }] });
    expect(keyed(moves, { at: 1, ...at(0.5) }).map((m) => m.at)).toEqual([0, 1, 2]);
  });
});
