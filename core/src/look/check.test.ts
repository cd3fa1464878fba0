import { describe, expect, test } from '@jest/globals';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { shippedLooks } from '../looks';
import { traits } from '../traits';
import type { Setting } from '../traits/settings';
import { checkLook, parseLook } from './check';
import { LookError } from './schema-check';
import { lookJsonSchema } from './json-schema';
import { EMPTY_LOOK, LOOK_SCHEMA } from './look';
import { resolveLook } from './resolve';

const withUse = (use: unknown) => ({ schema: LOOK_SCHEMA, shape: 'file', name: 'x', seed: 1, lives: [{ carrier: 'super8', traits: [use] }] });

/** What the check says of a look, as `path: message` lines. */
function said(look: unknown): string {
  try {
    checkLook(look);
  } catch (error) {
    if (error instanceof LookError) return error.message;
    throw error;
  }
  return '';
}

const WRONG: [unknown, string][] = [
  [withUse({ trait: 'grian' }), 'lives[0].traits[0].trait: there is no trait "grian"'],
  [withUse({ trait: 'grain', settings: { rmss: 1 } }), 'lives[0].traits[0].settings.rmss: is no setting of grain'],
  [withUse({ trait: 'grain', settings: { size: '8 px' } }), 'lives[0].traits[0].settings.size: must be a number from 1 to 40 µm, without the unit'],
  [withUse({ trait: 'grain', settings: { size: Number.NaN } }), 'lives[0].traits[0].settings.size: must be a number'],
  [withUse({ trait: 'grain', settings: { size: Infinity } }), 'lives[0].traits[0].settings.size: must be a number'],
  [withUse({ trait: 'grain', settings: { size: 41 } }), 'lives[0].traits[0].settings.size: must be a number from 1 to 40'],
  [withUse({ trait: 'grain', settings: { frozen: 1 } }), 'lives[0].traits[0].settings.frozen: must be true or false'],
  [withUse({ trait: 'grain', strength: 2 }), 'lives[0].traits[0].strength: must be a number from 0 to 1'],
  [withUse({ trait: 'grain', act: 'attic' }), 'lives[0].traits[0].act: must be one of lens'],
  [withUse(null), 'lives[0].traits[0]: must be an object'],
  [withUse({ trait: 'grain', extra: 1 }), 'lives[0].traits[0].extra: is not allowed'],
  [{ ...EMPTY_LOOK, schema: 'tin-ghost/look@9' }, 'schema: the look was made by a newer Tin Ghost'],
  [{ ...EMPTY_LOOK, shape: undefined }, 'shape: is required'],
  [{ ...EMPTY_LOOK, seed: -1 }, 'seed: must be a whole number'],
  [{ ...EMPTY_LOOK, name: '' }, 'name: is not allowed to be empty'],
  [{ ...EMPTY_LOOK, lives: [{ carrier: 'wax', traits: [] }] }, 'lives[0].carrier: must be one of none, film8, '],
  [{ ...EMPTY_LOOK, lives: [{ carrier: 'none', traits: new Array(1_000_000).fill({ trait: 'grain' }) }] }, 'lives[0].traits: holds 1000000; a life has at most 64 traits'],
  [null, 'must be an object'],
  [{ ...EMPTY_LOOK, name: undefined, seed: undefined }, 'name: is required\nseed: is required'],
  [withUse({ trait: 'grain', motions: { rms: { motion: 'keys', keys: [{ at: 0, value: 300 }] } } }), 'motions.rms.keys[0].value: must be a number from 0 to'],
];

describe('a look', () => {
  test('passes when it is right, also with everything left out', () => {
    expect(said(EMPTY_LOOK)).toBe('');
    expect(said(withUse({ trait: 'grain' }))).toBe('');
    expect(said(withUse({ trait: 'grain', on: false, strength: 0.5, name: 'mine', act: 'lens', seed: 9, settings: { rms: 4 } }))).toBe('');
  });

  test.each(WRONG)('says where and what is wrong (%#)', (look, message) => {
    expect(said(look)).toContain(message);
  });

  test.each(shippedLooks.map(({ id, look }) => [id, look] as const))('that ships passes, and its name is its own: %s', (_id, look) => {
    expect(checkLook(look)).toBe(look);
    expect(shippedLooks.filter((other) => other.look.name === look.name)).toHaveLength(1);
  });

  test('text that is no JSON is refused with line and column', () => {
    expect(() => parseLook('{\n  "schema": x\n}')).toThrow(/not JSON at line 2, column 13/);
    expect(() => parseLook('')).toThrow(/the file is empty/);
    expect(() => parseLook(' '.repeat(300_000))).toThrow(/at most 262144/);
  });

  test('a use’s randomness does not change when another trait is added or moved', () => {
    const grain = { trait: 'grain' };
    const seeds = (traits: { trait: string }[]) => resolveLook({ ...EMPTY_LOOK, lives: [{ carrier: 'none', traits }] }).filter((u) => u.trait.id === 'grain');
    const alone = seeds([grain])[0]!.seed;
    expect(seeds([{ trait: 'scanlines' }, grain])[0]!.seed).toBe(alone);
    expect(seeds([{ trait: 'channel-offset' }, grain, { trait: 'scanlines' }])[0]!.seed).toBe(alone);
    const two = seeds([grain, grain]);
    expect(two[1]!.seed).not.toBe(two[0]!.seed);
  });
});

describe('the declarations', () => {
  test.each(traits.map((t) => [t.id, t] as const))('%s: defaults lie in range, everything has words', (_id, trait) => {
    expect(trait.says.length).toBeGreaterThan(10);
    for (const s of Object.values(trait.settings as Record<string, Setting>)) {
      expect(s.says.length).toBeGreaterThan(5);
      if (s.kind === 'number') {
        expect(s.default).toBeGreaterThanOrEqual(s.min);
        expect(s.default).toBeLessThanOrEqual(s.max);
      }
    }
  });

  test('the JSON Schema takes and refuses what the check does', () => {
    const valid = new Ajv2020({ strict: true, strictRequired: false, inlineRefs: false, code: { optimize: false } }).compile(lookJsonSchema());
    for (const { id, look } of shippedLooks) expect([id, valid(look), valid.errors]).toEqual([id, true, null]);
    const moving = [
      { motion: 'wander', speeds: [{ amount: 1, rate: 2 }] },
      { motion: 'jump', amount: 1, spread: 'bell' },
      { motion: 'keys', keys: [{ at: 0, value: 3, ease: 'line' }] },
      { motion: 'follow', of: 'Dust', gain: 1, decay: 2 },
    ];
    for (const rms of moving) expect(valid(withUse({ trait: 'grain', motions: { rms } }))).toBe(true);
    const wrong = [...WRONG.map(([look]) => look), withUse({ trait: 'grain', motions: { rms: { motion: 'jump' } } }), withUse({ trait: 'grain', motions: { frozen: moving[1] } })];
    for (const look of wrong) expect([JSON.stringify(look).slice(0, 200), valid(look)]).toEqual([JSON.stringify(look).slice(0, 200), false]);
  });

  test('the JSON Schema knows every trait and setting', () => {
    const schema = JSON.stringify(lookJsonSchema());
    for (const trait of traits) {
      expect(schema).toContain(`"const":"${trait.id}"`);
      for (const key of Object.keys(trait.settings as object)) expect(schema).toContain(`"${key}":{`);
    }
  });
});
