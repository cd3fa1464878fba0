import { clouds } from '../../../shapes/clouds';

// Taken once: in hot loops each look-up of a global costs, and so does a pair that is taken apart before they are compiled.
const { abs, max, min, sqrt } = Math;

/** The most that a place of a filed edge is off, in RMS; what would be farther is held there. */
export const BURR_MOST = 4;
/** Places along a side at which it is measured. */
const ALONG = 240;

/** Distance from a rounded rectangle about the origin, below 0 inside. */
export function outside(x: number, y: number, halfWidth: number, halfHeight: number, corner: number): number {
  const r = min(corner, halfWidth, halfHeight);
  const dx = abs(x) - halfWidth + r;
  const dy = abs(y) - halfHeight + r;
  const ox = max(0, dx);
  const oy = max(0, dy);
  return sqrt(ox * ox + oy * oy) + min(0, max(dx, dy)) - r;
}

/** Share of a pixel that lies inside an edge, at a distance from it. @param wide the edge's own width */
export const inside = (d: number, wide: number): number => max(0, min(1, 0.5 - d / wide));

/** What a file leaves: large bends and small notches. @param height of the picture, the measure of x and y */
const filed = (seed: number, height: number, x: number, y: number): number =>
  clouds(seed & 0xffff, (3 * x) / height, (3 * y) / height, 2) + 0.7 * clouds((seed + 3) & 0xffff, (42 * x) / height, (42 * y) / height, 2);

/** Mean square of values about the straight line that fits them best. */
function squareOff(values: readonly number[]): number {
  const middle = (values.length - 1) / 2;
  const mean = values.reduce((a, v) => a + v, 0) / values.length;
  const [up, over] = values.reduce(([a, b], v, i) => [a + (i - middle) * (v - mean), b + (i - middle) ** 2], [0, 0] as [number, number]);
  return values.reduce((a, v, i) => a + (v - mean - (up / over) * (i - middle)) ** 2, 0) / values.length;
}

/**
 * How far the edge nearest to a place is off a straight line, with the RMS 1 over the four sides of a rectangle, each measured against the
 * line that fits it best: a few hand-filed bends are not alike in two looks, their strength is.
 * @param height of the picture, the measure of all @param x, y where in the field of noise the rectangle's middle lies
 * @returns what is off, by the place from the rectangle's middle
 */
export function burr(seed: number, height: number, [x, y]: readonly [number, number], halfWidth: number, halfHeight: number): (x: number, y: number) => number {
  const places = Array.from({ length: ALONG }, (_, i) => (2 * (i + 0.5)) / ALONG - 1);
  const sides = [-1, 1].flatMap((side) => [
    places.map((p) => filed(seed, height, x + p * halfWidth, y + side * halfHeight)),
    places.map((p) => filed(seed, height, x + side * halfWidth, y + p * halfHeight)),
  ]);
  const rms = sqrt(sides.reduce((a, side) => a + squareOff(side), 0) / sides.length);
  return (px, py) => {
    // Drawn along the edge alone: what changed across it too would fold over where it is steep.
    const upright = halfWidth - abs(px) < halfHeight - abs(py);
    const ex = upright ? (px < 0 ? -halfWidth : halfWidth) : px;
    const ey = upright ? py : py < 0 ? -halfHeight : halfHeight;
    return max(-BURR_MOST, min(BURR_MOST, filed(seed, height, x + ex, y + ey) / rms));
  };
}
