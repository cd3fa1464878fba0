import type { Response } from './film-curve';
import { neutral, SAME, type Matrix, type Row } from './dye-rows';

/** A stock of our own: how its layers see, how they answer, and what their dyes do. */
export interface Stock {
  readonly name: string;
  /** Of red, green and blue light in each layer. */
  readonly sees: Matrix;
  readonly responses: readonly [Response, Response, Response];
  /** Exposure of each layer against the others, log10: below 0 it is the darker. */
  readonly speed: Row;
  /** Of each layer's dye in red, green and blue; rows sum to 1. */
  readonly dyes: Matrix;
  /** Density of the clear stock. */
  readonly base: Row;
}

/** Neighbouring layers hold each other back: colours part. @param by share @param leak of a dye into its neighbours' bands */
const interimage = (by: number, leak = 0): Matrix =>
  neutral([
    [1 + by, -by * 0.6 + leak, -by * 0.4],
    [-by * 0.5 + leak, 1 + by, -by * 0.5 + leak],
    [-by * 0.4, -by * 0.6 + leak, 1 + by],
  ]);
const all = (r: Response): [Response, Response, Response] => [r, r, r];
const grey = (weights: Row): Matrix => [weights, weights, weights];

export const STOCKS = {
  sunreel: {
    name: 'Sunday reversal, daylight',
    sees: neutral([
      [0.97, 0.03, 0],
      [0.02, 0.96, 0.02],
      [0, 0.04, 0.96],
    ]),
    responses: [
      { contrast: 1.32, toe: 0.2, shoulder: 0.45 },
      { contrast: 1.3, toe: 0.22, shoulder: 0.45 },
      { contrast: 1.24, toe: 0.3, shoulder: 0.5 },
    ],
    speed: [0.03, 0.005, -0.03],
    dyes: interimage(0.14, 0.05),
    base: [0.01, 0.015, 0.03],
  },
  lampreel: {
    name: 'Parlour reversal, lamp light',
    sees: neutral([
      [0.94, 0.06, 0],
      [0.05, 0.93, 0.02],
      [0, 0.06, 0.94],
    ]),
    responses: [
      { contrast: 1.22, toe: 0.3, shoulder: 0.55 },
      { contrast: 1.2, toe: 0.3, shoulder: 0.5 },
      { contrast: 1.1, toe: 0.4, shoulder: 0.5 },
    ],
    speed: [0.07, 0.01, -0.11],
    dyes: interimage(0.1, 0.05),
    base: [0.015, 0.03, 0.07],
  },
  ember: {
    name: 'Ember print',
    sees: neutral([
      [0.95, 0.05, 0],
      [0.03, 0.95, 0.02],
      [0, 0.05, 0.95],
    ]),
    responses: [
      { contrast: 1.16, toe: 0.45, shoulder: 0.75 },
      { contrast: 1.14, toe: 0.42, shoulder: 0.7 },
      { contrast: 1.06, toe: 0.35, shoulder: 0.6 },
    ],
    speed: [0.035, 0.005, -0.04],
    dyes: interimage(0.09, 0.06),
    base: [0.02, 0.025, 0.05],
  },
  harbour: {
    name: 'Harbour print',
    sees: neutral([
      [0.93, 0.07, 0],
      [0.03, 0.94, 0.03],
      [0, 0.05, 0.95],
    ]),
    responses: [
      { contrast: 1.16, toe: 0.4, shoulder: 0.65 },
      { contrast: 1.12, toe: 0.4, shoulder: 0.7 },
      { contrast: 1.1, toe: 0.5, shoulder: 0.8 },
    ],
    speed: [-0.05, 0.005, 0.04],
    dyes: interimage(0.07, 0.06),
    base: [0.035, 0.02, 0.015],
  },
  attic: {
    name: 'Attic reel',
    sees: neutral([
      [0.9, 0.1, 0],
      [0.06, 0.9, 0.04],
      [0, 0.1, 0.9],
    ]),
    responses: [
      { contrast: 0.78, toe: 0.7, shoulder: 0.6 },
      { contrast: 0.98, toe: 0.5, shoulder: 0.6 },
      { contrast: 0.9, toe: 0.55, shoulder: 0.6 },
    ],
    speed: [0.06, -0.02, -0.05],
    dyes: interimage(0.02, 0.06),
    base: [0.02, 0.07, 0.1],
  },
  dispatch: {
    name: 'Dispatch newsfilm',
    sees: neutral([
      [0.9, 0.1, 0],
      [0.06, 0.9, 0.04],
      [0, 0.08, 0.92],
    ]),
    responses: [
      { contrast: 1.36, toe: 0.35, shoulder: 0.35 },
      { contrast: 1.34, toe: 0.35, shoulder: 0.35 },
      { contrast: 1.26, toe: 0.4, shoulder: 0.35 },
    ],
    speed: [-0.01, 0.015, 0.03],
    dyes: interimage(-0.12, 0.05),
    base: [0.05, 0.035, 0.04],
  },
  triad: {
    name: 'Triple strip',
    sees: neutral([
      [0.98, 0.02, 0],
      [0.01, 0.98, 0.01],
      [0, 0.02, 0.98],
    ]),
    responses: all({ contrast: 1.24, toe: 0.25, shoulder: 0.6 }),
    speed: [0.02, 0, -0.015],
    dyes: interimage(0.18, 0.02),
    base: [0.02, 0.02, 0.03],
  },
  panchro: {
    name: 'Silver, panchromatic',
    sees: grey([0.3, 0.5, 0.2]),
    responses: all({ contrast: 1.2, toe: 0.35, shoulder: 0.55 }),
    speed: [0, 0, 0],
    dyes: SAME,
    base: [0.03, 0.03, 0.03],
  },
  orthochro: {
    name: 'Silver, orthochromatic',
    sees: grey([0.03, 0.52, 0.45]),
    responses: all({ contrast: 1.34, toe: 0.3, shoulder: 0.4 }),
    speed: [0, 0, 0],
    dyes: SAME,
    base: [0.04, 0.045, 0.06],
  },
} as const satisfies Record<string, Stock>;
export type StockId = keyof typeof STOCKS;
