import type { Engine } from '../engine';
import { bytesPerSample, codeSpans, LUMA_WEIGHTS, planeShapes, type Encoding, type RawFrame } from './encoding';
import { floatStride, rowAt, type Surface } from './surface';

/** Reads a file's picture into float R'G'B' (0..1 between black and white; values outside are kept), band by band. */
export class Importer {
  private readonly at: number[];
  private readonly rows: number[];
  private readonly shapes;

  constructor(
    private readonly engine: Engine,
    readonly width: number,
    readonly height: number,
    readonly encoding: Encoding,
  ) {
    this.shapes = planeShapes(width, height, encoding);
    this.at = this.shapes.map((s) => engine.allocate(s.stride * s.height));
    // Cb and Cr of one row: at the file's width and at the picture's.
    this.rows = encoding.layout === 'yuv' ? [0, 1, 2, 3].map(() => engine.allocate(floatStride(width) + 64)) : [];
  }

  release(): void {
    for (const at of [...this.at, ...this.rows]) this.engine.release(at);
  }

  /** Takes the picture in; its size and encoding must be those of the importer. */
  load(frame: RawFrame): void {
    this.shapes.forEach((shape, i) => {
      const plane = frame.planes[i];
      if (!plane || plane.length !== shape.stride * shape.height) throw new RangeError(`plane ${i} of the picture has the wrong length`);
      this.engine.bytes(this.at[i]!, plane.length).set(plane);
    });
  }

  /** Converts the rows the surface holds. */
  run(surface: Surface): void {
    for (let y = surface.top; y < surface.bottom; y++) this.row(surface, y);
  }

  private row(surface: Surface, y: number): void {
    const k = this.engine.kernels;
    const { encoding, width, shapes } = this;
    const bytes = bytesPerSample(encoding);
    const spans = codeSpans(encoding);
    const scale = 1 / spans.luma;
    const offset = -spans.black / spans.luma;
    if (encoding.layout === 'rgb') {
      for (let i = 0; i < 3; i++) k.codesToFloat(rowAt(surface, i, y), this.at[i]! + y * shapes[i]!.stride, width, bytes, scale, offset);
      return;
    }
    const { kr, kb } = LUMA_WEIGHTS[encoding.matrix];
    const kg = 1 - kr - kb;
    const chroma = shapes[1]!;
    const last = chroma.height - 1;
    let near = y;
    let far = y;
    if (encoding.subY) {
      near = y >> 1;
      far = Math.max(0, Math.min(last, y & 1 ? near + 1 : near - 1));
    }
    const wide: number[] = [];
    for (let i = 1; i < 3; i++) {
      const narrow = this.rows[i - 1]!;
      k.chromaRow(narrow, this.at[i]! + near * chroma.stride, this.at[i]! + far * chroma.stride, chroma.width, bytes, 1 / spans.chroma, -spans.middle / spans.chroma);
      if (encoding.subX) {
        wide.push(this.rows[i + 1]!);
        k.chromaWiden(this.rows[i + 1]!, narrow, chroma.width);
      } else wide.push(narrow);
    }
    k.yuvToRgbRow(
      rowAt(surface, 0, y),
      rowAt(surface, 1, y),
      rowAt(surface, 2, y),
      this.at[0]! + y * shapes[0]!.stride,
      wide[0]!,
      wide[1]!,
      width,
      bytes,
      scale,
      offset,
      2 * (1 - kr),
      (2 * kb * (1 - kb)) / kg,
      (2 * kr * (1 - kr)) / kg,
      2 * (1 - kb),
    );
  }
}
