import { lowPassTaps } from '../../frame/fir';
import { rowAt } from '../../frame/surface';
import { megahertz, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  separation: share({ name: 'Separation', says: 'How luma and colour are parted again: 0 by a notch, 1 by a comb over lines of one field', default: 0 }),
  band: megahertz({ name: 'Colour band', says: 'What the notch takes out of the luma, to either side of the subcarrier', default: 1, min: 0.3, max: 2 }),
};

/** Colour differences as they are modulated, against Cb and Cr: U = 0.492 (B' - Y'), V = 0.877 (R' - Y'). */
const U = 0.492 * 1.772;
const V = 0.877 * 1.402;

/** Cycles of the subcarrier on a whole line, lines of a frame, and lines of one field after which it stands the other way round. */
const STANDARDS = {
  525: { cycles: 227.5, lines: 525, comb: 1, alternates: false },
  625: { cycles: 283.7516, lines: 625, comb: 2, alternates: true },
} as const;

/**
 * Luma and colour on one wire: colour is modulated on its subcarrier, added, and parted again by notch or comb, with the phase of line and frame that the standard says. What
 * is parted wrongly is what one knows: dots that crawl along colour's edges, rainbows on fine stripes.
 */
export const composite = trait({
  id: 'composite',
  act: 'stock',
  media: ['tape', 'air'],
  needs: 'raster',
  name: 'Composite',
  says: 'Luma and colour share one wire: dots crawl on colour’s edges, fine stripes turn to rainbows.',
  domain: 'video',
  settings,
  footprint: 'line',
  prepare({ engine, units, carrier, store }) {
    const k = engine.kernels;
    const { width } = units;
    const raster = carrier.raster!;
    const standard = STANDARDS[raster.height > 500 ? 625 : 525];
    const perSample = raster.subcarrierMegahertz * units.microsecondsPerPixel;
    const kept = 2 * standard.comb;
    const [rows, weights, before] = [store(), store(), store()];
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      // A band pass is a low pass moved to the subcarrier.
      const low = lowPassTaps(s.band, k);
      const reach = low.length >> 1;
      const band = low.map((tap, i) => 2 * tap * k.cos(2 * Math.PI * perSample * (i - reach)));
      const at = weights.floats([...low, ...band]);
      return { low: at, band: at + low.length * 4, taps: low.length, reach };
    });
    return ({ surface, picture, settings: s }) => {
      const { low, band, taps, reach } = ofSettings(s);
      const { stride } = surface;
      const bytes = stride + (2 * reach + 32) * 4;
      const [cosine, sine, signal, colour, combed, padded] = [0, 1, 2, 3, 4, 5].map((n) => rows.at(6 * bytes) + n * bytes) as [number, number, number, number, number, number];
      // The signals of the lines before, of one field two rows apart; a picture begins with its own.
      const lines = before.at(kept * stride);
      for (let y = surface.top; y < surface.bottom; y++) {
        const [luma, cb, cr] = [rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y)];
        const line = (y & 1) * Math.ceil(standard.lines / 2) + (y >> 1);
        const sign = standard.alternates && line % 2 === 1 ? -1 : 1;
        // Frames of whole cycles drop out: after 2 (525) or 4 frames (625, but for its 25 Hz) the phase is the same again.
        const ran = ((picture * ((standard.lines * standard.cycles) % 1)) % 1) + ((line * standard.cycles) % 1);
        k.fillRow(colour, width, perSample);
        engine.samples[colour >> 2] = ran % 1;
        k.phaseRow(colour, colour, width);
        k.fillRow(signal, width, 1);
        k.carrierRow(cosine, sine, colour, signal, width);
        k.copy(signal, luma, width * 4);
        k.affineRow(cb, width, U, 0);
        k.affineRow(cr, width, V * sign, 0);
        k.addTimesRow(signal, cb, sine, width);
        k.addTimesRow(signal, cr, cosine, width);
        // What lies about the subcarrier counts as colour.
        k.padRow(padded, signal, width, reach);
        k.firRow(colour, padded, width, band, taps);
        const place = lines + (y % kept) * stride;
        if (s.separation > 0) {
          // Half of what differs from the line whose subcarrier stands the other way round.
          k.copy(combed, signal, width * 4);
          if (y >= kept) k.addRow(combed, place, width, -1);
          k.affineRow(combed, width, y >= kept ? 0.5 : 1, 0);
          k.padRow(padded, combed, width, reach);
          k.firRow(combed, padded, width, band, taps);
          k.mix(combed, colour, width, s.separation);
          k.copy(colour, combed, width * 4);
        }
        k.copy(place, signal, width * 4);
        k.addRow(signal, colour, width, -1);
        k.copy(luma, signal, width * 4);
        for (const [at, wave, scale] of [
          [cb, sine, 2 / U],
          [cr, cosine, (2 * sign) / V],
        ] as const) {
          k.copy(signal, colour, width * 4);
          k.timesRow(signal, wave, width);
          k.padRow(padded, signal, width, reach);
          k.firRow(at, padded, width, low, taps);
          k.affineRow(at, width, scale, 0);
        }
      }
    };
  },
});
