import type { Kernels } from '../engine';
import { bell, even } from '../random/random';
import type { Shape } from './stamp';

// Taken once: in hot loops each look-up of a global costs.
const { ceil, floor, max, min } = Math;

/** Points of a line, in pixels. */
export interface Line {
  readonly xs: readonly number[];
  readonly ys: readonly number[];
}

/** Straight pieces of a fibre. */
const PIECES = 28;

/**
 * A fibre: a line that bends as it goes, now this way and now that.
 * @param start its first point and the way it sets out (radians) @param length in pixels @param curl 0 straight to 1 a loop and more
 */
export function fibre(k: Pick<Kernels, 'sin' | 'cos'>, seed: number, start: { x: number; y: number; way: number }, length: number, curl: number): Line {
  const [xs, ys] = [[start.x], [start.y]];
  let way = start.way;
  // One bend over all of it, and smaller ones that change.
  const bend = (bell(seed, 1) * 4.5 * curl) / PIECES;
  let turn = 0;
  for (let i = 0; i < PIECES; i++) {
    turn = 0.75 * turn + 0.25 * bell(seed, 2, i) * curl;
    way += bend + turn;
    xs.push(xs[i]! + (length / PIECES) * k.cos(way));
    ys.push(ys[i]! + (length / PIECES) * k.sin(way));
  }
  return { xs, ys };
}

/** A line so moved that the middle of its box is at a place. */
export function centred(line: Line, x: number, y: number): Line {
  const middle = (v: readonly number[]): number => (max(...v) + min(...v)) / 2;
  const [dx, dy] = [x - middle(line.xs), y - middle(line.ys)];
  return { xs: line.xs.map((v) => v + dx), ys: line.ys.map((v) => v + dy) };
}

/**
 * A line of some width as a shape. One thinner than a pixel covers as much of it as it is wide.
 * @param mean its width in pixels, on the mean along it @param soft width of its border in pixels; at least one is taken @param taper how far its width falls toward both ends
 */
export function stroke({ xs, ys }: Line, mean: number, soft: number, taper = 0): Shape {
  const border = max(1, soft);
  // It narrows by the square of the way from its middle, a third of the taper on the mean.
  const width = mean / (1 - taper / 3);
  const half = max(width, 1) / 2;
  const share = min(1, width) * min(1, (max(1, width) + 1) / (border + 1));
  const reach = half + border / 2 + 1;
  const pieces = xs.length - 1;
  return {
    box: { left: floor(min(...xs) - reach), top: floor(min(...ys) - reach), right: ceil(max(...xs) + reach), bottom: ceil(max(...ys) + reach) },
    numbers: Float32Array.from(xs.flatMap((x, i) => [x, ys[i]!])),
    cover: ({ kernels, at, count, left, y, numbers }) => kernels.strokeRow(at, count, left, y, numbers, pieces, half, border, reach, taper, share) !== 0,
  };
}

/** A way to set out, evenly spread over all of them. */
export const anyWay = (seed: number): number => 2 * Math.PI * even(seed, 0x3a);
