import { WIDTH_TO_SIGMA } from '../../frame/blur';
import { NoiseSheet } from '../../frame/noise-sheet';
import { rowAt } from '../../frame/surface';
import { micrometres, readySettings, share, thousandths, toggle } from '../settings';
import { perSettings, trait, type Values } from '../trait';

/** Granularity is read through a round aperture of this diameter in um (ISO 10505). */
const APERTURE = 48;

const settings = {
  rms: thousandths({ name: 'Granularity', says: 'RMS density × 1000 through a 48 µm aperture, at mid-grey', default: 9, max: 40 }),
  size: micrometres({ name: 'Size', says: 'Width of a grain clump on the film', default: 8, min: 1, max: 40 }),
  colour: share({ name: 'Colour', says: 'How far the three dye layers differ; 0 is grey grain', default: 0.4 }),
  shadows: share({ name: 'In shadows', says: 'Share that shows in the deepest shadows', default: 0.45 }),
  middles: share({ name: 'In middles', says: 'Share that shows at mid-grey', default: 1 }),
  highlights: share({ name: 'In highlights', says: 'Share that shows in clear film', default: 0.35 }),
  frozen: toggle({ name: 'Frozen', says: 'The same grain on every picture', default: false }),
};

/**
 * Film grain: noise in density whose RMS through a 48 um aperture is what is set, whatever the size of a pixel on the
 * gate (Selwyn: RMS x sqrt(area) is constant), and whose size is the half width of its correlating bell. White noise of
 * spectral density S, blurred by a bell, reads RMS^2 = S * admittance through the aperture; a pixel of side p holds its
 * mean over p^2, so the white field a pixel needs has RMS sqrt(S) / p. Fields are sums of two windows of a sheet that is made once.
 */
export const grain = trait({
  id: 'grain',
  act: 'stock',
  media: ['film'],
  name: 'Grain',
  says: 'The picture is made of grains and dye clouds, new on every picture.',
  domain: 'density',
  settings,
  footprint: 'point',
  idle: (s) => s.rms === 0 || (s.shadows === 0 && s.middles === 0 && s.highlights === 0),
  presets: readySettings({ rms: 4 }, { rms: 24, size: 16 }),
  prepare({ engine, units, seed, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const pixel = units.micrometresPerPixel;
    const sheet = own(new NoiseSheet(engine));
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      const sigma = (s.size * pixel) / WIDTH_TO_SIGMA;
      sheet.shape(width, height, sigma / pixel);
      const white = (s.rms / Math.sqrt(admittance(sigma, k.exp)) / pixel) * sheet.unit;
      // Unit variance of each layer: own^2 + 2 own shared + 3 shared^2 = 1.
      const shared = (Math.sqrt(3 - 2 * s.colour * s.colour) - s.colour) / 3;
      // Parabola through the three tones at 0, 1/2 and 1.
      const [h, m, d] = [s.highlights * white, s.middles * white, s.shadows * white];
      return { shared, response: [h, -3 * h + 4 * m - d, 2 * h - 4 * m + 2 * d] as const };
    });

    return ({ surface, picture, settings: s }) => {
      const { shared, response } = ofSettings(s);
      const [a0, b0, a1, b1, a2, b2] = sheet.windows(seed, s.frozen ? 0 : picture, s.colour === 0 ? 1 : 3) as [number, number, number, number, number, number];
      for (let y = surface.top; y < surface.bottom; y++) {
        const [r, g, b] = [rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y)];
        const at = y * sheet.rowBytes;
        if (s.colour === 0) k.grainRowGrey(r, g, b, a0 + at, b0 + at, width, ...response);
        else k.grainRow(r, g, b, a0 + at, b0 + at, a1 + at, b1 + at, a2 + at, b2 + at, width, s.colour, shared, ...response);
      }
    };
  },
});

/**
 * What the aperture lets through of white noise of unit density blurred by a bell of `sigma` um, in 1 / um^2: the
 * aperture's overlap with itself at a distance, averaged over the distances of the blur's correlation (a Rayleigh law of
 * sigma sqrt 2), over its area.
 */
function admittance(sigma: number, exp: (x: number) => number): number {
  const area = (Math.PI * APERTURE ** 2) / 4;
  const spread = 2 * sigma * sigma;
  const STEPS = 512;
  let sum = 0;
  for (let i = 0; i < STEPS; i++) {
    const q = (i + 0.5) / STEPS;
    const r = q * APERTURE;
    // Overlap of two discs whose centres lie q diameters apart: (2 / pi) (acos q - q sqrt(1 - q^2)), as its power series.
    const overlap = 1 + (2 / Math.PI) * q * (-2 + q ** 2 * (1 / 3 + q ** 2 * (1 / 20 + q ** 2 * (1 / 56))));
    sum += Math.max(0, overlap) * (r / spread) * exp(-(r * r) / (2 * spread));
  }
  return (sum * (APERTURE / STEPS)) / area;
}
