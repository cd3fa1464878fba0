import { rowAt } from '../../frame/surface';
import { TableRows } from '../../frame/table-rows';
import { share, table as tableSetting } from '../settings';
import { trait } from '../trait';

export const table = trait({
  id: 'table',
  act: 'stock',
  family: 'colour',
  name: 'Table',
  says: 'Every colour is looked up in a .cube table.',
  domain: 'display',
  settings: {
    file: tableSetting({ name: 'Table', says: 'A .cube file, of one or three dimensions' }),
    amount: share({ name: 'Amount', says: 'How much of it shows', default: 1 }),
  },
  footprint: 'point',
  idle: (s) => s.file === '' || s.amount === 0,
  prepare({ engine, store, own, table: find }) {
    const k = engine.kernels;
    const under = store();
    const known = new Map<string, TableRows | undefined>();
    const load = (id: string): TableRows | undefined => {
      if (!known.has(id)) {
        const found = find(id);
        known.set(id, found && own(new TableRows(engine, found)));
      }
      return known.get(id);
    };
    return ({ surface, settings: s }) => {
      const rowsOf = load(s.file);
      // A look may name a table that is not at hand; the picture then passes as it is.
      if (!rowsOf) return;
      const { width } = surface;
      const before = under.at(surface.stride * 3);
      for (let y = surface.top; y < surface.bottom; y++) {
        const rows = [0, 1, 2].map((plane) => rowAt(surface, plane, y)) as [number, number, number];
        if (s.amount < 1) rows.forEach((row, i) => k.copy(before + i * surface.stride, row, width * 4));
        rowsOf.run(rows, width);
        if (s.amount < 1) rows.forEach((row, i) => k.mix(row, before + i * surface.stride, width, s.amount));
      }
    };
  },
});
