import type { Engine } from '../engine';
import { bytesPerSample, codeSpans, LUMA_WEIGHTS, planeShapes, type Encoding, type PlaneShape, type RawFrame } from './encoding';
import { floatStride, rowAt, type Surface } from './surface';

/** Interleaved 8-bit RGBA for a screen; three planes of float32, as they are, for measuring; or a file's encoding. */
export type Target = 'rgba' | 'float' | Encoding;

/** Where in the written picture the one that comes in stands; what is left is black. */
export interface Window {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** The window of a size about the middle of a target's picture, on the grid of its chroma. */
export function centredWindow(shown: { width: number; height: number }, whole: { width: number; height: number }, target: Target): Window {
  const chroma = typeof target === 'object' && target.layout === 'yuv';
  const middle = (outer: number, inner: number, sub: number): number => ((outer - inner) >> (1 + sub)) << sub;
  return {
    left: middle(whole.width, shown.width, chroma ? target.subX : 0),
    top: middle(whole.height, shown.height, chroma ? target.subY : 0),
    width: shown.width,
    height: shown.height,
  };
}

/** The most a kernel writes beyond a row's end. */
const GROUP_BYTES = 16;

/** Writes float R'G'B' out as integers, rounded to nearest and clamped, band by band. Bands begin on even rows. */
export class Exporter {
  private readonly at: number[];
  private readonly rows: number[];
  private readonly shapes: readonly PlaneShape[];
  private beyondAt = 0;
  /** A row of black of each plane, where the window leaves bars. */
  private readonly black: number[] = [];
  /** What `videoToYuvRow` and `matrixRow` take, once it is needed. */
  private mix = 0;
  private matrix = 0;

  /** @param window where the picture stands whose rows come in; the whole by default */
  constructor(
    private readonly engine: Engine,
    readonly width: number,
    readonly height: number,
    readonly target: Target,
    private readonly window: Window = { left: 0, top: 0, width, height },
  ) {
    this.shapes = typeof target === 'object' ? planeShapes(width, height, target) : new Array(target === 'rgba' ? 1 : 3).fill({ width, height, stride: width * 4 });
    this.at = this.shapes.map((s) => engine.allocate(s.stride * s.height + 64));
    const chroma = typeof target === 'object' && target.layout === 'yuv';
    // Cb and Cr of one row with room for a sample on the left and a group on the right, and a narrowed row.
    this.rows = chroma ? [0, 1, 2].map(() => engine.allocate(floatStride(width) + 192)) : [];
    if (window.width < width || window.height < height) this.blacken();
  }

  /** Bars are written once: no picture touches them. */
  private blacken(): void {
    const { engine, target } = this;
    this.shapes.forEach((shape, i) => {
      const at = this.at[i]!;
      const plane = engine.bytes(at, shape.stride * shape.height);
      if (target === 'rgba') engine.ints(at, plane.length >> 2).fill(0xff000000 | 0);
      else if (target === 'float') plane.fill(0);
      else {
        const { black, middle } = codeSpans(target);
        const code = target.layout === 'yuv' && i > 0 ? middle : black;
        if (bytesPerSample(target) === 1) plane.fill(code);
        else new Uint16Array(plane.buffer, plane.byteOffset, plane.length >> 1).fill(code);
      }
      const row = engine.allocate(shape.stride + GROUP_BYTES);
      engine.kernels.copy(row, at, shape.stride);
      engine.kernels.copy(row + shape.stride, at, GROUP_BYTES);
      this.black.push(row);
    });
  }

  /** Where a row of the window begins in a plane. @param y row of the window, in samples of that plane @param bytes of a sample */
  private rowOf(plane: number, y: number, bytes: number, subX = 0, subY = 0): number {
    return this.at[plane]! + (y + (this.window.top >> subY)) * this.shapes[plane]!.stride + (this.window.left >> subX) * bytes;
  }

  /** Kernels write whole groups: what they wrote beyond the window's row is a bar's again. Rows are written in their order. */
  private mend(plane: number, row: number, length: number): void {
    const black = this.black[plane];
    if (black === undefined) return;
    const { stride } = this.shapes[plane]!;
    const right = stride - ((row - this.at[plane]!) % stride) - length;
    this.engine.kernels.copy(row + length, black, right + GROUP_BYTES);
  }

  release(): void {
    for (const at of [...this.at, ...this.rows, ...this.black, ...[this.beyondAt, this.mix, this.matrix].filter((at) => at !== 0)]) this.engine.release(at);
  }

  /** Whether rows of luma and colour differences can be written without a turn to R'G'B'. */
  get takesVideo(): boolean {
    return typeof this.target === 'object' && this.target.layout === 'yuv';
  }

  /** By how many halvings colour differences are written smaller than luma, across and down. */
  get colourHalved(): { readonly x: number; readonly y: number } {
    return typeof this.target === 'object' && this.target.layout === 'yuv' ? { x: this.target.subX, y: this.target.subY } : { x: 0, y: 0 };
  }

  /** Turns rows of luma and colour differences by BT.601, the raster's, into the file's, in place; only where `takesVideo`. */
  toFile(surface: Surface): void {
    const { target, engine } = this;
    if (typeof target !== 'object' || target.matrix === 'bt601') return;
    if (!this.matrix) {
      const [lu, lv, bu, bv, ru, rv] = this.turns(target);
      this.matrix = engine.allocate(48);
      engine.floats(this.matrix, 12).set([1, lu, lv, 0, bu, bv, 0, ru, rv, 0, 0, 0]);
    }
    for (let y = surface.top; y < surface.bottom; y++) engine.kernels.matrixRow(rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), surface.width, this.matrix);
  }

  /**
   * Writes rows of the file's own luma and colour differences. The surface's first plane holds the rows of luma, the two others as many rows of colour, from
   * their first on, as these take by `colourHalved`.
   */
  runSized(surface: Surface): void {
    const { target } = this;
    if (typeof target !== 'object') throw new Error('only a file has planes of several sizes');
    const { floatToCodes } = this.engine.kernels;
    const { luma, chroma, black, middle, max } = codeSpans(target);
    const bytes = bytesPerSample(target);
    const { width } = this.window;
    const write = (plane: number, y: number, from: number, count: number, span: number, offset: number): void => {
      const row = plane ? this.rowOf(plane, y, bytes, target.subX, target.subY) : this.rowOf(0, y, bytes);
      floatToCodes(row, from, count, bytes, span, offset, max);
      this.mend(plane, row, count * bytes);
    };
    for (let y = surface.top; y < surface.bottom; y++) write(0, y, rowAt(surface, 0, y), width, luma, black);
    const first = surface.top >> target.subY;
    const rows = ((surface.bottom + target.subY) >> target.subY) - first;
    for (let plane = 1; plane < 3; plane++)
      for (let i = 0; i < rows; i++) write(plane, first + i, surface.planes[plane]! + i * surface.stride, (width + target.subX) >> target.subX, chroma, middle);
  }

  /** Converts the rows the surface holds. @param domain `video` only where that is taken */
  run(surface: Surface, domain: 'display' | 'video' = 'display'): void {
    const { target } = this;
    if (target === 'rgba') this.screen(surface);
    else if (target === 'float') this.floats(surface);
    else if (target.layout === 'rgb') this.planes(surface, target);
    else this.yuv(surface, target, domain);
  }

  /** The row of what comes in that is written to a row of the picture; there is none for a bar's. */
  rowWithin(y: number): number {
    return y - this.window.top;
  }

  /** A copy of one row of the first plane, as it has been written. */
  takeRow(y: number): Uint8Array {
    const { stride } = this.shapes[0]!;
    return this.engine.bytes(this.at[0]! + y * stride, stride).slice();
  }

  /** A copy of what has been written, one array a plane. @param into arrays no longer needed, written over where they are of the right lengths */
  take(into?: readonly Uint8Array[]): Uint8Array[] {
    return this.shapes.map((shape, i) => {
      const written = this.engine.bytes(this.at[i]!, shape.stride * shape.height);
      const plane = into?.[i];
      // Fresh memory costs as much as a third of a plain conversion.
      if (plane?.length !== written.length) return written.slice();
      plane.set(written);
      return plane;
    });
  }

  /** As `take`, for a file's encoding, with its description. */
  frame(): RawFrame {
    if (typeof this.target !== 'object') throw new Error('only a file’s encoding makes a file’s picture');
    return { width: this.width, height: this.height, encoding: this.target, planes: this.take() };
  }

  /** Where in the engine's memory the first plane lies, as it was last written. */
  get place(): number {
    return this.at[0]!;
  }

  /** From now on pixels that a screen cannot show are counted. */
  countBeyond(): void {
    if (this.beyondAt === 0) this.beyondAt = this.engine.allocate(8);
    this.engine.ints(this.beyondAt, 2).fill(0);
  }

  /** Of the pixels written since `countBeyond`: shares with a channel below black and with one above white. */
  get beyond(): { below: number; above: number } {
    const [below, above] = this.engine.ints(this.beyondAt, 2);
    const pixels = this.width * this.height;
    return { below: below! / pixels, above: above! / pixels };
  }

  private screen(surface: Surface): void {
    const { beyondRow, rgbToRgba } = this.engine.kernels;
    const { width } = this.window;
    // Half a step of 8 bits past the ends is still shown as they are.
    const half = 0.5 / 255;
    if (this.beyondAt) {
      for (let y = surface.top; y < surface.bottom; y++) beyondRow(rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), width, -half, 1 + half, this.beyondAt);
    }
    for (let y = surface.top; y < surface.bottom; y++) {
      const row = this.rowOf(0, y, 4);
      rgbToRgba(row, rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), width);
      this.mend(0, row, 4 * width);
    }
  }

  private floats(surface: Surface): void {
    const bytes = this.window.width * 4;
    for (let y = surface.top; y < surface.bottom; y++) for (let i = 0; i < 3; i++) this.engine.kernels.copy(this.rowOf(i, y, 4), rowAt(surface, i, y), bytes);
  }

  private planes(surface: Surface, target: Encoding): void {
    const { luma, max } = codeSpans(target);
    const { floatToCodes } = this.engine.kernels;
    const bytes = bytesPerSample(target);
    const { width } = this.window;
    for (let y = surface.top; y < surface.bottom; y++) {
      for (let i = 0; i < 3; i++) {
        const row = this.rowOf(i, y, bytes);
        floatToCodes(row, rowAt(surface, i, y), width, bytes, luma, 0, max);
        this.mend(i, row, width * bytes);
      }
    }
  }

  private yuv(surface: Surface, target: Encoding, domain: 'display' | 'video'): void {
    const k = this.engine.kernels;
    const { kr, kb } = LUMA_WEIGHTS[target.matrix];
    const spans = codeSpans(target);
    const bytes = bytesPerSample(target);
    const [cb, cr] = [this.rows[0]! + 64, this.rows[1]! + 64];
    const narrow = this.rows[2]!;
    const { width } = this.window;
    const wide = (width + target.subX) >> target.subX;
    const group = target.subY ? 2 : 1;
    const mix = domain === 'video' ? this.mixFor(target) : 0;
    for (let y = surface.top; y < surface.bottom; y += group) {
      const rows = Math.min(group, surface.bottom - y);
      for (let j = 0; j < rows; j++) {
        const luma = this.rowOf(0, y + j, bytes);
        const [a, b, c] = [0, 1, 2].map((plane) => rowAt(surface, plane, y + j)) as [number, number, number];
        const first = j === 0 ? 1 : 0;
        if (mix) k.videoToYuvRow(luma, cb, cr, a, b, c, width, bytes, spans.luma, spans.black, spans.max, mix, 1 / rows, first);
        else k.rgbToYuvRow(luma, cb, cr, a, b, c, width, bytes, spans.luma, spans.black, spans.max, kr, kb, 1 / rows, first);
        this.mend(0, luma, width * bytes);
      }
      for (let i = 1; i < 3; i++) {
        let row = i === 1 ? cb : cr;
        if (target.subX) {
          k.chromaNarrow(narrow, row, width);
          row = narrow;
        }
        const at = this.rowOf(i, y / group, bytes, target.subX, target.subY);
        k.floatToCodes(at, row, wide, bytes, spans.chroma, spans.middle, spans.max);
        this.mend(i, at, wide * bytes);
      }
    }
  }

  /** What `videoToYuvRow` takes: from luma and colour differences by BT.601, the raster's, to a file's. */
  private mixFor(target: Encoding): number {
    if (this.mix) return this.mix;
    this.mix = this.engine.allocate(24);
    this.engine.floats(this.mix, 6).set(this.turns(target));
    return this.mix;
  }

  /** What the raster's Cb and Cr add to a file's luma, and what they are of its Cb and of its Cr. */
  private turns(target: Encoding): readonly [number, number, number, number, number, number] {
    const raster = LUMA_WEIGHTS.bt601;
    const { kr, kb } = LUMA_WEIGHTS[target.matrix];
    // R' - Y' and B' - Y' of the raster's, per unit of its Cr and Cb; then the file's luma beyond the raster's.
    const [u, v] = [2 * (1 - raster.kb), 2 * (1 - raster.kr)];
    const green = 1 - raster.kr - raster.kb;
    const [gu, gv] = [(-raster.kb * u) / green, (-raster.kr * v) / green];
    const kg = 1 - kr - kb;
    const [lu, lv] = [kg * gu + kb * u, kg * gv + kr * v];
    const [fu, fv] = [1 / (2 * (1 - kb)), 1 / (2 * (1 - kr))];
    return [lu, lv, (u - lu) * fu, -lv * fu, -lu * fv, (v - lv) * fv];
  }
}
