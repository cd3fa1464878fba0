import type { Carrier } from './carrier';

export const film35: Carrier = {
  id: 'film35',
  name: '35 mm academy',
  says: 'Cinema film.',
  medium: 'film',
  gate: { width: 20.96, height: 15.29 },
  rate: 24,
};
