import { choice, share } from '../settings';
import { trait } from '../trait';
import { bakedOf, StockRows } from './stock-rows';
import { STOCKS, type StockId } from './stocks';

const settings = {
  stock: choice({
    name: 'Stock',
    says: 'Whose layers and dyes',
    default: 'sunreel',
    options: Object.fromEntries(Object.entries(STOCKS).map(([id, s]) => [id, s.name])) as Record<StockId, string>,
  }),
  amount: share({ name: 'Amount', says: 'How much of it shows', default: 1 }),
};

/** A stock's colour by what it is made of, wavelength by wavelength: what each layer sees, its curve, dyes that stand in each other's way, and the lamp behind them. */
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
  ahead: (engine, s) => void bakedOf(engine, STOCKS[s.stock as StockId]),
  prepare({ engine, own }) {
    const rows = own(new StockRows(engine));
    return ({ surface, settings: s }) => rows.run(surface, STOCKS[s.stock as StockId], s.amount);
  },
});
