import { bell, even } from '../../random/random';
import { clouds } from '../../shapes/clouds';
import { boxAbout, Stamp, type Shape } from '../../shapes/stamp';
import { smoothHeld } from '../../shapes/smooth';
import { choice, colour, millimetres, perMinute, pictures, readySettings, share } from '../settings';
import { trait } from '../trait';

// Taken once: in hot loops each look-up of a global costs.
const { abs, max, min, sqrt } = Math;

const LONGEST_PICTURES = 96;
const KINDS = { mixed: 'Mixed', water: 'Water', mould: 'Mould', finger: 'Finger marks' } as const;
type Kind = Exclude<keyof typeof KINDS, 'mixed'>;
const EACH: readonly Kind[] = ['water', 'mould', 'finger'];
/** Ridges of a finger lie so far apart on the film, in millimetres. */
const RIDGE = 0.46;

/** How much of each kind lies at a place: `d` is the distance over the radius, `u` and `v` the place over the radius. */
function density(kind: Kind, seed: number, d: number, u: number, v: number, ridge: number): number {
  if (kind === 'water') {
    // It dried from outside in: a rim where the dirt was left, fainter ones within, little between.
    const rough = d * (1 + 0.3 * clouds(seed, 2.1 * u, 2.1 * v, 3));
    const rim = (at: number, wide: number): number => max(0, 1 - abs(rough - at) / wide);
    return max(0.28 * smoothHeld((1 - rough) * 8), rim(0.96, 0.06), 0.5 * rim(0.74 + 0.1 * even(seed, 3), 0.05));
  }
  if (kind === 'mould') {
    // Threads grow outward from a spot: thick in the middle, branching into less.
    const grown = clouds(seed, 5 * u, 5 * v, 4) + 0.5 * clouds(seed + 9, 14 * u, 14 * v, 2);
    return smoothHeld((0.85 - d - 0.9 * abs(grown)) * 3);
  }
  // Ridges curve about a point below the middle; the finger pressed more in its middle.
  const [a, b] = [u - 0.25 * bell(seed, 5), v - 0.45 - 0.2 * bell(seed, 6)];
  const along = (sqrt(a * a + 1.4 * b * b) + 0.09 * clouds(seed, 1.6 * u, 1.6 * v, 2)) / ridge;
  const saw = abs(along - Math.floor(along) - 0.5) * 4 - 1;
  return (
    smoothHeld((1 - d * (1.05 + 0.15 * clouds(seed + 4, 2 * u, 2 * v, 2))) * 2.5) *
    smoothHeld(0.45 + 0.8 * saw) *
    smoothHeld(0.75 + 1.1 * clouds(seed + 7, (2.2 * u) / ridge, (2.2 * v) / ridge, 2))
  );
}

/** What water, mould and fingers left on the film, over a few pictures at a place. */
export const stains = trait({
  id: 'stains',
  act: 'years',
  media: ['film'],
  name: 'Stains',
  says: 'Water dried, mould grew, fingers touched the film.',
  domain: 'density',
  settings: {
    count: perMinute({ name: 'How many', says: 'Stains a minute', default: 12, max: 1200 }),
    kind: choice({ name: 'Kind', says: 'Of what', default: 'mixed', options: KINDS }),
    size: millimetres({ name: 'Size', says: 'Width of one on the film, about', default: 1.6, min: 0.1, max: 20 }),
    density: share({ name: 'Density', says: 'Where it is thickest; below 0 it has eaten the picture away', default: 0.35, min: -1.5, max: 2 }),
    colour: colour({ name: 'Colour', says: 'Of light that comes through', default: [0.85, 0.72, 0.5] }),
    held: pictures({ name: 'Held', says: 'Pictures over which one lies', default: 3, min: 1, max: LONGEST_PICTURES }),
  },
  footprint: 'point',
  events: { place: 'both', rate: (s) => s.count / 60, length: (s, drawn, rate) => (s.held * (0.5 + drawn)) / rate, longest: (LONGEST_PICTURES * 1.5) / 8 },
  idle: (s) => s.density === 0,
  presets: readySettings({ count: 4, density: 0.2 }, { count: 240, size: 4, density: 0.8 }),
  prepare({ engine, units, own }) {
    const k = engine.kernels;
    const { width, height, micrometresPerPixel } = units;
    const stamp = own(new Stamp(engine));
    const stainOf = (event: { seed: number; x: number; y: number }, size: number, kind: keyof typeof KINDS): Shape => {
      const { seed } = event;
      const radius = (size / 2) * k.exp(0.4 * bell(seed, 1));
      const [cx, cy] = [event.x * width, event.y * height];
      const of = kind === 'mixed' ? EACH[Math.floor(even(seed, 2) * EACH.length)]! : kind;
      const ridge = (RIDGE * 1000) / micrometresPerPixel / radius;
      return {
        box: boxAbout(cx, cy, radius * 1.6 + 1),
        cover({ covers, count, left, y }) {
          let any = false;
          const v = (y + 0.5 - cy) / radius;
          for (let x = 0; x < count; x++) {
            const u = (left + x + 0.5 - cx) / radius;
            const d = sqrt(u * u + v * v);
            const c = d < 1.6 ? min(1, density(of, seed & 0xffff, d, u, v, ridge)) : 0;
            covers[x] = c;
            any ||= c > 0;
          }
          return any;
        },
      };
    };
    return ({ surface, settings: s, events }) => {
      // The colour that comes through, as a share of the density in each layer; the one held back most takes it whole.
      const through = s.colour.map((v) => -k.log(max(0.02, v)) / Math.LN10);
      const most = max(0.02, ...through);
      for (const event of events) {
        const factors = through.map((v) => s.density * event.scale * max(0.25, v / most));
        stamp.add(surface, stainOf(event, s.size, s.kind as keyof typeof KINDS), factors);
      }
    };
  },
});
