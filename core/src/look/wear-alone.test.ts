import { describe, expect, test } from '@jest/globals';
import '../traits';
import { shippedLooks } from '../looks';
import { checkLook } from './check';
import { LOOK_SCHEMA, type Look } from './look';
import { wearAlone } from './wear-alone';

const look: Look = {
  schema: LOOK_SCHEMA,
  name: 'Both',
  seed: 3,
  shape: 'carrier',
  lives: [
    {
      carrier: 'super8',
      traits: [{ trait: 'tone' }, { trait: 'grain', motions: { rms: { motion: 'follow', of: 'dust', amount: 3 } as never } }, { trait: 'dust' }, { trait: 'tone', on: false }],
    },
    { carrier: 'vhs', traits: [{ trait: 'tape-noise' }] },
    {
      carrier: 'film16',
      traits: [
        { trait: 'gate-frame', settings: { scale: 90, open: 0.4, corner: 4 } },
        { trait: 'dust', motions: { count: { motion: 'follow', of: 'gate-weave', amount: 3 } as never } },
        { trait: 'gate-weave' },
      ],
    },
  ],
};

describe('the wear of a look', () => {
  const { look: worn, left } = wearAlone(look);

  test('is what lies on the picture, in the lives it was of, in the file’s shape; the rest is told once', () => {
    expect(worn.lives.map(({ carrier, traits }) => [carrier, traits.map(({ trait }) => trait)])).toEqual([
      ['super8', ['grain', 'dust']],
      ['film16', ['gate-frame', 'dust']],
    ]);
    expect([worn.shape, worn.seed]).toEqual(['file', 3]);
    expect(left).toEqual(['Tone', 'Tape noise', 'Gate weave']);
  });

  test('leaves the picture where it is: the frame stands at its edge', () => {
    expect(worn.lives[1]!.traits[0]!.settings).toEqual({ scale: 100, open: 0, corner: 4 });
  });

  test('follows what it followed, where that is still there', () => {
    expect(worn.lives[0]!.traits[0]!.motions).toEqual({ rms: { motion: 'follow', of: 'dust', amount: 3 } });
    expect(worn.lives[1]!.traits[1]!.motions).toBeUndefined();
  });

  test('is a look that can be worn, of every look that ships', () => {
    for (const { look: shipped } of shippedLooks) expect(() => checkLook(JSON.parse(JSON.stringify(wearAlone(shipped).look)))).not.toThrow();
  });
});
