import type { Carrier } from './carrier';

export const film8: Carrier = {
  id: 'film8',
  name: 'Regular 8',
  says: 'Amateur film from 1932 on, perforated on one edge.',
  medium: 'film',
  gate: { width: 4.5, height: 3.3 },
  rate: 16,
};
