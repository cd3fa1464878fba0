import type { Engine } from '../engine';
import { bytesPerSample, chromaShares, codeSpans, planeShapes, type Encoding, type PlaneShape, type RawFrame } from './encoding';
import { rowAt, type Surface } from './surface';

/** Addresses, numbers and shares of colour that a `YuvRow` holds. */
const YUV_ROW_FIELDS = 17;

/** Reads a file's picture into float R'G'B' (0..1 between black and white; values outside are kept), band by band. */
export class Importer {
  private readonly at: number[];
  readonly shapes: readonly PlaneShape[];
  private readonly bytes: number;
  private readonly spans: ReturnType<typeof codeSpans>;
  /** Colour in parts of a code, as the kernels count it. */
  private readonly shares: readonly [number, number, number, number];
  /** Address of a `YuvRow` (`core/kernels/convert.ts`). */
  private readonly yuv: number;
  /** Pictures taken in. */
  loads = 0;

  constructor(
    private readonly engine: Engine,
    readonly width: number,
    readonly height: number,
    readonly encoding: Encoding,
  ) {
    this.shapes = planeShapes(width, height, encoding);
    this.bytes = bytesPerSample(encoding);
    this.spans = codeSpans(encoding);
    const { rv, gu, gv, bu } = chromaShares(encoding.matrix);
    const part = 1 / ((encoding.subX ? 8 : 4) * this.spans.chroma);
    this.shares = [rv * part, gu * part, gv * part, bu * part];
    this.at = this.shapes.map((s) => engine.allocate(s.stride * s.height));
    this.yuv = engine.allocate(YUV_ROW_FIELDS * 4);
    // What is the same in every row; `row` writes the rest.
    engine.floats(this.yuv, YUV_ROW_FIELDS).set([1 / this.spans.luma, -this.spans.black / this.spans.luma, 0, ...this.shares], 10);
    const words = engine.ints(this.yuv, YUV_ROW_FIELDS);
    words[9] = this.bytes;
    words[12] = this.spans.middle;
  }

  release(): void {
    for (const at of [...this.at, this.yuv]) this.engine.release(at);
  }

  /** Takes the picture in; its size and encoding must be those of the importer. */
  load(frame: RawFrame): void {
    this.loads++;
    this.shapes.forEach((shape, i) => {
      const plane = frame.planes[i];
      if (!plane || plane.length !== shape.stride * shape.height) throw new RangeError(`plane ${i} of the picture has the wrong length`);
      this.engine.bytes(this.at[i]!, plane.length).set(plane);
    });
  }

  /** One row of a plane as floats, at its own size: R'G'B' or luma 0..1, chroma -1/2..1/2. @param dst a row padded to 8 samples, of which these columns are written */
  floats(plane: number, y: number, dst: number, { from, to }: { readonly from: number; readonly to: number } = { from: 0, to: this.shapes[plane]!.width }): void {
    const shape = this.shapes[plane]!;
    const { bytes, spans } = this;
    const [black, span] = plane > 0 && this.encoding.layout === 'yuv' ? [spans.middle, spans.chroma] : [spans.black, spans.luma];
    this.engine.kernels.codesToFloat(dst + from * 4, this.at[plane]! + y * shape.stride + from * bytes, to - from, bytes, 1 / span, -black / span);
  }

  /**
   * Converts the rows the surface holds.
   * @param left column of the picture at which they begin @param top row of it that is their first; both even where chroma is halved that way
   */
  run(surface: Surface, left = 0, top = 0): void {
    for (let y = surface.top; y < surface.bottom; y++) this.row(surface, y, left, y + top);
  }

  /** @param to row of the surface @param y row of the picture */
  private row(surface: Surface, to: number, left: number, y: number): void {
    const k = this.engine.kernels;
    const { encoding, shapes, bytes, spans } = this;
    const { width } = surface;
    if (encoding.layout === 'rgb') {
      for (let i = 0; i < 3; i++)
        k.codesToFloat(rowAt(surface, i, to), this.at[i]! + y * shapes[i]!.stride + left * bytes, width, bytes, 1 / spans.luma, -spans.black / spans.luma);
      return;
    }
    const chroma = shapes[1]!;
    const last = chroma.height - 1;
    let near = y;
    let far = y;
    if (encoding.subY) {
      near = y >> 1;
      far = Math.max(0, Math.min(last, y & 1 ? near + 1 : near - 1));
    }
    const [luma, cb, cr] = this.at as [number, number, number];
    const across = (left >> encoding.subX) * bytes;
    const [here, there] = [near * chroma.stride + across, far * chroma.stride + across];
    // The last column of halved chroma stands for itself in a row of an even number of them; in an odd one, which is written as far, it has a neighbour.
    const count = encoding.subX && width % 2 === 0 && left + width < this.width ? width - 1 : width;
    const { words } = this.engine;
    const row = this.yuv >> 2;
    for (let plane = 0; plane < 3; plane++) words[row + plane] = rowAt(surface, plane, to);
    words[row + 3] = luma + y * shapes[0]!.stride + left * bytes;
    words[row + 4] = cb + here;
    words[row + 5] = cb + there;
    words[row + 6] = cr + here;
    words[row + 7] = cr + there;
    words[row + 8] = count;
    if (encoding.subX) k.yuvHalfToRgbRow(this.yuv);
    else k.yuvToRgbRow(this.yuv);
  }
}
