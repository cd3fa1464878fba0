import { rowAt } from '../../frame/surface';
import { bell, even } from '../../random/random';
import { percentOfHeight, perMinute, pictures, share } from '../settings';
import { trait } from '../trait';

/** Places along the line of glue where its width is drawn anew; between them it goes over smoothly. */
const RAGS = 40;

/** Joins in the film: a line of glue across the picture for a picture or two, at its upper or lower edge. */
export const splices = trait({
  id: 'splices',
  act: 'years',
  media: ['film'],
  name: 'Splices',
  says: 'The film was cut and joined; the glue shows and the gate jumps.',
  domain: 'display',
  settings: {
    count: perMinute({ name: 'How often', says: 'Mean count in a minute', default: 4, max: 120 }),
    glue: share({ name: 'Glue', says: 'How much the line of glue covers', default: 0.55 }),
    width: percentOfHeight({ name: 'Width', says: 'Height of the line of glue', default: 1.1, min: 0.1, max: 10, step: 0.1 }),
    held: pictures({ name: 'Held', says: 'Pictures on which it shows', default: 2, min: 1, max: 8 }),
  },
  footprint: 'point',
  events: { rate: (s) => s.count / 60, length: (s, _drawn, rate) => s.held / rate, longest: 8 },
  idle: (s) => s.glue === 0,
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const row = store();
    return ({ surface, settings: s, events }) => {
      for (const event of events) {
        const upper = even(event.seed, 1) < 0.5;
        // Where the join lies on the picture: a few hundredths from an edge, a little aslant, ragged.
        const middle = height * (upper ? 0.03 + 0.05 * even(event.seed, 2) : 0.97 - 0.05 * even(event.seed, 2));
        const slant = 0.006 * height * bell(event.seed, 3);
        const rags = Array.from({ length: RAGS + 1 }, (_, i) => bell(event.seed, 4, i));
        const fresh = event.age === 0 ? 1 : 0.45;
        for (let y = surface.top; y < surface.bottom; y++) {
          if (Math.abs(y + 0.5 - middle) > s.width + Math.abs(slant) + 2) continue;
          const at = row.at(surface.stride);
          const covers = engine.floats(at, width);
          for (let x = 0; x < width; x++) {
            const place = (x * RAGS) / width;
            const i = Math.floor(place);
            const t = place - i;
            const ragged = 0.25 * (rags[i]! + (rags[i + 1]! - rags[i]!) * t * t * (3 - 2 * t));
            const d = Math.abs(y + 0.5 - middle - slant * ((2 * x) / width - 1)) / (s.width * Math.max(0.15, 0.5 + 0.5 * ragged));
            covers[x] = Math.max(0, Math.min(1, (1 - d) * 2.5));
          }
          for (let plane = 0; plane < 3; plane++) k.layRow(rowAt(surface, plane, y), at, width, plane === 2 ? 0.62 : 0.8, s.glue * fresh * Math.min(1, event.scale));
        }
      }
    };
  },
});
