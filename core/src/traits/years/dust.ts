import type { ActiveEvent } from '../../events/events';
import { even } from '../../random/random';
import { speck } from '../../shapes/speck';
import { Stamp, type Mark } from '../../shapes/stamp';
import { colour, micrometres, perPicture, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

/** Brightness of a speck that lay on the negative. */
const BRIGHT = 0.94;

const settings = {
  count: perPicture({ name: 'How many', says: 'Mean count on a picture', default: 1.5, max: 60 }),
  size: micrometres({ name: 'Size', says: 'Median width of a speck on the film', default: 40, min: 5, max: 400, step: 1 }),
  bright: share({ name: 'Bright', says: 'Share that is bright, as from a dirty negative', default: 0.25 }),
  soft: share({ name: 'Soft', says: 'How far out of focus the specks lie', default: 0.5 }),
  translucent: share({ name: 'Translucent', says: 'Share of the specks that light shines through in part', default: 0.4 }),
  opacity: share({ name: 'Opacity', says: 'Share of the light that a speck holds back, if it is not translucent', default: 0.85 }),
  colour: colour({ name: 'Colour', says: 'Of dark specks', default: [0.03, 0.03, 0.03] }),
};

/** Specks of dirt, new on each picture: sizes lognormal, shapes irregular, no two alike. */
export const dust = trait({
  id: 'dust',
  act: 'years',
  media: ['film'],
  name: 'Dust',
  says: 'Specks of dirt lie on the film, others on each picture.',
  domain: 'rgb',
  settings,
  footprint: 'point',
  events: { place: 'both', rate: (s, pictures) => s.count * pictures, length: () => 0, longest: 0 },
  idle: (s) => s.opacity === 0,
  presets: readySettings({ count: 0.4 }, { count: 24, size: 70 }),
  prepare({ engine, units, domain, own }) {
    const stamp = own(new Stamp(engine));
    const specks = perSettings((s: Values<typeof settings>, events: readonly ActiveEvent[]) =>
      events.map((event): Mark => {
        const shape = speck({ seed: event.seed, x: event.x * units.width, y: event.y * units.height }, s.size, s.soft, engine.kernels.exp);
        const bright = even(event.seed, 7) < s.bright;
        return {
          shape,
          colour: bright ? [BRIGHT, BRIGHT, BRIGHT] : s.colour,
          share: Math.min(1, event.scale),
          opacity: s.opacity * (even(event.seed, 9) < s.translucent ? 0.25 + 0.6 * even(event.seed, 10) : 1),
        };
      }),
    );
    return ({ surface, settings: s, events }) => stamp.laySeen(surface, domain, specks(s, events));
  },
});
