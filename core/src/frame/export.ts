import type { Engine } from '../engine';
import { bytesPerSample, codeSpans, LUMA_WEIGHTS, planeShapes, type Encoding, type PlaneShape, type RawFrame } from './encoding';
import { floatStride, rowAt, type Surface } from './surface';

/** Interleaved 8-bit RGBA for a screen; three planes of float32, as they are, for measuring; or a file's encoding. */
export type Target = 'rgba' | 'float' | Encoding;

/** Writes float R'G'B' out as integers, rounded to nearest and clamped, band by band. Bands begin on even rows. */
export class Exporter {
  private readonly at: number[];
  private readonly rows: number[];
  private readonly shapes: readonly PlaneShape[];
  private beyondAt = 0;

  constructor(
    private readonly engine: Engine,
    readonly width: number,
    readonly height: number,
    readonly target: Target,
  ) {
    this.shapes = typeof target === 'object' ? planeShapes(width, height, target) : new Array(target === 'rgba' ? 1 : 3).fill({ width, height, stride: width * 4 });
    this.at = this.shapes.map((s) => engine.allocate(s.stride * s.height + 64));
    const chroma = typeof target === 'object' && target.layout === 'yuv';
    // Cb and Cr of one row with room for a sample on the left and a group on the right, and a narrowed row.
    this.rows = chroma ? [0, 1, 2].map(() => engine.allocate(floatStride(width) + 192)) : [];
  }

  release(): void {
    for (const at of [...this.at, ...this.rows, ...(this.beyondAt ? [this.beyondAt] : [])]) this.engine.release(at);
  }

  /** Converts the rows the surface holds. */
  run(surface: Surface): void {
    const { target } = this;
    if (target === 'rgba') this.screen(surface);
    else if (target === 'float') this.floats(surface);
    else if (target.layout === 'rgb') this.planes(surface, target);
    else this.yuv(surface, target);
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
    const stride = this.shapes[0]!.stride;
    const { beyondRow } = this.engine.kernels;
    // Half a step of 8 bits past the ends is still shown as they are.
    const half = 0.5 / 255;
    if (this.beyondAt) {
      for (let y = surface.top; y < surface.bottom; y++) beyondRow(rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), this.width, -half, 1 + half, this.beyondAt);
    }
    for (let y = surface.top; y < surface.bottom; y++) {
      this.engine.kernels.rgbToRgba(this.at[0]! + y * stride, rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), this.width);
    }
  }

  private floats(surface: Surface): void {
    for (let y = surface.top; y < surface.bottom; y++) for (let i = 0; i < 3; i++) this.engine.kernels.copy(this.at[i]! + y * this.width * 4, rowAt(surface, i, y), this.width * 4);
  }

  private planes(surface: Surface, target: Encoding): void {
    const { luma, max } = codeSpans(target);
    const { floatToCodes } = this.engine.kernels;
    const bytes = bytesPerSample(target);
    for (let y = surface.top; y < surface.bottom; y++) {
      for (let i = 0; i < 3; i++) {
        floatToCodes(this.at[i]! + y * this.shapes[i]!.stride, rowAt(surface, i, y), this.width, bytes, luma, 0, max);
      }
    }
  }

  private yuv(surface: Surface, target: Encoding): void {
    const k = this.engine.kernels;
    const { kr, kb } = LUMA_WEIGHTS[target.matrix];
    const spans = codeSpans(target);
    const bytes = bytesPerSample(target);
    const [cb, cr] = [this.rows[0]! + 64, this.rows[1]! + 64];
    const narrow = this.rows[2]!;
    const chroma = this.shapes[1]!;
    const group = target.subY ? 2 : 1;
    for (let y = surface.top; y < surface.bottom; y += group) {
      const rows = Math.min(group, surface.bottom - y);
      for (let j = 0; j < rows; j++) {
        k.rgbToYuvRow(
          this.at[0]! + (y + j) * this.shapes[0]!.stride,
          cb,
          cr,
          rowAt(surface, 0, y + j),
          rowAt(surface, 1, y + j),
          rowAt(surface, 2, y + j),
          this.width,
          bytes,
          spans.luma,
          spans.black,
          spans.max,
          kr,
          kb,
          1 / rows,
          j === 0 ? 1 : 0,
        );
      }
      for (let i = 1; i < 3; i++) {
        let row = i === 1 ? cb : cr;
        if (target.subX) {
          k.chromaNarrow(narrow, row, this.width);
          row = narrow;
        }
        const at = this.at[i]! + (y / group) * chroma.stride;
        k.floatToCodes(at, row, chroma.width, bytes, spans.chroma, spans.middle, spans.max);
      }
    }
  }
}
