/** How the integer samples of a file's picture are laid out and what they mean. */

export type Matrix = 'bt601' | 'bt709' | 'bt2020';

export interface Encoding {
  /** `rgb` planes stand in the order red, green, blue; `yuv` planes luma, Cb, Cr. */
  readonly layout: 'rgb' | 'yuv';
  /** Bits a sample; 8 takes one byte, 9 to 16 take two (little-endian). */
  readonly bits: number;
  /** Chroma halved across (1) or not (0). */
  readonly subX: 0 | 1;
  /** Chroma halved down (1) or not (0). */
  readonly subY: 0 | 1;
  readonly matrix: Matrix;
  /** `limited`: luma 16..235, chroma 16..240 at 8 bits (BT.601, BT.709). R'G'B' is always full here. */
  readonly range: 'limited' | 'full';
}

/** A picture as a file has it: tightly packed rows, one array a plane. */
export interface RawFrame {
  readonly width: number;
  readonly height: number;
  readonly encoding: Encoding;
  readonly planes: readonly Uint8Array[];
}

export interface PlaneShape {
  readonly width: number;
  readonly height: number;
  /** Bytes a row. */
  readonly stride: number;
}

export const bytesPerSample = (encoding: Encoding): 1 | 2 => (encoding.bits > 8 ? 2 : 1);

/** The three planes of a picture of this size. */
export function planeShapes(width: number, height: number, encoding: Encoding): PlaneShape[] {
  const bytes = bytesPerSample(encoding);
  const chroma = encoding.layout === 'yuv';
  return [0, 1, 2].map((plane) => {
    const w = chroma && plane > 0 && encoding.subX ? (width + 1) >> 1 : width;
    const h = chroma && plane > 0 && encoding.subY ? (height + 1) >> 1 : height;
    return { width: w, height: h, stride: w * bytes };
  });
}

/** Bytes of one picture, planes one after the other. */
export function frameBytes(width: number, height: number, encoding: Encoding): number {
  return planeShapes(width, height, encoding).reduce((sum, p) => sum + p.stride * p.height, 0);
}

/** Views of the planes of a picture that lies in one piece. Throws RangeError when the piece has another length. */
export function splitPlanes(data: Uint8Array, width: number, height: number, encoding: Encoding): RawFrame {
  const wanted = frameBytes(width, height, encoding);
  if (data.length !== wanted) throw new RangeError(`a ${width}x${height} picture takes ${wanted} bytes, not ${data.length}`);
  let at = 0;
  const planes = planeShapes(width, height, encoding).map((shape) => {
    const plane = data.subarray(at, at + shape.stride * shape.height);
    at += shape.stride * shape.height;
    return plane;
  });
  return { width, height, encoding, planes };
}

/** Luma weights of red and blue: ITU-R BT.601, BT.709, BT.2020 (non-constant luminance). */
export const LUMA_WEIGHTS: Record<Matrix, { kr: number; kb: number }> = {
  bt601: { kr: 0.299, kb: 0.114 },
  bt709: { kr: 0.2126, kb: 0.0722 },
  bt2020: { kr: 0.2627, kb: 0.0593 },
};

/** What Cb and Cr (-1/2..1/2) add to luma in red, take from green, and add in blue: the inverse of the matrix's definition. */
export function chromaShares(matrix: Matrix): { rv: number; gu: number; gv: number; bu: number } {
  const { kr, kb } = LUMA_WEIGHTS[matrix];
  const kg = 1 - kr - kb;
  return { rv: 2 * (1 - kr), gu: (2 * kb * (1 - kb)) / kg, gv: (2 * kr * (1 - kr)) / kg, bu: 2 * (1 - kb) };
}

/** Codes of black, the span black to white and the span of chroma, from the range and the bits. */
export function codeSpans(encoding: Encoding): { black: number; luma: number; middle: number; chroma: number; max: number } {
  const max = 2 ** encoding.bits - 1;
  const unit = 2 ** (encoding.bits - 8);
  if (encoding.layout === 'rgb') return { black: 0, luma: max, middle: 0, chroma: max, max };
  if (encoding.range === 'full') return { black: 0, luma: max, middle: 128 * unit, chroma: max, max };
  return { black: 16 * unit, luma: 219 * unit, middle: 128 * unit, chroma: 224 * unit, max };
}

export const sameEncoding = (a: Encoding, b: Encoding): boolean =>
  a.layout === b.layout && a.bits === b.bits && (a.layout === 'rgb' || (a.subX === b.subX && a.subY === b.subY && a.matrix === b.matrix && a.range === b.range));
