import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { lookOf, newEngine, painted, rms, sameBits, wear } from '../testing';
import { checkLook } from './check';
import { shippedLooks } from '../looks';
import type { Look } from './look';
import { mixLooks } from './mix';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const warm = lookOf([
  { trait: 'saturation', settings: { amount: 1.5 } },
  { trait: 'grain', settings: { rms: 4 } },
  { trait: 'wash', settings: { colour: [1, 0.5, 0] } },
]);
const cold: Look = {
  ...lookOf([
    { trait: 'saturation', settings: { amount: 0.5 } },
    { trait: 'flicker', strength: 0.8 },
    { trait: 'grain', settings: { rms: 20 } },
    { trait: 'wash', settings: { colour: [0, 0.5, 1] }, on: false },
  ]),
  name: 'cold',
};

describe('a look between two', () => {
  test('is one of them at each end', () => {
    expect(mixLooks(warm, cold, 0)).toBe(warm);
    expect(mixLooks(warm, cold, 1)).toBe(cold);
  });

  test('has the settings between, and fades what only one has', () => {
    const [life] = mixLooks(warm, cold, 0.25).lives;
    expect(life!.traits.map(({ trait }) => trait)).toEqual(['saturation', 'flicker', 'grain', 'wash']);
    const [saturation, flicker, grain, wash] = life!.traits;
    expect(saturation!.settings!.amount).toBe(1.25);
    expect(grain!.settings!.rms).toBe(8);
    expect(flicker!.strength).toBe(0.2);
    expect(wash!.strength).toBe(0.75);
    expect(wash!.settings!.colour).toEqual([0.75, 0.5, 0.25]);
  });

  test('goes from one picture to the other: nearer to each the more of it there is', () => {
    const frame = painted(64, 48, (x, y) => [0.2 + x / 100, 0.5, 0.8 - y / 100]);
    const of = (share: number): Float32Array => {
      const planes = wear(
        engine,
        mixLooks(
          { ...warm, lives: [{ carrier: 'super8', traits: [warm.lives[0]!.traits[0]!] }] },
          { ...cold, lives: [{ carrier: 'super8', traits: [cold.lives[0]!.traits[0]!] }] },
          share,
        ),
        frame,
      );
      const all = new Float32Array(planes.length * planes[0]!.length);
      planes.forEach((plane, i) => all.set(plane, i * plane.length));
      return all;
    };
    const from = of(0);
    const away = [0.25, 0.5, 0.75, 1].map((share) => rms(of(share).map((v, i) => v - from[i]!)));
    expect([...away].sort((a, b) => a - b)).toEqual(away);
    expect(away[0]).toBeGreaterThan(0.1 * away[3]!);
  });

  test('what follows a trait of the first goes on following it, and the same wear falls at every share', () => {
    const follows = lookOf([{ trait: 'splices' }, { trait: 'gate-weave', motions: { sideways: { motion: 'follow', of: 'splices', gain: 1 } } }]);
    const other = lookOf([{ trait: 'dust' }, { trait: 'splices' }]);
    for (const share of [0.2, 0.8]) {
      const mixed = mixLooks(follows, other, share);
      expect(() => checkLook(JSON.parse(JSON.stringify(mixed)))).not.toThrow();
      expect(mixed.lives[0]!.traits.find(({ trait }) => trait === 'gate-weave')!.motions).toEqual({ sideways: { motion: 'follow', of: 'splices', gain: 1 } });
      expect(mixed.seed).toBe(follows.seed);
    }
  });

  test('of any two that ship is a look, at any share, and renders', () => {
    const frame = painted(48, 36, (x) => x / 48);
    const all = shippedLooks.map(({ look }) => look);
    all.forEach((one, i) => {
      const other = all[(i * 7 + 3) % all.length]!;
      for (const share of [0.3, 0.5, 0.9]) expect(() => checkLook(JSON.parse(JSON.stringify(mixLooks(one, other, share))))).not.toThrow();
      if (i % 6 === 0) expect(sameBits(wear(engine, mixLooks(one, other, 0.4), frame, 7), wear(engine, mixLooks(one, other, 0.4), frame, 7))).toBe(true);
    });
  });
});
