import { describe, expect, test } from '@jest/globals';
import { checkLook, EMPTY_LOOK, LOOK_LIMITS, traitById, type Key, type Look, type Motion, type NumberSetting } from '@tin-ghost/core';
import { addUse, changeMotion, insertColour, moveUse, removeUse, traitUseAt } from './look-edits';
import { begun, changedKey, rangeOf, withKey, withoutKey } from './motion-edits';

const settingOf = (trait: string, key: string): NumberSetting => (traitById(trait)!.settings as Record<string, NumberSetting>)[key]!;
const keys: Key[] = [
  { at: 1, value: 2, ease: 'hold' },
  { at: 3, value: 4 },
];

describe('keys', () => {
  test('a new one stands in order of time; at a moment that has one, that one takes the value and keeps its way on', () => {
    expect(withKey(keys, 2, 7)).toEqual([keys[0], { at: 2, value: 7 }, keys[1]]);
    expect(withKey(keys, 1.0004, 9)).toEqual([{ at: 1, value: 9, ease: 'hold' }, keys[1]]);
    expect(withKey(keys, -1, 9)[0]!.at).toBe(0);
  });

  test('no more are taken than a look may hold; those that stand may still be changed', () => {
    const full = Array.from({ length: LOOK_LIMITS.keys }, (_, i): Key => ({ at: i, value: 0 }));
    expect(withKey(full, 3.5, 1)).toEqual(full);
    expect(withKey(full, 3, 1)[3]).toEqual({ at: 3, value: 1 });
  });

  test('one that is moved stays between its neighbours', () => {
    expect(changedKey(keys, 0, { at: 5 })[0]!.at).toBeLessThan(3);
    expect(changedKey(keys, 1, { at: 0 })[1]!.at).toBeGreaterThan(1);
    expect(changedKey(keys, 0, { at: -4 })[0]!.at).toBe(0);
    expect(changedKey(keys, 1, { value: 1 })).toEqual([keys[0], { at: 3, value: 1 }]);
  });

  test('the last one taken away leaves none', () => {
    expect(withoutKey(keys, 0)).toEqual([keys[1]]);
    expect(withoutKey([keys[0]!], 0)).toBeUndefined();
  });
});

test.each([
  ['exposure', 'stops'],
  ['gate-weave', 'upDown'],
  ['grain', 'rms'],
  ['vignette', 'colour'],
])('every kind of motion that %s may begin with is one that the engine takes: %s', (trait, key) => {
  const setting = settingOf(trait, key);
  const look: Look = { ...EMPTY_LOOK, lives: [{ carrier: 'super8', traits: [{ trait: 'splices' }, { trait }] }] };
  for (const kind of ['wander', 'jump', 'keys', 'follow'] as const) {
    const motion = begun(kind, setting, setting.default, 1.23456, 'splices')!;
    expect(motion.motion).toBe(kind);
    const moved = changeMotion(look, { life: 0, index: 1 }, key, motion);
    expect(traitUseAt(moved, { life: 0, index: 1 })!.motions).toEqual({ [key]: motion });
    expect(checkLook(moved)).toEqual(moved);
  }
  expect(begun('follow', setting, setting.default, 0, undefined)).toBeUndefined();
});

test('a curve is drawn in what it takes with room about it, within what the setting may be', () => {
  const stops = settingOf('exposure', 'stops');
  const [low, high] = rangeOf(stops, [-1, 2], 0);
  expect([low, high]).toEqual([-1.75, 2.75]);
  expect(rangeOf(stops, [-6, 6], 0)).toEqual([-6, 6]);
  const [a, b] = rangeOf(stops, [], 1);
  expect(a).toBeLessThan(1);
  expect(b).toBeGreaterThan(1);
});

describe('follows, as a look is changed by hand', () => {
  const follow: Motion = { motion: 'follow', of: 'splices', gain: 1 };
  const look: Look = {
    ...EMPTY_LOOK,
    lives: [
      {
        carrier: 'super8',
        traits: [{ trait: 'splices' }, { trait: 'exposure', motions: { stops: { motion: 'jump', amount: 1 } } }, { trait: 'gate-weave', motions: { upDown: follow } }],
      },
    ],
  };
  const of = (l: Look, index: number): unknown => Object.values(l.lives[0]!.traits[index]!.motions ?? {})[0];

  test('removing what is followed lets the follower rest; removing another leaves it', () => {
    expect(removeUse(look, { life: 0, index: 0 }).lives[0]!.traits[1]).toEqual({ trait: 'gate-weave' });
    expect(of(removeUse(look, { life: 0, index: 1 }), 1)).toEqual(follow);
  });

  test('a second one of the kind, put before it, does not take its place', () => {
    const { look: two } = addUse(look, 0, 'splices', 'years');
    const { look: moved } = moveUse(two, { life: 0, index: 3 }, 'years', { life: 0, index: 0 });
    expect(moved.lives[0]!.traits.map((t) => t.trait)).toEqual(['splices', 'splices', 'exposure', 'gate-weave']);
    expect(of(moved, 3)).toEqual({ ...follow, of: 'splices:2' });
    expect(checkLook(moved)).toEqual(moved);
  });

  test('colour put before what is followed keeps it followed', () => {
    const led = changeMotion(look, { life: 0, index: 2 }, 'upDown', { ...follow, of: 'exposure' });
    const { look: more } = insertColour({ ...led, lives: [{ ...led.lives[0]!, traits: led.lives[0]!.traits.slice(1) }] }, [{ trait: 'exposure' }]);
    expect(checkLook(more)).toEqual(more);
    const target = more.lives[0]!.traits.findIndex((t) => t.trait === 'exposure' && t.motions);
    const nth = more.lives[0]!.traits.slice(0, target + 1).filter((t) => t.trait === 'exposure').length;
    expect(of(more, 2)).toMatchObject({ of: nth === 1 ? 'exposure' : `exposure:${nth}` });
  });

  test('letting rest what moved a trait lets rest what followed it for that', () => {
    const led = changeMotion(look, { life: 0, index: 2 }, 'upDown', { ...follow, of: 'exposure' });
    const rested = changeMotion(led, { life: 0, index: 1 }, 'stops', undefined);
    expect(rested.lives[0]!.traits.slice(1)).toEqual([{ trait: 'exposure' }, { trait: 'gate-weave' }]);
  });
});
