// Colours as numbers of an eye: primaries, whites, and matrices between them.
import { LUMA_WEIGHTS } from './encoding';

export type Row = readonly [number, number, number];
export type Matrix = readonly [Row, Row, Row];

/** Chromaticities x, y of red, green, blue and white. */
export interface Primaries {
  readonly xy: readonly [readonly [number, number], readonly [number, number], readonly [number, number]];
  readonly white: readonly [number, number];
}

export const D65 = [0.3127, 0.329] as const;

export const BT709 = {
  xy: [
    [0.64, 0.33],
    [0.3, 0.6],
    [0.15, 0.06],
  ],
  white: D65,
} as const satisfies Primaries;

/** What red, green and blue of BT.709 have of its luminance. */
export const LUMINANCE: Row = [LUMA_WEIGHTS.bt709.kr, 1 - LUMA_WEIGHTS.bt709.kr - LUMA_WEIGHTS.bt709.kb, LUMA_WEIGHTS.bt709.kb];

/** One after the other: `b` first. */
export const times = (a: Matrix, b: Matrix): Matrix => a.map((row) => [0, 1, 2].map((j) => row[0] * b[0][j]! + row[1] * b[1][j]! + row[2] * b[2][j]!)) as unknown as Matrix;
export const apply = (m: Matrix, v: Row): Row => m.map((row) => row[0] * v[0] + row[1] * v[1] + row[2] * v[2]) as unknown as Row;

export function inverse(m: Matrix): Matrix {
  const [[a, b, c], [d, e, f], [g, h, i]] = m;
  const [A, B, C] = [e * i - f * h, f * g - d * i, d * h - e * g];
  const det = a * A + b * B + c * C;
  const rows = [
    [A, c * h - b * i, b * f - c * e],
    [B, a * i - c * g, c * d - a * f],
    [C, b * g - a * h, a * e - b * d],
  ];
  return rows.map((row) => row.map((v) => v / det)) as unknown as Matrix;
}

const xyz = ([x, y]: readonly [number, number]): Row => [x / y, 1, (1 - x - y) / y];

/** Light of red, green and blue to XYZ, white at Y = 1. */
export function toXyz({ xy, white }: Primaries): Matrix {
  const columns = xy.map(xyz) as unknown as Matrix;
  const m = [0, 1, 2].map((i) => columns.map((c) => c[i]!)) as unknown as Matrix;
  const shares = apply(inverse(m), xyz(white));
  return m.map((row) => row.map((v, j) => v * shares[j]!)) as unknown as Matrix;
}

const BRADFORD: Matrix = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
];

/** White adapted by Bradford's cones. */
export function adapted(from: readonly [number, number], to: readonly [number, number]): Matrix {
  const [a, b] = [apply(BRADFORD, xyz(from)), apply(BRADFORD, xyz(to))];
  const scale: Matrix = [
    [b[0] / a[0], 0, 0],
    [0, b[1] / a[1], 0],
    [0, 0, b[2] / a[2]],
  ];
  return times(inverse(BRADFORD), times(scale, BRADFORD));
}
