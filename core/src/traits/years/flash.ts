import { lightOf } from '../../frame/domain-rows';
import { rowAt } from '../../frame/surface';
import { bell } from '../../random/random';
import { colour, perMinute, pictures, readySettings, stops } from '../settings';
import { MID_GREY } from '../grey';
import { trait } from '../trait';

/** Pictures of the longest flash; more are held to it. */
const LONGEST_PICTURES = 48;

/** Light struck the film where it was loaded or cut: some pictures washed out, most at once, then less. */
export const flash = trait({
  id: 'flash',
  act: 'years',
  media: ['film'],
  name: 'Flash',
  says: 'Light struck the film: some pictures are washed out.',
  domain: 'linear',
  settings: {
    rate: perMinute({ name: 'How often', says: 'Flashes a minute', default: 3, max: 300 }),
    length: pictures({ name: 'Length', says: 'Pictures until it is gone', default: 5, min: 1, max: LONGEST_PICTURES }),
    amount: stops({ name: 'Amount', says: 'Stops over mid-grey at its height', default: 3, min: -2, max: 7 }),
    colour: colour({ name: 'Colour', says: 'Of the light, as a display shows it', default: [1, 0.81, 0.56] }),
  },
  footprint: 'point',
  events: { rate: (s) => s.rate / 60, length: (s, _drawn, rate) => s.length / rate, longest: LONGEST_PICTURES / 8 },
  presets: readySettings({ rate: 1, amount: 1.5 }, { rate: 60, amount: 5, length: 8 }),
  prepare({ engine }) {
    const k = engine.kernels;
    return ({ surface, settings: s, events }) => {
      for (const event of events) {
        const left = 1 - event.age / event.of;
        const light = MID_GREY * k.pow(2, s.amount) * event.scale * left * left * (1 + 0.15 * bell(event.seed, event.age));
        if (light <= 0) continue;
        for (let plane = 0; plane < 3; plane++) {
          const more = light * lightOf(k, s.colour[plane]!);
          for (let y = surface.top; y < surface.bottom; y++) k.affineRow(rowAt(surface, plane, y), surface.width, 1, more);
        }
      }
    };
  },
});
