import type { ActiveEvent } from '../../events/events';
import { wander } from '../../motion/wander';
import { bell, even, hash } from '../../random/random';
import { smooth } from '../../shapes/smooth';
import { Stamp, type Mark, type RowPart } from '../../shapes/stamp';
import { hertz, micrometres, percentOfWidth, perMinute, seconds, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

// Taken once: in hot loops each look-up of a global costs.
const { ceil, floor, max, min } = Math;

/** Longest a scratch may last, with its spread. */
const LONGEST = 60;
/** Places of a scratch are worked out so many times a picture; between them it runs straight. */
const NODES = 12;
/** Breaks along the film: so many a picture. */
const BREAKS = 5;

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
  prepare({ engine, units, domain, rate, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const stamp = own(new Stamp(engine));
    const lines = perSettings((s: Values<typeof settings>, events: readonly ActiveEvent[], picture: number) =>
      events.map((event): Mark => {
        const { seed } = event;
        const wide = max(0.35, s.width * k.exp(0.4 * bell(seed, 1)));
        const dark = even(seed, 2) < s.dark;
        const { colour, cover } = dark ? { colour: [0.05, 0.05, 0.05], cover: 0.8 } : lightThrough(s.depth + 0.22 * bell(seed, 3), s.coloured);
        const at = event.placed ? event.x : min(1, max(0, s.across + (event.x - 0.5) * s.spread));
        // Film runs on from picture to picture, so a scratch goes on where it left the last.
        const nodes = Array.from({ length: NODES + 1 }, (_, i) => at * width + s.wander * wander(k, hash(seed, 4), (picture + i / NODES) / rate, s.rate));
        const placeAt = (along: number): number => {
          const i = min(NODES - 1, floor(along * NODES));
          return nodes[i]! + (nodes[i + 1]! - nodes[i]!) * (along * NODES - i);
        };
        const box = { left: floor(min(...nodes) - wide / 2 - 1), right: ceil(max(...nodes) + wide / 2 + 1), top: 0, bottom: height };
        const coverRow = ({ covers, count, left, y }: RowPart): boolean => {
          const along = (y + 0.5) / height;
          const touch = touches(seed, picture * s.speed + along, s.broken) * ends(event.age + along, event.of);
          if (touch <= 0) return false;
          const x = placeAt(along);
          // How much of a pixel lies under the line.
          for (let n = 0; n < count; n++) covers[n] = touch * max(0, min(left + n + 1, x + wide / 2) - max(left + n, x - wide / 2));
          return true;
        };
        return { shape: { box, cover: coverRow }, colour, share: cover * min(1, event.scale) };
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

/** A scratch begins and ends within its first and its last picture. */
const ends = (along: number, pictures: number): number => max(0, min(1, min(along, pictures - along) * 4));
