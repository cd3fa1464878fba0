import { DISPLAY_GAMMA } from '../../frame/domain-rows';
import { rowAt } from '../../frame/surface';
import { degrees, share, stops, type NumberSetting } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { BLUE, RED } from './by-luma';

/** In the order of the turn, a sixth apart. */
const HUES = ['red', 'yellow', 'green', 'cyan', 'blue', 'magenta'] as const;
type Hue = (typeof HUES)[number];
type Key = `${Hue}${'Shift' | 'Saturation' | 'Density'}`;
/** Steps of the turn; a multiple of six, so that every hue is one of them. */
const STEPS = 252;
const SIXTH = Math.PI / 3;

const named = (hue: Hue): string => hue[0]!.toUpperCase() + hue.slice(1);
const settings = Object.fromEntries(
  HUES.flatMap((hue): [Key, NumberSetting][] => [
    [`${hue}Shift`, degrees({ name: `${named(hue)}, shift`, says: 'Turned toward the next hue (yellow after red) or the one before', default: 0, min: -60, max: 60, step: 1 })],
    [`${hue}Saturation`, share({ name: `${named(hue)}, saturation`, says: '1 leaves it, 0 is grey', default: 1, max: 3 })],
    [`${hue}Density`, stops({ name: `${named(hue)}, density`, says: 'Stops darker where it is full', default: 0, min: -2, max: 2 })],
  ]),
) as Record<Key, NumberSetting>;

export const hues = trait({
  id: 'hues',
  act: 'stock',
  family: 'colour',
  name: 'Hues',
  says: 'Single hues turned, paled or made denser; what lies between two takes a share of both.',
  domain: 'display',
  settings,
  footprint: 'point',
  idle: (s) => HUES.every((h) => s[`${h}Shift`] === 0 && s[`${h}Saturation`] === 1 && s[`${h}Density`] === 0),
  prepare({ engine, store }) {
    const k = engine.kernels;
    const memory = store();
    const tableOf = perSettings((s: Values<typeof settings>) => {
      const values = new Float32Array((STEPS + 1) * 4);
      for (let i = 0; i <= STEPS; i++) {
        const place = (6 * i) / STEPS;
        const [a, b] = [HUES[Math.floor(place) % 6]!, HUES[(Math.floor(place) + 1) % 6]!];
        const f = place - Math.floor(place);
        const mixed = (part: 'Shift' | 'Saturation' | 'Density'): number => s[`${a}${part}`] * (1 - f) + s[`${b}${part}`] * f;
        // Density is taken of signal: a stop of light is 1 / 2.4 of a stop of signal (BT.1886).
        values.set([mixed('Shift') / SIXTH, mixed('Saturation'), mixed('Density') / DISPLAY_GAMMA], i * 4);
      }
      return memory.floats(values);
    });
    return ({ surface, settings: s }) => {
      const table = tableOf(s);
      for (let y = surface.top; y < surface.bottom; y++) k.byHueRow(rowAt(surface, 0, y), rowAt(surface, 1, y), rowAt(surface, 2, y), surface.width, table, RED, BLUE);
    };
  },
});
