import type { ActiveEvent } from '../../events/events';
import { Channel } from '../../frame/recorder';
import { bell } from '../../random/random';
import { microseconds, perMinute, readySettings, share, toggle } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  count: perMinute({ name: 'How many', says: 'Gaps a minute; good tape has a few, a worn one hundreds', default: 30, max: 3000, step: 1 }),
  length: microseconds({ name: 'Length', says: 'Of one, in the middle of all; some are several times as long', default: 14, min: 2, max: 100 }),
  spread: share({ name: 'Spread', says: 'How far lengths differ: the sigma of their logarithm', default: 0.5, max: 1.2 }),
  depth: share({ name: 'Depth', says: 'How far the signal sinks; 1 is gone', default: 1 }),
  compensated: toggle({ name: 'Compensated', says: 'The recorder notices and shows the line above instead', default: true }),
};

/** The signal sinks and comes back within so many samples. */
const EDGE = 5;
/** A compensator takes over where the signal is weaker than this. */
const NOTICED = 0.35;
/** What is left of a signal that is gone is noise of the head. */
const HISS = 0.08;

interface Gap {
  readonly from: number;
  readonly to: number;
  readonly depth: number;
}

/** Gaps in the signal of a tape where its coating is gone: on the channel, so that what shows is what a demodulator makes of nothing. */
export const dropouts = trait({
  id: 'dropouts',
  act: 'years',
  media: ['tape'],
  needs: 'recorder',
  name: 'Dropouts',
  says: 'Where the coating is gone the signal is, too: dashes with a tail, or a piece of the line above.',
  domain: 'rf',
  settings,
  footprint: 'line',
  events: { place: 'both', rate: (s) => s.count / 60, length: (_s, _drawn, rate) => 1 / rate, longest: 1 },
  presets: readySettings({ count: 8, length: 8 }, { count: 1200, length: 40, compensated: false }),
  prepare({ engine, units }) {
    const k = engine.kernels;
    const { width, height } = units;
    // Along the whole picture, line after line, as the head goes.
    const gapsOf = perSettings((s: Values<typeof settings>, events: readonly ActiveEvent[]): Gap[] =>
      events.map((event) => {
        const from = Math.floor(event.y * height) * width + event.x * width;
        return { from, to: from + s.length * k.exp(s.spread * bell(event.seed, 1)), depth: Math.min(1, s.depth * event.scale) };
      }),
    );
    return ({ surface, settings: s, events, channel }) => {
      const [first, last] = [surface.top * width, surface.bottom * width];
      for (const gap of gapsOf(s, events)) {
        if (gap.to + EDGE < first || gap.from - EDGE >= last) continue;
        if (s.compensated) channel.conceals = Math.max(channel.conceals, NOTICED);
        const end = Math.min(last, Math.ceil(gap.to) + EDGE);
        for (let n = Math.max(first, Math.floor(gap.from) - EDGE); n < end; n++) {
          const gone = gap.depth * Math.max(0, Math.min(1, (n + 0.5 - gap.from) / EDGE + 0.5, (gap.to - n - 0.5) / EDGE + 0.5));
          if (gone === 0) continue;
          const [y, x] = [Math.floor(n / width), n % width];
          const strength = (channel.row(Channel.STRENGTH, y) >> 2) + x;
          const noise = (channel.row(Channel.NOISE, y) >> 2) + x;
          engine.samples[strength]! *= 1 - gone;
          engine.samples[noise] = Math.max(engine.samples[noise]!, HISS * gone);
        }
      }
    };
  },
});
