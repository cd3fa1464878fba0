import { describe, expect, test } from '@jest/globals';
import { checkLook, LOOK_SCHEMA, type Look, type TraitUse } from '@tin-ghost/core';
import { changeSeam, movePart, passOf, removePart, trimPart, type Clip } from './plate-edits';

const at = { life: 0, index: 0 };
/** Ten seconds in which it flashes at 2 s and at 6 s. */
const clip: Clip = { frames: 250, rate: 25, light: Array.from({ length: 250 }, (_, n) => ((n >= 50 && n < 60) || (n >= 150 && n < 155) ? 1 : 0)) };
const lookWith = (settings: TraitUse['settings'] = {}): Look =>
  checkLook({ schema: LOOK_SCHEMA, name: 'Test', seed: 1, shape: 'file', lives: [{ carrier: 'none', traits: [{ trait: 'plate', settings: { plate: 'mine', ...settings } }] }] });
const settings = (look: Look) => look.lives[0]!.traits[0]!.settings;

describe('a plate of which all is kept', () => {
  test('is moved in the shot, and no further than its beginning', () => {
    const moved = movePart(lookWith(), at, clip, 0, 30);
    expect(settings(moved)).toMatchObject({ begins: 1.2 });
    expect(settings(movePart(moved, at, clip, 0, -90))).toMatchObject({ begins: 0 });
    // At half its speed a picture of it lasts twice as long.
    expect(settings(movePart(lookWith({ speed: 50 }), at, clip, 0, 30))).toMatchObject({ begins: 2.4 });
  });

  test('is trimmed, and what is left of it is seen when it was', () => {
    const trimmed = trimPart(lookWith(), at, clip, 0, 'from', 25);
    expect(settings(trimmed)).toMatchObject({ from: 1, begins: 1 });
    expect(passOf(trimmed, at, clip).parts).toEqual([{ from: 25, to: 250, at: 0 }]);
    expect(settings(trimPart(trimmed, at, clip, 0, 'from', -100))).toMatchObject({ from: 0, begins: 0 });
    const shorter = trimPart(lookWith(), at, clip, 0, 'to', -100);
    expect(settings(shorter)).toMatchObject({ to: 6 });
    expect(settings(trimPart(shorter, at, clip, 0, 'to', 500))).toMatchObject({ to: 0 });
    expect(passOf(trimPart(lookWith(), at, clip, 0, 'to', -900), at, clip).parts).toEqual([{ from: 0, to: 1, at: 0 }]);
  });

  test('runs into itself over half of it at the most', () => {
    expect(passOf(changeSeam(lookWith(), at, clip, 20), at, clip)).toMatchObject({ seam: 20, period: 230 });
    expect(passOf(changeSeam(lookWith({ to: 2 }), at, clip, 900), at, clip)).toMatchObject({ seam: 25, period: 25 });
    expect(passOf(lookWith({ seam: 20, loop: 'once' }), at, clip)).toMatchObject({ seam: 0, period: 250 });
  });
});

describe('its flashes', () => {
  const look = lookWith({ keep: 'flashes' });

  test('are its parts, and each can be moved to a moment of its own', () => {
    expect(passOf(look, at, clip).parts).toEqual([
      { from: 50, to: 60, at: 0 },
      { from: 150, to: 155, at: 10 },
    ]);
    const moved = checkLook(movePart(look, at, clip, 1, 40));
    expect(settings(moved)).toMatchObject({ keep: 'all', parts: '2-2.4, 6-6.2@2' });
    expect(passOf(moved, at, clip).parts[1]).toEqual({ from: 150, to: 155, at: 50 });
    expect(passOf(movePart(moved, at, clip, 0, 7), at, clip).parts).toEqual([
      { from: 50, to: 60, at: 7 },
      { from: 150, to: 155, at: 50 },
    ]);
  });

  test('are trimmed and removed, and the others stay where they are', () => {
    expect(passOf(trimPart(look, at, clip, 0, 'to', 5), at, clip).parts).toEqual([
      { from: 50, to: 65, at: 0 },
      { from: 150, to: 155, at: 10 },
    ]);
    const left = removePart(look, at, clip, 0);
    expect(passOf(left, at, clip).parts).toEqual([{ from: 150, to: 155, at: 10 }]);
    expect(removePart(left, at, clip, 0)).toBe(left);
  });

  test('that are too many to be written stay as they are found', () => {
    const restless: Clip = { ...clip, frames: 20_000, light: Array.from({ length: 20_000 }, (_, n) => n % 2) };
    expect(passOf(look, at, restless).parts).toHaveLength(10_000);
    expect(movePart(look, at, restless, 3, 1)).toBe(look);
  });
});
