import { describe, expect, test } from '@jest/globals';
import { checkLook, EMPTY_LOOK, type Look } from '@tin-ghost/core';
import { addUse, cannotAct, changeSetting, changeUse, lookBefore, lookUpTo, moveUse, removeUse, toggleUse, traitUseAt, tryUse } from './look-edits';

const look: Look = {
  ...EMPTY_LOOK,
  lives: [{ carrier: 'super8', traits: [{ trait: 'grain', settings: { rms: 4 } }, { trait: 'channel-offset' }, { trait: 'scanlines' }] }],
};
const names = (l: Look): string[] => l.lives[0]!.traits.map((t) => `${t.trait}${t.act ? `@${t.act}` : ''}${t.on === false ? '-' : ''}`);

describe('changes of a look', () => {
  test('a setting is set and put back, the rest stays', () => {
    const set = changeSetting(look, { life: 0, index: 0 }, 'size', 12);
    expect(traitUseAt(set, { life: 0, index: 0 })!.settings).toEqual({ rms: 4, size: 12 });
    expect(traitUseAt(changeSetting(set, { life: 0, index: 0 }, 'rms', undefined), { life: 0, index: 0 })!.settings).toEqual({ size: 12 });
    expect(traitUseAt(look, { life: 0, index: 0 })!.settings).toEqual({ rms: 4 });
  });

  test('adding to another act says so; the look stays one that the engine takes', () => {
    const { look: added, at } = addUse(look, 0, 'grain', 'screen');
    expect(names(added)).toEqual(['grain', 'channel-offset', 'scanlines', 'grain@screen']);
    expect(at).toEqual({ life: 0, index: 3 });
    expect(checkLook(added)).toEqual(added);
  });

  test('moving within an act and to another', () => {
    expect(names(moveUse(look, { life: 0, index: 1 }, 'stock', { life: 0, index: 0 }).look)).toEqual(['channel-offset', 'grain', 'scanlines']);
    expect(names(moveUse(look, { life: 0, index: 0 }, 'lens', null).look)).toEqual(['channel-offset', 'scanlines', 'grain@lens']);
    const back = moveUse(moveUse(look, { life: 0, index: 0 }, 'lens', null).look, { life: 0, index: 2 }, 'stock', null);
    expect(names(back.look)).toEqual(['channel-offset', 'scanlines', 'grain']);
  });

  test('removing', () => {
    expect(names(removeUse(look, { life: 0, index: 1 }))).toEqual(['grain', 'scanlines']);
  });

  test('as far as a point of the chain', () => {
    expect(names(lookUpTo(look, 0, 'stock', 1))).toEqual(['grain', 'channel-offset-', 'scanlines-']);
    expect(names(lookUpTo(look, 0, 'lens', 0))).toEqual(['grain-', 'channel-offset-', 'scanlines-']);
    expect(names(lookUpTo(look, 0, 'screen', 1))).toEqual(['grain', 'channel-offset', 'scanlines']);
  });

  test('the picture that comes to a trait is the same whatever the trait is set to', () => {
    const at = { life: 0, index: 1 };
    expect(names(lookBefore(look, at))).toEqual(['grain', 'channel-offset-', 'scanlines-']);
    expect(lookBefore(changeUse(changeSetting(look, at, 'redX', 3), at, { strength: 0.4 }), at)).toEqual(lookBefore(look, at));
    expect(lookBefore(changeSetting(look, { life: 0, index: 0 }, 'rms', 9), at)).not.toEqual(lookBefore(look, at));
  });

  test('a trait is tried where it is seen: with an event under way', () => {
    const bare: Look = { ...EMPTY_LOOK, lives: [{ carrier: 'super8', traits: [] }] };
    expect(tryUse(bare, 0, 'grain', 'stock', 3).lives[0]!.traits).toEqual([{ trait: 'grain' }]);
    const [burn] = tryUse(bare, 0, 'burn', 'years', 3).lives[0]!.traits;
    expect(burn!.events!.pinned![0]).toMatchObject({ at: 2.55, length: 1 });
    expect(() => checkLook(tryUse(bare, 0, 'burn', 'years', 0))).not.toThrow();
  });

  test('what its carrier cannot do is said, and stays off', () => {
    const onFilm: Look = { ...EMPTY_LOOK, lives: [{ carrier: 'super8', traits: [{ trait: 'tape-noise', on: false }, { trait: 'grain' }] }] };
    const at = { life: 0, index: 0 };
    expect(cannotAct(onFilm, at)).toBe('Tape noise needs a tape recorder; Super 8 has none.');
    expect(traitUseAt(toggleUse(onFilm, at), at)!.on).toBe(false);
    expect(cannotAct(onFilm, { life: 0, index: 1 })).toBeUndefined();
    const onTape: Look = { ...onFilm, lives: [{ ...onFilm.lives[0]!, carrier: 'vhs' }] };
    expect(traitUseAt(toggleUse(onTape, at), at)!.on).toBe(true);
    expect(traitUseAt(toggleUse(toggleUse(onTape, at), at), at)!.on).toBe(false);
  });
});
