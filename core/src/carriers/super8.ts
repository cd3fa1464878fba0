import type { Carrier } from './carrier';

export const super8: Carrier = {
  id: 'super8',
  name: 'Super 8',
  says: 'Cartridge film with small perforations and a larger picture.',
  medium: 'film',
  gate: { width: 5.46, height: 4.01 },
  rate: 18,
};
