import { Blur, WIDTH_TO_SIGMA } from '../../frame/blur';
import { wander } from '../../motion/wander';
import { hash } from '../../random/random';
import { smoothHeld } from '../../shapes/smooth';
import { hertz, perMinute, percentOfHeight, readySettings, seconds } from '../settings';
import { trait } from '../trait';

/** Longest spell, with its spread. */
const LONGEST = 30;
/** How far a spell has taken the focus away, 0 to 1: lost in its first third, found in its last. */
const lost = (t: number): number => smoothHeld(t * 3) * smoothHeld((1 - t) * 3);

/** A hand on the focus that loses it, hunts, and finds it again. */
export const focusHunt = trait({
  id: 'focus-hunt',
  act: 'lens',
  name: 'Focus hunt',
  says: 'Now and then the focus is lost, hunted for and found.',
  domain: 'linear',
  settings: {
    depth: percentOfHeight({ name: 'Depth', says: 'Half the width of a point’s image at half its height where the focus is lost farthest', default: 0.7, max: 8 }),
    rate: hertz({ name: 'Rate', says: 'How fast it is hunted for within a spell', default: 1.5, max: 12 }),
    spells: perMinute({ name: 'Spells', says: 'How often it is lost', default: 8, max: 120 }),
    length: seconds({ name: 'Length', says: 'How long a spell lasts, about', default: 1.6, min: 0.1, max: 20, step: 0.1 }),
  },
  footprint: 'area',
  events: { rate: (s) => s.spells / 60, length: (s, drawn) => s.length * (0.5 + drawn), longest: LONGEST },
  idle: (s) => s.depth === 0,
  presets: readySettings({ depth: 0.3, spells: 3 }, { depth: 2.4, spells: 30 }),
  prepare({ engine, units, rate, own }) {
    const k = engine.kernels;
    const blur = own(new Blur(engine, units.width, units.height));
    return ({ surface, settings: s, events, spare, swap }) => {
      const far = Math.max(
        ...events.map((event) => {
          const hunting = Math.abs(0.75 + 0.35 * wander(k, hash(event.seed, 1), event.age / rate, s.rate));
          return lost((event.age + 0.5) / event.of) * Math.min(1, hunting) * event.scale;
        }),
      );
      const sigma = (2 * s.depth * far) / WIDTH_TO_SIGMA;
      if (sigma <= 0) return;
      for (let plane = 0; plane < 3; plane++) {
        blur.run(spare[plane]!, surface.planes[plane]!, surface.stride, sigma);
        swap(plane);
      }
    };
  },
});
