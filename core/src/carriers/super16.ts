import type { Carrier } from './carrier';

export const super16: Carrier = {
  id: 'super16',
  name: 'Super 16',
  says: '16 mm with the sound edge given to the picture.',
  medium: 'film',
  gate: { width: 11.76, height: 7.08 },
  rate: 24,
};
