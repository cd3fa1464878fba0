import { rowAt } from '../../frame/surface';
import { bell, hash } from '../../random/random';
import { wander } from '../../motion/wander';
import { decibels, degrees, microseconds, readySettings } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  luma: decibels({ name: 'Luma S/N', says: 'White against the RMS of the noise, unweighted; home tape has 42 to 46', default: 43, min: 10, max: 60 }),
  colour: decibels({ name: 'Colour S/N', says: 'Range of a colour difference against the RMS of its noise', default: 38, min: 12, max: 60 }),
  length: microseconds({ name: 'Streaks', says: 'How long colour noise stays alike along a line', default: 2, min: 0.2, max: 12 }),
  hue: degrees({ name: 'Hue', says: 'RMS by which the hue wanders from line to line', default: 1.5, max: 30, step: 0.1 }),
};

/** Over a picture the hue goes about so many times up and down, worked out at so many places. */
const HUE_WAVES = 9;
const HUE_NODES = 48;

const ratio = (decibels: number, pow: (x: number, y: number) => number): number => pow(10, -decibels / 20);

/**
 * Noise of a recorder. Luma's is noise about the FM carrier: the demodulator makes it rise with frequency, and clicks where it is as strong as the carrier.
 * Colour's is that of a narrow quadrature carrier: long streaks, and a hue that wanders.
 */
export const tapeNoise = trait({
  id: 'tape-noise',
  act: 'stock',
  media: ['tape'],
  needs: 'recorder',
  name: 'Tape noise',
  says: 'Luma crackles finely, colour lies in long streaks.',
  domain: 'rf',
  settings,
  footprint: 'line',
  presets: readySettings({ luma: 50, colour: 46, hue: 0.5 }, { luma: 26, colour: 22, length: 4, hue: 8 }),
  prepare({ engine, units, seed, recorder, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const white = store();
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      // A mean over n samples is alike over n samples: its autocorrelation is a triangle that is at half its height there.
      const radius = Math.max(0, Math.round((s.length - 1) / 2));
      const lead = (radius + 3) & ~1;
      const bytes = (width + 2 * lead + 32) * 4;
      const colour = ratio(s.colour, k.pow) / Math.sqrt(2 * radius + 1);
      return { radius, lead, colour, noise: ratio(s.luma, k.pow) / recorder!.noiseGain, white: white.at(bytes) };
    });
    /** The slow part of the hue's wandering over a picture, at even places down it. */
    const slow = perSettings((picture: number) => {
      const own = hash(seed, picture, 7);
      return Array.from({ length: HUE_NODES + 1 }, (_, i) => wander(k, own, i / HUE_NODES, HUE_WAVES / 2));
    });
    return ({ surface, picture, settings: s, channel }) => {
      const of = ofSettings(s);
      const nodes = slow(picture);
      for (let y = surface.top; y < surface.bottom; y++) {
        channel.addNoise(y, of.noise);
        for (const plane of [1, 2]) {
          k.whiteRow(of.white, width + 2 * of.lead, hash(seed, picture, y, plane), -of.lead);
          k.addWindowRow(rowAt(surface, plane, y), of.white + of.lead * 4, width, of.radius, of.colour);
        }
        if (s.hue === 0) continue;
        const at = (y / height) * HUE_NODES;
        const node = Math.floor(at);
        const angle = s.hue * (0.8 * (nodes[node]! + (nodes[node + 1]! - nodes[node]!) * (at - node)) + 0.6 * bell(seed, picture, y, 8));
        k.rotateRow(rowAt(surface, 1, y), rowAt(surface, 2, y), width, k.cos(angle), k.sin(angle));
      }
    };
  },
});
