import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import { LOOK_SCHEMA, type Look, type TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import type { Curve } from '../traits/settings';
import { Measure, type Figures, type Three } from './figures';

/** What is proposed, and what the figures are without it and with it. */
export interface Match {
  /** In this order: tone-curves, saturation, ranges. */
  readonly uses: readonly TraitUse[];
  readonly before: Figures;
  readonly after: Figures;
  readonly reference: Figures;
}

const ROUNDS = 14;
/** Points of a curve stand at least this far apart. */
const APART = 0.012;
const RANGES = ['shadows', 'middles', 'highlights'] as const;

// Taken once: in hot loops each look-up of a global costs.
const { abs, atan2, hypot, max, min, round, PI, sqrt } = Math;
const held = (v: number, low: number, high: number): number => max(low, min(high, v));
const rounded = (v: number, digits: number): number => round(v * 10 ** digits) / 10 ** digits;

/**
 * Brings the figures of some pictures to those of a reference with three ordinary traits. It tries a setting, has the engine wear the
 * pictures, measures, and corrects, some rounds long; the figures it tells are those of the engine's own pictures.
 * @param frames pictures of the shot, small ones do @param colour the look's own colour, worn before
 */
export function match(engine: Engine, frames: readonly RawFrame[], reference: Figures, colour: Look): Match {
  const measured = (uses: readonly TraitUse[]): Figures => {
    const look: Look = { schema: LOOK_SCHEMA, shape: 'file', name: 'match', seed: 1, lives: [...colour.lives, { carrier: 'none', traits: uses }] };
    const measure = new Measure();
    for (const frame of frames) {
      const { width, height, encoding } = frame;
      const plan = new Plan(engine, look, { source: { width, height, encoding }, target: { width, height, encoding: 'float' }, rate: 24 });
      const [r, g, b] = plan.render(0, frame).map((p) => new Float32Array(p.buffer, p.byteOffset, p.length / 4));
      plan.dispose();
      measure.add(r!, g!, b!);
    }
    return measure.figures();
  };

  const before = measured([]);
  const points = pointsFor(before.percentiles);
  let out = points.map(({ of }) => reference.percentiles[of]!);
  let amount = held(ratio(total(reference), total(before)), 0, 3);
  let tints: Three[] = [
    [0, 0, 0],
    [0, 0, 0],
    [0, 0, 0],
  ];
  let best: { uses: TraitUse[]; figures: Figures; miss: number } | undefined;
  for (let i = 0; i < ROUNDS; i++) {
    const uses = proposed(points, out, amount, tints);
    const figures = measured(uses);
    const miss = distance(figures, reference);
    if (!best || miss < best.miss) best = { uses, figures, miss };
    out = out.map((v, p) => v + 0.8 * (reference.percentiles[points[p]!.of]! - figures.percentiles[points[p]!.of]!));
    amount = held(amount * ratio(total(reference), total(figures)) ** 0.5, 0, 3);
    tints = tints.map((t, r) => t.map((v, c) => v + 0.8 * (reference.tints[r]![c]! - figures.tints[r]![c]!)) as unknown as Three);
  }
  return { uses: best!.uses, before, after: best!.figures, reference };
}

const total = (f: Figures): number => f.saturation[0] + f.saturation[1] + f.saturation[2];
const ratio = (a: number, b: number): number => (b > 1e-3 ? held(a / b, 0.05, 20) : 1);

/** The largest miss of black, white, median and the tints, then of the rest with less weight. */
function distance(a: Figures, b: Figures): number {
  const misses = [abs(a.black - b.black), abs(a.white - b.white), abs(a.median - b.median), ...a.tints.flatMap((t, r) => t.map((v, c) => abs(v - b.tints[r]![c]!)))];
  const rest = a.percentiles.reduce((sum, v, i) => sum + abs(v - b.percentiles[i]!), 0) + a.saturation.reduce((sum, v, i) => sum + abs(v - b.saturation[i]!), 0);
  return max(...misses) + 0.05 * rest;
}

/** Where the curve's points stand: at the shot's percentiles, of those too close together one. */
function pointsFor(percentiles: readonly number[]): { at: number; of: number }[] {
  const points: { at: number; of: number }[] = [];
  percentiles.forEach((at, of) => {
    const last = points.at(-1);
    if (!last || at - last.at >= APART) points.push({ at, of });
    // White counts more than the percentile before it.
    else if (of === percentiles.length - 1 && points.length > 1) points[points.length - 1] = { at, of };
  });
  return points;
}

/** The traits of a state of the search, with values as a card would hold them. */
function proposed(points: readonly { at: number }[], out: readonly number[], amount: number, tints: readonly Three[]): TraitUse[] {
  const curve: [number, number][] = [];
  points.forEach(({ at }, i) => {
    const y = held(out[i]!, 0, 1);
    curve.push([rounded(held(at, 0, 1), 4), rounded(max(y, curve.at(-1)?.[1] ?? 0), 4)]);
  });
  // Past the darkest and the brightest it goes on to the corners, as steeply as a picture bears.
  const [first, last] = [curve[0]!, curve.at(-1)!];
  if (first[0] > 0.002) curve.unshift([0, rounded(max(0, first[1] - first[0]), 4)]);
  if (last[0] < 0.998) curve.push([1, rounded(min(1, last[1] + (1 - last[0])), 4)]);
  if (curve.length < 2) curve.push([1, curve[0]![1]]);
  const ranges: Record<string, number> = {};
  tints.forEach((tint, i) => {
    const { hue, size } = polar(tint);
    ranges[`${RANGES[i]}Hue`] = rounded(hue, 1);
    ranges[`${RANGES[i]}Tint`] = rounded(held(100 * size, 0, 30), 2);
  });
  return [
    { trait: 'tone-curves', settings: { master: curve as Curve } },
    { trait: 'saturation', settings: { amount: rounded(amount, 3) } },
    { trait: 'ranges', settings: ranges },
  ];
}

/** The hue (degrees) and the size that add about this tint; see `tintOf`. */
function polar([r, g, b]: Three): { hue: number; size: number } {
  // On the plane of hues red lies at 0, green and blue a third of a turn on; luma is no part of it.
  const [x, y] = [(2 / 3) * (r - (g + b) / 2), (2 / 3) * (sqrt(3) / 2) * (g - b)];
  return { hue: ((atan2(y, x) * 180) / PI + 360) % 360, size: hypot(x, y) };
}
