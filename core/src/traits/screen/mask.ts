import { floatStride, rowAt } from '../../frame/surface';
import { choice, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  kind: choice<'stripes' | 'slots' | 'dots'>({
    name: 'Kind',
    says: 'How the colours lie beside each other',
    default: 'slots',
    options: { stripes: 'stripes from top to bottom', slots: 'slots, staggered', dots: 'dots in triangles' },
  }),
  pitch: share({ name: 'Pitch', says: 'Groups of the three colours over the width; a set has 500 to 900', default: 640, min: 120, max: 1600, step: 1 }),
  amount: share({ name: 'Amount', says: 'How far the colours are apart; at 1 between them is nothing', default: 0.35 }),
};

/** Slots stand this many group widths apart, one over the other. */
const SLOT_PITCH = 1.5;
/** How deep the gaps between slots are against those between colours. */
const SLOT_GAP = 0.6;

type Maths = { sin(x: number): number; cos(x: number): number };

/** How much of a wave of so many cycles a pixel is left when it is integrated over the pixel; nothing from half a cycle on, where it would only make moire. */
function left(frequency: number, k: Maths): number {
  const f = Math.abs(frequency);
  if (f >= 0.5) return 0;
  const x = Math.PI * f;
  const box = f === 0 ? 1 : k.sin(x) / x;
  return f <= 0.42 ? box : box * (0.5 + 0.5 * k.cos((Math.PI * (f - 0.42)) / 0.08));
}

/**
 * The shadow mask of a colour tube: each colour's light comes through its own places. Patterns are few waves, each integrated over the pixel, of mean 1:
 * a picture too small to hold them shows none, and the mean light stays.
 */
export const mask = trait({
  id: 'mask',
  act: 'screen',
  still: true,
  name: 'Mask',
  says: 'The tube’s colours lie beside each other in stripes, slots or dots.',
  domain: 'linear',
  settings,
  footprint: 'point',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 0.15 }, { amount: 0.8, pitch: 360 }),
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width } = units;
    const rows = store();
    const stride = floatStride(width);
    /** Rows laid out over the width: of each colour the columns' part and what changes down the picture; then room for one. */
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      const at = rows.at(stride * 7);
      const f = s.pitch / width;
      const turn = 2 * Math.PI;
      const across = left(f, k);
      const second = left(2 * f, k);
      const slanted = left(f / 2, k);
      for (let colour = 0; colour < 3; colour++) {
        const row = engine.floats(at + colour * stride, width);
        const waves = engine.floats(at + (3 + colour) * stride, width);
        for (let x = 0; x < width; x++) {
          const phase = (x + 0.5) * f - colour / 3;
          // A third of the width, as a wave and its double: 1 + 2 sum sinc(m / 3) cos; sinc(1/3) = 0.827, sinc(2/3) = 0.413.
          if (s.kind !== 'dots') row[x] = 1 + s.amount * (1.654 * across * k.cos(turn * phase) + 0.827 * second * k.cos(2 * turn * phase)) * 0.6;
          else {
            row[x] = 1 + s.amount * 0.66 * across * k.cos(turn * phase);
            // Two waves at 60 degrees to either side, which together are a product.
            waves[x] = s.amount * 1.32 * slanted * k.cos((turn * phase) / 2);
          }
          // From group to group the gaps between slots are half a slot lower.
          if (s.kind === 'slots') waves[x] = s.amount * SLOT_GAP * slanted * k.cos((turn * (x + 0.5) * f) / 2);
        }
      }
      return { at, f };
    });
    return ({ surface, settings: s }) => {
      const { at, f } = ofSettings(s);
      const gain = at + 6 * stride;
      // Square pixels: a group is as wide as these rows are high.
      const down = s.kind === 'dots' ? f * 0.866 : f / SLOT_PITCH;
      const kept = left(down, k);
      for (let y = surface.top; y < surface.bottom; y++) {
        const phase = 2 * Math.PI * (((y + 0.5) * down) % 1);
        const c = kept * k.cos(phase);
        for (let colour = 0; colour < 3; colour++) {
          const row = rowAt(surface, colour, y);
          const own = at + colour * stride;
          if (s.kind === 'stripes') {
            k.timesRow(row, own, width);
            continue;
          }
          const waves = at + (3 + colour) * stride;
          if (s.kind === 'dots') {
            k.copy(gain, own, width * 4);
            k.addRow(gain, waves, width, c);
            k.timesRow(row, gain, width);
          } else {
            k.copy(gain, waves, width * 4);
            k.affineRow(gain, width, c, 1);
            k.timesRow(row, own, width);
            k.timesRow(row, gain, width);
          }
        }
      }
    };
  },
});
