import { rowAt } from '../../frame/surface';
import { choice, colour, share } from '../settings';
import { trait } from '../trait';

const SHAPES = { '1:1': 1, '1.19': 1.19, '4:3': 4 / 3, '1.37': 1.37, '1.66': 1.66, '1.78': 16 / 9, '1.85': 1.85, '2.39': 2.39 } as const;
type Shape = keyof typeof SHAPES | 'own';
const OPTIONS = { ...Object.fromEntries(Object.keys(SHAPES).map((s) => [s, s])), own: 'Own' } as Record<Shape, string>;

/** Bars that leave a picture of some shape. Where it stands in the chain decides what wears the bars. */
export const aspectMask = trait({
  id: 'aspect-mask',
  act: 'screen',
  still: true,
  name: 'Aspect mask',
  says: 'Bars leave a picture of another shape.',
  domain: 'display',
  settings: {
    shape: choice({ name: 'Shape', says: 'Width over height of what is left', default: '1.37', options: OPTIONS }),
    own: share({ name: 'Own', says: 'Width over height, for a shape of one’s own', default: 2, min: 0.5, max: 4 }),
    colour: colour({ name: 'Colour', says: 'Of the bars', default: [0, 0, 0] }),
  },
  footprint: 'point',
  prepare({ engine, units }) {
    const k = engine.kernels;
    const { width, height } = units;
    return ({ surface, settings: s }) => {
      const shape = s.shape === 'own' ? s.own : SHAPES[s.shape as keyof typeof SHAPES];
      const wide = Math.min(width, Math.round(height * shape));
      const high = Math.min(height, Math.round(width / shape));
      const [left, top] = [Math.floor((width - wide) / 2), Math.floor((height - high) / 2)];
      for (let y = surface.top; y < surface.bottom; y++) {
        for (let plane = 0; plane < 3; plane++) {
          const row = rowAt(surface, plane, y);
          if (y < top || y >= top + high) k.fillRow(row, width, s.colour[plane]!);
          else if (left > 0)
            engine
              .floats(row, width)
              .fill(s.colour[plane]!, 0, left)
              .fill(s.colour[plane]!, left + wide);
        }
      }
    };
  },
});
