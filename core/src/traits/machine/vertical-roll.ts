import type { ActiveEvent } from '../../events/events';
import { rowAt } from '../../frame/surface';
import { hertz, perMinute, percent, readySettings, seconds, share } from '../settings';
import { trait, type Values } from '../trait';

const settings = {
  count: perMinute({ name: 'How many', says: 'Times a minute that the hold is lost', default: 4, max: 120 }),
  turns: share({ name: 'Turns', says: 'Pictures that roll by before it holds again', default: 1, min: 0.1, max: 12, step: 0.1 }),
  length: seconds({ name: 'Length', says: 'How long it takes', default: 0.7, min: 0.1, max: 20 }),
  rate: hertz({ name: 'Rate', says: 'Pictures a second that roll by all the time; 0 is at rest', default: 0, min: -10, max: 10 }),
  bar: percent({ name: 'Bar', says: 'Height of the blanking between two pictures, of the picture', default: 8, max: 30, step: 0.5 }),
};
const LONGEST = 20;

/** How far a roll has come, 0 to 1: it sets off at once and comes to rest slowly. */
const eased = (t: number): number => 1 - (1 - t) * (1 - t) * (1 - t);

/** Vertical hold is lost: the picture rolls, with the bar between two of them, and comes to rest where it was. */
export const verticalRoll = trait({
  id: 'vertical-roll',
  act: 'machine',
  media: ['air', 'tape'],
  needs: 'raster',
  name: 'Vertical roll',
  says: 'The set loses the picture’s beginning: it rolls, and comes to rest.',
  domain: 'video',
  settings,
  footprint: 'area',
  events: { rate: (s) => s.count / 60, length: (s) => s.length, longest: LONGEST },
  presets: readySettings({ count: 1 }, { count: 40, turns: 4, length: 1.6, bar: 12 }),
  prepare({ engine, units, rate }) {
    const k = engine.kernels;
    const { width, height } = units;
    const place = (s: Values<typeof settings>, events: readonly ActiveEvent[], now: number): number =>
      events.reduce((sum, event) => sum + s.turns * event.scale * eased(Math.min(1, (event.age + 1) / Math.max(1, s.length * rate))), now * s.rate);
    return ({ surface, settings: s, events, seconds: now, spare, swap }) => {
      const bar = Math.round(s.bar * height);
      const whole = height + bar;
      const off = Math.round((((place(s, events, now) % 1) + 1) % 1) * whole) % whole;
      if (off === 0) return;
      for (let plane = 0; plane < 3; plane++) {
        for (let y = 0; y < height; y++) {
          const from = (y + off) % whole;
          const to = spare[plane]! + y * surface.stride;
          if (from < height) k.copy(to, rowAt(surface, plane, from), width * 4);
          // The vertical sync shows darker than black; a tube shows no less than black.
          else k.fillRow(to, width, plane === 0 ? 0.01 : 0);
        }
        swap(plane);
      }
    };
  },
});
