import { describe, expect, test } from '@jest/globals';
import { checkPreparation, WHOLE } from '@tin-ghost/core';
import { keyed, withFraming } from './framing';

describe('a framing', () => {
  test('that is the whole picture is left out', () => {
    expect(withFraming({}, { ...WHOLE, x: 0.5 + 1e-9 }, 0)).toEqual({ framing: undefined });
  });

  test('dragged however far can be kept', () => {
    const { framing } = withFraming({ beyond: true }, { x: -7, y: 9, scale: 0.0001, turn: 400 }, 0);
    expect(framing).toEqual({ x: -1, y: 2, scale: 0.1, turn: 180 });
    expect(() => checkPreparation({ beyond: true, framing })).not.toThrow();
  });

  test('of a shot in which it moves is set at the moment, in order of time, and keeps its ease', () => {
    const moves = [
      { at: 0, ...WHOLE },
      { at: 2, ...WHOLE, ease: 'hold' as const },
    ];
    const { moves: between } = withFraming({ moves }, { ...WHOLE, scale: 2 }, 1);
    expect(between!.map((m) => [m.at, m.scale])).toEqual([
      [0, 1],
      [1, 2],
      [2, 1],
    ]);
    const again = keyed(moves, { at: 2.00001, ...WHOLE, scale: 3 });
    expect(again).toHaveLength(2);
    expect(again[1]).toEqual({ at: 2, x: 0.5, y: 0.5, scale: 3, turn: 0, ease: 'hold' });
  });
});
