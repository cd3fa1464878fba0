import { Channel } from '../../frame/recorder';
import { wander } from '../../motion/wander';
import { bell, even, hash } from '../../random/random';
import { lines, linesPerSecond, readySettings, share } from '../settings';
import { trait } from '../trait';

const settings = {
  place: share({ name: 'Place', says: 'Middle of the band, from the top', default: 0.82 }),
  height: lines({ name: 'Height', says: 'Lines of the raster that it spoils', default: 34, min: 4, max: 300 }),
  amount: share({ name: 'Amount', says: 'How far the head is off its track in the middle of the band; 1 is on none', default: 0.9 }),
  bars: lines({ name: 'Bars', says: 'So many of them over the picture, as in search', default: 1, min: 1, max: 8 }),
  speed: linesPerSecond({ name: 'Speed', says: 'Lines a second by which it creeps down; 0 stands', default: 0, min: -300, max: 300 }),
};
/** Noise of a head that is on no track, against the carrier as recorded. */
const HISS = 0.13;

/** Head and track part: the carrier sinks in a band that is a chord of the track, and there is snow where nothing is read. */
export const tracking = trait({
  id: 'tracking',
  act: 'machine',
  media: ['tape'],
  needs: 'recorder',
  name: 'Tracking',
  says: 'The heads leave their tracks: a band of snow.',
  domain: 'rf',
  settings,
  footprint: 'line',
  idle: (s) => s.amount === 0,
  presets: readySettings({ height: 12, amount: 0.5 }, { height: 120, amount: 1, bars: 3 }),
  prepare({ engine, units, seed }) {
    const k = engine.kernels;
    const { width, height } = units;
    return ({ surface, settings: s, seconds, picture, channel }) => {
      const apart = height / s.bars;
      // Whole ways drop out, so that frame 200,000 is as exact as the first.
      const moved = (((s.speed * seconds) % apart) + apart) % apart;
      const breath = 1 + 0.12 * wander(k, hash(seed, 1), seconds, 1.5);
      for (let y = surface.top; y < surface.bottom; y++) {
        const off = (((y + 0.5 - s.place * height - moved) % apart) + 1.5 * apart) % apart;
        const from = Math.abs(off - apart / 2) / (s.height / 2);
        if (from >= 1.25) continue;
        const near = Math.max(0, Math.min(1, (1.25 - from) / 0.5)) * breath;
        const lost = Math.min(0.99, s.amount * near * (0.85 + 0.25 * even(seed, picture, y)));
        if (lost <= 0) continue;
        k.affineRow(channel.row(Channel.STRENGTH, y), width, 1 - lost, 0);
        channel.addNoise(y, HISS * lost * lost);
        channel.shift(y, 4 * lost * lost * bell(seed, picture, y, 2));
      }
    };
  },
});
