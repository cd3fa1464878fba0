import { CloudPlane } from '../../shapes/cloud-plane';
import { rowAt } from '../../frame/surface';
import { even, hash } from '../../random/random';
import { colour, percentOfHeight, readySettings, share } from '../settings';
import { trait } from '../trait';

/** Patches have this RMS, as measured over many of them. */
const RMS = 0.319;

/** Uneven discolouring: patches of the film have taken a colour, others have lost it; they change as the film runs. */
export const blotches = trait({
  id: 'blotches',
  act: 'years',
  media: ['film'],
  name: 'Blotches',
  says: 'The colour has gone uneven, in patches that change as the film runs.',
  domain: 'density',
  settings: {
    amount: share({ name: 'Amount', says: 'RMS of density in the layer that is hit most', default: 0.06, max: 0.8, step: 0.005 }),
    size: percentOfHeight({ name: 'Size', says: 'Width of a patch', default: 30, min: 3, max: 150, step: 1 }),
    colour: colour({ name: 'Colour', says: 'That patches take', default: [1, 0.72, 0.6] }),
    drift: share({ name: 'Drift', says: 'Patches by which it moves on in a second', default: 0.8, max: 12, step: 0.05 }),
    renewed: share({ name: 'Renewed', says: '1 is other patches on each picture, 0 the same that drift', default: 0.35 }),
  },
  footprint: 'point',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 0.02 }, { amount: 0.3, size: 45 }),
  prepare({ engine, units, seed, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const [still, fresh] = [own(new CloudPlane(engine, width, height)), own(new CloudPlane(engine, width, height))];
    return ({ surface, settings: s, picture, seconds }) => {
      const way = 2 * Math.PI * even(seed, 1);
      const [x, y] = [seconds * s.drift * k.cos(way), seconds * s.drift * k.sin(way)];
      const planes = [
        { at: still.at(seed & 0xffff, s.size, x, y, 2), share: Math.sqrt(1 - s.renewed) },
        { at: s.renewed > 0 ? fresh.at(hash(seed, picture) & 0xffff, s.size, 0, 0, 2) : 0, share: Math.sqrt(s.renewed) },
      ];
      const through = s.colour.map((v) => -k.log(Math.max(0.05, v)) / Math.LN10);
      const most = Math.max(0.02, ...through);
      for (const { at, share: part } of planes) {
        if (part === 0) continue;
        for (let plane = 0; plane < 3; plane++) {
          const strength = ((s.amount / RMS) * part * through[plane]!) / most;
          if (strength !== 0) for (let line = surface.top; line < surface.bottom; line++) k.addRow(rowAt(surface, plane, line), at + line * surface.stride, width, strength);
        }
      }
    };
  },
});
