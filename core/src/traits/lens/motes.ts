import type { ActiveEvent } from '../../events/events';
import { lightOf } from '../../frame/domain-rows';
import { even } from '../../random/random';
import { Stamp } from '../../shapes/stamp';
import { stroke } from '../../shapes/stroke';
import { MID_GREY } from '../grey';
import { colour, degrees, perPicture, percentOfHeight, readySettings, share, stops } from '../settings';
import { trait, type Values } from '../trait';

const settings = {
  count: perPicture({ name: 'How many', says: 'Mean count in the picture', default: 70, max: 300, step: 1 }),
  size: percentOfHeight({ name: 'Size', says: 'Median width of one, at half its brightness', default: 0.8, min: 0.05, max: 10 }),
  depth: share({ name: 'Depth', says: 'How far they differ in distance: near ones are larger, softer and faster', default: 0.6 }),
  drift: percentOfHeight({ name: 'Drift', says: 'How far one at the middle distance goes in a second', default: 3, max: 60, step: 0.1 }),
  way: degrees({ name: 'Direction', says: '0 to the right, 90 down', default: -70, min: -180, max: 180 }),
  swirl: share({ name: 'Swirl', says: 'How much of their way goes astray', default: 0.6 }),
  twinkle: share({ name: 'Twinkle', says: 'How far their light comes and goes as they turn', default: 0.5 }),
  amount: stops({ name: 'Light', says: 'Stops over mid-grey of one at the middle distance', default: 2, min: -4, max: 5 }),
  colour: colour({ name: 'Colour', says: 'Of the light, as a display shows it', default: [1, 0.92, 0.78] }),
};

/** Seconds that one is in the light; its mean is half the sum. */
const [SHORTEST, LONGEST] = [4, 10];
/** Of that, the time in which it comes, and goes. */
const RAMP = 0.15;
/** At a depth of 1 the nearest are so many times as large as those at the middle distance, and the farthest as many times smaller. */
const NEAREST = 4;

/** Dust that floats in the light before the lens: soft discs that drift, turn and twinkle. Light is added: they are seen against what is dark. */
export const motes = trait({
  id: 'motes',
  act: 'lens',
  name: 'Motes',
  says: 'Particles drift in the light before the lens.',
  domain: 'linear',
  settings,
  footprint: 'point',
  events: {
    place: 'both',
    rate: (s) => s.count / ((SHORTEST + LONGEST) / 2),
    length: (_, drawn) => SHORTEST + (LONGEST - SHORTEST) * drawn,
    longest: LONGEST,
  },
  idle: (s) => s.count === 0,
  presets: readySettings({ count: 20, amount: 1 }, { count: 220, amount: 3 }),
  prepare({ engine, units, rate, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const stamp = own(new Stamp(engine));
    const turn = (seed: number, of: number, seconds: number, hertz: number): number => k.sin(2 * Math.PI * (even(seed, of) + seconds * hertz));
    const place = (event: ActiveEvent, s: Values<typeof settings>, near: number): { x: number; y: number } => {
      // One that is moved by hand is where it was put in the middle of its time.
      const seconds = (event.age - event.of / 2) / rate;
      const way = s.drift * near * seconds;
      const stray = s.swirl * s.drift * near;
      const { seed } = event;
      return {
        x: event.x * width + way * k.cos(s.way) + stray * (turn(seed, 11, seconds, 0.11) + 0.6 * turn(seed, 12, seconds, 0.23)),
        y: event.y * height + way * k.sin(s.way) + stray * (turn(seed, 13, seconds, 0.13) + 0.6 * turn(seed, 14, seconds, 0.21)),
      };
    };
    return ({ surface, settings: s, events }) => {
      const light = s.colour.map((c) => MID_GREY * k.pow(2, s.amount) * lightOf(k, c));
      for (const event of events) {
        const { seed } = event;
        const nearness = 2 * even(seed, 1) - 1;
        const near = k.pow(NEAREST, s.depth * nearness);
        const wide = s.size * near;
        const { x, y } = place(event, s, near);
        const t = (event.age + 0.5) / event.of;
        const comes = Math.min(1, t / RAMP, (1 - t) / RAMP);
        // As it turns it shows a face, then an edge.
        const glint = turn(seed, 15, event.age / rate, 0.3 + 0.9 * even(seed, 16));
        const shines = 1 - s.twinkle * (0.5 - 0.5 * glint);
        // The same light on a wider disc is dimmer; below a pixel it is spread over that.
        const dim = (1 / near) * Math.min(1, wide);
        const share = event.scale * comes * comes * (3 - 2 * comes) * shines * dim;
        if (share <= 0) continue;
        const soft = wide * (0.35 + 0.6 * s.depth * Math.max(0, nearness));
        stamp.add(
          surface,
          stroke({ xs: [x, x + 1e-3], ys: [y, y] }, wide, soft),
          light.map((v) => v * share),
        );
      }
    };
  },
});
