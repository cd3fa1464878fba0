import { lowPassTaps } from '../../frame/fir';
import { rowAt } from '../../frame/surface';
import { megahertz, readySettings } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  limit: megahertz({ name: 'Limit', says: 'Where fine detail has fallen by 3 dB; VHS holds about 3.0, at its slower speeds 2.6 and 2.2', default: 3, min: 0.5, max: 6 }),
};

/** The luma of a recorder or a channel, along the line. */
export const lumaBandwidth = trait({
  id: 'luma-bandwidth',
  act: 'stock',
  media: ['tape', 'air'],
  name: 'Luma bandwidth',
  says: 'Fine detail along the line is lost in the recorder.',
  domain: 'video',
  settings,
  footprint: 'line',
  limits: (s) => ({ name: 'luma', megahertz: s.limit }),
  presets: readySettings({ limit: 4.5 }, { limit: 1.2 }),
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width } = units;
    const [weights, padded] = [store(), store()];
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      const taps = lowPassTaps(s.limit, k);
      const reach = (taps.length - 1) / 2;
      return { count: taps.length, reach, weights: weights.floats(taps), row: padded.at((width + 2 * reach + 32) * 4) };
    });
    return ({ surface, settings: s }) => {
      const { count, reach, weights: w, row } = ofSettings(s);
      for (let y = surface.top; y < surface.bottom; y++) {
        const at = rowAt(surface, 0, y);
        k.padRow(row, at, width, reach);
        k.firRow(at, row, width, w, count);
      }
    };
  },
});
