import { choice, perSecond } from '../settings';
import { trait } from '../trait';

type Which = 'first' | 'middle' | 'last';
/** Where among them it lies. */
const PLACES = { first: 0, middle: 0.5, last: 1 } as const satisfies Record<Which, number>;

/**
 * Pictures a second of the carrier, each held in the file until the next is due. It changes no pixel; the plan counts the
 * carrier's pictures by it, so that everything of this life holds with the picture. See score/cadence.ts.
 */
export const cadence = trait({
  id: 'cadence',
  act: 'stock',
  name: 'Cadence',
  says: 'The carrier holds fewer pictures a second than the file; each stays until the next.',
  domain: 'any',
  settings: {
    rate: perSecond({ name: 'Rate', says: 'Pictures a second on the carrier; a rate above the file’s changes nothing', default: 18, min: 1, max: 60, step: 1 }),
    which: choice<Which>({
      name: 'Held',
      says: 'Which of the pictures of the file that fall on one of the carrier’s it takes',
      default: 'first',
      options: { first: 'the first', middle: 'the middle one', last: 'the last' },
    }),
  },
  footprint: 'point',
  cadence: (s) => ({ rate: s.rate, place: PLACES[s.which] }),
  // A rate that is the carrier's own goes along with it.
  onto: ({ rate }, from, to) =>
    rate === from.rate && to.rate && to.rate !== rate
      ? { settings: { rate: to.rate }, says: `went from ${rate} to ${to.rate} pictures a second, as is usual on ${to.name}.` }
      : undefined,
  prepare: () => () => undefined,
});
