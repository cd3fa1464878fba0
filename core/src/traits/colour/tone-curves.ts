import { rowAt } from '../../frame/surface';
import { curve } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { curveTable, goingOn, isStraight, straight, through } from './curves';

const settings = {
  master: curve({ name: 'All', says: 'Out for in, for all channels', default: straight, over: 'luma' }),
  red: curve({ name: 'Red', says: 'Out for in of red, after that of all', default: straight, over: 'red' }),
  green: curve({ name: 'Green', says: 'Out for in of green, after that of all', default: straight, over: 'green' }),
  blue: curve({ name: 'Blue', says: 'Out for in of blue, after that of all', default: straight, over: 'blue' }),
};

export const toneCurves = trait({
  id: 'tone-curves',
  act: 'stock',
  family: 'colour',
  name: 'Tone curves',
  says: 'Each tone is given another, along a curve through points.',
  domain: 'display',
  settings,
  footprint: 'point',
  idle: (s) => [s.master, s.red, s.green, s.blue].every(isStraight),
  prepare({ engine, own }) {
    const tables = [0, 1, 2].map(() => own(curveTable(engine)));
    const fill = perSettings((s: Values<typeof settings>) => {
      const all = through(s.master);
      [s.red, s.green, s.blue].forEach((channel, i) => {
        const one = through(channel);
        tables[i]!.fill(goingOn((v) => one(all(v))));
      });
    });
    return ({ surface, settings: s }) => {
      fill(s);
      tables.forEach((table, plane) => {
        for (let y = surface.top; y < surface.bottom; y++) table.run(rowAt(surface, plane, y), surface.width);
      });
    };
  },
});
