import type { Response } from './film-curve';
import type { Row } from '../../frame/colorimetry';

/** A layer's sensitivity or a dye's absorption: where it is greatest, and its width (standard deviation) on either side; in nm. */
export interface Lobe {
  readonly peak: number;
  readonly below: number;
  readonly above: number;
}

/** A dye: its absorption, and how much of it stands where it should not, evenly toward short waves and in a second, smaller lobe. */
export interface Dye extends Lobe {
  /** Shares of its peak. */
  readonly tail: number;
  readonly second?: Lobe & { readonly share: number };
}

/** A stock of our own: how its layers see, how they answer, and what their dyes do. */
export interface Stock {
  readonly name: string;
  /** The layers that become cyan, magenta and yellow. */
  readonly layers: readonly [Lobe, Lobe, Lobe];
  readonly responses: readonly [Response, Response, Response];
  /** Exposure of each layer against the others, log10: below 0 it is the darker. */
  readonly speed: Row;
  /** How far its layers hold each other back, so that colours part, and how far its dyes leak into their neighbours' bands all the same. */
  readonly parts: { readonly by: number; readonly leak: number };
  /** Cyan, magenta and yellow; null where the picture is silver. */
  readonly dyes: readonly [Dye, Dye, Dye] | null;
  /** Density of the clear stock in red, green and blue. */
  readonly base: Row;
  /** Black body of the lamp it was made for, in kelvin. */
  readonly lamp: number;
}

const all = <T>(one: T): [T, T, T] => [one, one, one];

/** Sensitivities by the published principle: three bands that meet at 494 and 594 nm, the green-sensitive layer's reaching into both. */
const PARTED: Stock['layers'] = [
  { peak: 645, below: 22, above: 26 },
  { peak: 542, below: 22, above: 21 },
  { peak: 448, below: 30, above: 20 },
];
const WIDE: Stock['layers'] = [
  { peak: 630, below: 32, above: 30 },
  { peak: 548, below: 32, above: 28 },
  { peak: 455, below: 34, above: 28 },
];
/** Of a camera with three strips behind a prism and filters. */
const STRIPS: Stock['layers'] = [
  { peak: 635, below: 18, above: 24 },
  { peak: 540, below: 22, above: 20 },
  { peak: 450, below: 28, above: 20 },
];

/** Couplers of a reversal stock: fairly clean. */
const REVERSAL: Stock['dyes'] = [
  { peak: 650, below: 46, above: 62, tail: 0.03 },
  { peak: 550, below: 32, above: 38, tail: 0.03, second: { peak: 435, below: 30, above: 34, share: 0.12 } },
  { peak: 448, below: 46, above: 41, tail: 0.02 },
];
/** Of a print stock: a broader cyan, a magenta that takes blue. */
const PRINT: Stock['dyes'] = [
  { peak: 655, below: 50, above: 60, tail: 0.05 },
  { peak: 548, below: 34, above: 40, tail: 0.04, second: { peak: 430, below: 30, above: 36, share: 0.18 } },
  { peak: 450, below: 48, above: 42, tail: 0.02 },
];
/** Of cheap and old stocks: muddy. */
const EARLY: Stock['dyes'] = [
  { peak: 665, below: 60, above: 60, tail: 0.1 },
  { peak: 545, below: 38, above: 44, tail: 0.06, second: { peak: 430, below: 32, above: 38, share: 0.28 } },
  { peak: 440, below: 48, above: 46, tail: 0.04 },
];
/** Printed by matrices from dyes that were chosen for their colour alone. */
const IMBIBED: Stock['dyes'] = [
  { peak: 648, below: 42, above: 56, tail: 0.02 },
  { peak: 548, below: 28, above: 34, tail: 0.02, second: { peak: 440, below: 28, above: 30, share: 0.1 } },
  { peak: 446, below: 44, above: 38, tail: 0.01 },
];

export const STOCKS = {
  sunreel: {
    name: 'Sunday reversal, daylight',
    layers: PARTED,
    responses: [
      { contrast: 1.32, toe: 0.2, shoulder: 0.45 },
      { contrast: 1.3, toe: 0.22, shoulder: 0.45 },
      { contrast: 1.24, toe: 0.3, shoulder: 0.5 },
    ],
    speed: [0.03, 0.005, -0.03],
    parts: { by: 0.14, leak: 0.05 },
    dyes: REVERSAL,
    base: [0.01, 0.015, 0.03],
    lamp: 5200,
  },
  lampreel: {
    name: 'Parlour reversal, lamp light',
    layers: WIDE,
    responses: [
      { contrast: 1.22, toe: 0.3, shoulder: 0.55 },
      { contrast: 1.2, toe: 0.3, shoulder: 0.5 },
      { contrast: 1.1, toe: 0.4, shoulder: 0.5 },
    ],
    speed: [0.07, 0.01, -0.11],
    parts: { by: 0.1, leak: 0.05 },
    dyes: REVERSAL,
    base: [0.015, 0.03, 0.07],
    lamp: 3300,
  },
  ember: {
    name: 'Ember print',
    layers: PARTED,
    responses: [
      { contrast: 1.16, toe: 0.45, shoulder: 0.75 },
      { contrast: 1.14, toe: 0.42, shoulder: 0.7 },
      { contrast: 1.06, toe: 0.35, shoulder: 0.6 },
    ],
    speed: [0.035, 0.005, -0.04],
    parts: { by: 0.09, leak: 0.06 },
    dyes: PRINT,
    base: [0.02, 0.025, 0.05],
    lamp: 5500,
  },
  harbour: {
    name: 'Harbour print',
    layers: WIDE,
    responses: [
      { contrast: 1.16, toe: 0.4, shoulder: 0.65 },
      { contrast: 1.12, toe: 0.4, shoulder: 0.7 },
      { contrast: 1.1, toe: 0.5, shoulder: 0.8 },
    ],
    speed: [-0.05, 0.005, 0.04],
    parts: { by: 0.07, leak: 0.06 },
    dyes: PRINT,
    base: [0.035, 0.02, 0.015],
    lamp: 5800,
  },
  attic: {
    name: 'Attic reel',
    layers: WIDE,
    responses: [
      { contrast: 0.78, toe: 0.7, shoulder: 0.6 },
      { contrast: 0.98, toe: 0.5, shoulder: 0.6 },
      { contrast: 0.98, toe: 0.55, shoulder: 0.6 },
    ],
    speed: [0.06, -0.02, -0.05],
    parts: { by: 0.06, leak: 0.05 },
    dyes: EARLY,
    base: [0.02, 0.07, 0.1],
    lamp: 3300,
  },
  dispatch: {
    name: 'Dispatch newsfilm',
    layers: WIDE,
    responses: [
      { contrast: 1.36, toe: 0.35, shoulder: 0.35 },
      { contrast: 1.34, toe: 0.35, shoulder: 0.35 },
      { contrast: 1.26, toe: 0.4, shoulder: 0.35 },
    ],
    speed: [-0.01, 0.015, 0.03],
    parts: { by: -0.12, leak: 0.05 },
    dyes: EARLY,
    base: [0.05, 0.035, 0.04],
    lamp: 5000,
  },
  triad: {
    name: 'Triple strip',
    layers: STRIPS,
    responses: all({ contrast: 1.24, toe: 0.25, shoulder: 0.6 }),
    speed: [0.02, 0, -0.015],
    parts: { by: 0.26, leak: 0 },
    dyes: IMBIBED,
    base: [0.02, 0.02, 0.03],
    lamp: 5500,
  },
  panchro: {
    name: 'Silver, panchromatic',
    layers: all({ peak: 560, below: 85, above: 55 }),
    responses: all({ contrast: 1.2, toe: 0.35, shoulder: 0.55 }),
    speed: [0, 0, 0],
    parts: { by: 0, leak: 0 },
    dyes: null,
    base: [0.03, 0.03, 0.03],
    lamp: 5500,
  },
  orthochro: {
    name: 'Silver, orthochromatic',
    layers: all({ peak: 500, below: 60, above: 42 }),
    responses: all({ contrast: 1.34, toe: 0.3, shoulder: 0.4 }),
    speed: [0, 0, 0],
    parts: { by: 0, leak: 0 },
    dyes: null,
    base: [0.04, 0.045, 0.06],
    lamp: 5500,
  },
} as const satisfies Record<string, Stock>;
export type StockId = keyof typeof STOCKS;
