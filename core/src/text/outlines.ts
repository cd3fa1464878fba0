// Outlines of glyphs as plain data: what a font's reader makes, and what the engine draws.

/** What follows an operator: a move and a line take a point, a curve its one or two control points before that. */
export const OPERANDS = { move: 2, line: 2, quadratic: 4, cubic: 6, close: 0 } as const;
export type Operator = keyof typeof OPERANDS;

/** One step of an outline, its numbers in units of the font, y upward. */
export type Step = readonly [Operator, ...number[]];

export interface Glyph {
  /** From its place to the next one's. */
  readonly advance: number;
  readonly steps: readonly Step[];
}

/** As much of a font as some text needs; plain, so that threads can hand it on. */
export interface FontOutlines {
  readonly unitsPerEm: number;
  /** Height of a capital. */
  readonly capHeight: number;
  /** By code point. */
  readonly glyphs: Readonly<Record<number, Glyph>>;
  /** What stands for a character that the font has not. */
  readonly lacking: Glyph;
  /** What is added between two characters, by both together. */
  readonly kerning: Readonly<Record<string, number>>;
}

/** A line as it goes: x0, y0, x1, y1. */
export type Lines = number[];

/** How far a curve may stray from the lines it is drawn by, in pixels. */
const STRAY = 0.02;
const MOST_PIECES = 64;

/** Length of a step; `Math.hypot` may differ from one machine to another. */
const far = (x: number, y: number): number => Math.sqrt(x * x + y * y);

/** Pieces for a curve whose control polygon bends by so much (the largest second difference), for it to stray no more than allowed: a chord strays by an eighth of it, over the square of the pieces. */
const piecesFor = (bend: number, order: number): number => Math.min(MOST_PIECES, Math.max(1, Math.ceil(Math.sqrt((bend * order * (order - 1)) / (8 * STRAY)))));

/** Lays the lines of an outline, through a mapping of its points, behind those that are there. Contours are closed. */
export function addLines(lines: Lines, steps: readonly Step[], map: (x: number, y: number) => readonly [number, number]): void {
  let [x, y, startX, startY] = [0, 0, 0, 0];
  const to = (nextX: number, nextY: number): void => {
    if (nextX !== x || nextY !== y) lines.push(x, y, nextX, nextY);
    [x, y] = [nextX, nextY];
  };
  for (const [operator, ...numbers] of steps) {
    const points: (readonly [number, number])[] = [];
    for (let i = 0; i + 1 < numbers.length; i += 2) points.push(map(numbers[i]!, numbers[i + 1]!));
    const [a, b, c] = points;
    switch (operator) {
      case 'move':
        to(startX, startY);
        [x, y] = a!;
        [startX, startY] = a!;
        break;
      case 'line':
        to(...a!);
        break;
      case 'quadratic': {
        const [x0, y0] = [x, y];
        const pieces = piecesFor(far(x0 - 2 * a![0] + b![0], y0 - 2 * a![1] + b![1]), 2);
        for (let i = 1; i <= pieces; i++) {
          const t = i / pieces;
          const u = 1 - t;
          to(u * u * x0 + 2 * u * t * a![0] + t * t * b![0], u * u * y0 + 2 * u * t * a![1] + t * t * b![1]);
        }
        break;
      }
      case 'cubic': {
        const [x0, y0] = [x, y];
        const bend = Math.max(far(x0 - 2 * a![0] + b![0], y0 - 2 * a![1] + b![1]), far(a![0] - 2 * b![0] + c![0], a![1] - 2 * b![1] + c![1]));
        const pieces = piecesFor(bend, 3);
        for (let i = 1; i <= pieces; i++) {
          const t = i / pieces;
          const u = 1 - t;
          const [w0, w1, w2, w3] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
          to(w0 * x0 + w1 * a![0] + w2 * b![0] + w3 * c![0], w0 * y0 + w1 * a![1] + w2 * b![1] + w3 * c![1]);
        }
        break;
      }
      case 'close':
        to(startX, startY);
    }
  }
  to(startX, startY);
}
