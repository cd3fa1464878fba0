/**
 * What footage's values mean: their curve to light and their primaries. Light is 1 at white for display curves; at the reference
 * white of 203 cd/m2 (ITU-R BT.2408) for those of BT.2100; at a reflectance of 1 for scene curves.
 */
import { adapted, BT709, D65, inverse, times, toXyz, type Matrix, type Primaries } from '../frame/colorimetry';
import { DISPLAY_GAMMA } from '../frame/domain-rows';

export interface Curve {
  readonly name: string;
  /** Value 0..1 to light. `k` are the engine's own functions, the same everywhere. */
  readonly light: (v: number, k: Maths) => number;
  /** Light goes far over white and is rolled off. */
  readonly beyondWhite: boolean;
  /** Primaries it usually comes with. */
  readonly primaries: keyof typeof INPUT_PRIMARIES;
  /** BT.2100 HLG: light of the scene, to be brought to a display's by its system gamma. */
  readonly scene?: boolean;
}

interface Maths {
  exp(x: number): number;
  pow(x: number, y: number): number;
}

/** Reference white of HDR, cd/m2 (BT.2408), and the nominal peak of HLG (BT.2100). */
export const REFERENCE_WHITE = 203;
export const HLG_PEAK = 1000;
/** System gamma of HLG at that peak. */
export const HLG_GAMMA = 1.2;
const HLG = { a: 0.17883277, b: 0.28466892, c: 0.55991073 } as const;
const PQ = { m1: 2610 / 16384, m2: (2523 / 4096) * 128, c1: 3424 / 4096, c2: (2413 / 4096) * 32, c3: (2392 / 4096) * 32 } as const;

/** ITU-R BT.2100 HLG: inverse OETF, scene light 0..1. */
export const hlgScene = (v: number, k: Maths): number => (v <= 0.5 ? (v * v) / 3 : (k.exp((v - HLG.c) / HLG.a) + HLG.b) / 12);

/** ITU-R BT.2100 PQ: EOTF, cd/m2. */
export function pqNits(v: number, k: Maths): number {
  const p = k.pow(Math.max(0, v), 1 / PQ.m2);
  return 10000 * k.pow(Math.max(0, p - PQ.c1) / (PQ.c2 - PQ.c3 * p), 1 / PQ.m1);
}

/** ACEScct (Academy S-2016-001): scene light, mid-grey at 0.18. */
export const acescctLight = (v: number, k: Maths): number => (v > 0.155251141552511 ? k.pow(2, v * 17.52 - 9.72) : (v - 0.0729055341958355) / 10.5402377416545);

/** IEC 61966-2-1 sRGB. */
export const srgbLight = (v: number, k: Maths): number => (v <= 0.04045 ? v / 12.92 : k.pow((v + 0.055) / 1.055, 2.4));

const display = (v: number, k: Maths): number => k.pow(Math.max(0, v), DISPLAY_GAMMA);

export const INPUT_CURVES = {
  display: { name: 'Display (BT.1886)', light: display, beyondWhite: false, primaries: 'bt709' },
  srgb: { name: 'sRGB', light: srgbLight, beyondWhite: false, primaries: 'bt709' },
  linear: { name: 'Linear', light: (v: number) => v, beyondWhite: true, primaries: 'bt709' },
  acescct: { name: 'ACEScct', light: acescctLight, beyondWhite: true, primaries: 'ap1' },
  hlg: { name: 'HLG (BT.2100)', light: hlgScene, beyondWhite: true, primaries: 'bt2020', scene: true },
  pq: { name: 'PQ (BT.2100)', light: (v: number, k: Maths) => pqNits(v, k) / REFERENCE_WHITE, beyondWhite: true, primaries: 'bt2020' },
} as const satisfies Record<string, Curve>;
export type InputCurve = keyof typeof INPUT_CURVES;

export const INPUT_PRIMARIES = {
  bt709: { name: 'BT.709', ...BT709 },
  bt601of525: {
    name: 'BT.601, 525 lines',
    xy: [
      [0.63, 0.34],
      [0.31, 0.595],
      [0.155, 0.07],
    ],
    white: D65,
  },
  bt601of625: {
    name: 'BT.601, 625 lines',
    xy: [
      [0.64, 0.33],
      [0.29, 0.6],
      [0.15, 0.06],
    ],
    white: D65,
  },
  bt2020: {
    name: 'BT.2020',
    xy: [
      [0.708, 0.292],
      [0.17, 0.797],
      [0.131, 0.046],
    ],
    white: D65,
  },
  ap1: {
    name: 'ACES AP1',
    xy: [
      [0.713, 0.293],
      [0.165, 0.83],
      [0.128, 0.044],
    ],
    white: [0.32168, 0.33767],
  },
} as const satisfies Record<string, Primaries & { readonly name: string }>;
export type InputPrimaries = keyof typeof INPUT_PRIMARIES;

/** Light of some primaries to that of BT.709's. */
export function toBt709(primaries: InputPrimaries): Matrix {
  const from = INPUT_PRIMARIES[primaries];
  return times(inverse(toXyz(BT709)), times(adapted(from.white, D65), toXyz(from)));
}

/** Light at which highlights begin to be rolled off. */
export const KNEE = 0.6;

/** Light over the knee led toward white without reaching it, with no break in its slope. */
export const rolledOff = (light: number, k: Maths): number => (light <= KNEE ? light : 1 - (1 - KNEE) * k.exp(-(light - KNEE) / (1 - KNEE)));
