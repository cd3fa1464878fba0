import { Lately } from '../../lately';
import { wander } from '../../motion/wander';
import { bell, hash } from '../../random/random';
import { hertz, lines, microseconds, nanoseconds, readySettings, share } from '../settings';
import { trait } from '../trait';

const settings = {
  jitter: nanoseconds({ name: 'Jitter', says: 'RMS by which each line is out of place by itself; 20 is good, 200 poor', default: 25, max: 2000 }),
  waves: nanoseconds({ name: 'Waves', says: 'RMS of slow waves down the picture', default: 70, max: 4000 }),
  count: share({ name: 'How many', says: 'Waves over the height', default: 1.6, min: 0.2, max: 20, step: 0.1 }),
  rate: hertz({ name: 'Rate', says: 'How fast they change', default: 0.8, max: 12 }),
  steps: nanoseconds({ name: 'Steps', says: 'RMS by which whole bands of lines are shifted', default: 0, max: 4000 }),
  bands: lines({ name: 'Bands', says: 'So many of them over the height', default: 5, min: 2, max: 24 }),
  creep: hertz({ name: 'Creep', says: 'Bands a second that pass', default: 0.15, max: 5, step: 0.05 }),
  bend: microseconds({ name: 'Bend', says: 'How far the top leans, where the tension is wrong', default: 0, min: -15, max: 15 }),
  bendLines: lines({ name: 'Bend lines', says: 'Lines of the raster over which the set catches up', default: 24, min: 2, max: 200 }),
};

/** Shapes of waves made last. The kernels' sine, of which they are made, is the same in every engine. */
const shapes = new Lately<readonly Float64Array[]>(8);

/** Lines that do not begin when they should: a drum that is not steady, tape that stretches. Edges are continued, never black. */
export const timeBase = trait({
  id: 'time-base',
  act: 'machine',
  media: ['tape'],
  needs: 'recorder',
  name: 'Time base',
  says: 'Lines lose their place: they shake, wave and bend.',
  domain: 'rf',
  settings,
  footprint: 'line',
  idle: (s) => s.jitter === 0 && s.waves === 0 && s.steps === 0 && s.bend === 0,
  presets: readySettings({ jitter: 10, waves: 25 }, { jitter: 250, waves: 800, steps: 600, bend: 4 }),
  prepare({ engine, units, seed }) {
    const k = engine.kernels;
    const { height } = units;
    /** Two shapes down the picture, between which the waves go to and fro. */
    const shapesOf = (count: number): readonly Float64Array[] =>
      shapes.get([seed, height, count].join(), () =>
        [1, 2].map((part) => Float64Array.from({ length: height }, (_, y) => wander(k, hash(seed, part), (y / height) * count + 1000, 0.5))),
      );
    return ({ surface, settings: s, seconds, picture, channel }) => {
      const [one, other] = shapesOf(s.count) as [Float64Array, Float64Array];
      const turn = 2 * Math.PI * ((seconds * s.rate) % 1);
      const [c, n] = [k.cos(turn), k.sin(turn)];
      for (let y = surface.top; y < surface.bottom; y++) {
        let shift = s.jitter * bell(seed, picture, y);
        if (s.waves > 0) shift += s.waves * (one[y]! * c + other[y]! * n);
        if (s.steps > 0) shift += s.steps * bell(seed, 3, Math.floor((y / height) * s.bands + seconds * s.creep));
        if (s.bend !== 0) shift += s.bend * k.exp(-y / (s.bendLines / 2)) * (1 + 0.12 * wander(k, hash(seed, 4), seconds, 1.2));
        channel.shift(y, shift);
      }
    };
  },
});
