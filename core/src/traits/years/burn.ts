import { rowAt, type Surface } from '../../frame/surface';
import { even } from '../../random/random';
import { CloudPlane } from '../../shapes/cloud-plane';
import type { ActiveEvent } from '../../events/events';
import { smoothHeld } from '../../shapes/smooth';
import { colour, perMinute, readySettings, seconds, share } from '../settings';
import { trait } from '../trait';

// Taken once: in hot loops each look-up of a global costs.
const { ceil, floor, max, min, sqrt } = Math;

/** Longest burn. */
const LONGEST = 20;
/** Light of the lamp where nothing is left before it: a little warm, over white. */
const LAMP = [1.15, 1.1, 0.98] as const;
/** Where things are, as distances from the middle over the hole's radius at that side: the ends of the char and of the brown. */
const [CHAR, BROWN] = [1.28, 1.9];

/** A burn at one of its pictures, in pixels. */
interface Fire {
  readonly seed: number;
  readonly x: number;
  readonly y: number;
  /** Of the heat, and of the hole, which opens later. */
  readonly heat: number;
  readonly hole: number;
  /** Share of an event that is turned down. */
  readonly scale: number;
}

/**
 * The film stops in the gate and the lamp burns through it: it browns, bubbles, a hole opens from a point and runs outward, its rim is
 * charred, the picture is drawn into it, and the lamp shows where nothing is left.
 */
export const burn = trait({
  id: 'burn',
  act: 'years',
  media: ['film'],
  name: 'Burn',
  says: 'The film sticks in the gate and burns through.',
  domain: 'linear',
  settings: {
    rate: perMinute({ name: 'How often', says: 'Burns a minute; 0 leaves only those pinned by hand', default: 2, max: 30 }),
    length: seconds({ name: 'Length', says: 'From the first brown to the last of the picture', default: 2.4, min: 0.3, max: 15, step: 0.1 }),
    reach: share({ name: 'Reach', says: 'How far the hole gets, over half the diagonal', default: 1.1, min: 0.1, max: 1.6 }),
    rim: colour({ name: 'Rim', says: 'Colour the film takes before it goes', default: [0.5, 0.24, 0.07] }),
    pull: share({ name: 'Pull', says: 'How far the picture is drawn into the hole', default: 0.45 }),
    bubbles: share({ name: 'Bubbles', says: 'How much it boils', default: 0.6 }),
    middle: share({ name: 'Middle', says: '1 begins in the middle third, 0 anywhere', default: 0.7 }),
  },
  footprint: 'area',
  events: { place: 'both', rate: (s) => s.rate / 60, length: (s, drawn) => s.length * (0.85 + 0.3 * drawn), longest: LONGEST },
  presets: readySettings({ rate: 0.5, reach: 0.5 }, { rate: 12, reach: 1.6 }),
  prepare({ engine, units, store, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const rows = store();
    const diagonal = sqrt(width * width + height * height) / 2;
    // Tongues of the fire, what flickers on them, and blisters.
    const [tongues, flicker, blisters] = [0, 1, 2].map(() => own(new CloudPlane(engine, width, height))) as [CloudPlane, CloudPlane, CloudPlane];

    const fireOf = (event: ActiveEvent, s: { reach: number; middle: number }): Fire => {
      const t = (event.age + 0.5) / event.of;
      const put = (v: number): number => (event.placed ? v : v + (0.5 + (v - 0.5) / 3 - v) * s.middle);
      // Heat runs ahead; the hole opens after a fifth of the time, slowly, then fast.
      const open = max(0, (t - 0.18) / 0.82);
      const far = s.reach * diagonal * 1.25;
      return {
        seed: event.seed & 0xffff,
        x: put(event.x) * width,
        y: put(event.y) * height,
        heat: far * (0.06 + 0.9 * t * t + 0.12 * t),
        hole: far * open * open * (0.35 + 0.65 * open),
        scale: min(1, event.scale),
      };
    };

    const wear = (surface: Surface, spare: readonly number[], fire: Fire, s: { rim: readonly number[]; pull: number; bubbles: number }, age: number): void => {
      const outer = max(fire.heat * BROWN, fire.hole * BROWN) + 4;
      const [top, bottom] = [max(0, floor(fire.y - outer * 1.4)), min(height, ceil(fire.y + outer * 1.4))];
      // Places in two rows, the lamp's share in one, what is left of each colour in three.
      const [xs, ys, lamp] = [0, 1, 2].map((i) => rows.at(6 * surface.stride) + i * surface.stride) as [number, number, number];
      const left = [3, 4, 5].map((i) => rows.at(0) + i * surface.stride);
      for (let plane = 0; plane < 3; plane++) k.copy(spare[plane]!, surface.planes[plane]!, surface.stride * height);
      const planes = [
        tongues.at(fire.seed, diagonal / 5.7, -(fire.x * 5.7) / diagonal, -(fire.y * 5.7) / diagonal, 3),
        flicker.at(fire.seed + 31, diagonal / 27, -(fire.x * 27) / diagonal, -(fire.y * 27) / diagonal, 1),
        blisters.at(fire.seed + 100 + (age >> 1), diagonal / 26, 0, 0, 2),
      ] as const;
      const rimWidth = max(1, 0.006 * height);
      for (let y = top; y < bottom; y++) {
        const [fx, fy] = [engine.floats(xs, width), engine.floats(ys, width)];
        const kept = [0, 1, 2].map((i) => engine.floats(left[i]!, width));
        const lit = engine.floats(lamp, width);
        const [tongue, flick, blister] = planes.map((at) => engine.floats(at + y * surface.stride, width)) as [Float32Array, Float32Array, Float32Array];
        for (let x = 0; x < width; x++) {
          const [dx, dy] = [x + 0.5 - fire.x, y + 0.5 - fire.y];
          const d = sqrt(dx * dx + dy * dy);
          // Radius of the hole over its mean at that side.
          const rough = d / (1 + 0.48 * tongue[x]! + 0.04 * flick[x]!);
          const hole = fire.hole > 0.5 ? rough / fire.hole : 99;
          const heat = rough / max(1, fire.heat);
          // Drawn in: what is seen here lay farther out.
          const drawn = s.pull * fire.scale * max(fire.hole, 0.3 * fire.heat) * smoothHeld(1.6 - (0.5 * rough) / max(1, fire.hole, 0.5 * fire.heat));
          const by = d > 1e-6 ? drawn / d : 0;
          fx[x] = x + dx * by * 0.6;
          fy[x] = y + dy * by * 0.6;
          // Boiling: blisters of gelatine, dark more than bright, others every other picture.
          const boils = s.bubbles * smoothHeld((1.3 - heat) * 1.8);
          const cell = 1.7 * blister[x]!;
          const bright = 1 + boils * cell * (cell > 0 ? 0.45 : 0.85);
          // Amber where it is warm, then the rim's own colour, black about the hole.
          const brown = max(smoothHeld((1.35 - heat) * 1.1), smoothHeld((BROWN - hole) / (BROWN - 1)));
          const char = fire.hole > 0.5 ? smoothHeld((fire.hole * (CHAR + 0.1 * cell) + 0.02 * diagonal - rough) / (fire.hole * (CHAR - 1) * 0.7 + 0.02 * diagonal)) : 0;
          for (let plane = 0; plane < 3; plane++) {
            // Amber first: what the rim's colour holds back goes sooner than it all darkens.
            const rim = s.rim[plane]! * s.rim[plane]!;
            const tint = (1 + brown * (min(1, 2.2 * rim) - 1)) * (1 - 0.45 * brown * brown);
            kept[plane]![x] = max(0, bright * tint * (1 - 0.98 * char)) * fire.scale + (1 - fire.scale);
          }
          // An edge a little out of focus: as wide at any size.
          const edge = fire.hole > 0.5 ? max(0, min(1, ((1 - hole) * fire.hole) / rimWidth + 0.5)) : 0;
          lit[x] = edge * fire.scale;
        }
        for (let plane = 0; plane < 3; plane++) {
          const row = rowAt(surface, plane, y);
          k.warpLinear(row, width, xs, ys, spare[plane]!, surface.stride, width, height);
          k.timesRow(row, left[plane]!, width);
          k.layRow(row, lamp, width, LAMP[plane]!, 1);
        }
      }
    };
    return ({ surface, settings: s, events, spare }) => {
      for (const event of events) wear(surface, spare, fireOf(event, s), s, event.age + floor(4 * even(event.seed, 9)));
    };
  },
});
