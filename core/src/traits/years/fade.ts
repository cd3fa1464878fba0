import { rowAt } from '../../frame/surface';
import { readySettings, share } from '../settings';
import { trait } from '../trait';

/** Density that a stain of the base puts in the way of red, green and blue when it is full: a yellow brown. */
const STAIN = [0.02, 0.12, 0.32] as const;

/** Dyes that have faded: in the dark cyan goes first and the picture turns red; blacks go with it. */
export const fade = trait({
  id: 'fade',
  act: 'years',
  media: ['film'],
  name: 'Fade',
  says: 'The dyes have faded, cyan first; blacks went with them.',
  domain: 'density',
  settings: {
    cyan: share({ name: 'Cyan lost', says: 'Share of the cyan dye, which holds back red', default: 0.4 }),
    magenta: share({ name: 'Magenta lost', says: 'Share of the magenta dye, which holds back green', default: 0.1 }),
    yellow: share({ name: 'Yellow lost', says: 'Share of the yellow dye, which holds back blue', default: 0.2 }),
    stain: share({ name: 'Stain', says: 'How far the base has gone yellow', default: 0.2 }),
  },
  footprint: 'point',
  ofColourAlone: true,
  idle: (s) => s.cyan === 0 && s.magenta === 0 && s.yellow === 0 && s.stain === 0,
  presets: readySettings({ cyan: 0.15, magenta: 0.04, yellow: 0.08, stain: 0.08 }, { cyan: 0.9, magenta: 0.2, yellow: 0.55, stain: 0.5 }),
  prepare({ engine }) {
    const k = engine.kernels;
    return ({ surface, settings: s }) => {
      [s.cyan, s.magenta, s.yellow].forEach((lost, plane) => {
        for (let y = surface.top; y < surface.bottom; y++) k.affineRow(rowAt(surface, plane, y), surface.width, 1 - lost, s.stain * STAIN[plane]!);
      });
    };
  },
});
