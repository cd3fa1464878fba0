import { LINES_525, LINES_625, RATE_525, RATE_625, type Carrier } from './carrier';

/** One camera, a cable and a tube, in both line standards. */
export const closedCircuit: readonly Carrier[] = [
  { id: 'closed-circuit', name: 'Closed circuit 525', says: 'One camera, a cable and a tube, 525 lines.', medium: 'air', raster: LINES_525, rate: RATE_525 },
  { id: 'closed-circuit625', name: 'Closed circuit 625', says: 'One camera, a cable and a tube, 625 lines.', medium: 'air', raster: LINES_625, rate: RATE_625 },
];
