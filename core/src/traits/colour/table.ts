import type { ColourTable } from '../../formats/cube';
import { rowAt } from '../../frame/surface';
import { share, table as tableSetting } from '../settings';
import { perSettings, trait } from '../trait';

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
  prepare({ engine, store, table: find }) {
    const k = engine.kernels;
    const memory = store();
    const under = store();
    const load = perSettings((s: { readonly file: string }) => {
      const found = find(s.file);
      return found && { found, at: memory.floats(laidOut(found)) };
    });
    return ({ surface, settings: s }) => {
      const loaded = load(s);
      // A look may name a table that is not at hand; the picture then passes as it is.
      if (!loaded) return;
      const { found, at } = loaded;
      const { width } = surface;
      const before = under.at(surface.stride * 3);
      for (let y = surface.top; y < surface.bottom; y++) {
        const rows = [0, 1, 2].map((plane) => rowAt(surface, plane, y));
        if (s.amount < 1) rows.forEach((row, i) => k.copy(before + i * surface.stride, row, width * 4));
        rows.forEach((row, i) => {
          const scale = 1 / (found.high[i]! - found.low[i]!);
          if (found.dimensions === 1) k.tableRow(row, width, at + i * found.size * 4, found.size, found.low[i]!, scale * (found.size - 1));
          else if (scale !== 1 || found.low[i] !== 0) k.affineRow(row, width, scale, -found.low[i]! * scale);
        });
        if (found.dimensions === 3) k.cubeRow(rows[0]!, rows[1]!, rows[2]!, width, at, found.size);
        if (s.amount < 1) rows.forEach((row, i) => k.mix(row, before + i * surface.stride, width, s.amount));
      }
    };
  },
});

/** As the kernels read it: a cube's points in fours, curves one after the other. */
function laidOut({ dimensions, size, points }: ColourTable): Float32Array {
  const count = points.length / 3;
  const out = new Float32Array(dimensions === 3 ? count * 4 : count * 3);
  for (let n = 0; n < count; n++) for (let i = 0; i < 3; i++) out[dimensions === 3 ? n * 4 + i : i * size + n] = points[n * 3 + i]!;
  return out;
}
