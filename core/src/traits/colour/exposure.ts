import { rowAt } from '../../frame/surface';
import { kelvins, percent, share, stops } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { MID_GREY } from '../grey';
import { BLUE, GREEN, RED } from './by-luma';

/** The white of BT.709, D65. */
const DAYLIGHT = 6504;
/** How far the tint goes off the line of black bodies, in u, v of CIE 1960. */
const TINT_REACH = 0.08;

const settings = {
  stops: stops({ name: 'Exposure', says: 'More or less light, as a lens opened or closed', default: 0, min: -6, max: 6 }),
  contrast: share({ name: 'Contrast', says: 'Slope of light about mid-grey, in stops out for stops in', default: 1, min: 0.25, max: 4 }),
  warmth: kelvins({ name: 'Warmth', says: 'Light of a colder lamp (to the right) or a hotter one: its temperature below 6504 K', default: 0, min: -6000, max: 4000 }),
  tint: percent({ name: 'Tint', says: 'Off the line of lamps: to magenta, or below 0 to green', default: 0, min: -100, max: 100, step: 1 }),
};

/** Light of an exposure: how much, how steep, and of what lamp. In density each is a shift or a slope. */
export const exposure = trait({
  id: 'exposure',
  act: 'stock',
  family: 'colour',
  name: 'Exposure',
  says: 'How much light fell, how steeply it is rendered, and the colour of the lamp.',
  domain: 'density',
  settings,
  footprint: 'point',
  idle: (s) => s.stops === 0 && s.contrast === 1 && s.warmth === 0 && s.tint === 0,
  prepare({ engine }) {
    const k = engine.kernels;
    const log10 = (v: number): number => k.log(v) / Math.LN10;
    // Contrast turns about mid-grey.
    const pivot = -log10(MID_GREY);
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      const lamp = lampGains(DAYLIGHT - s.warmth, s.tint);
      return lamp.map((gain) => ({ slope: s.contrast, shift: pivot * (1 - s.contrast) - s.stops * Math.LOG10E * Math.LN2 - log10(gain) }));
    });
    return ({ surface, settings: s }) => {
      ofSettings(s).forEach(({ slope, shift }, plane) => {
        for (let y = surface.top; y < surface.bottom; y++) k.affineRow(rowAt(surface, plane, y), surface.width, slope, shift);
      });
    };
  },
});

/** A black body's u, v of CIE 1960 (M. Krystek, 1985; 1000 to 15000 K). */
function blackBody(t: number): { u: number; v: number } {
  return {
    u: (0.860117757 + 1.54118254e-4 * t + 1.28641212e-7 * t * t) / (1 + 8.42420235e-4 * t + 7.08145163e-7 * t * t),
    v: (0.317398726 + 4.22806245e-5 * t + 4.20481691e-8 * t * t) / (1 - 2.89741816e-5 * t + 1.61456053e-7 * t * t),
  };
}

/** Linear BT.709 red, green and blue of a chromaticity at luminance 1. */
function lightOf({ u, v }: { u: number; v: number }): number[] {
  const d = 2 * u - 8 * v + 4;
  const [x, y] = [(3 * u) / d, (2 * v) / d];
  const [X, Z] = [x / y, (1 - x - y) / y];
  return [3.2404542 * X - 1.5371385 - 0.4985314 * Z, -0.969266 * X + 1.8760108 + 0.041556 * Z, 0.0556434 * X - 0.2040259 + 1.0572252 * Z];
}

/** By how much each channel's light rises under a lamp of `t` kelvins, white's luminance kept. @param tint -1 green to 1 magenta */
export function lampGains(t: number, tint: number): number[] {
  const lamp = blackBody(t);
  const [now, day] = [lightOf({ u: lamp.u, v: lamp.v - tint * TINT_REACH }), lightOf(blackBody(DAYLIGHT))];
  const gains = now.map((v, i) => Math.max(0.001, v) / day[i]!);
  const luma = RED * gains[0]! + GREEN * gains[1]! + BLUE * gains[2]!;
  return gains.map((g) => g / luma);
}
