import type { Carrier } from './carrier';

export const super16: Carrier = {
  id: 'super16',
  name: 'Super 16',
  says: '16 mm with the sound edge given to the picture.',
  medium: 'film',
  gate: { width: 11.76, height: 7.08 },
  unsteadiness: 0.22,
  film: { pitch: 7.62, perforations: [{ x: -7.17, y: 3.81 }], perforation: { width: 1.829, height: 1.27 }, edges: { left: -8.99, right: 6.96 } },
  rate: 24,
};
