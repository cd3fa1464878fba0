import { expect, test } from '@jest/globals';
import '../traits';
import { checkLook } from './check';
import { followable, refollow, rested } from './follows';
import { EMPTY_LOOK, type Look, type TraitUse } from './look';

const lookOf = (...lives: TraitUse[][]): Look => ({ ...EMPTY_LOOK, lives: lives.map((traits) => ({ carrier: 'super8', traits })) });
const follow = (of: string) => ({ motion: 'follow', of, gain: 1 }) as const;
const kicked = (of: string): TraitUse => ({ trait: 'gate-weave', motions: { upDown: follow(of) } });

test('what follows a trait goes on following it wherever that comes to stand', () => {
  const before = lookOf([{ trait: 'splices' }, { trait: 'splices', name: 'Late ones' }, kicked('splices:2')]);
  const [first, second, weave] = before.lives[0]!.traits;
  const turned = lookOf([second!, first!, weave!]);
  const after = refollow(before, turned, (life, index) => ({ life, index: [1, 0, 2][index]! }));
  expect(after.lives[0]!.traits[2]!.motions).toEqual({ upDown: follow('splices') });
  expect(checkLook(after)).toEqual(after);
});

test('what followed one that is gone rests, and so does what followed that for its motion alone', () => {
  const before = lookOf([
    { trait: 'splices' },
    { trait: 'exposure', motions: { stops: follow('splices') } },
    { trait: 'vignette', motions: { amount: follow('exposure'), reach: { motion: 'jump', amount: 0.1 } } },
  ]);
  expect(checkLook(before)).toEqual(before);
  const after = refollow(before, lookOf([...before.lives[0]!.traits.slice(1)]), (life, index) => (index === 0 ? undefined : { life, index: index - 1 }));
  expect(after.lives[0]!.traits).toEqual([{ trait: 'exposure' }, { trait: 'vignette', motions: { reach: { motion: 'jump', amount: 0.1 } } }]);
  expect(checkLook(after)).toEqual(after);
});

test('a look that holds together is left as it is', () => {
  const look = lookOf([{ trait: 'splices' }, kicked('splices')], [{ trait: 'splices' }]);
  expect(rested(look)).toBe(look);
  expect(refollow(look, look, (life, index) => ({ life, index }))).toEqual(look);
});

test('a setting may follow what lives, but neither its own trait nor one that follows it', () => {
  const look = lookOf([{ trait: 'splices' }, kicked('splices'), { trait: 'vignette' }, { trait: 'exposure', motions: { stops: follow('gate-weave') } }], [{ trait: 'splices' }]);
  const names = (index: number, key: string): string[] => followable(look, 0, index, key).map(({ name }) => name);
  // Vignette neither moves nor happens; exposure moves, gate weave and splices live by themselves.
  expect(names(2, 'amount')).toEqual(['splices', 'gate-weave', 'exposure', 'splices:2']);
  expect(names(1, 'sideways')).toEqual(['splices', 'splices:2']);
});
