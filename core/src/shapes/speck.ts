import { bell, even } from '../random/random';
import { boxAbout, type Shape } from './stamp';

/** Sigma of the logarithm of sizes (lognormal, as counted on prints). */
const SPREAD = 0.55;
const BLOBS = 4;
/** Share of specks that are lint, and how thin against a round one; they are as much longer. */
const FIBROUS = 0.3;
const LINT = 0.6;
/** Of the blobs' common field, where the edge lies. */
const LEVEL = 1.15;

/** Where and of what random shape a speck is. */
interface Seat {
  readonly seed: number;
  /** Middle, in pixels. */
  readonly x: number;
  readonly y: number;
}

/**
 * A speck of dirt: blobs that melt into each other, no two alike, by arithmetic alone.
 * @param size median width in pixels; sizes are lognormal about it @param soft 0 sharp to 1 far out of focus
 */
export function speck({ seed, x: cx, y: cy }: Seat, size: number, soft: number, exp: (x: number) => number): Shape {
  // The blobs melt into a shape a quarter wider than the first of them.
  const r = 0.8 * (size / 2) * exp(SPREAD * bell(seed, 1));
  // Some are lint: drawn out, this way or that.
  const fibrous = even(seed, 8) < FIBROUS;
  const drawn = fibrous ? (even(seed, 9) < 0.5 ? LINT : 1 / LINT) : 1;
  const blobs = Array.from({ length: BLOBS }, (_, i) => {
    const away = i === 0 ? 0 : 0.75 * r;
    return {
      x: cx + (away * bell(seed, 2, i)) / drawn,
      y: cy + away * bell(seed, 3, i) * drawn,
      r2: (r * (i === 0 ? 0.85 : 0.3 + 0.5 * even(seed, 4, i))) ** 2,
      stretch: (0.55 + 0.9 * even(seed, 5, i)) * drawn * drawn,
      lean: 0.8 * bell(seed, 6, i),
    };
  });
  const edge = 0.12 + 0.8 * soft;
  return {
    box: boxAbout(cx, cy, 3.2 * r * (1 + soft) * (fibrous ? 1 / LINT : 1) + 2),
    numbers: Float32Array.from(blobs.flatMap((b) => [b.x, b.y, b.r2, b.stretch, b.lean])),
    cover: ({ kernels, at, count, left, y, numbers }) => kernels.blobsRow(at, count, left, y, numbers, BLOBS, LEVEL, edge) !== 0,
  };
}
