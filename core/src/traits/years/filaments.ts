import { bell, even, hash } from '../../random/random';
import { Stamp, type Mark } from '../../shapes/stamp';
import { stroke } from '../../shapes/stroke';
import { hertz, micrometres, perPicture, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  amount: perPicture({ name: 'Amount', says: 'Threads on a picture', default: 30, max: 300, step: 1 }),
  contrast: share({ name: 'Contrast', says: 'How far a thread stands out', default: 0.25 }),
  width: micrometres({ name: 'Width', says: 'Of a thread on the film', default: 6, min: 1, max: 40 }),
  dark: share({ name: 'Dark', says: 'Share that is dark', default: 0.35 }),
  rate: hertz({ name: 'Rate', says: 'How often they are others; 0 is on each picture', default: 0, max: 30 }),
};

/** Fine random threads of wear all over, mostly along the film: what many runs through a machine leave. */
export const filaments = trait({
  id: 'filaments',
  act: 'years',
  media: ['film'],
  name: 'Filaments',
  says: 'Fine threads of wear lie all over, mostly along the film.',
  domain: 'rgb',
  settings,
  footprint: 'point',
  idle: (s) => s.amount === 0 || s.contrast === 0,
  presets: readySettings({ amount: 8, contrast: 0.12 }, { amount: 180, contrast: 0.6, width: 12 }),
  prepare({ engine, units, domain, seed, own }) {
    const stamp = own(new Stamp(engine));
    const { width, height } = units;
    const threads = perSettings((s: Values<typeof settings>, turn: number) => {
      const whole = Math.floor(s.amount);
      const count = whole + (even(seed, turn, -1) < s.amount - whole ? 1 : 0);
      return Array.from({ length: count }, (_, i): Mark => {
        const at = hash(seed, turn, i);
        const long = height * 0.02 * engine.kernels.exp(1.1 * bell(at, 1));
        const [x, y] = [even(at, 2) * width, even(at, 3) * height];
        const lean = 0.05 * bell(at, 4) * long;
        const bend = 0.012 * bell(at, 5) * long;
        const line = { xs: [x - lean, x + bend, x + lean], ys: [y - long / 2, y, y + long / 2] };
        const value = even(at, 6) < s.dark ? 0.05 : 0.95;
        return { shape: stroke(line, s.width * (0.5 + even(at, 7)), 1, 0.8), colour: [value, value, value], share: s.contrast * (0.4 + 0.6 * even(at, 8)) };
      });
    });
    return ({ surface, settings: s, picture, seconds }) => stamp.laySeen(surface, domain, threads(s, s.rate > 0 ? Math.floor(seconds * s.rate + 1e-9) : picture));
  },
});
