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
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const room = store();
    return ({ surface, settings: s }) => {
      const [columns, rows] = [Math.min(width, Math.round(s.across)), Math.min(height, Math.round(s.down))];
      if (columns === width && rows === height) return;
      const sums = room.at(columns * 8);
      for (let plane = 0; plane < 3; plane++) {
        for (let block = 0, top = 0; block < rows; block++) {
          const bottom = Math.floor(((block + 1) * height) / rows);
          engine.bytes(sums, columns * 8).fill(0);
          for (let y = top; y < bottom; y++) k.addBlocks(sums, rowAt(surface, plane, y), width, columns);
          for (let y = top; y < bottom; y++) k.fillBlocks(rowAt(surface, plane, y), sums, width, columns, bottom - top);
          top = bottom;
        }
      }
    };
  },
});
