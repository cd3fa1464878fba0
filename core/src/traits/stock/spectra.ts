/**
 * Light by its wavelengths: what an eye makes of it, what a projector's lamp sends, what passes through dyes. Every spectrum is sampled at
 * `WAVELENGTHS`; what is smooth over some 25 nm, as all of these are, needs no finer steps.
 */

import { adapted, apply, BT709, D65, inverse, times, toXyz, type Row } from '../../frame/colorimetry';

/** Their results reach pixels: the engine's own, the same everywhere. */
export interface Maths {
  exp(x: number): number;
  log(x: number): number;
}
export type Spectrum = readonly number[];

/** In nanometres; an even number of them, which the kernels take in twos. */
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

/** Weights by which the light of a lamp that passes a film at each wavelength adds up to linear BT.709; the lamp itself is white (adapted by Bradford's transform). */
export function projected(k: Maths, lamp: Spectrum): readonly [Spectrum, Spectrum, Spectrum] {
  const eye = observer(k);
  const [x, y, z] = eye.map((curve) => sumOver(curve, lamp)) as unknown as Row;
  const toDisplay = times(inverse(toXyz(BT709)), adapted([x / (x + y + z), y / (x + y + z)], D65));
  const columns = WAVELENGTHS.map((_, i) => apply(toDisplay, eye.map((curve) => (curve[i]! * lamp[i]!) / y) as unknown as Row));
  // What roundings leave: the lamp is white to the last bit.
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
