import { cubicTaps } from '../../frame/resample';
import { rowAt } from '../../frame/surface';
import { decibels, megahertz, readySettings } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  gain: decibels({ name: 'Gain', says: 'How much more there is at its frequency', default: 4, max: 14 }),
  frequency: megahertz({ name: 'Frequency', says: 'Where it lifts most; edges ring at this pitch', default: 2, min: 0.6, max: 6 }),
};

/**
 * Detail made stronger along the line, as recorders and cameras do it: less the mean of what stands half a wave to either side. The response is
 * 1 + (g - 1) (1 - cos(2 pi f d)) / 2, whose peak g is where d is half a wave.
 */
export const peaking = trait({
  id: 'peaking',
  act: 'stock',
  media: ['tape', 'air'],
  needs: 'raster',
  name: 'Peaking',
  says: 'Edges along the line are made too sharp and ring.',
  domain: 'video',
  settings,
  footprint: 'line',
  idle: (s) => s.gain === 0,
  presets: readySettings({ gain: 1.5 }, { gain: 11 }),
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width } = units;
    const [weights, padded] = [store(), store()];
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      const boost = (k.pow(10, s.gain / 20) - 1) / 2;
      const away = 1 / (2 * s.frequency);
      const side = [-away, away].map((shift) => cubicTaps(1, shift, 1));
      const reach = Math.ceil(away) + 3;
      const taps = new Float32Array(2 * reach + 1);
      taps[reach] = 1 + boost;
      for (const { starts, weights: w } of side) w.forEach((v, i) => (taps[reach + starts[0]! + i]! -= (boost / 2) * v));
      return { taps: weights.floats(taps), count: taps.length, reach, row: padded.at((width + 2 * reach + 32) * 4) };
    });
    return ({ surface, settings: s }) => {
      const of = ofSettings(s);
      for (let y = surface.top; y < surface.bottom; y++) {
        const at = rowAt(surface, 0, y);
        k.padRow(of.row, at, width, of.reach);
        k.firRow(at, of.row, width, of.taps, of.count);
      }
    };
  },
});
