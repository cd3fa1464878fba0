import type { Carrier } from './carrier';

export const film16: Carrier = {
  id: 'film16',
  name: '16 mm',
  says: 'News, schools, documentaries.',
  medium: 'film',
  gate: { width: 9.65, height: 7.26 },
  rate: 24,
};
