import type { ActiveEvent } from '../../events/events';
import { patches } from '../../shapes/clouds';
import { boxAbout, Stamp, type Mark, type Shape } from '../../shapes/stamp';
import { choice, percentOfHeight, pictures, seconds, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

// Taken once: in hot loops each look-up of a global costs.
const { abs, max, min, sqrt } = Math;

const SHAPES = { dot: 'Ink dot', scraped: 'Scraped ring', punched: 'Punched hole' } as const;
type Kind = keyof typeof SHAPES;
/** Colour of each kind: ink is near black, a scraped layer lets yellow through, a hole all light. */
const COLOURS: Readonly<Record<Kind, readonly [number, number, number]>> = { dot: [0.03, 0.03, 0.03], scraped: [0.95, 0.9, 0.66], punched: [1, 1, 1] };
/** Pictures of the longest mark. */
const LONGEST_PICTURES = 12;

/** One mark; a hand made it, so it is never quite round. */
function mark(kind: Kind, seed: number, x: number, y: number, radius: number, wide: number): Shape {
  return {
    box: boxAbout(x, y, radius * max(1, wide) * 1.3 + 2),
    cover({ covers, count, left, y: row }) {
      let any = false;
      for (let i = 0; i < count; i++) {
        const [u, v] = [(left + i + 0.5 - x) / (radius * wide), (row + 0.5 - y) / radius];
        const rough = kind === 'punched' ? 0.03 : 0.13;
        const d = sqrt(u * u + v * v) * (1 + rough * patches(seed & 0xffff, 2.2 * u + 7, 2.2 * v));
        const edge = kind === 'scraped' ? 0.3 - abs(d - 0.72) : 1 - d;
        // A scraper skips.
        const skips = kind === 'scraped' ? max(0, min(1, 1.1 + patches((seed + 5) & 0xffff, 6 * u, 6 * v))) : 1;
        const c = skips * max(0, min(1, edge * radius * 0.7 + 0.5));
        covers[i] = c;
        any ||= c > 0;
      }
      return any;
    },
  };
}

const settings = {
  first: seconds({ name: 'First', says: 'Moment of the first mark', default: 1, max: 7200, step: 0.1 }),
  gap: seconds({ name: 'Gap', says: 'From the first mark to the second', default: 8, min: 0.2, max: 60, step: 0.1 }),
  every: seconds({ name: 'Every', says: 'The pair comes again after so long; 0 is once', default: 0, max: 7200, step: 1 }),
  shape: choice({ name: 'Shape', says: 'How it was made', default: 'scraped', options: SHAPES }),
  size: percentOfHeight({ name: 'Size', says: 'Height of a mark', default: 5, min: 0.5, max: 20, step: 0.1 }),
  stretch: share({ name: 'Stretch', says: 'Width over height; 2 as on a print for a squeezed lens', default: 1, min: 0.4, max: 2.5 }),
  held: pictures({ name: 'Held', says: 'Pictures it is on', default: 4, min: 1, max: LONGEST_PICTURES }),
  across: share({ name: 'Across', says: 'Place from the left', default: 0.93 }),
  down: share({ name: 'Down', says: 'Place from the top', default: 0.1 }),
};

/** Marks in the upper right that told the operator to start the other machine, and to change over. */
export const cueDots = trait({
  id: 'cue-dots',
  act: 'years',
  media: ['film'],
  name: 'Cue dots',
  says: 'Marks in the upper right: start the other machine; change over.',
  domain: 'rgb',
  settings,
  footprint: 'point',
  events: {
    place: 'both',
    rate: () => 0,
    times: (s, from, to) => {
      // A pair takes its gap; the next cannot come before it is over.
      const cycle = s.every > 0 ? Math.max(s.every, s.gap + 0.1) : 0;
      const first = cycle ? Math.max(0, Math.floor((from - s.first - s.gap) / cycle)) : 0;
      const last = cycle ? Math.max(0, Math.ceil((to - s.first) / cycle)) : 0;
      const pairs = Array.from({ length: last - first + 1 }, (_, i) => s.first + (first + i) * cycle);
      return pairs.flatMap((at) => [at, at + s.gap]).filter((at) => at >= from && at < to);
    },
    length: (s, _drawn, rate) => s.held / rate,
    longest: LONGEST_PICTURES / 8,
  },
  prepare({ engine, units, domain, own }) {
    const stamp = own(new Stamp(engine));
    const { width, height } = units;
    const marks = perSettings((s: Values<typeof settings>, events: readonly ActiveEvent[]) =>
      events.map((event): Mark => {
        const kind = s.shape as Kind;
        // Those that come by the clock stand in their place; one moved or pinned by hand where it was put.
        const [x, y] = event.placed ? [event.x, event.y] : [s.across, s.down];
        // Scraped by hand into each picture, so it trembles a little.
        const shape = mark(kind, event.seed + (kind === 'scraped' ? event.age : 0), x * width, y * height, s.size / 2, s.stretch);
        return { shape, colour: COLOURS[kind], share: Math.min(1, event.scale) * 0.95 };
      }),
    );
    return ({ surface, settings: s, events }) => stamp.laySeen(surface, domain, marks(s, events));
  },
});
