import { Channel } from '../../frame/recorder';
import { bell, even } from '../../random/random';
import { lines, linesPerSecond, microseconds, perMinute, readySettings, share } from '../settings';
import { trait } from '../trait';

const settings = {
  count: perMinute({ name: 'How many', says: 'Folds a minute', default: 3, max: 120 }),
  height: lines({ name: 'Height', says: 'Lines of the raster that a fold spoils at once', default: 14, min: 2, max: 120 }),
  speed: linesPerSecond({ name: 'Speed', says: 'Lines a second by which it travels up the picture', default: 260, min: 20, max: 2000, step: 10 }),
  damage: share({ name: 'Damage', says: 'How far the signal sinks in it', default: 0.8 }),
  skew: microseconds({ name: 'Skew', says: 'How far its lines are pushed aside', default: 2.5, max: 20 }),
};
/** The longest that one takes to pass. */
const LONGEST = 30;
const HISS = 0.1;

/** A fold of the tape passes the heads: a torn, noisy band that travels through the picture once. */
export const crease = trait({
  id: 'crease',
  act: 'years',
  media: ['tape'],
  needs: 'recorder',
  name: 'Crease',
  says: 'A fold of the tape passes: a torn band travels up the picture.',
  domain: 'rf',
  settings,
  footprint: 'line',
  // The way is as long on the lower raster, whose lines are meant.
  events: { rate: (s) => s.count / 60, length: (s) => Math.min(LONGEST, (486 + s.height) / s.speed), longest: LONGEST },
  presets: readySettings({ count: 1, height: 6, damage: 0.4, skew: 1 }, { count: 40, height: 50, damage: 1, skew: 10 }),
  prepare({ engine, units, rate }) {
    const k = engine.kernels;
    const { width, height } = units;
    return ({ surface, settings: s, events, picture, channel }) => {
      for (const event of events) {
        const middle = height + s.height / 2 - ((event.age + 0.5) / rate) * s.speed;
        for (let y = surface.top; y < surface.bottom; y++) {
          const from = Math.abs(y + 0.5 - middle) / (s.height / 2);
          if (from >= 1) continue;
          const near = (1 - from * from) * Math.min(1, event.scale);
          const lost = Math.min(1, s.damage * near * (0.6 + 0.8 * even(event.seed, picture, y)));
          k.affineRow(channel.row(Channel.STRENGTH, y), width, 1 - lost, 0);
          channel.addNoise(y, HISS * near);
          channel.shift(y, s.skew * near * (0.7 + 0.5 * bell(event.seed, picture, y, 1)));
        }
      }
    };
  },
});
