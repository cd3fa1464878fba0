import { rowAt, type Surface } from '../../frame/surface';
import { even } from '../../random/random';
import { smooth } from '../../shapes/smooth';
import { choice, perMinute, seconds, share, toggle } from '../settings';
import { trait } from '../trait';

/** Longest slip. */
const LONGEST = 12;
const WAYS = { either: 'Either way', up: 'Up', down: 'Down' } as const;
/** From a picture to the next over the picture's height, where the carrier does not say. */
const USUAL_PITCH = 1.05;
/** A trail is made of copies of the picture, a row or two apart; at most so many. */
const MOST_COPIES = 40;

/**
 * Where the picture stands in a slip, in pictures, at a share of its time. By whole pictures it rolls on and comes to rest on another,
 * which is at rest as the first; by a part of one it slips fast and is drawn back, a little too far at first.
 */
export function slipped(far: number, t: number): number {
  if (t <= 0 || t >= 1) return 0;
  if (far >= 1) return Math.round(far) * smooth(t);
  if (t < 0.3) return far * smooth(t / 0.3);
  const u = (t - 0.3) / 0.7;
  return far * (1 - smooth(Math.min(1, u * 1.35))) - far * 0.08 * Math.max(0, u - 0.55) * (1 - u) * 12;
}

/** The film slips past the claw: the picture rolls, the frame line goes through, and all comes back to rest. */
export const frameSlip = trait({
  id: 'frame-slip',
  act: 'machine',
  media: ['film'],
  name: 'Frame slip',
  says: 'The film slips; the picture rolls with its frame line and comes to rest.',
  domain: 'linear',
  settings: {
    count: perMinute({ name: 'How often', says: 'Slips a minute; 0 leaves only those pinned by hand', default: 4, max: 120 }),
    far: share({ name: 'How far', says: 'Share of a picture; from 1 on whole pictures roll by', default: 0.4, min: 0.02, max: 6 }),
    way: choice({ name: 'Way', says: 'Which way it goes', default: 'either', options: WAYS }),
    length: seconds({ name: 'Length', says: 'Until it is at rest', default: 0.5, min: 0.08, max: 8 }),
    trail: share({ name: 'Trail', says: 'How far light is drawn out while it moves, as under a late shutter', default: 0.3 }),
    line: toggle({ name: 'Frame line', says: 'The line between pictures is seen; else they touch', default: true }),
  },
  footprint: 'area',
  events: { rate: (s) => s.count / 60, length: (s) => s.length, longest: LONGEST },
  prepare({ engine, units, carrier, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const pitch = carrier.film && carrier.gate ? carrier.film.pitch / carrier.gate.height : USUAL_PITCH;
    const [list, weights, black] = [store(), store(), store()];

    const roll = ({ surface, spare, swap }: { surface: Surface; spare: readonly number[]; swap(plane: number): void }, offset: number, smear: number, line: boolean): void => {
      const { stride } = surface;
      const period = line ? Math.max(height + 1, Math.round(height * pitch)) : height;
      const copies = Math.max(1, Math.min(MOST_COPIES, Math.ceil(Math.abs(smear) / 2)));
      const dark = black.at(stride);
      k.fillRow(dark, width, 0);
      for (let plane = 0; plane < 3; plane++) {
        for (let y = 0; y < height; y++) {
          const shares = new Float32Array(copies * 2);
          const rows = new Int32Array(copies * 2);
          for (let i = 0; i < copies; i++) {
            // Between two rows of the film, picture after picture, with the line between them.
            const at = y + offset + (copies > 1 ? (i / (copies - 1)) * smear : 0);
            const first = Math.floor(at);
            [first, first + 1].forEach((row, j) => {
              const on = ((row % period) + period) % period;
              rows[2 * i + j] = on < height ? rowAt(surface, plane, on) : dark;
              shares[2 * i + j] = (j === 0 ? 1 - (at - first) : at - first) / copies;
            });
          }
          engine.ints(list.at(rows.length * 4), rows.length).set(rows);
          k.mixRows(spare[plane]! + y * stride, list.at(0), weights.floats(shares), rows.length, width);
        }
        swap(plane);
      }
    };
    return (pass) => {
      const { settings: s, events } = pass;
      let [offset, before] = [0, 0];
      for (const event of events) {
        const way = s.way === 'up' ? 1 : s.way === 'down' ? -1 : even(event.seed, 1) < 0.5 ? 1 : -1;
        // One turned down goes less far, but never stops between two pictures.
        const far = s.far >= 1 ? Math.max(1, Math.round(s.far * event.scale)) : s.far * Math.min(1, event.scale);
        offset += way * slipped(far, event.age / event.of);
        before += way * slipped(far, (event.age - 0.5) / event.of);
      }
      const period = s.line ? Math.max(height + 1, Math.round(height * pitch)) : height;
      const [now, then] = [offset * period, before * period];
      if (now === 0 && then === 0) return;
      roll(pass, now, s.trail * (then - now), s.line);
    };
  },
});
