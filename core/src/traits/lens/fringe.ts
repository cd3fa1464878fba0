import { RadialWarp } from '../../frame/radial';
import { percent, readySettings, share } from '../settings';
import { trait } from '../trait';

const magnified = (name: string, value: number) => percent({ name, says: 'How much larger this colour’s picture is, measured in the corners', default: value, min: -4, max: 4 });

/** A lens that does not draw all colours at one size: they part toward the edges, and the middle stays whole. */
export const fringe = trait({
  id: 'fringe',
  act: 'lens',
  name: 'Fringe',
  says: 'The lens draws red and blue at other sizes than green, so edges far from the middle have rims.',
  domain: 'rgb',
  settings: {
    red: magnified('Red', 0.2),
    blue: magnified('Blue', -0.15),
    curve: share({ name: 'Curve', says: 'Power of the distance by which it grows: 0 everywhere alike, 2 as in simple lenses', default: 2, min: 0, max: 6 }),
  },
  footprint: 'area',
  idle: (s) => s.red === 0 && s.blue === 0,
  presets: readySettings({ red: 0.07, blue: -0.05 }, { red: 0.9, blue: -0.8 }),
  prepare({ engine, units, own }) {
    const warp = own(new RadialWarp(engine, units.width, units.height));
    return ({ surface, settings: s, spare, swap }) => {
      for (const [plane, by] of [
        [0, s.red],
        [2, s.blue],
      ] as const) {
        if (by === 0) continue;
        warp.run(spare[plane]!, surface.planes[plane], surface.stride, { amount: 1 / (1 + by) - 1, power: s.curve, zoom: 1 });
        swap(plane);
      }
    };
  },
});
