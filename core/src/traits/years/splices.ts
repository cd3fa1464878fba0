import type { ActiveEvent } from '../../events/events';
import { Placer } from '../../frame/placed';
import { bell, even } from '../../random/random';
import { smooth } from '../../shapes/smooth';
import { Stamp, type Mark, type RowPart } from '../../shapes/stamp';
import { perMinute, percentOfHeight, pictures, readySettings, share } from '../settings';
import { MOST_LOST, perSettings, trait, type Values } from '../trait';

/** Places along the line of glue where its width is drawn anew; between them it goes over smoothly. */
const RAGS = 40;
/** RMS by which its width differs along it. */
const RAGGED = 0.25;

/** What is left of the bump on the pictures after the join. */
const SETTLING = [1, 0.35, 0.1] as const;

/** Glue is a pale yellow. */
const GLUE = [0.8, 0.8, 0.62] as const;

const settings = {
  count: perMinute({ name: 'How often', says: 'Mean count in a minute', default: 4, max: 120 }),
  glue: share({ name: 'Glue', says: 'How much the line of glue covers', default: 0.55 }),
  width: percentOfHeight({ name: 'Width', says: 'Height of the line of glue', default: 1.1, min: 0.1, max: 10, step: 0.1 }),
  bump: percentOfHeight({ name: 'Bump', says: 'How far the picture jumps as the join goes through the gate, on the mean', default: 0.5, max: 10, step: 0.05 }),
  held: pictures({ name: 'Held', says: 'Pictures on which it shows', default: 2, min: 1, max: 8 }),
  lost: pictures({ name: 'Missing', says: 'Pictures that are lost at a join; the shot keeps its length and its sound', default: 0, max: MOST_LOST }),
};

/** Joins in the film: a line of glue across the picture for a picture or two, at its upper or lower edge. */
export const splices = trait({
  id: 'splices',
  act: 'years',
  media: ['film'],
  name: 'Splices',
  says: 'The film was cut and joined; the glue shows, the gate jumps and pictures may be missing.',
  domain: 'rgb',
  settings,
  footprint: (s) => (s.bump > 0 ? 'area' : 'point'),
  events: { rate: (s) => s.count / 60, length: (s, _drawn, rate) => s.held / rate, longest: 8 },
  loses: (s) => s.lost,
  idle: (s) => s.glue === 0 && s.bump === 0,
  presets: readySettings({ count: 1, glue: 0.3, bump: 0.2 }, { count: 40, glue: 0.9, width: 3, bump: 3, lost: 4 }),
  prepare({ engine, units, domain, own }) {
    const { width, height } = units;
    const stamp = own(new Stamp(engine));
    const placer = own(new Placer(engine, width, height));
    const joins = perSettings((s: Values<typeof settings>, events: readonly ActiveEvent[]) =>
      events.map((event): Mark => {
        const upper = even(event.seed, 1) < 0.5;
        // Where the join lies on the picture: a few hundredths from an edge, a little aslant, ragged.
        const middle = height * (upper ? 0.03 + 0.05 * even(event.seed, 2) : 0.97 - 0.05 * even(event.seed, 2));
        const slant = 0.006 * height * bell(event.seed, 3);
        const rags = Array.from({ length: RAGS + 1 }, (_, i) => bell(event.seed, 4, i));
        const fresh = event.age === 0 ? 1 : 0.45;
        const border = Math.max(1, 0.2 * s.width);
        const reach = 1.2 * s.width + Math.abs(slant) + 2;
        const box = { left: 0, right: width, top: Math.floor(middle - reach), bottom: Math.ceil(middle + reach) };
        const cover = ({ covers, count, left, y }: RowPart): boolean => {
          for (let n = 0; n < count; n++) {
            const x = left + n;
            const place = (x * RAGS) / width;
            const i = Math.floor(place);
            const ragged = RAGGED * (rags[i]! + (rags[i + 1]! - rags[i]!) * smooth(place - i));
            const half = (s.width / 2) * Math.max(0.3, 1 + ragged);
            const d = Math.abs(y + 0.5 - middle - slant * ((2 * x) / width - 1));
            covers[n] = Math.max(0, Math.min(1, 0.5 + (half - d) / border));
          }
          return true;
        };
        return { shape: { box, cover }, colour: GLUE, share: s.glue * fresh * Math.min(1, event.scale) };
      }),
    );
    return (pass) => {
      const { surface, settings: s, events } = pass;
      stamp.laySeen(surface, domain, joins(s, events));
      if (s.bump === 0) return;
      for (const event of events) {
        const left = SETTLING[event.age] ?? 0;
        if (left === 0) continue;
        const y = s.bump * (0.75 + 0.5 * even(event.seed, 6)) * (even(event.seed, 7) < 0.5 ? -1 : 1) * left * Math.min(1, event.scale);
        // Enlarged just so far that no edge is bared.
        placer.run(pass, { x: 0, y, turn: 0, zoom: 1 + (2 * Math.abs(y)) / height });
      }
    };
  },
});
