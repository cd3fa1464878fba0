import { rowAt } from '../../frame/surface';
import { hash } from '../../random/random';
import { micrometres, share, thousandths, toggle } from '../settings';
import { trait } from '../trait';

/** Full width at half height of a bell, over its sigma. */
const WIDTH_TO_SIGMA = 2.3548;
/** Granularity is read through a round aperture of this diameter in um (ISO 10505). */
const APERTURE = 48;

/**
 * Film grain: noise in density whose RMS through a 48 um aperture is what is set, whatever the size of a pixel on the
 * gate (Selwyn: RMS x sqrt(area) is constant), and whose size is the half width of its correlating bell. White noise of
 * spectral density S, blurred by a bell, reads RMS^2 = S * admittance through the aperture; a pixel of side p holds its
 * mean over p^2, so the white field a pixel needs has RMS sqrt(S) / p.
 */
export const grain = trait({
  id: 'grain',
  act: 'stock',
  name: 'Grain',
  says: 'The picture is made of grains and dye clouds, new on every picture.',
  domain: 'density',
  settings: {
    rms: thousandths({ name: 'Granularity', says: 'RMS density × 1000 through a 48 µm aperture, at mid-grey', default: 9, max: 40 }),
    size: micrometres({ name: 'Size', says: 'Width of a grain clump on the film', default: 8, min: 1, max: 40 }),
    colour: share({ name: 'Colour', says: 'How far the three dye layers differ; 0 is grey grain', default: 0.4 }),
    shadows: share({ name: 'In shadows', says: 'Share that shows in the deepest shadows', default: 0.45 }),
    middles: share({ name: 'In middles', says: 'Share that shows at mid-grey', default: 1 }),
    highlights: share({ name: 'In highlights', says: 'Share that shows in clear film', default: 0.35 }),
    frozen: toggle({ name: 'Frozen', says: 'The same grain on every picture', default: false }),
  },
  footprint: () => 'point',
  idle: (s) => s.rms === 0 || (s.shadows === 0 && s.middles === 0 && s.highlights === 0),
  prepare({ engine, settings: s, units, seed, reserve }) {
    const k = engine.kernels;
    const { width } = units;
    const pixel = units.micrometresPerPixel;
    const sigma = (s.size * pixel) / WIDTH_TO_SIGMA;
    const white = s.rms / Math.sqrt(admittance(sigma, k.exp)) / pixel;

    const bell = bellTaps(sigma / pixel, k.exp);
    const reach = (bell.length - 1) / 2;
    const weights = reserve(bell.length * 4);
    engine.floats(weights, bell.length).set(bell);

    const grey = s.colour === 0;
    const fields = grey ? 1 : 3;
    // Unit variance of each layer: own^2 + 2 own shared + 3 shared^2 = 1.
    const own = s.colour;
    const shared = (Math.sqrt(3 - 2 * own * own) - own) / 3;
    // Parabola through the three tones at 0, 1/2 and 1.
    const [h, m, d] = [s.highlights * white, s.middles * white, s.shadows * white];
    const response = [h, -3 * h + 4 * m - d, 2 * h - 4 * m + 2 * d] as const;

    // Rows already filtered along, kept in a ring: the next row of the picture needs all but one of them again. What a
    // slot holds is named by (picture, field, row), so that the order of calls cannot matter.
    const ring = bell.length;
    const stride = ((width + 7) & ~7) * 4;
    const slots = Array.from({ length: fields }, () => ({ rows: reserve(ring * stride), holds: new Array<string>(ring).fill('') }));
    const raw = reserve((width + 2 * reach + 16) * 4);
    const list = reserve(ring * 4);
    const noise = Array.from({ length: fields }, () => reserve(stride));

    const filtered = (field: number, picture: number, y: number): number => {
      const slot = slots[field]!;
      const index = ((y % ring) + ring) % ring;
      const at = slot.rows + index * stride;
      const name = `${picture}:${y}`;
      if (slot.holds[index] !== name) {
        slot.holds[index] = name;
        const rowSeed = hash(seed, picture, field, y);
        if (reach === 0) k.whiteRow(at, width, rowSeed, 0);
        else {
          k.whiteRow(raw, width + 2 * reach, rowSeed, -reach);
          k.firRow(at, raw, width, weights, ring);
        }
      }
      return at;
    };

    return ({ surface, picture }) => {
      const shown = s.frozen ? 0 : picture;
      for (let y = surface.top; y < surface.bottom; y++) {
        for (let field = 0; field < fields; field++) {
          if (reach === 0) {
            noise[field] = filtered(field, shown, y);
            continue;
          }
          const rows = engine.ints(list, ring);
          for (let j = 0; j < ring; j++) rows[j] = filtered(field, shown, y + j - reach);
          k.mixRows(noise[field]!, list, weights, ring, width);
        }
        const [r, g, b] = [rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y)];
        if (grey) k.grainRowGrey(r, g, b, noise[0]!, width, ...response);
        else k.grainRow(r, g, b, noise[0]!, noise[1]!, noise[2]!, width, own, shared, ...response);
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

/** A sampled bell of sigma pixels, out to 3 sigma, its sum 1 so that slow variation passes unchanged. */
function bellTaps(sigma: number, exp: (x: number) => number): Float32Array {
  const reach = sigma < 0.2 ? 0 : Math.ceil(3 * sigma);
  const taps = Array.from({ length: 2 * reach + 1 }, (_, i) => exp(-((i - reach) ** 2) / (2 * Math.max(sigma, 1e-6) ** 2)));
  const sum = taps.reduce((a, b) => a + b, 0);
  return Float32Array.from(taps, (t) => t / sum);
}
