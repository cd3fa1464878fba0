import { lightOf } from '../../frame/domain-rows';
import { Blur, WIDTH_TO_SIGMA } from '../../frame/blur';
import { rowAt } from '../../frame/surface';
import { colour, percentOfHeight, readySettings, share, stops } from '../settings';
import { MID_GREY } from '../grey';
import { trait } from '../trait';

/** The knee about the threshold, as a share of it. */
const KNEE = 0.5;

/** Bright parts glow: light scattered in the lens or by a net before it. What glows is taken from where it came. */
export const mist = trait({
  id: 'mist',
  act: 'lens',
  name: 'Mist',
  says: 'Bright parts glow, as through a veil before the lens.',
  domain: 'linear',
  settings: {
    from: stops({ name: 'From', says: 'Stops over mid-grey from which a colour glows', default: 0.5, min: -3, max: 5 }),
    radius: percentOfHeight({ name: 'Radius', says: 'Where the glow has half its strength', default: 2.5, min: 0.1, max: 20, step: 0.1 }),
    amount: share({ name: 'Amount', says: 'Share of the light that is scattered', default: 0.3 }),
    colour: colour({ name: 'Colour', says: 'Of the glow, as a display shows it', default: [1, 0.98, 0.95] }),
  },
  footprint: 'area',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 0.12 }, { from: -0.3, amount: 0.75, radius: 4 }),
  prepare({ engine, units, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const blur = own(new Blur(engine, width, height));
    return ({ surface, settings: s, spare }) => {
      const { stride } = surface;
      const light = spare[0]!;
      const from = MID_GREY * k.pow(2, s.from);
      // What scatters keeps its own colour: a yellow petal has a yellow glow, a blue lamp a blue one.
      for (let plane = 0; plane < 3; plane++) {
        const amount = s.amount * lightOf(k, s.colour[plane]!);
        for (let y = 0; y < height; y++) {
          const row = rowAt(surface, plane, y);
          k.copy(light + y * stride, row, width * 4);
          k.kneeRow(light + y * stride, width, from, from * KNEE);
          k.addRow(row, light + y * stride, width, -amount);
        }
        blur.add(surface.planes[plane]!, light, stride, (2 * s.radius) / WIDTH_TO_SIGMA, amount);
      }
    };
  },
});
