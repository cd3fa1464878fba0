import { describe, expect, test } from '@jest/globals';
import { shippedLook, shippedLooks } from '@tin-ghost/core';
import { ALL_LOOKS, isShown, type LookFilter } from './look-filter';

const shown = (more: Partial<LookFilter>): string[] => shippedLooks.filter(({ look }) => isShown(look, { ...ALL_LOOKS, ...more })).map(({ id }) => id);

describe('looks that are shown', () => {
  test('all, as long as nothing narrows them', () => expect(shown({})).toHaveLength(shippedLooks.length));

  test('by words, which must all stand in the name, the carriers or the traits', () => {
    expect(shown({ words: 'super 8 flash' })).toContain('attic-reel');
    expect(shown({ words: 'super 8 flash' }).every((id) => shippedLook(id)!.lives.some(({ carrier }) => carrier === 'super8'))).toBe(true);
    expect(shown({ words: 'no such thing' })).toEqual([]);
  });

  test('by carrier, act and colour, and by several at once', () => {
    const tape = shown({ medium: 'tape' });
    expect(tape).toEqual(expect.arrayContaining(['home-tape', 'super8-to-tape']));
    expect(tape).not.toContain('sunday-reel');
    expect(shown({ act: 'screen' })).toContain('arcade-slots');
    expect(shown({ act: 'screen' })).not.toContain('sunday-reel');
    const grey = shown({ colour: 'black and white' });
    expect(grey).toEqual(expect.arrayContaining(['regular-silver', 'security-camera', 'green-terminal', 'work-copy-16', 'brown-paper']));
    expect(grey).not.toContain('sunday-reel');
    expect(shown({ colour: 'black and white', medium: 'film' })).not.toContain('security-camera');
  });
});
