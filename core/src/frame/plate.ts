import type { Engine, Store } from '../engine';
import { sameEncoding, type Encoding, type RawFrame } from './encoding';
import { Importer } from './import';
import { OutlineFill } from './outline-fill';
import { ScaledImporter } from './scaled-import';
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
  /** Of one with alpha: colours as they are, not times it, for blends that go by them. */
  readonly straight: boolean;
}

/** What is laid: pictures mixed by their shares, where, and how coloured. */
export interface PlateShown {
  /** Names the pictures. */
  readonly key: string;
  readonly parts: readonly { readonly frame: RawFrame; readonly share: number }[];
  readonly info: PlateInfo;
  readonly place: PlatePlace;
  readonly colours: PlateColours;
}

/** One picture of a plate being read, or its alpha. */
class Source {
  readonly importer: Importer;
  private readonly scaled: ScaledImporter;

  constructor(
    engine: Engine,
    frame: RawFrame,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.importer = new Importer(engine, frame.width, frame.height, frame.encoding);
    this.scaled = new ScaledImporter(engine, this.importer, width, height);
  }

  release(): void {
    this.scaled.release();
    this.importer.release();
  }

  /** The rows of a band of the picture, level. */
  read(band: Surface, { x, y, wide, high, flipAcross, flipDown }: PlatePlace): void {
    const { importer } = this;
    if (
      wide === importer.width &&
      high === importer.height &&
      x === this.width / 2 &&
      y === this.height / 2 &&
      wide === this.width &&
      high === this.height &&
      !flipAcross &&
      !flipDown
    )
      return importer.run(band);
    // What of the plate the picture sees, backwards where it is flipped.
    const along = (middle: number, side: number, own: number, samples: number, flip: boolean): [number, number] => {
      const step = (flip ? -own : own) / side;
      return [own / 2 - middle * step, samples * step];
    };
    const [left, width] = along(x, wide, importer.width, this.width, flipAcross);
    const [top, height] = along(y, high, importer.height, this.height, flipDown);
    this.scaled.take({ left, top, width, height });
    this.scaled.run(band);
  }
}

/** A plate as it lies over a picture, row by row: red, green, blue, and how much it covers. Pictures are taken in once, however many they are laid over. */
export class PlateLayer {
  private readonly sources = new Map<string, Source>();
  private readonly band: Store;
  private readonly mixed: Store;
  private readonly cover: Store;
  private readonly turned: TurnedPlate;
  private readonly outlines: OutlineFill;
  private now: PlateShown | undefined;
  private loaded = '';
  private coverKey = '';
  /** Rows at work: the first, and where the planes stand. */
  private held: Surface | undefined;

  constructor(
    private readonly engine: Engine,
    private readonly width: number,
    private readonly height: number,
  ) {
    [this.band, this.mixed, this.cover] = [engine.store(), engine.store(), engine.store()];
    this.turned = new TurnedPlate(engine, width);
    this.outlines = new OutlineFill(engine);
  }

  release(): void {
    for (const thing of [this.band, this.mixed, this.cover, this.turned, this.outlines, ...this.sources.values()]) thing.release();
  }

  /** Chooses what is laid from now on. */
  show(shown: PlateShown): void {
    this.now = shown;
    if (shown.key !== this.loaded) {
      shown.parts.forEach(({ frame }, i) => halvesOf(frame, shown.info.stacked).forEach((half, part) => this.source(half, i, part).importer.load(half)));
      this.loaded = shown.key;
      this.turned.forget();
    }
    this.layCover(shown.place);
  }

  /** Brings the rows of a band; bands of one picture come in their order. */
  read(surface: Surface): void {
    const { parts, info, place, colours } = this.now!;
    const stride = floatStride(this.width);
    const rows = surface.bottom - surface.top;
    const bytes = stride * rows;
    const at = this.band.at(6 * bytes);
    const planes = (first: number): [number, number, number] => [first, first + bytes, first + 2 * bytes];
    const band: Surface = { ...surface, stride, planes: planes(at) };
    const alpha: Surface = { ...band, planes: planes(at + 3 * bytes) };
    this.held = { ...band, planes: [...band.planes] };
    const into = [band, ...(info.stacked ? [alpha] : [])];
    if (place.turn !== 0)
      this.turned.read(
        into,
        parts.map(({ share }, i) => ({ share, sources: into.map((_, part) => this.known(i, part).importer) })),
        place,
      );
    else this.level(into, bytes);
    this.colour(band, info.stacked ? alpha : undefined, colours);
  }

  /** Row y of red, green, blue, or (3) of alpha, of the band that was read. */
  row(plane: 0 | 1 | 2 | 3, y: number): number {
    const held = this.held!;
    const stride = held.stride;
    return held.planes[0] + plane * stride * (held.bottom - held.top) + (y - held.top) * stride;
  }

  /** Row y of what the plate's frame covers; 0 where that is all of it. */
  frameRow(y: number): number {
    return this.coverKey === 'all' ? 0 : this.cover.at(floatStride(this.width) * this.height) + y * floatStride(this.width);
  }

  private level(into: readonly Surface[], bytes: number): void {
    const k = this.engine.kernels;
    const { parts, place } = this.now!;
    into.forEach((band, part) => {
      this.known(0, part).read(band, place);
      if (parts.length === 1) return;
      const at = this.mixed.at(3 * bytes);
      const other: Surface = { ...band, planes: [at, at + bytes, at + 2 * bytes] };
      this.known(1, part).read(other, place);
      for (let plane = 0; plane < 3; plane++) for (let y = band.top; y < band.bottom; y++) k.mix(rowAt(band, plane, y), rowAt(other, plane, y), this.width, parts[0]!.share);
    });
  }

  private source(frame: RawFrame, picture: number, part: number): Source {
    const key = `${picture}.${part}`;
    const known = this.sources.get(key);
    if (known && known.importer.width === frame.width && known.importer.height === frame.height && sameEncoding(known.importer.encoding, frame.encoding)) return known;
    known?.release();
    const made = new Source(this.engine, frame, this.width, this.height);
    this.sources.set(key, made);
    return made;
  }

  private known(picture: number, part: number): Source {
    return this.sources.get(`${picture}.${part}`)!;
  }

  private layCover(place: PlatePlace): void {
    const { width, height } = this;
    const [left, top] = [place.x - place.wide / 2, place.y - place.high / 2];
    const all = place.turn === 0 && left <= 0 && top <= 0 && left + place.wide >= width && top + place.high >= height;
    const key = all ? 'all' : JSON.stringify(place);
    if (key === this.coverKey) return;
    this.coverKey = key;
    if (all) return;
    const corners = cornersOf(place, this.engine.kernels);
    const lines = corners.flatMap(([x, y], i) => [x, y, ...corners[(i + 1) % 4]!]);
    this.outlines.fill(this.cover.at(floatStride(width) * height), width, height, lines, 0, 0);
  }

  private colour(band: Surface, alpha: Surface | undefined, { black, white, tint, straight }: PlateColours): void {
    const k = this.engine.kernels;
    const { width } = this;
    const scale = 1 / Math.max(1e-3, white - black);
    const tinted = tint.some((v) => v !== 1);
    const levels = black !== 0 || white !== 1;
    if (!alpha && !levels && !tinted) return;
    for (let y = band.top; y < band.bottom; y++) {
      // A grey: any of its three planes.
      const cover = alpha && this.row(3, y);
      if (cover !== undefined) k.clampRow(cover, width, 0, 1);
      for (let i = 0; i < 3; i++) {
        const row = rowAt(band, i, y);
        if (cover !== undefined && straight) k.dividedRow(row, cover, width);
        if (levels) {
          // Black of colours that come times their alpha is so, too.
          if (cover !== undefined && !straight) {
            k.addRow(row, cover, width, -black);
            k.affineRow(row, width, scale, 0);
          } else k.affineRow(row, width, scale, -black * scale);
        }
        k.clampRow(row, width, 0, 1);
        if (tinted) k.affineRow(row, width, tint[i]!, 0);
      }
    }
  }
}

/** A plate's picture, and its alpha where it has one, each a picture of its own. */
function halvesOf(frame: RawFrame, stacked: boolean): RawFrame[] {
  if (!stacked) return [frame];
  const half = { ...frame, height: frame.height / 2 };
  return [0, 1].map((part) => ({ ...half, planes: frame.planes.map((plane) => plane.subarray((part * plane.length) / 2, ((part + 1) * plane.length) / 2)) }));
}

/** Plates that are turned: as a whole first, brought to their size where that is less than their own, then turned about their middle. */
class TurnedPlate {
  private readonly planes: Store;
  private readonly whole: Store;
  private readonly places: Store;
  private readonly scaled = new Map<string, { readonly of: Importer; readonly importer: ScaledImporter }>();
  private made = '';

  constructor(
    private readonly engine: Engine,
    private readonly width: number,
  ) {
    [this.planes, this.whole, this.places] = [engine.store(), engine.store(), engine.store()];
  }

  release(): void {
    for (const thing of [this.planes, this.whole, this.places]) thing.release();
    for (const { importer } of this.scaled.values()) importer.release();
  }

  /** What is kept is of other pictures now. */
  forget(): void {
    this.made = '';
  }

  /** @param into bands of colours and alpha @param parts their importers and shares */
  read(into: readonly Surface[], parts: readonly { readonly share: number; readonly sources: readonly Importer[] }[], place: PlatePlace): void {
    const k = this.engine.kernels;
    const { width } = this;
    // What is enlarged is read as it is.
    const own = parts[0]!.sources[0]!;
    const [wide, high] = [Math.max(1, Math.min(own.width, Math.round(place.wide))), Math.max(1, Math.min(own.height, Math.round(place.high)))];
    const stride = floatStride(wide);
    const bytes = stride * high;
    const key = JSON.stringify([wide, high, place.flipAcross, place.flipDown, parts.map(({ share }) => share)]);
    if (key !== this.made) {
      this.bring(into.length, parts, wide, high, place);
      this.made = key;
    }
    const first = this.whole.at(3 * into.length * bytes);
    const [c, s] = [k.cos(place.turn), k.sin(place.turn)];
    const rows = this.places.at(2 * floatStride(width) + 128);
    const [xs, ys] = [rows, rows + floatStride(width) + 64];
    const [kx, ky] = [wide / place.wide, high / place.high];
    const corners = cornersOf(place, k);
    const [left, right] = [Math.min(...corners.map(([x]) => x)), Math.max(...corners.map(([x]) => x))];
    const [top, bottom] = [Math.min(...corners.map(([, y]) => y)), Math.max(...corners.map(([, y]) => y))];
    // Outside its own box nothing of it is seen, so nothing is read there.
    const from = Math.max(0, Math.min(width, Math.floor(left) - 1)) & ~3;
    const count = Math.max(0, Math.min(width, Math.ceil(right) + 1) - from);
    for (let y = into[0]!.top; y < into[0]!.bottom; y++) {
      for (const band of into) for (let plane = 0; plane < 3; plane++) k.fillRow(rowAt(band, plane, y), width, 0);
      if (count === 0 || y < top - 1 || y > bottom + 1) continue;
      const [dx, dy] = [(from + 0.5 - place.x) / place.squeeze, y + 0.5 - place.y];
      // Lengths are of the height while it turns.
      k.rampRow(xs, count, (c * dx + s * dy) * place.squeeze * kx + wide / 2 - 0.5, c * kx);
      k.rampRow(ys, count, (c * dy - s * dx) * ky + high / 2 - 0.5, (-s / place.squeeze) * ky);
      into.forEach((band, part) => {
        const [r, g, b] = [0, 1, 2].map((plane) => rowAt(band, plane, y) + from * 4) as [number, number, number];
        const at = first + 3 * part * bytes;
        k.warpCubicThree(r, g, b, count, xs, ys, at, at + bytes, at + 2 * bytes, stride, wide, high);
      });
    }
  }

  private bring(
    planes: number,
    parts: readonly { readonly share: number; readonly sources: readonly Importer[] }[],
    wide: number,
    high: number,
    { flipAcross, flipDown }: PlatePlace,
  ): void {
    const k = this.engine.kernels;
    const stride = floatStride(wide);
    const bytes = stride * high;
    const surface = (at: number): Surface => ({ planes: [at, at + bytes, at + 2 * bytes], stride, width: wide, height: high, top: 0, bottom: high });
    const first = this.whole.at(3 * planes * bytes);
    for (let part = 0; part < planes; part++) {
      const out = surface(first + 3 * part * bytes);
      parts.forEach(({ share, sources }, i) => {
        const into = i === 0 ? out : surface(this.planes.at(3 * bytes));
        this.scaler(`${i}.${part}`, sources[part]!, wide, high, flipAcross, flipDown).run(into);
        // The first has what the second leaves.
        if (i > 0) for (let plane = 0; plane < 3; plane++) for (let y = 0; y < high; y++) k.mix(rowAt(out, plane, y), rowAt(into, plane, y), wide, 1 - share);
      });
    }
  }

  private scaler(key: string, of: Importer, wide: number, high: number, flipAcross: boolean, flipDown: boolean): ScaledImporter {
    const name = `${key} ${wide}x${high}`;
    let known = this.scaled.get(name);
    if (known?.of !== of) {
      for (const [other, { importer }] of this.scaled)
        if (other.startsWith(`${key} `)) {
          importer.release();
          this.scaled.delete(other);
        }
      known = { of, importer: new ScaledImporter(this.engine, of, wide, high) };
      this.scaled.set(name, known);
    }
    const { width, height } = of;
    known.importer.take({ left: flipAcross ? width : 0, top: flipDown ? height : 0, width: flipAcross ? -width : width, height: flipDown ? -height : height });
    return known.importer;
  }
}
