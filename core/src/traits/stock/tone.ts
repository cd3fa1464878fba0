import { DISPLAY_GAMMA } from '../../frame/domain-rows';
import { rowAt } from '../../frame/surface';
import { percent, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { curveOf, densityTable } from './film-curve';

/** The least signal that a floor may be. */
const LEAST = 1e-3;
/** A floor lies below mid-grey and a ceiling. */
const FLOOR_MOST = 0.6;

const settings = {
  contrast: share({ name: 'Contrast', says: 'Slope of the straight part: densities out for densities in', default: 1.15, min: 0.4, max: 2.5 }),
  toe: share({ name: 'Toe', says: 'How long shadows take to reach black', default: 0.35 }),
  shoulder: share({ name: 'Shoulder', says: 'How long highlights take to reach white', default: 0.5 }),
  floor: percent({ name: 'Black floor', says: 'Nothing is darker than this', default: 2, max: 30, step: 0.1 }),
  ceiling: percent({ name: 'White ceiling', says: 'Nothing is brighter than this', default: 98, min: 50, max: 100, step: 0.1 }),
};

/** Density against exposure: straight in the middle, a toe, a shoulder; black and white of the print. */
export const tone = trait({
  id: 'tone',
  act: 'stock',
  media: ['film'],
  name: 'Tone',
  says: 'Film answers light along a curve: a toe, a straight part, a shoulder that no highlight leaves.',
  domain: 'density',
  settings,
  footprint: 'point',
  ofColourAlone: true,
  presets: readySettings({ contrast: 1.05, toe: 0.15, shoulder: 0.25, floor: 1, ceiling: 99 }, { contrast: 1.7, toe: 0.7, shoulder: 0.85, floor: 9, ceiling: 86 }),
  prepare({ engine, own }) {
    const k = engine.kernels;
    const table = own(densityTable(engine));
    const densityOf = (signal: number): number => (-DISPLAY_GAMMA * k.log(Math.max(signal, LEAST))) / Math.LN10;
    const fill = perSettings((s: Values<typeof settings>) =>
      table.fill(curveOf(k, s, { white: densityOf(s.ceiling), black: densityOf(Math.min(s.floor, FLOOR_MOST * s.ceiling)) })),
    );
    return ({ surface, settings: s }) => {
      fill(s);
      for (let y = surface.top; y < surface.bottom; y++) for (let plane = 0; plane < 3; plane++) table.run(rowAt(surface, plane, y), surface.width);
    };
  },
});
