import { clouds } from '../../../shapes/clouds';

// Taken once: in hot loops each look-up of a global costs.
const { abs, max, min, sqrt } = Math;

/** RMS of what a file leaves before it is brought to 1, and the most of it after. */
const FILED = 0.39;
export const BURR_MOST = 1.7 / FILED;

/** Distance from a rounded rectangle about the origin, below 0 inside. */
export function outside(x: number, y: number, halfWidth: number, halfHeight: number, corner: number): number {
  const r = min(corner, halfWidth, halfHeight);
  const [dx, dy] = [abs(x) - halfWidth + r, abs(y) - halfHeight + r];
  const [ox, oy] = [max(0, dx), max(0, dy)];
  return sqrt(ox * ox + oy * oy) + min(0, max(dx, dy)) - r;
}

/** Share of a pixel that lies inside an edge, at a distance from it. @param wide the edge's own width */
export const inside = (d: number, wide: number): number => max(0, min(1, 0.5 - d / wide));

/** How far a place of a filed edge is off a straight line: large bends and small notches, of unit RMS. @param height of the picture, the measure of x and y */
export const burr =
  (seed: number, height: number) =>
  (x: number, y: number): number =>
    (clouds(seed & 0xffff, (3 * x) / height, (3 * y) / height, 2) + 0.7 * clouds((seed + 3) & 0xffff, (42 * x) / height, (42 * y) / height, 2)) / FILED;
