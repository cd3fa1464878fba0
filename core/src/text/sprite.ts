import type { Engine, Store } from '../engine';
import { Blur } from '../frame/blur';
import { OutlineFill } from '../frame/outline-fill';
import { floatStride, rowAt, type Surface } from '../frame/surface';
import type { Colour } from '../traits/settings';
import type { LaidText } from './layout';

/** What a text is drawn with; lengths in pixels down the picture. */
export interface Drawn {
  readonly laid: LaidText;
  /** As `Layout.squeeze`. */
  readonly squeeze: number;
  /** Width of a border about the letters. */
  readonly outline: number;
  /** Copies behind the text, each so far from the one before. */
  readonly depth: { readonly copies: number; readonly x: number; readonly y: number };
  /** Undefined where there is none. */
  readonly shadow?: { readonly x: number; readonly y: number; readonly blur: number };
  /** Margin of a box about the block; undefined where there is none. */
  readonly box?: number;
}

export interface Colours {
  readonly fill: Colour;
  readonly outline: Colour;
  /** What the farthest copy has kept of the text's colour. */
  readonly shade: number;
  readonly shadow: number;
  readonly box: Colour;
  readonly boxShare: number;
}

/** Where a sprite lies in its picture; left is a multiple of four. */
interface Area {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

const NOTHING: Area = { left: 0, top: 0, width: 0, height: 0 };
/** A bell ends after so many of its sigmas. */
const BELL = 3;

/** A text drawn once and laid over picture after picture, until it is another. Planes of coverage are kept, so that a change of colour alone draws no letter anew. */
export class Sprite {
  private readonly planes: Record<'fill' | 'body' | 'shadow' | 'box' | 'copy', Store>;
  private readonly colour: Store;
  private readonly outlines: OutlineFill;
  private blur: { readonly key: string; readonly of: Blur } | undefined;
  private area: Area = NOTHING;
  private drawn: Drawn | undefined;
  private shape = '';
  private coat = '';

  /** @param width, height of the picture */
  constructor(
    private readonly engine: Engine,
    private readonly width: number,
    private readonly height: number,
  ) {
    this.planes = { fill: engine.store(), body: engine.store(), shadow: engine.store(), box: engine.store(), copy: engine.store() };
    this.outlines = new OutlineFill(engine);
    this.colour = engine.store();
  }

  release(): void {
    for (const store of [...Object.values(this.planes), this.colour]) store.release();
    this.blur?.of.release();
    this.outlines.release();
  }

  /**
   * Draws what is not drawn yet.
   * @param shape names the drawing, its place with it @param draw tells it, where it is another than the last @param coat names the colours
   */
  make(shape: string, draw: () => Drawn, coat: string, colours: Colours): void {
    if (shape !== this.shape) {
      this.draw(draw());
      this.shape = shape;
      this.coat = '';
    }
    if (coat === this.coat) return;
    this.paint(colours);
    this.coat = coat;
  }

  /** Lays the text over the rows of a surface, in so much of itself. */
  lay(surface: Surface, share: number): void {
    const k = this.engine.kernels;
    const { left, top, width, height } = this.area;
    const [from, to] = [Math.max(0, left), Math.min(this.width, left + width)];
    if (to <= from) return;
    const stride = floatStride(width);
    const [r, g, b, cover] = this.coloured(stride * height);
    for (let y = Math.max(surface.top, top); y < Math.min(surface.bottom, top + height); y++) {
      const at = (y - top) * stride + (from - left) * 4;
      [r, g, b].forEach((plane, i) => k.overRow(rowAt(surface, i, y) + from * 4, plane! + at, cover! + at, to - from, share));
    }
  }

  private coloured(bytes: number): number[] {
    const at = this.colour.at(4 * bytes);
    return [0, 1, 2, 3].map((i) => at + i * bytes);
  }

  private draw(drawn: Drawn): void {
    const { engine, planes } = this;
    const { laid, squeeze, outline, shadow, box } = drawn;
    this.drawn = drawn;
    this.area = this.areaOf(drawn);
    const { width, height } = this.area;
    if (width === 0 || height === 0) return;
    this.fillLines(planes.fill, laid.lines);
    const bytes = floatStride(width) * height;
    engine.kernels.copy(planes.body.at(bytes), planes.fill.at(bytes), bytes);
    if (outline > 0) this.strokeLines(planes.body, laid.lines, outline, squeeze);
    if (shadow) {
      const plane = this.cleared(planes.shadow, bytes);
      this.shifted(plane, shadow.x * squeeze, shadow.y);
      if (shadow.blur > 0) this.blurFor(width, height).run(plane, plane, floatStride(width), shadow.blur);
    }
    if (box !== undefined) {
      const { block, place } = laid;
      const [l, t, r, b] = [block.left - box, block.top - box, block.right + box, block.bottom + box];
      const corners = [place(l, t), place(r, t), place(r, b), place(l, b)];
      this.fillLines(
        planes.box,
        corners.flatMap(([x, y], i) => [x, y, ...corners[(i + 1) % 4]!]),
      );
    }
  }

  /** What of the picture, and of what comes into it, the text takes. */
  private areaOf({ laid, squeeze, outline, depth, shadow, box }: Drawn): Area {
    const { lines, block, place } = laid;
    const xs = lines.filter((_, i) => i % 2 === 0);
    const ys = lines.filter((_, i) => i % 2 === 1);
    if (box !== undefined)
      for (const [x, y] of [
        place(block.left - box, block.top - box),
        place(block.right + box, block.top - box),
        place(block.left - box, block.bottom + box),
        place(block.right + box, block.bottom + box),
      ]) {
        xs.push(x);
        ys.push(y);
      }
    if (xs.length === 0) return NOTHING;
    const far = [{ x: 0, y: 0 }, { x: depth.copies * depth.x, y: depth.copies * depth.y }, shadow ?? { x: 0, y: 0 }];
    const about = outline + 2 + BELL * (shadow?.blur ?? 0);
    const bounds = (values: readonly number[], by: readonly number[], size: number, scale: number): [number, number] => {
      const [low, high] = values.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [Infinity, -Infinity]);
      const reach = Math.max(...by.map(Math.abs)) * scale + about * Math.max(1, scale);
      // What is shifted into the picture may lie outside.
      return [Math.max(Math.floor(low - reach), Math.floor(-reach)), Math.min(Math.ceil(high + reach), Math.ceil(size + reach))];
    };
    const [left, right] = bounds(
      xs,
      far.map(({ x }) => x),
      this.width,
      squeeze,
    );
    const [top, bottom] = bounds(
      ys,
      far.map(({ y }) => y),
      this.height,
      1,
    );
    const start = Math.floor(left / 4) * 4;
    // Kernels work in groups of four: what they do beyond a row's end falls into its padding.
    const width = Math.ceil((right - start) / 8) * 8 + 4;
    return right > left && bottom > top ? { left: start, top, width, height: bottom - top } : NOTHING;
  }

  private cleared(store: Store, bytes: number): number {
    // Kernels add up the samples of a row with two more.
    const at = store.at(bytes + 64);
    this.engine.bytes(at, bytes + 64).fill(0);
    return at;
  }

  private fillLines(store: Store, lines: readonly number[]): void {
    const { left, top, width, height } = this.area;
    this.outlines.fill(this.cleared(store, floatStride(width) * height), width, height, lines, left, top);
  }

  private strokeLines(store: Store, lines: readonly number[], half: number, squeeze: number): void {
    const { left, top, width, height } = this.area;
    const stride = floatStride(width);
    const plane = store.at(stride * height);
    const at = this.outlines.placed(lines, left, top, 1 / squeeze);
    for (let y = 0; y < height; y++) this.engine.kernels.strokesRow(plane + y * stride, width, 0, 1 / squeeze, y, at, lines.length / 4, half);
  }

  /** The body laid into a plane that holds nothing, shifted between its samples. */
  private shifted(plane: number, x: number, y: number): void {
    const k = this.engine.kernels;
    const { width, height } = this.area;
    const stride = floatStride(width);
    const body = this.planes.body.at(stride * height);
    const [i, j] = [Math.floor(x), Math.floor(y)];
    const [u, v] = [x - i, y - j];
    for (const [dx, dy, weight] of [
      [i, j, (1 - u) * (1 - v)],
      [i + 1, j, u * (1 - v)],
      [i, j + 1, (1 - u) * v],
      [i + 1, j + 1, u * v],
    ] as const) {
      const count = width - Math.abs(dx);
      if (weight === 0 || count <= 0) continue;
      for (let row = Math.max(0, dy); row < Math.min(height, height + dy); row++)
        k.addRow(plane + row * stride + Math.max(0, dx) * 4, body + (row - dy) * stride + Math.max(0, -dx) * 4, count, weight);
    }
  }

  private blurFor(width: number, height: number): Blur {
    const key = `${width}x${height}`;
    if (this.blur?.key !== key) {
      this.blur?.of.release();
      this.blur = { key, of: new Blur(this.engine, width, height) };
    }
    return this.blur.of;
  }

  /** Colours, times their coverage, from the farthest to the nearest. */
  private paint({ fill, outline, shade, shadow, box, boxShare }: Colours): void {
    const k = this.engine.kernels;
    const { width, height } = this.area;
    const { drawn, planes } = this;
    if (!drawn || width === 0 || height === 0) return;
    const stride = floatStride(width);
    const bytes = stride * height;
    const out = this.coloured(bytes);
    for (const plane of out) this.engine.bytes(plane, bytes).fill(0);
    const coat = (cover: number, colour: Colour, share: number): void => {
      for (let y = 0; y < height; y++) out.forEach((plane, i) => k.layRow(plane + y * stride, cover + y * stride, width, i < 3 ? colour[i]! : 1, share));
    };
    if (drawn.box !== undefined) coat(planes.box.at(bytes), box, boxShare);
    if (drawn.shadow) coat(planes.shadow.at(bytes), [0, 0, 0], shadow);
    const { copies, x, y } = drawn.depth;
    const behind = drawn.outline > 0 ? outline : fill;
    for (let n = copies; n > 0; n--) {
      const plane = this.cleared(planes.copy, bytes);
      this.shifted(plane, n * x * drawn.squeeze, n * y);
      const kept = 1 - ((1 - shade) * n) / copies;
      coat(plane, behind.map((v) => v * kept) as unknown as Colour, 1);
    }
    if (drawn.outline > 0) coat(planes.body.at(bytes), outline, 1);
    coat(planes.fill.at(bytes), fill, 1);
  }
}
