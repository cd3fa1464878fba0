import { rowAt } from '../../frame/surface';
import { share, type NumberSetting } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { BLUE, GREEN, RED } from './by-luma';

const PARTS = {
  slope: { name: 'Slope', says: 'In is multiplied by it', default: 1, max: 4 },
  offset: { name: 'Offset', says: 'Then this is added', default: 0, min: -1, max: 1 },
  power: { name: 'Power', says: 'Then, held to 0 to 1, raised to it', default: 1, min: 0.1, max: 4 },
} as const;
const CHANNELS = ['Red', 'Green', 'Blue'] as const;
type Part = keyof typeof PARTS;
type Key = `${Part}${(typeof CHANNELS)[number]}`;

const settings = {
  ...(Object.fromEntries(Object.entries(PARTS).flatMap(([part, o]) => CHANNELS.map((c) => [`${part}${c}`, share({ ...o, name: `${o.name}, ${c.toLowerCase()}` })]))) as Record<
    Key,
    NumberSetting
  >),
  saturation: share({ name: 'Saturation', says: 'About BT.709 luma, after the rest', default: 1, max: 4 }),
};
const LEAST = 1e-30;

/** ASC CDL, version 1.2: slope, offset, power by channel, held to 0..1 before the power and after saturation. */
export const cdl = trait({
  id: 'cdl',
  files: 'cdl',
  act: 'stock',
  family: 'colour',
  name: 'CDL',
  says: 'The ten numbers of an ASC colour decision.',
  domain: 'display',
  settings,
  footprint: 'point',
  idle: (s) => Object.entries(settings).every(([key, setting]) => s[key as keyof typeof settings] === setting.default),
  prepare({ engine, store }) {
    const k = engine.kernels;
    const memory = store();
    const matrix = perSettings(({ saturation: s }: Values<typeof settings>) => {
      const weights = [RED, GREEN, BLUE];
      return memory.floats([...[0, 1, 2].flatMap((row) => weights.map((w, column) => w * (1 - s) + (row === column ? s : 0))), 0, 0, 0]);
    });
    return ({ surface, settings: s }) => {
      const { width } = surface;
      const m = matrix(s);
      for (let y = surface.top; y < surface.bottom; y++) {
        const rows = CHANNELS.map((channel, plane) => {
          const row = rowAt(surface, plane, y);
          k.affineRow(row, width, s[`slope${channel}`], s[`offset${channel}`]);
          k.clampRow(row, width, 0, 1);
          if (s[`power${channel}`] !== 1) k.powRow(row, width, s[`power${channel}`], LEAST);
          return row;
        });
        if (s.saturation === 1) continue;
        k.matrixRow(rows[0]!, rows[1]!, rows[2]!, width, m);
        for (const row of rows) k.clampRow(row, width, 0, 1);
      }
    };
  },
});
