import { RowShift } from '../../frame/row-shift';
import { rowAt } from '../../frame/surface';
import { choice, microseconds, percent, readySettings, seconds } from '../settings';
import { trait } from '../trait';

const settings = {
  amount: percent({ name: 'Amount', says: 'How far brightness swings, of white, either way', default: 3, max: 40, step: 0.1 }),
  bars: choice<'one' | 'two'>({ name: 'Bars', says: 'One from a rectifier of one way, two from one of both', default: 'one', options: { one: 'one', two: 'two' } }),
  bend: microseconds({ name: 'Bend', says: 'How far lines lean with it where it is strongest: it is in the sync, too', default: 0.05, max: 3, step: 0.01 }),
  turn: seconds({ name: 'Turn', says: 'How long a bar takes through the picture: 16.7 where mains of 60 Hz meet 59.94 fields', default: 16.7, min: 0.2, max: 600, step: 0.1 }),
};

/** Mains in the picture: one or two soft bars, which creep because mains and picture differ. They shift the level at which sync is found, so lines lean with them. */
export const hum = trait({
  id: 'hum',
  act: 'machine',
  media: ['air', 'tape'],
  needs: 'raster',
  name: 'Hum',
  says: 'Mains get into the picture: soft bars creep up it.',
  domain: 'video',
  settings,
  footprint: 'line',
  idle: (s) => s.amount === 0 && s.bend === 0,
  presets: readySettings({ amount: 1.2, bend: 0.02 }, { amount: 14, bend: 0.6 }),
  prepare({ engine, units, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const lines = own(new RowShift(engine, width));
    return ({ surface, seconds: now, settings: s }) => {
      // Whole turns drop out, so that it is as exact after hours.
      const moved = (now % s.turn) / s.turn;
      const bars = s.bars === 'two' ? 2 : 1;
      for (let y = surface.top; y < surface.bottom; y++) {
        const swing = k.sin(2 * Math.PI * bars * ((y + 0.5) / height + moved));
        for (let plane = 0; plane < 3; plane++) lines.by(rowAt(surface, plane, y), s.bend * swing);
        k.affineRow(rowAt(surface, 0, y), width, 1, s.amount * swing);
      }
    };
  },
});
