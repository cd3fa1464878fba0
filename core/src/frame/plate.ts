import type { Engine, Store } from '../engine';
import type { Encoding, RawFrame } from './encoding';
import { Importer } from './import';
import { OutlineFill } from './outline-fill';
import { cubicTaps, Resampler } from './resample';
import { floatStride, rowAt, type Surface } from './surface';

/** What is known of a plate: a clip or a still that is laid over pictures. */
export interface PlateInfo {
  /** As its pictures come. */
  readonly width: number;
  readonly height: number;
  readonly encoding: Encoding;
  /** Height of its original as it is seen, in lines; a proxy has fewer. */
  readonly lines: number;
  readonly frames: number;
  /** Pictures a second. */
  readonly rate: number;
  /** Mean brightness of each picture, 0 to 1, where it was measured: colours times their alpha count. */
  readonly light?: readonly number[];
  /** Its pictures hold two, one above the other: the colours times their alpha, and the alpha as a grey. */
  readonly stacked: boolean;
}

/** The size of a plate as it is seen. */
export const plateSize = ({ width, height, stacked }: PlateInfo): { width: number; height: number } => ({ width, height: stacked ? height / 2 : height });

/** Where a plate stands in a picture, in the picture's samples. */
export interface PlatePlace {
  /** Of its middle. */
  readonly x: number;
  readonly y: number;
  /** Its sides. */
  readonly wide: number;
  readonly high: number;
  /** Radians, clockwise as it is seen. */
  readonly turn: number;
  readonly flipAcross: boolean;
  readonly flipDown: boolean;
  /** Samples across for one down. */
  readonly squeeze: number;
}

/** Its corners, clockwise from the upper left one. */
export function cornersOf({ x, y, wide, high, turn, squeeze }: PlatePlace, k: { sin(v: number): number; cos(v: number): number }): [number, number][] {
  const [c, s] = [k.cos(turn), k.sin(turn)];
  const [w, h] = [wide / squeeze / 2, high / 2];
  return (
    [
      [-w, -h],
      [w, -h],
      [w, h],
      [-w, h],
    ] as const
  ).map(([u, v]) => [x + (c * u - s * v) * squeeze, y + s * u + c * v]);
}

/** What is done to a plate's colours: what is black and white, and a colour they are multiplied by. */
export interface PlateColours {
  readonly black: number;
  readonly white: number;
  readonly tint: readonly number[];
  /** Colours as they are, not times their alpha: for blends that go by them. */
  readonly straight: boolean;
}

/** A plate's picture laid out in a picture's own samples: planes of red, green, blue and of how much it covers. Kept until it is another. */
export class PlatePicture {
  private readonly raw: Store;
  private readonly second: Store;
  private readonly level: Store;
  private readonly planes: Store;
  private readonly places: Store;
  private readonly outlines: OutlineFill;
  private importer: { readonly key: string; readonly of: Importer } | undefined;
  private readonly resamplers = new Map<string, Resampler>();
  private shown = '';

  constructor(
    private readonly engine: Engine,
    private readonly width: number,
    private readonly height: number,
  ) {
    [this.raw, this.second, this.level, this.planes, this.places] = [0, 1, 2, 3, 4].map(() => engine.store()) as [Store, Store, Store, Store, Store];
    this.outlines = new OutlineFill(engine);
  }

  release(): void {
    for (const store of [this.raw, this.second, this.level, this.planes, this.places]) store.release();
    for (const resampler of this.resamplers.values()) resampler.release();
    this.importer?.of.release();
    this.outlines.release();
  }

  /**
   * Lays out a picture, or a mixture of two.
   * @param key names pictures, place and colours together
   */
  show(key: string, parts: readonly { readonly frame: RawFrame; readonly share: number }[], info: PlateInfo, place: PlatePlace, colours: PlateColours): void {
    if (key === this.shown) return;
    const raw = this.read(parts, info);
    this.lay(raw, info, place);
    this.colour(colours, info.stacked);
    this.shown = key;
  }

  /** Row y of red, green, blue and coverage. */
  row(plane: 0 | 1 | 2 | 3, y: number): number {
    return this.out(plane) + y * floatStride(this.width);
  }

  private out(plane: number): number {
    const bytes = floatStride(this.width) * this.height;
    return this.planes.at(4 * bytes) + plane * bytes;
  }

  /** The pictures as floats, mixed by their shares. */
  private read(parts: readonly { readonly frame: RawFrame; readonly share: number }[], { width, height }: PlateInfo): Surface {
    const k = this.engine.kernels;
    const stride = floatStride(width);
    const bytes = stride * height;
    const surface = (store: Store): Surface => {
      const at = store.at(3 * bytes);
      return { planes: [at, at + bytes, at + 2 * bytes], stride, width, height, top: 0, bottom: height };
    };
    const [first, ...others] = parts;
    const out = surface(this.raw);
    this.importOf(first!.frame).run(out);
    if (others.length === 0) return out;
    for (const plane of out.planes) for (let y = 0; y < height; y++) k.affineRow(plane + y * stride, width, first!.share, 0);
    for (const { frame, share } of others) {
      const next = surface(this.second);
      this.importOf(frame).run(next);
      for (let i = 0; i < 3; i++) for (let y = 0; y < height; y++) k.addRow(rowAt(out, i, y), rowAt(next, i, y), width, share);
    }
    return out;
  }

  private importOf(frame: RawFrame): Importer {
    const { width, height, encoding } = frame;
    const key = JSON.stringify([width, height, encoding]);
    if (this.importer?.key !== key) {
      this.importer?.of.release();
      this.importer = { key, of: new Importer(this.engine, width, height, encoding) };
    }
    this.importer.of.load(frame);
    return this.importer.of;
  }

  private resampler(width: number, height: number): Resampler {
    const key = `${width}x${height}`;
    let made = this.resamplers.get(key);
    if (!made) this.resamplers.set(key, (made = new Resampler(this.engine, width, height)));
    return made;
  }

  private lay(raw: Surface, info: PlateInfo, place: PlatePlace): void {
    const k = this.engine.kernels;
    const { width, height } = this;
    const seen = plateSize(info);
    const stride = floatStride(width);
    // Red, green and blue of the upper part, and the lower part’s grey.
    const sources = [raw.planes[0], raw.planes[1], raw.planes[2], ...(info.stacked ? [raw.planes[1] + seen.height * raw.stride] : [])];
    const turned = place.turn !== 0;
    if (turned) this.layTurned(sources, raw.stride, seen, place);
    else {
      const resampler = this.resampler(seen.width, seen.height);
      const along = (count: number, middle: number, side: number, samples: number, flip: boolean): ReturnType<typeof cubicTaps> => {
        const step = (flip ? -1 : 1) * (samples / side);
        return cubicTaps(count, samples / 2 - middle * step, step);
      };
      resampler.aim(along(width, place.x, place.wide, seen.width, place.flipAcross), along(height, place.y, place.high, seen.height, place.flipDown));
      sources.forEach((source, i) => resampler.run(this.out(i), stride, source, raw.stride));
    }
    this.cover(place, info.stacked);
    // What is continued beyond its edges is not of it.
    const cover = this.places.at(stride * height);
    for (let i = 0; i < (info.stacked ? 4 : 0); i++) for (let y = 0; y < height; y++) k.timesRow(this.out(i) + y * stride, cover + y * stride, width);
  }

  /** Brought to its size first, level, then turned about its middle. */
  private layTurned(sources: readonly number[], rawStride: number, seen: { width: number; height: number }, place: PlatePlace): void {
    const k = this.engine.kernels;
    const { width, height } = this;
    const [wide, high] = [Math.max(1, Math.min(16384, Math.round(place.wide))), Math.max(1, Math.min(16384, Math.round(place.high)))];
    const stride = floatStride(wide);
    const bytes = stride * high;
    const level = this.level.at(bytes * sources.length);
    const resampler = this.resampler(seen.width, seen.height);
    const along = (count: number, samples: number, flip: boolean): ReturnType<typeof cubicTaps> => cubicTaps(count, flip ? samples : 0, ((flip ? -1 : 1) * samples) / count);
    resampler.aim(along(wide, seen.width, place.flipAcross), along(high, seen.height, place.flipDown));
    sources.forEach((source, i) => resampler.run(level + i * bytes, stride, source, rawStride));
    const [c, s] = [k.cos(place.turn), k.sin(place.turn)];
    const rows = this.places.at(2 * floatStride(width) + floatStride(width) * height);
    const [xs, ys] = [rows, rows + floatStride(width)];
    const [kx, ky] = [wide / place.wide, high / place.high];
    for (let y = 0; y < height; y++) {
      const [dx, dy] = [(0.5 - place.x) / place.squeeze, y + 0.5 - place.y];
      // Lengths are of the height while it turns.
      k.rampRow(xs, width, (c * dx + s * dy) * place.squeeze * kx + wide / 2 - 0.5, c * kx);
      k.rampRow(ys, width, (c * dy - s * dx) * ky + high / 2 - 0.5, (-s / place.squeeze) * ky);
      sources.forEach((_, i) => k.warpCubic(this.row(i as 0 | 1 | 2 | 3, y), width, xs, ys, level + i * bytes, stride, wide, high));
    }
  }

  /** How much of each sample the plate’s frame covers, as a plane by itself; where it has no alpha that is what it covers. */
  private cover(place: PlatePlace, stacked: boolean): void {
    const { width, height } = this;
    const corners = cornersOf(place, this.engine.kernels);
    const lines = corners.flatMap(([x, y], i) => [x, y, ...corners[(i + 1) % 4]!]);
    const stride = floatStride(width);
    const plane = this.places.at(stride * height);
    this.outlines.fill(stacked ? plane : this.out(3), width, height, lines, 0, 0);
  }

  private colour({ black, white, tint, straight }: PlateColours, stacked: boolean): void {
    const k = this.engine.kernels;
    const { width, height } = this;
    const scale = 1 / Math.max(1e-3, white - black);
    for (let y = 0; y < height; y++) {
      const cover = this.row(3, y);
      if (stacked) k.clampRow(cover, width, 0, 1);
      for (let i = 0 as 0 | 1 | 2; i < 3; i++) {
        const row = this.row(i, y);
        // Colours that come times their alpha leave it again where a blend goes by them, or take it on where they are laid as they are.
        if (stacked && straight) k.dividedRow(row, cover, width);
        if (black !== 0 || white !== 1) {
          if (stacked && !straight && black !== 0) {
            k.addRow(row, cover, width, -black);
            k.affineRow(row, width, scale, 0);
          } else k.affineRow(row, width, scale, -black * scale);
        }
        k.clampRow(row, width, 0, 1);
        if (tint[i] !== 1) k.affineRow(row, width, tint[i]!, 0);
        if (!stacked && !straight) k.timesRow(row, cover, width);
      }
    }
  }
}
