import type { ActiveEvent } from '../../events/events';
import { bell, even } from '../../random/random';
import { smooth } from '../../shapes/smooth';
import { Stamp, type Mark, type RowPart } from '../../shapes/stamp';
import { percentOfHeight, perMinute, pictures, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

/** Places along the line of glue where its width is drawn anew; between them it goes over smoothly. */
const RAGS = 40;

/** Glue is a pale yellow. */
const GLUE = [0.8, 0.8, 0.62] as const;

const settings = {
  count: perMinute({ name: 'How often', says: 'Mean count in a minute', default: 4, max: 120 }),
  glue: share({ name: 'Glue', says: 'How much the line of glue covers', default: 0.55 }),
  width: percentOfHeight({ name: 'Width', says: 'Height of the line of glue', default: 1.1, min: 0.1, max: 10, step: 0.1 }),
  held: pictures({ name: 'Held', says: 'Pictures on which it shows', default: 2, min: 1, max: 8 }),
};

/** Joins in the film: a line of glue across the picture for a picture or two, at its upper or lower edge. */
export const splices = trait({
  id: 'splices',
  act: 'years',
  media: ['film'],
  name: 'Splices',
  says: 'The film was cut and joined; the glue shows and the gate jumps.',
  domain: 'rgb',
  settings,
  footprint: 'point',
  events: { rate: (s) => s.count / 60, length: (s, _drawn, rate) => s.held / rate, longest: 8 },
  idle: (s) => s.glue === 0,
  prepare({ engine, units, domain, own }) {
    const { width, height } = units;
    const stamp = own(new Stamp(engine));
    const joins = perSettings((s: Values<typeof settings>, events: readonly ActiveEvent[]) =>
      events.map((event): Mark => {
        const upper = even(event.seed, 1) < 0.5;
        // Where the join lies on the picture: a few hundredths from an edge, a little aslant, ragged.
        const middle = height * (upper ? 0.03 + 0.05 * even(event.seed, 2) : 0.97 - 0.05 * even(event.seed, 2));
        const slant = 0.006 * height * bell(event.seed, 3);
        const rags = Array.from({ length: RAGS + 1 }, (_, i) => bell(event.seed, 4, i));
        const fresh = event.age === 0 ? 1 : 0.45;
        const reach = s.width + Math.abs(slant) + 2;
        const box = { left: 0, right: width, top: Math.floor(middle - reach), bottom: Math.ceil(middle + reach) };
        const cover = ({ covers, count, left, y }: RowPart): boolean => {
          for (let n = 0; n < count; n++) {
            const x = left + n;
            const place = (x * RAGS) / width;
            const i = Math.floor(place);
            const ragged = 0.25 * (rags[i]! + (rags[i + 1]! - rags[i]!) * smooth(place - i));
            const d = Math.abs(y + 0.5 - middle - slant * ((2 * x) / width - 1)) / (s.width * Math.max(0.15, 0.5 + 0.5 * ragged));
            covers[n] = Math.max(0, Math.min(1, (1 - d) * 2.5));
          }
          return true;
        };
        return { shape: { box, cover }, colour: GLUE, share: s.glue * fresh * Math.min(1, event.scale) };
      }),
    );
    return ({ surface, settings: s, events }) => stamp.laySeen(surface, domain, joins(s, events));
  },
});
