import { wander } from '../../motion/wander';
import { RowShift } from '../../frame/row-shift';
import { rowAt } from '../../frame/surface';
import { bell, hash } from '../../random/random';
import { hertz, microseconds, readySettings, share } from '../settings';
import { trait } from '../trait';

const settings = {
  amount: microseconds({ name: 'Amount', says: 'How far lines are torn aside where it is worst', default: 5, max: 40 }),
  place: share({ name: 'Place', says: 'Where it is worst, from the top', default: 0.2 }),
  height: share({ name: 'Height', says: 'How much of the picture it takes', default: 0.5, min: 0.05, max: 2 }),
  rate: hertz({ name: 'Rate', says: 'How fast it changes', default: 2.5, max: 20 }),
  rough: share({ name: 'Rough', says: 'How far lines differ from their neighbours', default: 0.12 }),
};

/** Horizontal hold is lost: the set begins lines too early or too late, more and more, until it catches again. Edges are continued. */
export const tearing = trait({
  id: 'tearing',
  act: 'machine',
  media: ['air', 'tape'],
  needs: 'raster',
  name: 'Tearing',
  says: 'The set loses the lines’ beginning: the picture is torn aside.',
  domain: 'video',
  settings,
  footprint: 'line',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 1.5, height: 0.2 }, { amount: 22, height: 1.2, rough: 0.4 }),
  prepare({ engine, units, seed, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const lines = own(new RowShift(engine, width));
    return ({ surface, seconds, picture, settings: s }) => {
      const swing = wander(k, hash(seed, 1), seconds, s.rate);
      for (let y = surface.top; y < surface.bottom; y++) {
        const from = Math.abs((y + 0.5) / height - s.place) / (s.height / 2);
        if (from >= 1) continue;
        // A saw: it runs away line by line, and is caught at once.
        const run = (1 - from) * (0.4 + 0.6 * Math.abs(wander(k, hash(seed, 2), (y / height) * 6 + seconds * s.rate, 1)));
        const shift = s.amount * (swing * run + s.rough * (1 - from) * bell(seed, picture, y));
        for (let plane = 0; plane < 3; plane++) lines.by(rowAt(surface, plane, y), shift);
      }
    };
  },
});
