import type { Carrier } from './carrier';

export const none: Carrier = {
  id: 'none',
  name: 'No carrier',
  says: 'Neither gate nor raster: the picture as a file.',
};
