import type { Carrier } from './carrier';

export const film16: Carrier = {
  id: 'film16',
  name: '16 mm',
  says: 'News, schools, documentaries.',
  medium: 'film',
  gate: { width: 9.65, height: 7.26 },
  unsteadiness: 0.25,
  film: {
    pitch: 7.62,
    perforations: [
      { x: -6.16, y: 3.81 },
      { x: 6.16, y: 3.81 },
    ],
    perforation: { width: 1.829, height: 1.27 },
    edges: { left: -7.98, right: 7.98 },
  },
  rate: 24,
};
