import { perSecond } from '../settings';
import { trait } from '../trait';

/**
 * Pictures a second of the carrier, each held in the file until the next is due. It changes no pixel; the plan counts the
 * carrier's pictures by it, so that everything of this life holds with the picture. See plan/cadence.ts.
 */
export const cadence = trait({
  id: 'cadence',
  act: 'stock',
  name: 'Cadence',
  says: 'The carrier holds fewer pictures a second than the file; each stays until the next.',
  domain: 'any',
  settings: {
    rate: perSecond({ name: 'Rate', says: 'Pictures a second on the carrier; a rate above the file’s changes nothing', default: 18, min: 1, max: 60, step: 1 }),
  },
  footprint: 'point',
  cadence: (s) => s.rate,
  prepare: () => () => undefined,
});
