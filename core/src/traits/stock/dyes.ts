import { choice, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { DyeRows } from './dye-rows';
import { characteristic, densityTable } from './film-curve';
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
  idle: (s) => s.amount === 0,
  prepare({ engine, own }) {
    const k = engine.kernels;
    const rows = own(new DyeRows(engine));
    const tables = [0, 1, 2].map(() => own(densityTable(engine)));
    const stockOf = perSettings((s: Values<typeof settings>): Stock => {
      const stock: Stock = STOCKS[s.stock as StockId];
      tables.forEach((table, i) => table.fill((density) => characteristic(k, density - stock.speed[i]!, stock.responses[i]!)));
      return stock;
    });
    return ({ surface, settings: s }) => {
      const stock = stockOf(s);
      rows.run(surface, stock.sees, (row, plane, count) => tables[plane]!.run(row, count), stock.dyes, stock.base, s.amount);
    };
  },
});
