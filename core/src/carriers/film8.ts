import type { Carrier } from './carrier';

export const film8: Carrier = {
  id: 'film8',
  name: 'Regular 8',
  says: 'Amateur film from 1932 on, perforated on one edge.',
  medium: 'film',
  gate: { width: 4.5, height: 3.3 },
  unsteadiness: 0.6,
  film: { pitch: 3.81, perforations: [{ x: -3.4, y: 1.905 }], perforation: { width: 1.83, height: 1.27 }, edges: { left: -5.22, right: 2.76 } },
  rate: 16,
};
