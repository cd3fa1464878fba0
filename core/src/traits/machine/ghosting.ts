import { cubicTaps } from '../../frame/resample';
import { rowAt } from '../../frame/surface';
import { decibels, microseconds, readySettings, toggle } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const delay = (name: string, value: number) => microseconds({ name, says: 'How late the copy comes: a detour of 300 m takes a microsecond', default: value, min: 0.1, max: 20 });
const level = (name: string, value: number) => decibels({ name, says: 'Strength of the copy against the picture; at -60 there is none', default: value, min: -60, max: -3 });
const negative = (name: string) => toggle({ name, says: 'The copy comes with its carrier upside down', default: false });

const settings = {
  delay: delay('Delay', 2.4),
  level: level('Level', -18),
  negative: negative('Negative'),
  secondDelay: delay('Second, delay', 5.2),
  secondLevel: level('Second, level', -60),
  secondNegative: negative('Second, negative'),
};
const NONE = -59.9;

/** The station comes a second time, off a hill or a gasworks: late copies of the picture to its right. */
export const ghosting = trait({
  id: 'ghosting',
  act: 'machine',
  media: ['air', 'tape'],
  needs: 'raster',
  name: 'Ghosting',
  says: 'The picture comes a second time, late, off a hill or a house.',
  domain: 'video',
  settings,
  footprint: 'line',
  idle: (s) => s.level <= NONE && s.secondLevel <= NONE,
  presets: readySettings({ level: -28 }, { level: -8, secondLevel: -14 }),
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width } = units;
    const [weights, padded, late] = [[store(), store()], store(), store()];
    const ofSettings = perSettings((s: Values<typeof settings>) =>
      [
        { delay: s.delay, level: s.level, sign: s.negative ? -1 : 1 },
        { delay: s.secondDelay, level: s.secondLevel, sign: s.secondNegative ? -1 : 1 },
      ].flatMap((ghost, i) => {
        if (ghost.level <= NONE) return [];
        const one = cubicTaps(1, -ghost.delay, 1);
        const pad = Math.abs(one.starts[0]!) + 8;
        return [{ start: one.starts[0]!, taps: one.taps, weights: weights[i]!.floats(one.weights), pad, scale: ghost.sign * k.pow(10, ghost.level / 20) }];
      }),
    );
    return ({ surface, settings: s }) => {
      const ghosts = ofSettings(s);
      const pad = Math.max(...ghosts.map((ghost) => ghost.pad));
      const at = padded.at((width + 2 * pad + 32) * 4);
      const copy = late.at((width + 32) * 4);
      for (let y = surface.top; y < surface.bottom; y++) {
        for (let plane = 0; plane < 3; plane++) {
          const row = rowAt(surface, plane, y);
          // All are copies of what was sent, not of one another; before the picture stands blanking.
          k.padRow(at, row, width, pad);
          engine.floats(at, pad).fill(0);
          for (const ghost of ghosts) {
            k.firRow(copy, at + (pad + ghost.start) * 4, width, ghost.weights, ghost.taps);
            k.addRow(row, copy, width, ghost.scale);
          }
        }
      }
    };
  },
});
