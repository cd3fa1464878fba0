import type { Carrier } from './carrier';

export const super8: Carrier = {
  id: 'super8',
  name: 'Super 8',
  says: 'Cartridge film with small perforations and a larger picture.',
  medium: 'film',
  gate: { width: 5.46, height: 4.01 },
  unsteadiness: 0.5,
  film: { pitch: 4.234, perforations: [{ x: -3.42, y: 0 }], perforation: { width: 0.914, height: 1.143 }, edges: { left: -4.39, right: 3.59 } },
  rate: 18,
};
