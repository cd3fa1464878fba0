import { rowAt } from '../../frame/surface';
import { share, type NumberSetting } from '../settings';
import { trait, type Values } from '../trait';

const PARTS = {
  lift: { name: 'Lift', says: 'Raises black, white stays', default: 0, min: -0.5, max: 0.5 },
  gamma: { name: 'Gamma', says: 'Bends the middle, black and white stay', default: 1, min: 0.2, max: 5 },
  gain: { name: 'Gain', says: 'Raises white, black stays', default: 1, min: 0, max: 4 },
  offset: { name: 'Offset', says: 'Raises all alike', default: 0, min: -0.5, max: 0.5 },
} as const;
const CHANNELS = ['Red', 'Green', 'Blue'] as const;
type Part = keyof typeof PARTS;
type Key = Part | `${Part}${(typeof CHANNELS)[number]}`;

/** Each part for all channels, and for each of them by itself on top. */
const settings = Object.fromEntries(
  Object.entries(PARTS).flatMap(([part, o]) => [
    [part, share({ ...o, name: `${o.name}, all` })],
    ...CHANNELS.map((c) => [`${part}${c}`, share({ ...o, name: `${o.name}, ${c.toLowerCase()}` })]),
  ]),
) as Record<Key, NumberSetting>;

/** Below this a power would be taken of nothing. */
const LEAST = 1e-30;

/** Lift, gamma, gain and offset as graders define them: ((in (1 - lift) + lift) gain + offset) ^ (1 / gamma). */
export const balance = trait({
  id: 'balance',
  act: 'stock',
  family: 'colour',
  name: 'Balance',
  says: 'Black, middle and white of each channel moved by numbers.',
  domain: 'display',
  settings,
  footprint: 'point',
  idle: (s) => Object.entries(settings).every(([key, setting]) => s[key as Key] === setting.default),
  prepare({ engine }) {
    const k = engine.kernels;
    return ({ surface, settings: s }) => {
      CHANNELS.forEach((_, plane) => {
        const { lift, gamma, gain, offset } = channelOf(s, plane);
        for (let y = surface.top; y < surface.bottom; y++) {
          const row = rowAt(surface, plane, y);
          k.affineRow(row, surface.width, (1 - lift) * gain, lift * gain + offset);
          if (gamma !== 1) k.powRow(row, surface.width, 1 / gamma, LEAST);
        }
      });
    };
  },
});

/** The numbers of one channel: those of all channels and its own together. */
function channelOf(s: Values<typeof settings>, plane: number): Record<Part, number> {
  const own = (part: Part): number => s[`${part}${CHANNELS[plane]!}`];
  return { lift: s.lift + own('lift'), gamma: s.gamma * own('gamma'), gain: s.gain * own('gain'), offset: s.offset + own('offset') };
}
