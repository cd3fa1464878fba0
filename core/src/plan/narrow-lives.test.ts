import { expect, test } from '@jest/globals';
import type { TraitUse } from '../look/look';
import { resolveLook } from '../look/resolve';
import { lookOf } from '../testing';
import { narrowLives } from './narrow-lives';

const found = (use: Partial<TraitUse>): number[] => [...narrowLives(resolveLook(lookOf([{ trait: 'luma-bandwidth', settings: { limit: 3 }, ...use }], 'vhs625')))];

test('a life is narrow where its luma ends early, always and all over', () => {
  expect(found({})).toEqual([0]);
  expect(found({ settings: { limit: 4.5 } })).toEqual([]);
  expect(found({ on: false })).toEqual([]);
  expect(found({ strength: 0.5 })).toEqual([]);
  expect(found({ when: [{ from: 0, to: 5 }] })).toEqual([]);
  expect(found({ blend: 'screen' })).toEqual([]);
  expect(found({ zone: { kind: 'ellipse', across: 0.3, down: 0.3 } })).toEqual([]);
  expect(found({ motions: { limit: { motion: 'jump', amount: 0.1 } } })).toEqual([]);
  // Colour that ends early says nothing of luma.
  expect(found({ trait: 'chroma-bandwidth', settings: { limit: 0.5 } })).toEqual([]);
});
