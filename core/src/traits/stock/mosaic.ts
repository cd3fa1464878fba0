import { rowAt } from '../../frame/surface';
import { lines, readySettings } from '../settings';
import { trait } from '../trait';

/** A picture of few, coarse samples: every block is the mean of what lies in it. */
export const mosaic = trait({
  id: 'mosaic',
  act: 'stock',
  name: 'Mosaic',
  says: 'The picture is made of coarse blocks.',
  domain: 'display',
  settings: {
    across: lines({ name: 'Across', says: 'Blocks over the width', default: 320, min: 4, max: 2000 }),
    down: lines({ name: 'Down', says: 'Blocks over the height', default: 240, min: 4, max: 2000 }),
  },
  footprint: 'area',
  presets: readySettings({ across: 400, down: 300 }, { across: 96, down: 72 }),
  prepare({ engine, units }) {
    const { width, height } = units;
    return ({ surface, settings: s }) => {
      const [columns, rows] = [Math.min(width, Math.round(s.across)), Math.min(height, Math.round(s.down))];
      if (columns === width && rows === height) return;
      const edge = (i: number, of: number, size: number): number => Math.floor((i * size) / of);
      const sums = new Float64Array(columns);
      for (let plane = 0; plane < 3; plane++) {
        for (let block = 0; block < rows; block++) {
          const [top, bottom] = [edge(block, rows, height), edge(block + 1, rows, height)];
          sums.fill(0);
          for (let y = top; y < bottom; y++) {
            const row = engine.floats(rowAt(surface, plane, y), width);
            for (let c = 0; c < columns; c++) for (let x = edge(c, columns, width); x < edge(c + 1, columns, width); x++) sums[c]! += row[x]!;
          }
          for (let y = top; y < bottom; y++) {
            const row = engine.floats(rowAt(surface, plane, y), width);
            for (let c = 0; c < columns; c++) {
              const [from, to] = [edge(c, columns, width), edge(c + 1, columns, width)];
              row.fill(sums[c]! / ((to - from) * (bottom - top)), from, to);
            }
          }
        }
      }
    };
  },
});
