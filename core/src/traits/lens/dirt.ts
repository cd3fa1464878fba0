import { bell, even, hash } from '../../random/random';
import { speck } from '../../shapes/speck';
import { Stamp } from '../../shapes/stamp';
import { percentOfHeight, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  count: share({ name: 'How many', says: 'Marks on the glass', default: 5, max: 60, step: 1 }),
  size: percentOfHeight({ name: 'Size', says: 'Median width of a mark', default: 3.5, min: 0.2, max: 30, step: 0.1 }),
  soft: share({ name: 'Softness', says: 'How far out of focus the glass lies', default: 0.6 }),
  bright: share({ name: 'Bright', says: 'Share of marks that catch light', default: 0.3 }),
  opacity: share({ name: 'Opacity', says: 'How much light a mark takes, or gives', default: 0.45 }),
};

/** Marks on the glass before the camera: they stay where they are while the picture moves, with a focus of their own. */
export const dirt = trait({
  id: 'dirt',
  act: 'lens',
  name: 'Dirt on the glass',
  says: 'Marks on the lens stay in their place, out of focus.',
  domain: 'linear',
  settings,
  footprint: 'point',
  idle: (s) => s.count === 0 || s.opacity === 0,
  presets: readySettings({ count: 2, opacity: 0.25 }, { count: 24, opacity: 0.75 }),
  prepare({ engine, units, seed, own }) {
    const stamp = own(new Stamp(engine));
    const { width, height } = units;
    const marks = perSettings((s: Values<typeof settings>) =>
      Array.from({ length: Math.round(s.count) }, (_, i) => {
        const at = hash(seed, i);
        const shape = speck({ seed: at, x: even(at, 20) * width, y: even(at, 21) * height }, s.size, s.soft * 1.6, engine.kernels.exp);
        return { shape, bright: even(at, 7) < s.bright, share: s.opacity * Math.max(0.2, Math.min(1, 0.7 + 0.3 * bell(at, 8))) };
      }),
    );
    return ({ surface, settings: s }) => {
      // Dark marks hold light back; bright ones scatter what falls on them, a little warm.
      for (const mark of marks(s)) stamp.lay(surface, mark.shape, mark.bright ? [0.6, 0.57, 0.5] : [0.01, 0.01, 0.01], mark.share * (mark.bright ? 0.35 : 1));
    };
  },
});
