import { cubicTaps } from '../../frame/resample';
import { joined, lowPassTaps } from '../../frame/fir';
import { rowAt } from '../../frame/surface';
import { lines, megahertz, nanoseconds } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  limit: megahertz({ name: 'Limit', says: 'Where colour along the line has fallen by 3 dB; VHS holds about 0.4 to 0.5', default: 0.5, min: 0.1, max: 3 }),
  delay: nanoseconds({ name: 'Delay', says: 'How much later the colour comes than the luma', default: 300, max: 4000 }),
  down: lines({ name: 'Down', says: 'Lines of the raster that the colour sits lower; each copy adds one', default: 1, max: 12 }),
};

/** Half the filter's length, in cycles of its limit. */
const GENTLE = 0.95;

/** The colour differences of a recorder: narrow, late, and a line or two too low. */
export const chromaBandwidth = trait({
  id: 'chroma-bandwidth',
  act: 'stock',
  media: ['tape', 'air'],
  name: 'Chroma bandwidth',
  says: 'Colour smears along the line and sits late and low.',
  domain: 'video',
  settings,
  footprint: 'area',
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const [weights, padded] = [store(), store()];
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      // Gentle, as a recorder's colour filter is: it does not ring.
      const pass = lowPassTaps(s.limit, k, GENTLE);
      const late = cubicTaps(1, -s.delay, 1);
      const taps = joined(pass, late.weights);
      // The first tap reads this many samples to the right of the target's own place.
      const start = late.starts[0]! - (pass.length - 1) / 2;
      const pad = Math.abs(start) + taps.length + 8;
      return { count: taps.length, start, pad, weights: weights.floats(taps), row: padded.at((width + 2 * pad + 32) * 4) };
    });
    return (pass) => {
      const { surface, spare, settings: s } = pass;
      const { count, start, pad, weights: w, row } = ofSettings(s);
      const lower = Math.round(s.down);
      for (const plane of [1, 2]) {
        for (let y = 0; y < height; y++) {
          k.padRow(row, rowAt(surface, plane, Math.max(0, y - lower)), width, pad);
          k.firRow(spare[plane]! + y * surface.stride, row + (pad + start) * 4, width, w, count);
        }
        pass.swap(plane);
      }
    };
  },
});
