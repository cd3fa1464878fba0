import { DISPLAY_GAMMA } from '../../frame/domain-rows';
import { degrees, percent, share, stops, type NumberSetting } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { ByLuma, tintOf } from './by-luma';
import { RANGES_MEET, rangeWeights } from './range-weights';

const RANGES = ['shadows', 'middles', 'highlights'] as const;
type Range = (typeof RANGES)[number];
type Key = `${Range}${'Hue' | 'Tint' | 'Saturation' | 'Exposure'}`;

/** Display signal of a stop of light at BT.1886's 2.4. */
const STOP = 1 / DISPLAY_GAMMA;

const ofRange = (range: Range, name: string): [Key, NumberSetting][] => [
  [`${range}Hue`, degrees({ name: `${name}, hue`, says: 'Hue of the tint: 0 red, 60 yellow, 120 green, 180 cyan, 240 blue, 300 magenta', default: 30, max: 360, step: 1 })],
  [`${range}Tint`, percent({ name: `${name}, tint`, says: 'How far neutral is moved toward the hue', default: 0, max: 30, step: 0.1, hueIn: `${range}Hue` })],
  [`${range}Saturation`, share({ name: `${name}, saturation`, says: '1 leaves it, 0 is grey', default: 1, max: 3 })],
  [`${range}Exposure`, stops({ name: `${name}, light`, says: 'More or less light in this range', default: 0, min: -3, max: 3 })],
];

const settings = {
  ...(Object.fromEntries([...ofRange('shadows', 'Shadows'), ...ofRange('middles', 'Middles'), ...ofRange('highlights', 'Highlights')]) as Record<Key, NumberSetting>),
  low: share({ name: 'Shadows end', says: 'Luma at which shadows and middles hold half each', default: RANGES_MEET.low, min: 0.05, max: 0.6 }),
  high: share({ name: 'Lights begin', says: 'Luma at which middles and highlights hold half each', default: RANGES_MEET.high, min: 0.4, max: 0.95 }),
  soft: share({ name: 'Softness', says: 'Luma over which one gives way to the other', default: RANGES_MEET.soft, min: 0.02, max: 0.6 }),
};

export const ranges = trait({
  id: 'ranges',
  act: 'stock',
  family: 'colour',
  name: 'Ranges',
  says: 'Shadows, middles and highlights tinted, paled and lit by themselves.',
  domain: 'display',
  settings,
  footprint: 'point',
  idle: (s) => RANGES.every((r) => s[`${r}Tint`] === 0 && s[`${r}Saturation`] === 1 && s[`${r}Exposure`] === 0),
  prepare({ engine, own }) {
    const k = engine.kernels;
    const byLuma = own(new ByLuma(engine));
    const fill = perSettings((s: Values<typeof settings>) => {
      const tints = RANGES.map((r) => tintOf(k, s[`${r}Hue`], s[`${r}Tint`]));
      byLuma.fill((luma) => {
        const weights = rangeWeights(luma, s.low, s.high, s.soft);
        const mixed = (of: (range: Range, i: number) => number): number => RANGES.reduce((sum, r, i) => sum + weights[i]! * of(r, i), 0);
        return {
          gain: k.pow(2, STOP * mixed((r) => s[`${r}Exposure`])),
          saturation: mixed((r) => s[`${r}Saturation`]),
          vibrance: 0,
          added: [0, 1, 2].map((channel) => mixed((_, i) => tints[i]![channel]!)) as [number, number, number],
        };
      });
    });
    return ({ surface, settings: s }) => {
      fill(s);
      byLuma.run(surface);
    };
  },
});
