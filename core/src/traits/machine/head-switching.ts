import { Channel } from '../../frame/recorder';
import { wander } from '../../motion/wander';
import { bell, even, hash } from '../../random/random';
import { lines, microseconds, readySettings, share } from '../settings';
import { trait } from '../trait';

const settings = {
  lines: lines({ name: 'Lines', says: 'Lines of the raster from the switch to the bottom; 5 to 8 before the field ends, twice as many of both fields', default: 9, max: 40 }),
  shift: microseconds({ name: 'Shift', says: 'How far the first of them is out of place', default: 6, min: -25, max: 25 }),
  noise: share({ name: 'Noise', says: 'How far the signal sinks where the heads are exchanged', default: 0.7 }),
};
/** The line at which they are exchanged is spoiled for so long, as a share of it. */
const BURST = 0.55;
const HISS = 0.09;

/** Two heads take turns; below the change lines are torn aside until the set has caught up. */
export const headSwitching = trait({
  id: 'head-switching',
  act: 'machine',
  media: ['tape'],
  needs: 'recorder',
  name: 'Head switching',
  says: 'Lines at the bottom are torn aside where one head takes over from the other.',
  domain: 'rf',
  settings,
  footprint: 'line',
  idle: (s) => s.lines === 0,
  presets: readySettings({ lines: 5, shift: 3, noise: 0.4 }, { lines: 18, shift: 15, noise: 1 }),
  prepare({ engine, units, seed }) {
    const k = engine.kernels;
    const { width, height } = units;
    return ({ surface, settings: s, picture, seconds, channel }) => {
      const count = Math.round(s.lines);
      const first = height - count;
      if (surface.bottom <= first) return;
      const sway = 1 + 0.15 * wander(k, hash(seed, 1), seconds, 2);
      for (let y = Math.max(surface.top, first); y < surface.bottom; y++) {
        const down = (y - first) / count;
        channel.shift(y, s.shift * sway * (1 - 0.75 * down) * (1 + 0.06 * bell(seed, picture, y)));
        const sunk = s.noise * (y < first + 2 ? 1 : 0.35 * (1 - down) * even(seed, picture, y, 2));
        if (sunk === 0) continue;
        const row = channel.row(Channel.STRENGTH, y) >> 2;
        const end = y < first + 2 ? Math.round(width * BURST * (0.6 + 0.4 * even(seed, picture, y, 3))) : width;
        for (let x = 0; x < end; x++) engine.samples[row + x]! *= 1 - sunk;
        channel.addNoise(y, HISS * sunk);
      }
    };
  },
});
