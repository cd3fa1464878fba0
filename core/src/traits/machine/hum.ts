import { rowAt } from '../../frame/surface';
import { choice, percent, seconds } from '../settings';
import { trait } from '../trait';

const settings = {
  amount: percent({ name: 'Amount', says: 'How far brightness swings, of white, either way', default: 3, max: 40, step: 0.1 }),
  bars: choice<'one' | 'two'>({ name: 'Bars', says: 'One from a rectifier of one way, two from one of both', default: 'one', options: { one: 'one', two: 'two' } }),
  turn: seconds({ name: 'Turn', says: 'How long a bar takes through the picture: 16.7 where mains of 60 Hz meet 59.94 fields', default: 16.7, min: 0.2, max: 600, step: 0.1 }),
};

/** Mains in the picture: one or two soft bars, which creep because mains and picture differ. */
export const hum = trait({
  id: 'hum',
  act: 'machine',
  media: ['air', 'tape'],
  needs: 'raster',
  name: 'Hum',
  says: 'Mains get into the picture: soft bars creep up it.',
  domain: 'video',
  settings,
  footprint: 'point',
  idle: (s) => s.amount === 0,
  prepare({ engine, units }) {
    const k = engine.kernels;
    const { width, height } = units;
    return ({ surface, seconds: now, settings: s }) => {
      // Whole turns drop out, so that it is as exact after hours.
      const moved = (now % s.turn) / s.turn;
      const bars = s.bars === 'two' ? 2 : 1;
      for (let y = surface.top; y < surface.bottom; y++) k.affineRow(rowAt(surface, 0, y), width, 1, s.amount * k.sin(2 * Math.PI * bars * ((y + 0.5) / height + moved)));
    };
  },
});
