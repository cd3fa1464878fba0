import { lowPassTaps } from '../../frame/fir';
import { lineHold } from '../../frame/line-hold';
import { RowShift } from '../../frame/row-shift';
import { rowAt } from '../../frame/surface';
import { hash } from '../../random/random';
import { decibels, lines as lineCount, megahertz, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  amount: decibels({ name: 'S/N', says: 'White against the RMS of the noise; 45 is a near station, 30 a far one, 15 hardly one', default: 32, min: 3, max: 60 }),
  band: megahertz({ name: 'Band', says: 'What the receiver lets through', default: 4.2, min: 1, max: 6 }),
  colour: share({ name: 'Colour', says: 'How much of it falls into the colour, against the luma', default: 0.7, max: 2 }),
  hold: lineCount({
    name: 'Hold',
    says: 'Lines over which the set evens out its sync: the fewer, the more lines of a weak station lose their place',
    default: 10,
    min: 1,
    max: 60,
  }),
};
/** Samples by which a line must stand wrong for it to be seen. */
const SEEN = 0.02;
/** What a receiver's colour filter lets through. */
const COLOUR_BAND = 1.2;

/**
 * Radio noise of a weak station: even over the band, in luma and, by way of the colour carrier, in long coloured flecks. The set finds its sync in the same noise,
 * so lines lose their place.
 */
export const snow = trait({
  id: 'snow',
  act: 'machine',
  media: ['air', 'tape'],
  needs: 'raster',
  name: 'Snow',
  says: 'The station is weak, and the set shows its own noise.',
  domain: 'video',
  settings,
  footprint: 'line',
  presets: readySettings({ amount: 44 }, { amount: 14 }),
  prepare({ engine, units, seed, store, own }) {
    const k = engine.kernels;
    const { width } = units;
    const [luma, colour, white, out] = [store(), store(), store(), store()];
    const lines = own(new RowShift(engine, width));
    const placesOf = perSettings((s: Values<typeof settings>, picture: number) => lineHold(hash(seed, 9), picture, units.height, k.pow(10, -s.amount / 20), s.hold, k.exp));
    const energy = (taps: Float32Array): number => Math.sqrt(taps.reduce((sum, t) => sum + t * t, 0));
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      const [fine, coarse] = [lowPassTaps(s.band, k), lowPassTaps(COLOUR_BAND * units.microsecondsPerPixel, k)];
      const rms = k.pow(10, -s.amount / 20);
      const bytes = (width + fine.length + coarse.length + 64) * 4;
      return [
        { at: luma.floats(fine), taps: fine.length, scale: rms / energy(fine), white: white.at(bytes), out: out.at(bytes) },
        { at: colour.floats(coarse), taps: coarse.length, scale: (rms * s.colour) / energy(coarse), white: white.at(bytes), out: out.at(bytes) },
      ];
    });
    return ({ surface, picture, settings: s }) => {
      const of = ofSettings(s);
      const places = placesOf(s, picture);
      for (let y = surface.top; y < surface.bottom; y++) {
        for (let plane = 0; plane < 3; plane++) {
          const row = rowAt(surface, plane, y);
          const shift = places[y]! / units.microsecondsPerPixel;
          if (Math.abs(shift) > SEEN) lines.by(row, shift);
          const filter = of[Math.min(1, plane)]!;
          if (filter.scale === 0) continue;
          k.whiteRow(filter.white, width + filter.taps, hash(seed, picture, y, plane), 0);
          k.firRow(filter.out, filter.white, width, filter.at, filter.taps);
          k.addRow(row, filter.out, width, filter.scale);
        }
      }
    };
  },
});
