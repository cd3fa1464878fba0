import { Blur, WIDTH_TO_SIGMA } from '../../frame/blur';
import { rowAt } from '../../frame/surface';
import { percentOfHeight, readySettings, share } from '../settings';
import { trait } from '../trait';

/** Light goes astray in the glass before the phosphor: everything glows a little, and blacks beside it are no longer black. The mean stays. */
export const tubeGlow = trait({
  id: 'tube-glow',
  act: 'screen',
  still: true,
  name: 'Tube glow',
  says: 'Light goes astray in the glass: bright parts glow over dark ones.',
  domain: 'linear',
  settings: {
    radius: percentOfHeight({ name: 'Radius', says: 'Where the glow has half its strength', default: 1.6, min: 0.1, max: 20, step: 0.1 }),
    amount: share({ name: 'Amount', says: 'Share of the light that goes astray', default: 0.14 }),
  },
  footprint: 'area',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 0.06 }, { amount: 0.45, radius: 4 }),
  prepare({ engine, units, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const blur = own(new Blur(engine, width, height));
    return ({ surface, settings: s, spare }) => {
      const { stride } = surface;
      for (let plane = 0; plane < 3; plane++) {
        const light = spare[0]!;
        k.copy(light, surface.planes[plane]!, stride * height);
        for (let y = 0; y < height; y++) k.affineRow(rowAt(surface, plane, y), width, 1 - s.amount, 0);
        blur.add(surface.planes[plane]!, light, stride, (2 * s.radius) / WIDTH_TO_SIGMA, s.amount);
      }
    };
  },
});
