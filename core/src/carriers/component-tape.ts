import { LINES_525, LINES_625, RATE_525, RATE_625, type Carrier } from './carrier';

const recorder = { sync: 6.8, white: 8.8, luma: 5.5 };

/** Tape of studios, on which luma and colour have tracks of their own, in both line standards. */
export const componentTape: readonly Carrier[] = [
  {
    id: 'component-tape',
    name: 'Component 525',
    says: 'Studio and news tape, 525 lines, colour on a track of its own.',
    medium: 'tape',
    raster: LINES_525,
    recorder,
    rate: RATE_525,
  },
  {
    id: 'component-tape625',
    name: 'Component 625',
    says: 'Studio and news tape, 625 lines, colour on a track of its own.',
    medium: 'tape',
    raster: LINES_625,
    recorder,
    rate: RATE_625,
  },
];
