import type { Carrier } from './carrier';

export const film35: Carrier = {
  id: 'film35',
  name: '35 mm academy',
  says: 'Cinema film.',
  medium: 'film',
  gate: { width: 20.96, height: 15.29 },
  unsteadiness: 0.1,
  film: {
    pitch: 19,
    perforations: [-15.35, 12.83].flatMap((x) => [-7.125, -2.375, 2.375, 7.125].map((y) => ({ x, y }))),
    perforation: { width: 2.794, height: 1.981 },
    edges: { left: -18.75, right: 16.23 },
  },
  rate: 24,
};
