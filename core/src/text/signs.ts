import type { Glyph, Step } from './outlines';

// Signs of recorders as glyphs of our own, on a square of 1000 units, as high as a capital. They stand where no font has characters.

const CAPITAL = 1000;

const ring = (points: readonly (readonly [number, number])[]): Step[] => [['move', ...points[0]!], ...points.slice(1).map(([x, y]): Step => ['line', x, y]), ['close']];
const box = (left: number, bottom: number, right: number, top: number): Step[] =>
  ring([
    [left, bottom],
    [left, top],
    [right, top],
    [right, bottom],
  ]);
const toRight = (left: number, right: number): Step[] =>
  ring([
    [left, 0],
    [left, CAPITAL],
    [right, CAPITAL / 2],
  ]);
const toLeft = (left: number, right: number): Step[] =>
  ring([
    [right, 0],
    [left, CAPITAL / 2],
    [right, CAPITAL],
  ]);

/** Control points of a quarter of a circle by a cubic stand this far along (4/3 times the tangent of an eighth of a turn). */
const QUARTER = 0.5523;
function disc(x: number, y: number, r: number): Step[] {
  const c = r * QUARTER;
  return [
    ['move', x + r, y],
    ['cubic', x + r, y - c, x + c, y - r, x, y - r],
    ['cubic', x - c, y - r, x - r, y - c, x - r, y],
    ['cubic', x - r, y + c, x - c, y + r, x, y + r],
    ['cubic', x + c, y + r, x + r, y + c, x + r, y],
    ['close'],
  ];
}

/** A battery that is half empty: a case with its pole, hollow but for what is left. */
const battery: Step[] = [
  ...box(60, 120, 1340, 880),
  ...box(1340, 340, 1460, 660),
  // The other way round, so that it is a hole.
  ...ring([
    [160, 220],
    [1240, 220],
    [1240, 780],
    [160, 780],
  ]),
  ...box(230, 290, 660, 710),
];

/** By the name in braces. */
export const SIGNS: Readonly<Record<string, Glyph>> = {
  play: { advance: 900, steps: toRight(60, 840) },
  reverse: { advance: 900, steps: toLeft(60, 840) },
  forward: { advance: 1500, steps: [...toRight(60, 740), ...toRight(740, 1420)] },
  rewind: { advance: 1500, steps: [...toLeft(60, 740), ...toLeft(740, 1420)] },
  pause: { advance: 900, steps: [...box(100, 0, 350, CAPITAL), ...box(550, 0, 800, CAPITAL)] },
  stop: { advance: 1000, steps: box(80, 60, 920, 900) },
  rec: { advance: 1000, steps: disc(500, 500, 430) },
  battery: { advance: 1560, steps: battery },
  arrow: {
    advance: 1200,
    steps: ring([
      [60, 400],
      [60, 600],
      [680, 600],
      [680, 860],
      [1140, 500],
      [680, 140],
      [680, 400],
    ]),
  },
};

/** A sign's character stands in the private use area, where fonts of text have nothing of their own. */
const FIRST = 0xe000;
const NAMES = Object.keys(SIGNS);

export const signCharacter = (name: string): string => String.fromCodePoint(FIRST + NAMES.indexOf(name));

/** The sign that a code point stands for. */
export const signOf = (point: number): Glyph | undefined => SIGNS[NAMES[point - FIRST] ?? ''];

export const SIGN_CAPITAL = CAPITAL;
