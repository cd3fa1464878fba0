import { Blur, WIDTH_TO_SIGMA } from '../../frame/blur';
import { lightOver, lightOverHalved } from '../../frame/light-over';
import { floatStride } from '../../frame/surface';
import { micrometres, readySettings, share, stops } from '../settings';
import { MID_GREY } from '../grey';
import { trait } from '../trait';

/** The knee at which light begins to come back, as a share of the threshold. */
const KNEE = 0.12;
/** Orange comes back only of light this much stronger, and spreads less. */
const ORANGE = { over: 2.5, reach: 0.6, strength: 0.45 } as const;

/** Light far over mid-grey goes through the emulsion and comes back from the base: red first, orange where it is stronger. */
export const halation = trait({
  id: 'halation',
  act: 'stock',
  media: ['film'],
  name: 'Halation',
  says: 'The brightest light comes back from the base as a red halo.',
  domain: 'linear',
  settings: {
    from: stops({ name: 'From', says: 'Stops over mid-grey from which light comes back', default: 2, min: 0, max: 6 }),
    radius: micrometres({ name: 'Radius', says: 'Where the halo has half its strength, on the film', default: 90, min: 10, max: 400, step: 1 }),
    amount: share({ name: 'Amount', says: 'Share of the light that comes back', default: 0.35 }),
    orange: share({ name: 'Orange', says: 'How much of the halo goes on to orange where it is strong', default: 0.5 }),
  },
  footprint: 'area',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 0.15, radius: 60 }, { from: 1, amount: 0.8, radius: 200 }),
  prepare({ engine, units, own, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const blur = own(new Blur(engine, width, height));
    const rows = store();
    return ({ surface, settings: s, spare }) => {
      const from = MID_GREY * k.pow(2, s.from);
      const sigma = (2 * s.radius) / WIDTH_TO_SIGMA;
      const halos = [
        { plane: 0, at: spare[0]!, from, sigma, strength: s.amount },
        { plane: 1, at: spare[1]!, from: from * ORANGE.over, sigma: sigma * ORANGE.reach, strength: s.amount * s.orange * ORANGE.strength },
      ];
      const { planes, stride } = surface;
      // Both are measured before either is laid on.
      if (halos.every((halo) => blur.takesPairs(halo.sigma))) {
        lightOverHalved(k, halos, surface, KNEE, rows);
        for (const halo of halos) blur.addOfPairs(planes[halo.plane]!, halo.at, floatStride((width + 1) >> 1), halo.sigma, halo.strength);
      } else {
        lightOver(k, halos, surface, KNEE);
        for (const halo of halos) blur.add(planes[halo.plane]!, halo.at, stride, halo.sigma, halo.strength);
      }
    };
  },
});
