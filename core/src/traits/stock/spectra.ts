/**
 * Light by its wavelengths: what an eye makes of it, what a projector's lamp sends, what passes through dyes. Every spectrum is sampled at
 * `WAVELENGTHS`; what is smooth over some 25 nm, as all of these are, needs no finer steps.
 */

/** Their results reach pixels: the engine's own, the same everywhere. */
export interface Maths {
  exp(x: number): number;
  log(x: number): number;
}
export type Spectrum = readonly number[];
export type Triple = readonly [number, number, number];

/** In nanometres. */
export const WAVELENGTHS: readonly number[] = Array.from({ length: 36 }, (_, i) => 380 + 10 * i);

export const spectrum = (of: (wavelength: number) => number): Spectrum => WAVELENGTHS.map(of);

/** A bell about a wavelength, of its own width (standard deviation, nm) on either side. */
export const bell = (k: Maths, wavelength: number, middle: number, below: number, above: number): number => {
  const t = (wavelength - middle) / (wavelength < middle ? below : above);
  return k.exp(-0.5 * t * t);
};

/** The CIE 1931 standard observer, 2 degrees, as sums of bells (C. Wyman, P.-P. Sloan, P. Shirley, Journal of Computer Graphics Techniques 2/2, 2013: within 1 % of the tables). */
export const observer = (k: Maths): readonly [Spectrum, Spectrum, Spectrum] => [
  spectrum((l) => 1.056 * bell(k, l, 599.8, 37.9, 31) + 0.362 * bell(k, l, 442, 16, 26.7) - 0.065 * bell(k, l, 501.1, 20.4, 26.2)),
  spectrum((l) => 0.821 * bell(k, l, 568.8, 46.9, 40.5) + 0.286 * bell(k, l, 530.9, 16.3, 31.1)),
  spectrum((l) => 1.217 * bell(k, l, 437, 11.8, 36) + 0.681 * bell(k, l, 459, 26, 13.8)),
];

/** Second constant of radiation, in nm K (CODATA). */
const RADIATION = 1.438777e7;

/** What a black body of a temperature (kelvin) sends at each wavelength, in any unit (M. Planck). A projector's arc is near one of 5500 K. */
export const blackBody = (k: Maths, kelvin: number): Spectrum => spectrum((l) => 1e13 / (l ** 5 * (k.exp(RADIATION / (l * kelvin)) - 1)));

export const sumOver = (a: Spectrum, b: Spectrum): number => a.reduce((sum, v, i) => sum + v * b[i]!, 0);

type Rows = readonly [Triple, Triple, Triple];
const times = (m: Rows, v: Triple): Triple => m.map(([a, b, c]) => a * v[0] + b * v[1] + c * v[2]) as unknown as Triple;

/** To linear ITU-R BT.709 from XYZ. */
const FROM_XYZ: Rows = [
  [3.2404542, -1.5371385, -0.4985314],
  [-0.969266, 1.8760108, 0.041556],
  [0.0556434, -0.2040259, 1.0572252],
];
/** Bradford's cones, and the way back. */
const CONES: Rows = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
];
const FROM_CONES: Rows = [
  [0.9869929, -0.1470543, 0.1599627],
  [0.4323053, 0.5183603, 0.0494912],
  [-0.0085287, 0.0400428, 0.9684867],
];
/** D65, white of BT.709. */
const D65: Triple = [0.95047, 1, 1.08883];

/** Weights by which the light of a lamp that passes a film at each wavelength adds up to linear BT.709; the lamp itself is white (adapted by Bradford's transform). */
export function projected(k: Maths, lamp: Spectrum): readonly [Spectrum, Spectrum, Spectrum] {
  const eye = observer(k);
  const white = eye.map((curve) => sumOver(curve, lamp)) as unknown as Triple;
  const from = times(CONES, white.map((v) => v / white[1]) as unknown as Triple);
  const to = times(CONES, D65);
  const columns = WAVELENGTHS.map((_, i): Triple => {
    const cones = times(CONES, eye.map((curve) => (curve[i]! * lamp[i]!) / white[1]) as unknown as Triple);
    return times(FROM_XYZ, times(FROM_CONES, cones.map((v, c) => (v * to[c]!) / from[c]!) as unknown as Triple));
  });
  // What the constants' last digits leave: the lamp is white to the last bit.
  return [0, 1, 2].map((plane) => {
    const sum = columns.reduce((total, column) => total + column[plane]!, 0);
    return columns.map((column) => column[plane]! / sum);
  }) as unknown as readonly [Spectrum, Spectrum, Spectrum];
}

/** Spectra of which red, green and blue light are taken to be, smooth and together even: what a scene's colours were by wavelength nobody knows. */
export function primaries(k: Maths): readonly [Spectrum, Spectrum, Spectrum] {
  const step = (l: number, at: number): number => 1 / (1 + k.exp((at - l) / 9));
  return [spectrum((l) => step(l, 594)), spectrum((l) => step(l, 494) - step(l, 594)), spectrum((l) => 1 - step(l, 494))];
}
