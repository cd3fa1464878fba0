import { LINES_525, LINES_625, RATE_525, RATE_625, type Carrier } from './carrier';

/** A picture that came through the air, in both line standards. */
export const broadcast: readonly Carrier[] = [
  { id: 'broadcast', name: 'Broadcast 525', says: 'Through the air, 525 lines.', medium: 'air', raster: LINES_525, rate: RATE_525 },
  { id: 'broadcast625', name: 'Broadcast 625', says: 'Through the air, 625 lines.', medium: 'air', raster: LINES_625, rate: RATE_625 },
];
