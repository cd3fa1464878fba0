import type { ActiveEvent } from '../../events/events';
import { wander } from '../../motion/wander';
import { bell, even, hash } from '../../random/random';
import { smooth } from '../../shapes/smooth';
import { Stamp, type Mark, type RowPart } from '../../shapes/stamp';
import { hertz, micrometres, perMinute, percentOfWidth, readySettings, seconds, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

// Taken once: in hot loops each look-up of a global costs.
const { ceil, floor, max, min } = Math;

/** Longest a scratch may last, with its spread. */
const LONGEST = 60;
/** Places of a scratch are worked out so many times a picture; between them it runs straight. */
const NODES = 12;
/** Breaks along the film: so many a picture; and how often it swells, shakes and goes from layer to layer. */
const BREAKS = 5;
const SWELLS = 3.1;
const SHAKES = 37;
const LAYERS = 1.7;
/** How far it shakes, of its width, and how unevenly deep it goes. */
const WAVERS = 0.22;
const UNEVEN = 0.16;
/** The dark flank of one that light shines through. */
const FLANK = [0.07, 0.06, 0.06] as const;

/** Light through a scratch by how deep it goes: in the base pale; in the emulsion yellow, then green as layers go, then clear. */
const DEPTHS: readonly { readonly depth: number; readonly colour: readonly [number, number, number]; readonly cover: number }[] = [
  { depth: 0, colour: [0.9, 0.9, 0.9], cover: 0.3 },
  { depth: 0.35, colour: [0.92, 0.88, 0.6], cover: 0.5 },
  { depth: 0.55, colour: [0.9, 0.84, 0.38], cover: 0.65 },
  { depth: 0.75, colour: [0.52, 0.78, 0.46], cover: 0.75 },
  { depth: 1, colour: [0.97, 0.98, 0.93], cover: 0.95 },
];

/** Colour and cover at a depth. @param coloured 0 for film without dyes */
function lightThrough(depth: number, coloured: number): { colour: number[]; cover: number } {
  const at = max(0, min(1, depth));
  const i = max(
    1,
    DEPTHS.findIndex((d) => d.depth >= at),
  );
  const [a, b] = [DEPTHS[i - 1]!, DEPTHS[i]!];
  const t = (at - a.depth) / (b.depth - a.depth);
  const colour = a.colour.map((v, c) => v + (b.colour[c]! - v) * t);
  const grey = max(...colour);
  return { colour: colour.map((v) => grey + (v - grey) * coloured), cover: a.cover + (b.cover - a.cover) * t };
}

const settings = {
  count: perMinute({ name: 'How many', says: 'New ones a minute', default: 24, max: 1200 }),
  life: seconds({ name: 'Life', says: 'How long one runs, about', default: 2, min: 0.05, max: 30, step: 0.05 }),
  width: micrometres({ name: 'Width', says: 'Of one on the film, about', default: 16, min: 2, max: 150, step: 1 }),
  depth: share({ name: 'Depth', says: '0 only the base is scratched; 1 all layers are gone', default: 0.35 }),
  coloured: share({ name: 'Coloured', says: 'How far the dyes of the layers colour it; 0 on silver film', default: 1 }),
  dark: share({ name: 'Dark', says: 'Share that is filled with dirt', default: 0.3 }),
  across: share({ name: 'Across', says: 'Where they run, from the left', default: 0.5 }),
  spread: share({ name: 'Spread', says: 'How far about that place; 1 is all of the width', default: 1 }),
  wander: percentOfWidth({ name: 'Wander', says: 'RMS by which one leaves its place', default: 0.25, max: 5 }),
  rate: hertz({ name: 'Rate', says: 'Fastest of its wandering', default: 0.6, max: 12 }),
  speed: share({ name: 'Speed', says: 'At which its breaks run through the picture; 1 is with the film, 0 they stand', default: 1 }),
  broken: share({ name: 'Broken up', says: 'Share of its way on which it does not touch', default: 0.35 }),
};

/** Lines scratched along the film: each with a life, a place it keeps or leaves slowly, breaks, a width and a depth of its own. */
export const scratches = trait({
  id: 'scratches',
  act: 'years',
  media: ['film'],
  name: 'Scratches',
  says: 'Lines run along the film where something scraped it.',
  domain: 'rgb',
  settings,
  footprint: 'point',
  events: { place: 'across', rate: (s) => s.count / 60, length: (s, drawn) => s.life * (0.25 + 1.5 * drawn), longest: LONGEST },
  presets: readySettings({ count: 6, depth: 0.2 }, { count: 300, life: 4, width: 30, depth: 0.7 }),
  prepare({ engine, units, domain, rate, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const stamp = own(new Stamp(engine));
    const lines = perSettings((s: Values<typeof settings>, events: readonly ActiveEvent[], picture: number) =>
      events.flatMap((event): Mark[] => {
        const { seed } = event;
        // Lognormal, of the mean that is set: that of exp(0.4 b) is exp(0.08).
        const wide = max(0.35, s.width * k.exp(0.4 * bell(seed, 1) - 0.08));
        const at = event.placed ? event.x : min(1, max(0, s.across + (event.x - 0.5) * s.spread));
        // Film runs on from picture to picture, so a scratch goes on where it left the last.
        const nodes = Array.from({ length: NODES + 1 }, (_, i) => at * width + s.wander * wander(k, hash(seed, 4), (picture + i / NODES) / rate, s.rate));
        const placeAt = (along: number): number => {
          const i = min(NODES - 1, floor(along * NODES));
          return nodes[i]! + (nodes[i + 1]! - nodes[i]!) * (along * NODES - i);
        };
        const box = { left: floor(min(...nodes) - 1.6 * wide - 2), right: ceil(max(...nodes) + 1.6 * wide + 2), top: 0, bottom: height };
        /** A line beside or on the scratch: `off` and `share` of its width there, as strong as `strength` says along the film. */
        const line = (off: number, of: number, strength: (film: number) => number): Mark['shape'] => ({
          box,
          cover({ covers, count, left, y }: RowPart): boolean {
            const along = (y + 0.5) / height;
            const film = picture * s.speed + along;
            const tip = ends(event.age + along, event.of);
            const touch = touches(seed, film, s.broken) * min(1, 3 * tip) * strength(film);
            if (touch <= 0) return false;
            // It thins and swells, wavers, and runs out in a point.
            const w = wide * (0.55 + 0.9 * changing(seed, 20, film * SWELLS)) * tip;
            const x = placeAt(along) + WAVERS * wide * (changing(seed, 21, film * SHAKES) - 0.5) + off * w;
            const half = (of * w) / 2;
            // How much of a pixel lies under the line.
            for (let n = 0; n < count; n++) covers[n] = touch * max(0, min(left + n + 1, x + half) - max(left + n, x - half));
            return true;
          },
        });
        const seen = min(1, event.scale);
        if (even(seed, 2) < s.dark) return [{ shape: line(0, 1, () => 1), colour: [0.05, 0.05, 0.05], share: 0.8 * seen }];
        // What scrapes does not go equally deep all along: it shows now one layer, now the next.
        const depth = s.depth + 0.22 * bell(seed, 3);
        const deeper = (film: number): number => smooth(changing(seed, 22, film * LAYERS));
        const [less, more] = [lightThrough(depth - UNEVEN, s.coloured), lightThrough(depth + UNEVEN, s.coloured)];
        const side = even(seed, 23) < 0.5 ? 1 : -1;
        return [
          // Its flank turns light away: one side is dark.
          { shape: line(side * 0.7, 0.5, (film) => 0.4 + 0.6 * deeper(film)), colour: FLANK, share: 0.45 * seen },
          { shape: line(0, 1, (film) => 1 - deeper(film)), colour: less.colour, share: less.cover * seen },
          { shape: line(0, 1, deeper), colour: more.colour, share: more.cover * seen },
        ];
      }),
    );
    return ({ surface, picture, settings: s, events }) => stamp.laySeen(surface, domain, lines(s, events, picture));
  },
});

/** How firmly a scratch touches at a place along the film, 0 to 1: smooth from one random strength to the next. */
function touches(seed: number, along: number, broken: number): number {
  const at = along * BREAKS;
  const i = floor(at);
  const t = at - i;
  const strength = even(seed, 5, i) + (even(seed, 5, i + 1) - even(seed, 5, i)) * smooth(t);
  if (broken === 0) return 1;
  // Below this lies a share of `broken` of such strengths (their quantile, fitted).
  const q = broken - 0.5;
  const threshold = 0.5 + 0.79 * q + 0.45 * q * q * q;
  return max(0, min(1, (strength - threshold) * 8 + 0.5));
}

/** A scratch begins and ends in a point within its first and its last picture. */
const ends = (along: number, pictures: number): number => smooth(max(0, min(1, min(along, pictures - along) * 2.5)));

/** A number from 0 to 1 that changes smoothly along the film, of mean 1/2. */
function changing(seed: number, key: number, at: number): number {
  const i = floor(at);
  const [a, b] = [even(seed, key, i), even(seed, key, i + 1)];
  return a + (b - a) * smooth(at - i);
}
