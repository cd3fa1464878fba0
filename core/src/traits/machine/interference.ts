import { rowAt } from '../../frame/surface';
import { hertz, megahertz, percent, readySettings, share } from '../settings';
import { trait } from '../trait';

const settings = {
  frequency: megahertz({ name: 'Frequency', says: 'Of the strange carrier, against the picture’s own', default: 1.9, min: 0.05, max: 6 }),
  amount: percent({ name: 'Amount', says: 'Its strength, of white, either way', default: 2.5, max: 50, step: 0.1 }),
  slant: share({ name: 'Slant', says: 'Share of a wave by which it moves from line to line', default: 0.31, min: -0.5, max: 0.5 }),
  drift: hertz({ name: 'Drift', says: 'Waves a second that pass', default: 0.7, min: -30, max: 30 }),
};

/** A strange carrier beats with the picture's: fine slanted stripes. */
export const interference = trait({
  id: 'interference',
  act: 'machine',
  media: ['air', 'tape'],
  needs: 'raster',
  name: 'Interference',
  says: 'Another carrier gets in: a herringbone of fine stripes.',
  domain: 'video',
  settings,
  footprint: 'line',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 0.9 }, { amount: 14 }),
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width } = units;
    const rows = store();
    return ({ surface, seconds, settings: s }) => {
      const [phase, strength, wave, other] = [0, 1, 2, 3].map((n) => rows.at(4 * surface.stride) + n * surface.stride) as [number, number, number, number];
      k.fillRow(strength, width, s.amount);
      const moved = (seconds * s.drift) % 1;
      for (let y = surface.top; y < surface.bottom; y++) {
        k.fillRow(phase, width, s.frequency);
        engine.samples[phase >> 2] = (y * s.slant + moved) % 1;
        k.phaseRow(phase, phase, width);
        k.carrierRow(wave, other, phase, strength, width);
        k.addRow(rowAt(surface, 0, y), wave, width, 1);
      }
    };
  },
});
