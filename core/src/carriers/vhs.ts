import { LINES_525, LINES_625, RATE_525, RATE_625, type Carrier } from './carrier';

/** VHS in both line standards at its three speeds; the slower the tape, the less of the luma band is left (3.0, 2.6, 2.2 MHz). */
const SPEEDS = [
  ['', 'standard speed', 3],
  ['-long', 'half the speed, twice the time', 2.6],
  ['-extended', 'a third of the speed, three times the time', 2.2],
] as const;

export const vhs: readonly Carrier[] = SPEEDS.flatMap(([id, says, luma]): Carrier[] => [
  {
    id: `vhs${id}`,
    name: `VHS 525${id.replace('-', ' ')}`,
    says: `Home tape, 525 lines, ${says}.`,
    medium: 'tape',
    raster: LINES_525,
    recorder: { sync: 3.4, white: 4.4, luma },
    rate: RATE_525,
  },
  {
    id: `vhs625${id}`,
    name: `VHS 625${id.replace('-', ' ')}`,
    says: `Home tape, 625 lines, ${says}.`,
    medium: 'tape',
    raster: LINES_625,
    recorder: { sync: 3.8, white: 4.8, luma },
    rate: RATE_625,
  },
]);
