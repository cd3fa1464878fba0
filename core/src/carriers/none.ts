import type { Carrier } from './carrier';

export const none: Carrier = {
  id: 'none',
  name: 'No carrier',
  medium: 'none',
  says: 'Neither gate nor raster: the picture as a file.',
};
