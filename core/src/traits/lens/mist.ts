import { lightOf } from '../../frame/domain-rows';
import { Blur, WIDTH_TO_SIGMA } from '../../frame/blur';
import { lightOver } from '../../frame/light-over';
import { rowAt } from '../../frame/surface';
import { colour, percentOfHeight, share, stops } from '../settings';
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
    from: stops({ name: 'From', says: 'Stops over mid-grey from which it glows', default: 0.5, min: -3, max: 5 }),
    radius: percentOfHeight({ name: 'Radius', says: 'Where the glow has half its strength', default: 2.5, min: 0.1, max: 20, step: 0.1 }),
    amount: share({ name: 'Amount', says: 'Share of the light that is scattered', default: 0.3 }),
    colour: colour({ name: 'Colour', says: 'Of the glow, as a display shows it', default: [1, 0.98, 0.95] }),
  },
  footprint: 'area',
  idle: (s) => s.amount === 0,
  prepare({ engine, units, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const blur = own(new Blur(engine, width, height));
    return ({ surface, settings: s, spare }) => {
      const { stride } = surface;
      const light = spare[0]!;
      lightOver(k, [{ at: light, from: MID_GREY * k.pow(2, s.from) }], surface, KNEE);
      blur.eachRow(light, stride, (2 * s.radius) / WIDTH_TO_SIGMA, (glow, y) => {
        for (let plane = 0; plane < 3; plane++) {
          k.addRow(rowAt(surface, plane, y), light + y * stride, width, -s.amount * lightOf(k, s.colour[plane]!));
          k.addRow(rowAt(surface, plane, y), glow, width, s.amount * lightOf(k, s.colour[plane]!));
        }
      });
    };
  },
});
