import { describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, type Look } from '@tin-ghost/core';
import { addVersion, removeVersion, shownVersion, showVersion, versionsOf } from './versions';

const named = (name: string): Look => ({ ...EMPTY_LOOK, name });
const names = (dressed: { look: Look; versions: readonly (Look | null)[] }): string =>
  versionsOf(dressed)
    .map((look, i) => (i === shownVersion(dressed) ? `[${look.name}]` : look.name))
    .join(' ');
const alone = { look: named('a'), versions: [] };

describe('versions of a look', () => {
  test('one more is shown; what was shown keeps its place and what was changed of it', () => {
    const two = addVersion(alone, named('b'));
    expect(names(two)).toBe('a [b]');
    const changed = { ...two, look: named('b changed') };
    const back = showVersion(changed, 0);
    expect([names(back), back.look.name]).toEqual(['[a] b changed', 'a']);
    expect(names(showVersion(back, 1))).toBe('a [b changed]');
  });

  test('one is taken away: another stays shown, or the shown one’s neighbour is; the last stays', () => {
    const three = addVersion(addVersion(alone, named('b')), named('c'));
    expect(names(removeVersion(three, 0))).toBe('b [c]');
    expect(names(removeVersion(three, 2))).toBe('a [b]');
    expect(names(removeVersion(showVersion(three, 0), 0))).toBe('[b] c');
    const last = removeVersion(removeVersion(three, 0), 0);
    expect(last).toEqual({ look: named('c'), versions: [] });
    expect(removeVersion(last, 0)).toBe(last);
  });
});
