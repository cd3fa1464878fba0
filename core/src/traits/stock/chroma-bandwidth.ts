import { LINES_525 } from '../../carriers/carrier';
import { cubicTaps } from '../../frame/resample';
import { joined, lowPassTaps } from '../../frame/fir';
import { NARROW, NarrowFilter } from '../../frame/narrow-filter';
import { rowAt } from '../../frame/surface';
import { decibels, lines, megahertz, nanoseconds, readySettings } from '../settings';
import { perSettings, trait, type Pass, type Values } from '../trait';

const settings = {
  limit: megahertz({ name: 'Limit', says: 'Where colour along the line has fallen by 3 dB; VHS holds about 0.4 to 0.5', default: 0.5, min: 0.1, max: 3 }),
  delay: nanoseconds({ name: 'Delay', says: 'How much later the colour comes than the luma', default: 300, max: 4000 }),
  down: lines({ name: 'Down', says: 'Lines of the raster that the colour sits lower; each copy adds one', default: 1, max: 12 }),
  crosstalk: decibels({
    name: 'Crosstalk',
    says: 'Colour of the neighbouring track before the recorder’s comb: seen where colours change from line to line; -60 is none',
    default: -60,
    min: -60,
    max: -6,
  }),
};
/** From here down there is no neighbour, and no comb against it. */
const NO_CROSSTALK = -60;
/** Lines of the picture from a line to the next of its field. */
const FIELD = 2;

/** Half the filter's length, in cycles of its limit. */
const GENTLE = 0.95;

/** The colour differences of a recorder: narrow, late, and a line or two too low. */
export const chromaBandwidth = trait({
  id: 'chroma-bandwidth',
  act: 'stock',
  media: ['tape', 'air'],
  name: 'Chroma bandwidth',
  says: 'Colour smears along the line and sits late and low.',
  domain: 'video',
  settings,
  footprint: 'area',
  limits: (s) => ({ name: 'colour', megahertz: s.limit }),
  presets: readySettings({ limit: 1, delay: 100, down: 0 }, { limit: 0.25, delay: 900, down: 3, crosstalk: -22 }),
  prepare({ engine, units, carrier, store, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const [weights, padded] = [store(), store()];
    const narrow = own(new NarrowFilter(engine, width));
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      // Gentle, as a recorder's colour filter is: it does not ring.
      const pass = lowPassTaps(s.limit, k, GENTLE);
      const late = cubicTaps(1, -s.delay, 1);
      const taps = joined(pass, late.weights);
      // The first tap reads this many samples to the right of the target's own place.
      const start = late.starts[0]! - (pass.length - 1) / 2;
      const pad = Math.abs(start) + taps.length + 8;
      if (s.limit <= NARROW) narrow.aim(taps, start);
      return { count: taps.length, start, pad, weights: weights.floats(taps), row: padded.at((width + 2 * pad + 32) * 4) };
    });
    /**
     * The colour carrier is turned by quarters from line to line, on both tracks in opposite senses (525 lines) or on one of them (625), so that against the track that is
     * played its neighbour turns by two quarters a line, or by one. Lines of a field in which the neighbour is upside down, one or two apart, are added: it cancels where
     * its colour is the same on both, and the played colour loses what changes from one to the other.
     */
    const comb = ({ surface, spare, swap, picture, settings: s }: Pass<typeof settings>): void => {
      const quarters = carrier.raster?.height === LINES_525.height ? 2 : 1;
      const apart = FIELD * (2 / quarters);
      const level = k.pow(10, s.crosstalk / 20) / 2;
      const { stride } = surface;
      const row = (plane: number, y: number): number => surface.planes[plane]! + Math.max(0, Math.min(height - 1, y)) * stride;
      for (let y = 0; y < height; y++) {
        const turn = (((Math.floor(y / FIELD) + picture) * quarters) % 4) as 0 | 1 | 2 | 3;
        for (const plane of [1, 2]) {
          // A quarter makes one colour difference of the other.
          const from = turn % 2 ? 3 - plane : plane;
          const sign = turn === 0 || (turn === 1 && plane === 2) || (turn === 3 && plane === 1) ? level : -level;
          // The neighbouring track is the other field: it lies a line below.
          k.combRow(spare[plane]! + y * stride, row(plane, y), row(plane, y - apart), row(from, y + 1), row(from, y + 1 - apart), width, sign);
        }
      }
      swap(1);
      swap(2);
    };
    return (pass) => {
      const { surface, spare, settings: s } = pass;
      const { count, start, pad, weights: w, row } = ofSettings(s);
      const lower = Math.round(s.down);
      for (const plane of [1, 2]) {
        for (let y = 0; y < height; y++) {
          const [from, to] = [rowAt(surface, plane, Math.max(0, y - lower)), spare[plane]! + y * surface.stride];
          if (s.limit <= NARROW) narrow.run(to, from);
          else {
            k.padRow(row, from, width, pad);
            k.firRow(to, row + (pad + start) * 4, width, w, count);
          }
        }
        pass.swap(plane);
      }
      if (s.crosstalk > NO_CROSSTALK) comb(pass);
    };
  },
});
