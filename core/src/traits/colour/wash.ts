import { rowAt } from '../../frame/surface';
import { BLENDS, type Blend } from '../../look/blends';
import { choice, colour, share } from '../settings';
import { trait } from '../trait';

const names = Object.fromEntries(BLENDS.map((b) => [b, b[0]!.toUpperCase() + b.slice(1).replaceAll('-', ' ')])) as Record<Blend, string>;

export const wash = trait({
  id: 'wash',
  act: 'stock',
  family: 'colour',
  name: 'Wash',
  says: 'One colour laid over the whole picture.',
  domain: 'display',
  settings: {
    colour: colour({ name: 'Colour', says: 'What is laid over', default: [1, 0.82, 0.6] }),
    amount: share({ name: 'Amount', says: 'How much of it shows', default: 0.35 }),
    blend: choice({ name: 'Blend', says: 'How it meets the picture (W3C compositing)', default: 'multiply', options: names }),
  },
  footprint: 'point',
  idle: (s) => s.amount === 0,
  prepare({ engine, store }) {
    const k = engine.kernels;
    const memory = store();
    return ({ surface, settings: s }) => {
      const laid = memory.at(surface.stride);
      const mode = BLENDS.indexOf(s.blend as Blend);
      for (let y = surface.top; y < surface.bottom; y++) {
        for (let plane = 0; plane < 3; plane++) {
          const row = rowAt(surface, plane, y);
          k.fillRow(laid, surface.width, s.colour[plane]!);
          k.blendRow(laid, row, surface.width, mode);
          k.mix(laid, row, surface.width, s.amount);
          k.copy(row, laid, surface.width * 4);
        }
      }
    };
  },
});
