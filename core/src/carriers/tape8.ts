import { LINES_525, LINES_625, RATE_525, RATE_625, type Carrier } from './carrier';

const recorder = { sync: 4.2, white: 5.4, luma: 3 };

/** 8 mm video in both line standards. */
export const tape8: readonly Carrier[] = [
  { id: 'tape8', name: '8 mm video 525', says: 'Camcorder tape, 525 lines.', medium: 'tape', raster: LINES_525, recorder, rate: RATE_525 },
  { id: 'tape8-625', name: '8 mm video 625', says: 'Camcorder tape, 625 lines.', medium: 'tape', raster: LINES_625, recorder, rate: RATE_625 },
];
