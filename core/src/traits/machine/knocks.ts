import type { Kernels } from '../../engine';
import type { ActiveEvent } from '../../events/events';
import { Placer } from '../../frame/placed';
import { even } from '../../random/random';
import { perMinute, percentOfHeight, readySettings, seconds, share } from '../settings';
import { trait, type Values } from '../trait';
import type { Units } from '../units';

/** Longest knock: it is over after so many times the time in which it settles. */
const SETTLED = 4.5;
/** ln 3: a swing that falls by this is a third of what it was. */
const THIRD = 1.0986123;
const LONGEST = 10;

const settings = {
  count: perMinute({ name: 'How often', says: 'Knocks a minute', default: 6, max: 240 }),
  size: percentOfHeight({ name: 'Size', says: 'How far the picture jumps, on the mean', default: 1.4, max: 20, step: 0.05 }),
  settles: seconds({ name: 'Settles', says: 'Time in which the swing falls to a third', default: 0.16, min: 0.02, max: 2 }),
  corner: share({ name: 'Corner', says: '0 moves the whole picture, 1 turns it about a corner', default: 0.3 }),
};

/** Where one knock has the picture: its middle in pixels from its place, and its turn. */
function knocked(
  k: Pick<Kernels, 'exp' | 'cos' | 'sin'>,
  s: Values<typeof settings>,
  event: ActiveEvent,
  rate: number,
  { width, height }: Units,
): { x: number; y: number; turn: number } {
  const { seed } = event;
  const since = event.age / rate;
  // A damped swing of some 6 to 11 Hz, which a picture rate samples as a rattle; at its full size on the first picture.
  const swing = k.exp((-THIRD * since) / s.settles) * k.cos(2 * Math.PI * (6 + 5 * even(seed, 1)) * since);
  const by = s.size * (0.75 + 0.5 * even(seed, 2)) * swing * event.scale;
  const way = 2 * Math.PI * even(seed, 3);
  const whole = 1 - s.corner;
  // The far corner moves as far as the whole picture would; the middle with it, half as far.
  const turn = ((s.corner * by) / Math.sqrt(width * width + height * height)) * (even(seed, 6) < 0.5 ? 1 : -1);
  const [right, lower] = [even(seed, 4) < 0.5 ? 1 : -1, even(seed, 5) < 0.5 ? 1 : -1];
  return { x: whole * by * k.cos(way) - (turn * lower * height) / 2, y: whole * by * k.sin(way) + (turn * right * width) / 2, turn };
}

/** Somebody strikes the machine: the picture jumps, swings, and settles. */
export const knocks = trait({
  id: 'knocks',
  act: 'machine',
  name: 'Knocks',
  says: 'The machine is struck; the picture jumps and settles.',
  domain: 'any',
  settings,
  footprint: 'area',
  events: { rate: (s) => s.count / 60, length: (s) => SETTLED * s.settles, longest: LONGEST },
  idle: (s) => s.size === 0,
  displaces: ({ engine, settings: s, events, rate, units }) => {
    const all = events.map((event) => knocked(engine.kernels, s, event, rate, units));
    return { x: all.reduce((sum, { x }) => sum + x, 0), y: all.reduce((sum, { y }) => sum + y, 0) };
  },
  presets: readySettings({ count: 2, size: 0.5 }, { count: 60, size: 5 }),
  prepare({ engine, units, rate, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const placer = own(new Placer(engine, width, height));
    return (pass) => {
      const { settings: s, events } = pass;
      for (const event of events) {
        const { x, y, turn } = knocked(k, s, event, rate, units);
        // Enlarged just so far, and only while it swings, that no edge is bared.
        const zoom = 1 + 2 * Math.max(Math.abs(x) / width, Math.abs(y) / height) + Math.abs(turn) * Math.max(width / height, height / width);
        placer.run(pass, { x, y, turn, zoom });
      }
    };
  },
});
