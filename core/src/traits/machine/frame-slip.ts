import type { Carrier } from '../../carriers';
import type { ActiveEvent } from '../../events/events';
import { even } from '../../random/random';
import { smooth } from '../../shapes/smooth';
import { choice, perMinute, readySettings, seconds, share, toggle } from '../settings';
import { trait, type Beside, type Pass, type Values } from '../trait';
import { framePitch, type Units } from '../units';

/** Longest slip. */
const LONGEST = 12;
const WAYS = { either: 'Either way', up: 'Up', down: 'Down' } as const;
/** From a picture to the next over the picture's height, where the carrier does not say. */
const USUAL_PITCH = 1.05;
/** A trail is made of copies of the picture, a row or two apart; at most so many. */
const MOST_COPIES = 40;

/** The film runs down through the projector, which shows it head up: what comes next stands below, what has been above. */
const [BEFORE, AFTER]: [Beside, Beside] = [-1, 1];

const settings = {
  count: perMinute({ name: 'How often', says: 'Slips a minute; 0 leaves only those pinned by hand', default: 4, max: 120 }),
  far: share({ name: 'How far', says: 'Share of a picture; from 1 on whole pictures roll by', default: 0.4, min: 0.02, max: 6 }),
  way: choice<keyof typeof WAYS>({ name: 'Way', says: 'Which way it goes', default: 'either', options: WAYS }),
  length: seconds({ name: 'Length', says: 'Until it is at rest', default: 0.5, min: 0.08, max: 8 }),
  trail: share({ name: 'Trail', says: 'How far light is drawn out while it moves, as under a late shutter', default: 0.3 }),
  line: toggle({ name: 'Frame line', says: 'The line between pictures is seen; else they touch', default: true }),
};

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

/** From a picture to the next, in heights of a picture. */
const pitchOf = (carrier: Carrier, units: Units): number => (framePitch(carrier, units) ?? units.height * USUAL_PITCH) / units.height;

/** How far the film stands from rest, in pictures: now, and half a picture's time before. */
function standing(s: Values<typeof settings>, events: readonly ActiveEvent[]): { now: number; then: number } {
  let [now, then] = [0, 0];
  for (const event of events) {
    const way = s.way === 'up' ? 1 : s.way === 'down' ? -1 : even(event.seed, 1) < 0.5 ? 1 : -1;
    // One turned down goes less far, but never stops between two pictures.
    const far = s.far >= 1 ? Math.max(1, Math.round(s.far * event.scale)) : s.far * Math.min(1, event.scale);
    now += way * slipped(far, event.age / event.of);
    then += way * slipped(far, (event.age - 0.5) / event.of);
  }
  // The sprockets hold the film to its time: what has rolled by whole pictures has the pictures of this moment beside it.
  const rolled = Math.trunc(now);
  return { now: now - rolled, then: then - rolled };
}

/** The film slips past the claw: the picture rolls, the frame line and the picture beside it go through, and all comes back to rest. */
export const frameSlip = trait({
  id: 'frame-slip',
  act: 'machine',
  media: ['film'],
  name: 'Frame slip',
  says: 'The film slips; the picture rolls, its frame line and its neighbour pass, and it comes to rest.',
  domain: 'linear',
  settings,
  footprint: 'area',
  events: { rate: (s) => s.count / 60, length: (s) => s.length, longest: LONGEST },
  beside({ settings: s, events }) {
    const { now, then } = standing(s, events);
    const drawn = now + s.trail * (then - now);
    return [...(Math.min(now, drawn) < 0 ? [BEFORE] : []), ...(Math.max(now, drawn) > 0 ? [AFTER] : [])];
  },
  displaces: ({ settings: s, events, units, carrier }) => ({ x: 0, y: -standing(s, events).now * units.height * pitchOf(carrier, units) }),
  presets: readySettings({ count: 1, far: 0.15 }, { count: 40, far: 2 }),
  prepare({ engine, units, carrier, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const pitch = pitchOf(carrier, units);
    const [list, weights, black] = [store(), store(), store()];

    const roll = ({ surface, spare, swap, beside }: Pass, offset: number, smear: number, period: number): void => {
      const { stride } = surface;
      const copies = Math.max(1, Math.min(MOST_COPIES, Math.ceil(Math.abs(smear) / 2)));
      const dark = black.at(stride);
      k.fillRow(dark, width, 0);
      const own = [...surface.planes];
      const [before, after] = [beside(BEFORE), beside(AFTER)];
      for (let plane = 0; plane < 3; plane++) {
        /** A row of the film, counted from the top of the picture in the gate: those of the picture above, of this, of that below. */
        const filmRow = (row: number): number => {
          const picture = Math.floor(row / period);
          const on = row - picture * period;
          return on < height ? (picture < 0 ? before : picture > 0 ? after : own)[plane]! + on * stride : dark;
        };
        for (let y = 0; y < height; y++) {
          const shares = new Float32Array(copies * 2);
          const rows = new Int32Array(copies * 2);
          for (let i = 0; i < copies; i++) {
            // Between two rows of the film, picture after picture, with the line between them.
            const at = y + offset + (copies > 1 ? (i / (copies - 1)) * smear : 0);
            const first = Math.floor(at);
            [first, first + 1].forEach((row, j) => {
              rows[2 * i + j] = filmRow(row);
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
      const { now, then } = standing(s, events);
      if (now === 0 && then === 0) return;
      const period = s.line ? Math.max(height + 1, Math.round(height * pitch)) : height;
      roll(pass, now * period, s.trail * (then - now) * period, period);
    };
  },
});
