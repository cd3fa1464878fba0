import { cubicTaps } from '../../frame/resample';
import { joined, lowPassTaps } from '../../frame/fir';
import { rowAt } from '../../frame/surface';
import { hash } from '../../random/random';
import { decibels, lines, megahertz, nanoseconds, readySettings } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  copies: lines({ name: 'Copies', says: 'How often it was copied; the first is a copy of the original', default: 2, max: 8, step: 1 }),
  luma: megahertz({ name: 'Luma', says: 'What each recorder lets through', default: 3, min: 1, max: 6 }),
  chroma: megahertz({ name: 'Colour', says: 'What each lets through of colour', default: 0.5, min: 0.1, max: 2 }),
  late: nanoseconds({ name: 'Late', says: 'How much later each brings the colour', default: 150, max: 1000 }),
  noise: decibels({ name: 'S/N', says: 'Of each recorder; every one adds its own', default: 43, min: 20, max: 60 }),
};

/**
 * A copy of a copy. What n recorders do one after the other to detail and to colour's place is one filter, joined of n; each adds noise of its own, which those after it narrow: of
 * that the sum is one noise, through the filters joined of all but its own.
 */
export const generation = trait({
  id: 'generation',
  act: 'stock',
  media: ['tape'],
  needs: 'raster',
  name: 'Generation',
  says: 'A copy of a copy: each softens, adds noise and brings the colour later and lower.',
  domain: 'video',
  settings,
  footprint: 'area',
  idle: (s) => Math.round(s.copies) === 0,
  presets: readySettings({ copies: 1, noise: 48 }, { copies: 6, noise: 36 }),
  prepare({ engine, units, seed, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const [weights, padded, noise] = [store(), store(), store()];
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      const copies = Math.round(s.copies);
      const one = lowPassTaps(s.luma, k);
      const colour = lowPassTaps(s.chroma, k);
      const late = cubicTaps(1, -s.late, 1);
      const lateTaps = late.weights;
      let [luma, chroma] = [Float32Array.of(1), Float32Array.of(1)];
      for (let i = 0; i < copies; i++) [luma, chroma] = [joined(luma, one), joined(joined(chroma, colour), lateTaps)];
      const start = copies * (late.starts[0]! - (colour.length >> 1));
      const at = weights.floats([...luma, ...chroma]);
      const pad = Math.max(luma.length, chroma.length) + Math.abs(start) + 8;
      // The noise of copy i goes through those after it: n - 1 - i filters.
      const passes: { taps: Float32Array; rms: number }[] = [];
      let through = Float32Array.of(1);
      for (let i = copies - 1; i >= 0; i--) {
        through = joined(through, one);
        passes.push({ taps: through, rms: k.pow(10, -s.noise / 20) / Math.sqrt(one.reduce((sum, t) => sum + t * t, 0)) });
      }
      const noises = passes.map(({ taps, rms }) => taps.map((t) => t * rms));
      const noiseAt = noise.floats(noises.flatMap((taps) => [...taps]));
      let offset = 0;
      const filters = noises.map((taps) => {
        const filter = { at: noiseAt + offset * 4, taps: taps.length };
        offset += taps.length;
        return filter;
      });
      return { copies, luma: at, lumaTaps: luma.length, chroma: at + luma.length * 4, chromaTaps: chroma.length, start, pad, filters };
    });
    return ({ surface, picture, settings: s, spare, swap }) => {
      const of = ofSettings(s);
      const { stride } = surface;
      const row = padded.at((width + 2 * of.pad + 64) * 8 + stride);
      const white = row + (width + 2 * of.pad + 64) * 4;
      for (let y = 0; y < height; y++) {
        const at = rowAt(surface, 0, y);
        const half = of.lumaTaps >> 1;
        k.padRow(row, at, width, half);
        k.firRow(at, row, width, of.luma, of.lumaTaps);
        of.filters.forEach((filter, i) => {
          k.whiteRow(row, width + filter.taps, hash(seed, picture, y, i), 0);
          k.firRow(white, row, width, filter.at, filter.taps);
          k.addRow(at, white, width, 1);
        });
      }
      for (const plane of [1, 2]) {
        for (let y = 0; y < height; y++) {
          // A line lower with each copy; above stands what is uppermost.
          k.padRow(row, rowAt(surface, plane, Math.max(0, y - of.copies)), width, of.pad);
          k.firRow(spare[plane]! + y * stride, row + (of.pad + of.start) * 4, width, of.chroma, of.chromaTaps);
        }
        swap(plane);
      }
    };
  },
});
