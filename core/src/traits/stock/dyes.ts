import { choice, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { DyeRows, type Emulsion } from './dye-rows';
import { curveOf } from './film-curve';
import { STOCKS, type Stock, type StockId } from './stocks';

const settings = {
  stock: choice({
    name: 'Stock',
    says: 'Whose layers and dyes',
    default: 'sunreel',
    options: Object.fromEntries(Object.entries(STOCKS).map(([id, s]) => [id, s.name])) as Record<StockId, string>,
  }),
  amount: share({ name: 'Amount', says: 'How much of it shows', default: 1 }),
};

/** A stock's colour by what it is made of: what each layer sees, its curve, and dyes that stand in each other's way. */
export const dyes = trait({
  id: 'dyes',
  act: 'stock',
  media: ['film'],
  name: 'Dyes',
  says: 'Each stock sees and colours in its own way.',
  domain: 'linear',
  leaves: 'density',
  settings,
  footprint: 'point',
  ofColourAlone: true,
  idle: (s) => s.amount === 0,
  prepare({ engine, own }) {
    const k = engine.kernels;
    const rows = own(new DyeRows(engine));
    const emulsionOf = perSettings((s: Values<typeof settings>): Emulsion => {
      const { sees, speed, responses, dyes, base }: Stock = STOCKS[s.stock as StockId];
      const curves = responses.map((response) => curveOf(k, response));
      return { sees, dyes, base, layer: (density, plane) => curves[plane]!(density - speed[plane]!) };
    });
    return ({ surface, settings: s }) => rows.run(surface, emulsionOf(s), s.amount);
  },
});
