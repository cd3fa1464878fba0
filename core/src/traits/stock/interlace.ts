import { rowAt } from '../../frame/surface';
import { choice } from '../settings';
import { trait } from '../trait';

const settings = {
  shown: choice<'woven' | 'turn'>({
    name: 'Shown',
    says: 'Woven: both fields in one picture, combing where something moves. In turn: one field at a time, its missing lines filled',
    default: 'woven',
    options: { woven: 'Woven', turn: 'In turn' },
  }),
  order: choice<'top' | 'bottom'>({ name: 'First field', says: 'Which lines are the earlier', default: 'top', options: { top: 'Top lines', bottom: 'Bottom lines' } }),
  rate: choice<'carrier' | 'file'>({
    name: 'Fields',
    says: 'The carrier’s own rate, to which 24 fps comes by 2:3 and 25 fps by 2:2, or two fields for each frame of the file',
    default: 'carrier',
    options: { carrier: '59.94 or 50 a second', file: 'Two a frame' },
  }),
  moments: choice<'held' | 'between'>({
    name: 'Moments',
    says: 'Where the shot has no picture at the moment of a field: the nearest is held, or one is made between',
    default: 'held',
    options: { held: 'Held', between: 'Made between' },
  }),
};

/**
 * A raster is scanned twice for each picture, every other line each time, at two moments. The plan finds the pictures of both (score/cadence.ts): fields a second of
 * 525 and 625 lines are twice their pictures (ITU-R BT.1700). What is before this trait is worn for each of the two.
 */
export const interlace = trait({
  id: 'interlace',
  act: 'stock',
  media: ['tape', 'air'],
  needs: 'raster',
  name: 'Interlace',
  says: 'Every picture is two fields of half the lines, from two moments: what moves is combed.',
  domain: 'video',
  settings,
  footprint: 'area',
  still: true,
  beside: ({ settings: s }) => (s.shown === 'woven' ? ['second'] : []),
  fields: (s, carrier) => ({ perSecond: s.rate === 'carrier' && carrier.rate ? 2 * carrier.rate : undefined, woven: s.shown === 'woven', between: s.moments === 'between' }),
  tells: (s) => (s.shown === 'woven' && s.rate === 'file' && s.moments === 'held' ? 'Both fields come from one frame: there is no combing.' : ''),
  prepare({ engine }) {
    const k = engine.kernels;
    return ({ surface, picture, settings: s, beside }) => {
      const { width, height } = surface;
      const late = s.order === 'top' ? 1 : 0;
      if (s.shown === 'woven') {
        const second = beside('second');
        for (let plane = 0; plane < 3; plane++) {
          if (second[plane] === surface.planes[plane]) continue;
          for (let y = late; y < height; y += 2) k.copy(rowAt(surface, plane, y), second[plane]! + y * surface.stride, width * 4);
        }
        return;
      }
      // A field's own lines stand at its parity; the others lie half-way between their neighbours.
      const parity = picture % 2 === 0 ? 1 - late : late;
      for (let plane = 0; plane < 3; plane++) {
        for (let y = 1 - parity; y < height; y += 2) {
          const [above, below] = [y > 0 ? y - 1 : y + 1, y + 1 < height ? y + 1 : y - 1];
          if (above < 0 || above >= height) continue;
          const row = rowAt(surface, plane, y);
          k.copy(row, rowAt(surface, plane, above), width * 4);
          k.mix(row, rowAt(surface, plane, below), width, 0.5);
        }
      }
    };
  },
});
