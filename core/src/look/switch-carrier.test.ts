import { describe, expect, test } from '@jest/globals';
import { carriers } from '../carriers';
import '../traits';
import { checkLook } from './check';
import { LOOK_SCHEMA, type Look } from './look';
import { switchCarrier } from './switch-carrier';

const look = (carrier: string, ...traits: Look['lives'][number]['traits']): Look => ({ schema: LOOK_SCHEMA, shape: 'file', name: 'test', seed: 1, lives: [{ carrier, traits }] });

describe('a look goes to another carrier', () => {
  test('what is set on the film stays; steadiness and rate go along, and that is said', () => {
    const before = look(
      'super8',
      { trait: 'grain', settings: { size: 3 } },
      { trait: 'cadence', settings: { rate: 18 } },
      { trait: 'gate-weave', settings: { sideways: 0.3, upDown: 0.4, shake: 0.1 } },
      { trait: 'dust', settings: { size: 50 } },
    );
    const { look: after, changes } = switchCarrier(before, 0, 'film16');
    const [grain, cadence, weave, dust] = after.lives[0]!.traits;
    expect([grain, dust]).toEqual([before.lives[0]!.traits[0], before.lives[0]!.traits[3]]);
    expect(cadence!.settings).toEqual({ rate: 24 });
    expect(weave!.settings).toEqual({ sideways: 0.15, upDown: 0.2, shake: 0.05 });
    expect(changes).toHaveLength(2);
    expect(changes.join()).toMatch(/18 to 24 pictures a second.*|upDown/);
    expect(changes.join()).toContain('up and down 0.4 became 0.2 % of the height');
    expect(() => checkLook(after)).not.toThrow();
  });

  test('a rate of one’s own stays', () => {
    const { look: after, changes } = switchCarrier(look('super8', { trait: 'cadence', settings: { rate: 12 } }), 0, 'film35');
    expect(after.lives[0]!.traits[0]!.settings).toEqual({ rate: 12 });
    expect(changes).toEqual([]);
  });

  test('to tape: what only film has is off, with its settings; back on film it can be turned on again', () => {
    const before = look('super8', { trait: 'grain', settings: { size: 3 } }, { trait: 'softness' }, { trait: 'splices', on: false });
    const { look: after, changes } = switchCarrier(before, 0, carriers.find((c) => c.medium === 'tape')!.id);
    expect(after.lives[0]!.traits).toEqual([{ trait: 'grain', settings: { size: 3 }, on: false }, { trait: 'softness' }, { trait: 'splices', on: false }]);
    expect(changes).toHaveLength(1);
    expect(changes[0]).toMatch(/^Grain is off/);
    const more = switchCarrier(look('super8', { trait: 'grain' }, { trait: 'dust' }, { trait: 'splices' }), 0, carriers.find((c) => c.medium === 'tape')!.id);
    expect(more.changes).toEqual([expect.stringMatching(/^Grain, Dust and Splices are off: .* Their settings are kept\.$/)]);
  });

  test('no such life, no such carrier', () => {
    expect(() => switchCarrier(look('super8'), 3, 'film16')).toThrow('there is no life 4');
    expect(() => switchCarrier(look('super8'), 0, 'wax')).toThrow('no carrier "wax"');
  });
});
