import { rangeWeights, RANGES_MEET } from '../traits/colour/range-weights';
import { BLUE, GREEN, RED } from '../traits/colour/by-luma';

/** Shares of the pixels whose luma is told; the first and the last are black and white. */
export const PERCENTILES = [0.005, 0.05, 0.25, 0.5, 0.75, 0.95, 0.995] as const;
export type Three = readonly [number, number, number];

/** What a picture, or several, come to. All in shares of full scale. */
export interface Figures {
  /** Luma at each of `PERCENTILES`. */
  readonly percentiles: readonly number[];
  readonly black: number;
  readonly white: number;
  readonly median: number;
  /** From the 5th percentile to the 95th. */
  readonly contrast: number;
  /** Mean distance of colours from grey (of the longest of the three channels' differences), in shadows, middles, highlights. */
  readonly saturation: Three;
  /** How far the mean of shadows, middles and highlights lies from grey: red, green and blue less luma. */
  readonly tints: readonly [Three, Three, Three];
}

// Taken once: in hot loops each look-up of a global costs.
const { abs, max, min, round } = Math;
const BINS = 4096;

/** Gathers pixels of one picture or of several. */
export class Measure {
  private readonly bins = new Float64Array(BINS);
  private readonly sums = [0, 1, 2].map(() => ({ weight: 0, red: 0, green: 0, blue: 0, spread: 0 }));
  private pixels = 0;
  private readonly weights = Array.from({ length: BINS }, (_, i) => rangeWeights(i / (BINS - 1), RANGES_MEET.low, RANGES_MEET.high, RANGES_MEET.soft));

  /** Adds every `step`th pixel of planes of red, green and blue, 0..1 (what lies outside is held). */
  add(r: ArrayLike<number>, g: ArrayLike<number>, b: ArrayLike<number>, step = 1, scale = 1): void {
    for (let i = 0; i < r.length; i += step) {
      const [x, y, z] = [min(1, max(0, r[i]! * scale)), min(1, max(0, g[i]! * scale)), min(1, max(0, b[i]! * scale))];
      const luma = RED * x + GREEN * y + BLUE * z;
      const bin = round(luma * (BINS - 1));
      this.bins[bin]!++;
      this.pixels++;
      const weights = this.weights[bin]!;
      const [dr, dg, db] = [x - luma, y - luma, z - luma];
      const spread = max(abs(dr), abs(dg), abs(db));
      for (let k = 0; k < 3; k++) {
        const w = weights[k]!;
        if (w === 0) continue;
        const sum = this.sums[k]!;
        sum.weight += w;
        sum.red += w * dr;
        sum.green += w * dg;
        sum.blue += w * db;
        sum.spread += w * spread;
      }
    }
  }

  /** Adds 8-bit RGBA. */
  addRgba(pixels: Uint8Array | Uint8ClampedArray, step = 1): void {
    const count = Math.floor(pixels.length / 4 / step);
    const planes = [0, 1, 2].map((channel) => Float32Array.from({ length: count }, (_, i) => pixels[i * step * 4 + channel]! / 255));
    this.add(planes[0]!, planes[1]!, planes[2]!);
  }

  /** @throws RangeError where nothing has been added */
  figures(): Figures {
    if (this.pixels === 0) throw new RangeError('no picture has been measured');
    const percentiles = PERCENTILES.map((share) => this.percentile(share));
    const tints = this.sums.map(({ weight, red, green, blue }) => (weight > 0 ? ([red / weight, green / weight, blue / weight] as const) : ([0, 0, 0] as const)));
    return {
      percentiles,
      black: percentiles[0]!,
      white: percentiles.at(-1)!,
      median: percentiles[3]!,
      contrast: percentiles[5]! - percentiles[1]!,
      saturation: this.sums.map(({ weight, spread }) => (weight > 0 ? spread / weight : 0)) as unknown as Three,
      tints: tints as unknown as Figures['tints'],
    };
  }

  private percentile(share: number): number {
    const wanted = share * this.pixels;
    let before = 0;
    for (let i = 0; i < BINS; i++) {
      const here = this.bins[i]!;
      if (here > 0 && before + here >= wanted) return max(0, min(1, (i - 0.5 + (wanted - before) / here) / (BINS - 1)));
      before += here;
    }
    return 1;
  }
}
