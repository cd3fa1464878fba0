import { describe, expect, test } from '@jest/globals';
import '../traits';
import { checkLook } from './check';
import { EMPTY_LOOK, LOOK_SCHEMA } from './look';
import type { Json } from './schema-check';
import { broughtUp, type Migration } from './versions';

/** A format that had two changes: a name became a title, and then the seed was doubled. */
const chain: Migration[] = [({ name, ...look }) => ({ ...look, title: name }), (look) => ({ ...look, seed: 2 * (look.seed as number) })];
const old = { schema: 'tin-ghost/look@1', name: 'Old', seed: 7, lives: [] };

describe('from version 1', () => {
  test('a look that said nothing of its shape has the file’s; one that did keeps what it said', () => {
    const { shape: _, ...rest } = EMPTY_LOOK;
    const first = { ...rest, schema: 'tin-ghost/look@1', lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }] }] };
    expect(checkLook(first)).toEqual({ ...first, schema: 'tin-ghost/look@2', shape: 'file' });
    expect(checkLook({ ...first, shape: 'carrier' }).shape).toBe('carrier');
    expect(() => checkLook({ ...first, shape: 'oval' })).toThrow('shape: must be one of file, carrier');
    expect(() => checkLook({ ...rest, lives: [] })).toThrow('shape: is required');
  });
});

describe('a look of another version', () => {
  test('is brought up step by step, from wherever it is, and left as it was itself', () => {
    const before = structuredClone(old);
    expect(broughtUp(old, chain, 'tin-ghost/look@3')).toEqual({ schema: 'tin-ghost/look@3', title: 'Old', seed: 14, lives: [] });
    expect(broughtUp({ ...old, schema: 'tin-ghost/look@2' }, chain, 'tin-ghost/look@3')).toMatchObject({ name: 'Old', seed: 14 });
    expect(old).toEqual(before);
  });

  test('of the present one is the same object', () => {
    expect(checkLook(EMPTY_LOOK)).toBe(EMPTY_LOOK);
    expect((broughtUp(old, chain, LOOK_SCHEMA) as Json).schema).toBe(LOOK_SCHEMA);
  });

  test.each(['tin-ghost/look@3', 'tin-ghost/look@17'])('that is newer is refused in clear words: %s', (schema) => {
    expect(() => checkLook({ ...EMPTY_LOOK, schema })).toThrow(`schema: the look was made by a newer Tin Ghost ("${schema}"); this one reads looks up to "${LOOK_SCHEMA}"`);
  });

  test.each([undefined, 3, 'look@1', 'tin-ghost/look@0', 'tin-ghost/look@1.5', 'tin-ghost/look@99999999'])('what is no version at all is found by the check: %s', (schema) => {
    expect(() => checkLook({ ...EMPTY_LOOK, schema })).toThrow(/schema: (must be|is required)/);
  });
});
