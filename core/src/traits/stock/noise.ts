import { WIDTH_TO_SIGMA } from '../../frame/blur';
import { NoiseField, type NoiseKind } from '../../frame/noise';
import { rowAt } from '../../frame/surface';
import { hash } from '../../random/random';
import { choice, percentOfHeight, readySettings, share, toggle } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  amount: share({ name: 'Amount', says: 'RMS of the noise against white', default: 0.015, max: 0.5, step: 0.001 }),
  kind: choice<NoiseKind>({
    name: 'Spectrum',
    says: 'How the noise is spread over coarse and fine',
    default: 'white',
    options: { white: 'white: even', pink: 'pink: more of the coarse', blue: 'blue: more of the fine' },
  }),
  size: percentOfHeight({ name: 'Size', says: 'Width of a clump; at 0 each pixel is a stranger to the next', default: 0, max: 5 }),
  colour: share({ name: 'Colour', says: 'How far red, green and blue differ; 0 is grey noise', default: 0 }),
  frozen: toggle({ name: 'Frozen', says: 'The same noise on every picture', default: false }),
};

/** Plain electronic noise, added to the signal. */
export const noise = trait({
  id: 'noise',
  act: 'stock',
  name: 'Noise',
  says: 'Plain electronic noise over the whole signal.',
  domain: 'display',
  settings,
  footprint: 'point',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 0.006 }, { amount: 0.08 }),
  prepare({ engine, units, seed, store, own }) {
    const k = engine.kernels;
    const { width } = units;
    const fields = [0, 1, 2, 3].map(() => own(new NoiseField(engine)));
    const stride = ((width + 7) & ~7) * 4;
    const rows = fields.map(() => store().at(stride));
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      for (const field of fields) field.shape(width, s.size / WIDTH_TO_SIGMA, s.kind);
      // The shared field and the own ones make unit variance together.
      return { own: s.colour * s.amount, shared: Math.sqrt(1 - s.colour * s.colour) * s.amount, share: fields[0]!.share };
    });
    return ({ surface, picture, settings: s }) => {
      const { own: alone, shared, share: left } = ofSettings(s);
      const shown = s.frozen ? 0 : picture;
      for (let y = surface.top; y < surface.bottom; y++) {
        if (shared > 0) fields[3]!.row(rows[3]!, hash(seed, shown, 3), y);
        for (let plane = 0; plane < 3; plane++) {
          const at = rowAt(surface, plane, y);
          if (shared > 0) k.addRow(at, rows[3]!, width, shared / left);
          if (alone === 0) continue;
          fields[plane]!.row(rows[plane]!, hash(seed, shown, plane), y);
          k.addRow(at, rows[plane]!, width, alone / left);
        }
      }
    };
  },
});
