import type { ActiveEvent } from '../../events/events';
import { bell, even } from '../../random/random';
import { Stamp, type Mark } from '../../shapes/stamp';
import { anyWay, centred, fibre, stroke } from '../../shapes/stroke';
import { micrometres, millimetres, perMinute, pictures, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

/** Pictures of the longest stay. */
const LONGEST_PICTURES = 48;

const settings = {
  count: perMinute({ name: 'How many', says: 'Fibres a minute', default: 40, max: 3000 }),
  length: millimetres({ name: 'Length', says: 'Of a fibre on the film, about', default: 0.7, min: 0.05, max: 12 }),
  width: micrometres({ name: 'Width', says: 'Of a fibre on the film', default: 14, min: 2, max: 120, step: 1 }),
  curl: share({ name: 'Curl', says: '0 is straight, 1 goes round in a loop', default: 0.45 }),
  bright: share({ name: 'Bright', says: 'Share that is bright, as from a negative', default: 0.2 }),
  soft: share({ name: 'Soft', says: 'How far out of focus they lie', default: 0.3 }),
  opacity: share({ name: 'Opacity', says: 'Share of the light that a fibre holds back', default: 0.8 }),
  held: pictures({ name: 'Held', says: 'Pictures on which one lies', default: 1, min: 1, max: LONGEST_PICTURES }),
};

/** Fibres that lie on the film for a picture or a few, each bent in its own way. */
export const hairs = trait({
  id: 'hairs',
  act: 'years',
  media: ['film'],
  name: 'Hairs',
  says: 'Fibres and hairs lie on the film.',
  domain: 'rgb',
  settings,
  footprint: 'point',
  events: { place: 'both', rate: (s) => s.count / 60, length: (s, _drawn, rate) => s.held / rate, longest: LONGEST_PICTURES / 8 },
  idle: (s) => s.opacity === 0,
  presets: readySettings({ count: 8 }, { count: 600, length: 1.6, width: 22 }),
  prepare({ engine, units, domain, own }) {
    const k = engine.kernels;
    const stamp = own(new Stamp(engine));
    const hairsOf = perSettings((s: Values<typeof settings>, events: readonly ActiveEvent[]) =>
      events.map((event): Mark => {
        const length = s.length * k.exp(0.45 * bell(event.seed, 11));
        const line = centred(fibre(k, event.seed, { x: 0, y: 0, way: anyWay(event.seed) }, length, s.curl), event.x * units.width, event.y * units.height);
        const width = s.width * (0.7 + 0.6 * even(event.seed, 12));
        const value = even(event.seed, 7) < s.bright ? 0.93 : 0.04;
        return { shape: stroke(line, width, 1 + 2 * s.soft * s.width, 0.45), colour: [value, value, value], share: Math.min(1, event.scale), opacity: s.opacity };
      }),
    );
    return ({ surface, settings: s, events }) => stamp.laySeen(surface, domain, hairsOf(s, events));
  },
});
