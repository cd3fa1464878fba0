/** Plain twins of the kernels: the same work without SIMD or memory of their own, the oracles of `kernels.test.ts`. Not part of the product. */

// Taken once: in hot loops each look-up of a global costs.
const { ceil, floor, max, min, sqrt, abs, imul } = Math;

type Row = ArrayLike<number>;
const each = (n: number, of: (i: number) => number): number[] => Array.from({ length: n }, (_, i) => of(i));
const held = (row: Row, i: number): number => row[min(row.length - 1, max(0, i))]!;

export const mix = (top: Row, under: Row, share: number): number[] => each(top.length, (i) => under[i]! + share * (top[i]! - under[i]!));
export const comb = (own: Row, above: Row, near: Row, far: Row, level: number): number[] => each(own.length, (i) => (own[i]! + above[i]!) / 2 + level * (near[i]! - far[i]!));
export const mixWeighted = (top: Row, under: Row, w: Row, share: number): number[] => each(top.length, (i) => under[i]! + share * w[i]! * (top[i]! - under[i]!));
export const layRow = (row: Row, cover: Row, value: number, share: number): number[] => each(row.length, (i) => row[i]! + cover[i]! * share * (value - row[i]!));
/** @param perLog as the kernel's: below 0 densities, 0 light, 1 signals */
export const layLightRow = (row: Row, cover: Row, signal: number, share: number, perLog: number): number[] =>
  each(row.length, (i) => {
    if (cover[i] === 0) return row[i]!;
    const light = perLog < 0 ? 2 ** (perLog * row[i]!) : perLog > 0 ? Math.max(row[i]!, 2 ** -12) ** 2.4 : Math.max(row[i]!, 2 ** -29);
    const seen = light ** (1 / 2.4);
    const under = Math.max(seen + share * (signal - seen), 2 ** -12) ** 2.4;
    const now = light + cover[i]! * (under - light);
    if (perLog === 0) return now;
    return perLog < 0 ? Math.log2(Math.max(now, 2 ** -29)) / perLog : Math.max(now, 2 ** -29) ** (1 / 2.4);
  });
export const clampRow = (row: Row, low: number, high: number): number[] => each(row.length, (i) => min(high, max(low, row[i]!)));
export const affineRow = (row: Row, scale: number, offset: number): number[] => each(row.length, (i) => row[i]! * scale + offset);

export function kneeRow(row: Row, from: number, knee: number): number[] {
  return each(row.length, (i) => {
    const over = row[i]! - from;
    if (over <= -knee) return 0;
    return over >= knee ? over : (over + knee) ** 2 / (4 * knee);
  });
}

export const matrix = (rgb: readonly Row[], m: Row): number[][] =>
  [0, 1, 2].map((k) => each(rgb[0]!.length, (i) => m[3 * k]! * rgb[0]![i]! + m[3 * k + 1]! * rgb[1]![i]! + m[3 * k + 2]! * rgb[2]![i]! + m[9 + k]!));

/** `row` is continued at its edges; tap 0 takes the sample `start` to the right. */
export const fir = (row: Row, taps: Row, start: number): number[] =>
  each(row.length, (x) => each(taps.length, (k) => taps[k]! * held(row, x + start + k)).reduce((a, b) => a + b, 0));
export const box = (row: Row, radius: number): number[] => fir(row, new Array(2 * radius + 1).fill(1 / (2 * radius + 1)), -radius);

/** Gaussian blur of a plane by its definition. */
export function gaussian(plane: Row, width: number, height: number, sigma: number): number[] {
  const reach = ceil(5 * sigma);
  const bell = each(2 * reach + 1, (i) => Math.exp(-((i - reach) ** 2) / (2 * sigma * sigma)));
  const sum = bell.reduce((a, b) => a + b, 0);
  const taps = bell.map((b) => b / sum);
  const across = new Float64Array(width * height);
  for (let y = 0; y < height; y++) {
    const row = Array.prototype.slice.call(plane, y * width, (y + 1) * width) as number[];
    across.set(fir(row, taps, -reach), y * width);
  }
  const out = new Array<number>(width * height);
  for (let x = 0; x < width; x++) {
    const column = each(height, (y) => across[y * width + x]!);
    fir(column, taps, -reach).forEach((v, y) => (out[y * width + x] = v));
  }
  return out;
}

const cubicWeight = (t: number): number => (abs(t) >= 2 ? 0 : abs(t) < 1 ? (1.5 * abs(t) - 2.5) * t * t + 1 : ((-0.5 * abs(t) + 2.5) * abs(t) - 4) * abs(t) + 2);

/** A sample at (x, y), pixels' middles at whole numbers, edges continued. */
export function sampleCubic(plane: Row, width: number, height: number, x: number, y: number): number {
  let sum = 0;
  for (let j = floor(y) - 1; j <= floor(y) + 2; j++)
    for (let i = floor(x) - 1; i <= floor(x) + 2; i++) sum += cubicWeight(x - i) * cubicWeight(y - j) * plane[min(height - 1, max(0, j)) * width + min(width - 1, max(0, i))]!;
  return sum;
}

export function sampleLinear(plane: Row, width: number, height: number, x: number, y: number): number {
  const at = (i: number, j: number): number => plane[min(height - 1, max(0, j)) * width + min(width - 1, max(0, i))]!;
  const [i, j] = [floor(x), floor(y)];
  const [a, b] = [x - i, y - j];
  return (at(i, j) * (1 - a) + at(i + 1, j) * a) * (1 - b) + (at(i, j + 1) * (1 - a) + at(i + 1, j + 1) * a) * b;
}

/** White noise: each half of a hash of (seed, pair of columns) makes a sample, the sum of its low byte and of the halves of its high byte. */
export const white = (count: number, seed: number, from: number): number[] =>
  each(count, (i) => {
    let h = imul((from + i) >> 1, 0x9e3779b1) ^ seed;
    h ^= h >>> 16;
    h = imul(h, 0x7feb352d);
    h ^= h >>> 15;
    h = imul(h, 0x846ca68b);
    h ^= h >>> 16;
    const half = (from + i) & 1 ? h >>> 16 : h & 0xffff;
    return ((half & 255) + 16 * ((half >>> 8) & 15) + 16 * (half >>> 12) - 367.5) / sqrt(16341.25);
  });

export const table = (row: Row, points: Row, low: number, scale: number): number[] =>
  each(row.length, (i) => {
    const at = min(points.length - 1, max(0, (row[i]! - low) * scale));
    const j = min(points.length - 2, floor(at));
    return points[j]! + (points[j + 1]! - points[j]!) * (at - j);
  });

/** Pairs by (1, 5, 10, 10, 5, 1) / 32. */
export const halve = (row: Row): number[] => each(row.length / 2, (i) => [1, 5, 10, 10, 5, 1].reduce((sum, w, j) => sum + (w * held(row, 2 * i - 2 + j)) / 32, 0));
export const double = (row: Row): number[] =>
  each(2 * row.length, (i) => {
    const toward = i % 2 ? 1 : -1;
    return (10 * row[i >> 1]! + 5 * held(row, (i >> 1) + toward) + held(row, (i >> 1) - toward)) / 16;
  });

/** Weights outside an ellipse, in radii from its middle. */
export const ellipse = (count: number, start: number, step: number, across: number, soft: number): number[] =>
  each(count, (x) => {
    const t = min(1, max(0, (sqrt((start + step * x) ** 2 + across) - (1 - soft)) / soft));
    return t * t * (3 - 2 * t);
  });

/** @param blobs five numbers each: x, y, r2, stretch, lean */
export const blobsRow = (count: number, left: number, y: number, blobs: Row, level: number, edge: number): number[] =>
  each(count, (x) => {
    let field = 0;
    for (let b = 0; b < blobs.length; b += 5) {
      const [bx, by, r2, stretch, lean] = [blobs[b]!, blobs[b + 1]!, blobs[b + 2]!, blobs[b + 3]!, blobs[b + 4]!];
      const dy = y + 0.5 - by;
      const dx = left + x + 0.5 - bx + lean * dy;
      field += r2 / (dx * dx * stretch + (dy * dy) / stretch + 0.2 * r2);
    }
    return max(0, min(1, (field - level) / edge + 0.5));
  });

/** @param points x and y of each */
export const strokeRow = (count: number, left: number, y: number, points: Row, half: number, border: number, taper: number, share: number): number[] => {
  const pieces = points.length / 2 - 1;
  return each(count, (x) => {
    let most = 0;
    for (let i = 0; i < pieces; i++) {
      const [x0, y0, x1, y1] = [points[2 * i]!, points[2 * i + 1]!, points[2 * i + 2]!, points[2 * i + 3]!];
      const [dx, dy, vx, vy] = [left + x + 0.5 - x0, y + 0.5 - y0, x1 - x0, y1 - y0];
      const t = max(0, min(1, (dx * vx + dy * vy) / max(1e-9, vx * vx + vy * vy)));
      const along = (2 * (i + t)) / pieces - 1;
      most = max(most, share * max(0, min(1, (half * (1 - taper * along * along) - sqrt((dx - t * vx) ** 2 + (dy - t * vy) ** 2)) / border + 0.5)));
    }
    return most;
  });
};
