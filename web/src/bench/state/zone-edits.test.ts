import { expect, test } from '@jest/globals';
import { checkLook, LOOK_SCHEMA, type Look, type Zone } from '@tin-ghost/core';
import { drawnZone, hasZoneKey, placeZone, setTones, setZoneKind, shapeAt, toggleZoneKey, tonesOf } from './zone-edits';

const at = { life: 0, index: 0 };
const look = (zone?: Zone): Look =>
  checkLook({ schema: LOOK_SCHEMA, name: 'Test', seed: 1, shape: 'file', lives: [{ carrier: 'super8', traits: [{ trait: 'dust', ...(zone && { zone }) }] }] });
const zoneOf = (of: Look): Zone | undefined => of.lives[0]!.traits[0]!.zone;
const HERE = { x: 0.25, y: 0.4, across: 0.1, down: 0.2 };

test('a zone is none, an ellipse, and none again, which leaves nothing behind but the ellipse', () => {
  const quiet = setZoneKind(look(), at, 'quiet');
  expect(zoneOf(quiet)).toEqual({ kind: 'quiet' });
  expect(shapeAt(quiet, at, 0)).toEqual({ x: 0.5, y: 0.5, across: 0.25, down: 0.3, soft: 0.4 });
  expect(zoneOf(setZoneKind(quiet, at, 'all'))).toBeUndefined();
  const placed = placeZone(quiet, at, HERE, 3);
  expect(zoneOf(checkLook(placed))).toEqual({ kind: 'quiet', ...HERE });
  const back = setZoneKind(setZoneKind(placed, at, 'all'), at, 'ellipse');
  expect(zoneOf(back)).toEqual({ kind: 'ellipse', ...HERE });
});

test('two keys move it; each is changed at its moment, removed again, and the last one’s place stays', () => {
  const placed = placeZone(setZoneKind(look(), at, 'quiet'), at, HERE, 0);
  const one = toggleZoneKey(placed, at, 1);
  expect(zoneOf(one)!.keys).toEqual([{ at: 1, ...HERE }]);
  const two = checkLook(placeZone(one, at, { ...HERE, x: 0.75 }, 3));
  expect(zoneOf(two)!.keys).toHaveLength(2);
  expect(shapeAt(two, at, 2)).toMatchObject({ x: 0.5, y: 0.4 });
  expect(shapeAt(two, at, 0)).toMatchObject({ x: 0.25 });
  expect([hasZoneKey(zoneOf(two), 3), hasZoneKey(zoneOf(two), 2)]).toEqual([true, false]);
  const earlier = placeZone(two, at, { ...HERE, x: 9 }, 0.5);
  expect(zoneOf(checkLook(earlier))!.keys!.map((key) => [key.at, key.x])).toEqual([
    [0.5, 2],
    [1, 0.25],
    [3, 0.75],
  ]);
  const left = toggleZoneKey(toggleZoneKey(two, at, 1), at, 3);
  expect(zoneOf(left)).toEqual({ kind: 'quiet', ...HERE, x: 0.75 });
});

test('drawn, it leaves a part clean from there; laid elsewhere at another moment it moves, and drawn again at the same moment it lies there', () => {
  const drawn = checkLook(drawnZone(look(), at, HERE, 1));
  expect(zoneOf(drawn)).toMatchObject({ kind: 'quiet', keys: [{ at: 1, ...HERE }] });
  expect(shapeAt(drawn, at, 5)).toMatchObject(HERE);
  const again = drawnZone(drawn, at, { ...HERE, y: 0.7 }, 1);
  expect(zoneOf(again)!.keys).toEqual([{ at: 1, ...HERE, y: 0.7 }]);
  const moved = placeZone(drawn, at, { ...HERE, x: 0.75 }, 3);
  expect(zoneOf(moved)!.keys!.map((key) => [key.at, key.x])).toEqual([
    [1, 0.25],
    [3, 0.75],
  ]);
  expect(zoneOf(drawnZone(setZoneKind(look(), at, 'edges'), at, HERE, 1))!.kind).toBe('edges');
});

test('tones are one of three parts, all, or those of a file', () => {
  const dark = setTones(look(), at, 'shadows');
  expect(tonesOf(zoneOf(checkLook(dark)))).toBe('shadows');
  expect(zoneOf(setTones(dark, at, 'all'))).toBeUndefined();
  const own = look({
    kind: 'all',
    tones: [
      [0, 1],
      [1, 0],
    ],
  });
  expect(tonesOf(zoneOf(own))).toBe('own');
  expect(setTones(own, at, 'own')).toBe(own);
  expect(tonesOf(undefined)).toBe('all');
});
