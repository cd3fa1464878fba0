import { describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, type TraitUse } from '@tin-ghost/core';
import { changeWords } from './change-words';
import type { Work } from './keeper';

const work = (traits: TraitUse[], more: Partial<Work['look']> = {}): Work => ({
  look: { ...EMPTY_LOOK, name: 'Reel', lives: [{ carrier: 'super8', traits }], ...more },
  preparation: {},
  versions: [],
});
const grain: TraitUse = { trait: 'grain', settings: { rms: 11 } };
const dust: TraitUse = { trait: 'dust' };

describe('what was done, in words', () => {
  test.each<[string, Work, Work]>([
    ['Dust added', work([grain]), work([grain, dust])],
    ['Dust removed', work([grain, dust]), work([grain])],
    ['Order of traits', work([grain, dust]), work([dust, grain])],
    ['Grain off', work([grain]), work([{ ...grain, on: false }])],
    ['Grain: strength 40 %', work([grain]), work([{ ...grain, strength: 0.4 }])],
    ['Grain: Granularity 14 D × 1000', work([grain]), work([{ ...grain, settings: { rms: 14 } }])],
    ['Grain: 2 settings', work([grain]), work([{ ...grain, settings: { rms: 14, size: 5 } }])],
    ['Grain: Granularity default', work([grain]), work([{ trait: 'grain', settings: {} }])],
    ['Dust: events', work([dust]), work([{ ...dust, events: { muted: ['a'] } }])],
    ['On 16 mm', work([grain]), work([grain], { lives: [{ carrier: 'film16', traits: [grain] }] })],
    ['Look Tape', work([grain]), work([dust], { name: 'Tape' })],
    ['Look named Tape', work([grain]), work([grain], { name: 'Tape' })],
    ['Seed 7', work([grain]), work([grain], { seed: 7 })],
    ['Trim', work([]), { ...work([]), preparation: { trim: { from: 2, to: 9 } } }],
    ['Version Reel', work([]), { ...work([]), versions: [EMPTY_LOOK, null] }],
    ['Version Reel shown', { ...work([]), versions: [EMPTY_LOOK, null] }, { ...work([]), versions: [null, EMPTY_LOOK] }],
  ])('%s', (words, before, after) => expect(changeWords(before, after)).toBe(words));
});
