import { rowAt } from '../../frame/surface';
import { bell, even } from '../../random/random';
import { micrometres, perPicture, share } from '../settings';
import { trait } from '../trait';

// Taken once: in hot loops each look-up of a global costs.
const { ceil, floor, max, min } = Math;

/** Sigma of the logarithm of sizes (lognormal, as counted on prints). */
const SPREAD = 0.55;
const BLOBS = 4;
/** Transmission of a speck that lies on the film, and brightness of one that lay on the negative. */
const DARK = 0.03;
const BRIGHT = 0.94;

/** One speck: blobs that melt into each other, by arithmetic alone. */
interface Speck {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
  readonly bright: boolean;
  readonly blobs: readonly { x: number; y: number; r2: number; stretch: number; lean: number }[];
}

/** Specks of dirt, new on each picture: sizes lognormal, shapes irregular, no two alike. */
export const dust = trait({
  id: 'dust',
  act: 'years',
  name: 'Dust',
  says: 'Specks of dirt lie on the film, others on each picture.',
  domain: 'display',
  settings: {
    count: perPicture({ name: 'How many', says: 'Mean count on a picture', default: 1.5, max: 60 }),
    size: micrometres({ name: 'Size', says: 'Median width of a speck on the film', default: 40, min: 5, max: 400, step: 1 }),
    bright: share({ name: 'Bright', says: 'Share that is bright, as from a dirty negative', default: 0.25 }),
    soft: share({ name: 'Soft', says: 'How far out of focus the specks lie', default: 0.35 }),
    opacity: share({ name: 'Opacity', says: 'How much a speck covers', default: 0.85 }),
  },
  footprint: 'point',
  events: { rate: (s, pictures) => s.count * pictures, length: () => 0, longest: 0 },
  idle: (s) => s.opacity === 0,
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const row = store();
    const speckOf = (event: { seed: number; x: number; y: number }, s: { size: number; bright: number; soft: number }): Speck => {
      // The blobs melt into a shape a quarter wider than the first of them.
      const r = 0.8 * (s.size / 2) * k.exp(SPREAD * bell(event.seed, 1));
      const [cx, cy] = [event.x * width, event.y * height];
      const blobs = Array.from({ length: BLOBS }, (_, i) => {
        const away = i === 0 ? 0 : 0.75 * r;
        return {
          x: cx + away * bell(event.seed, 2, i),
          y: cy + away * bell(event.seed, 3, i),
          r2: (r * (i === 0 ? 0.85 : 0.3 + 0.5 * even(event.seed, 4, i))) ** 2,
          stretch: 0.55 + 0.9 * even(event.seed, 5, i),
          lean: 0.8 * bell(event.seed, 6, i),
        };
      });
      const reach = 3.2 * r * (1 + s.soft) + 2;
      return {
        left: max(0, floor(cx - reach)),
        right: min(width, ceil(cx + reach)),
        top: floor(cy - reach),
        bottom: ceil(cy + reach),
        bright: even(event.seed, 7) < s.bright,
        blobs,
      };
    };
    return ({ surface, settings: s, events }) => {
      for (const event of events) {
        const speck = speckOf(event, s);
        // Kernels work on groups of four, so the stretch of a row begins on one.
        const left = speck.left & ~3;
        const count = min(width, speck.right) - left;
        if (count <= 0) continue;
        const cover = row.at((count + 8) * 4);
        const soft = 0.12 + 0.8 * s.soft;
        for (let y = max(surface.top, speck.top); y < min(surface.bottom, speck.bottom); y++) {
          const covers = engine.floats(cover, count + 4);
          let any = false;
          for (let x = 0; x < count; x++) {
            let field = 0;
            for (const b of speck.blobs) {
              const dy = y + 0.5 - b.y;
              const dx = left + x + 0.5 - b.x + b.lean * dy;
              field += b.r2 / (dx * dx * b.stretch + (dy * dy) / b.stretch + 0.2 * b.r2);
            }
            const c = max(0, min(1, (field - 1.15) / soft + 0.5));
            covers[x] = c;
            any ||= c > 0;
          }
          covers.fill(0, count, count + 4);
          if (!any) continue;
          for (let plane = 0; plane < 3; plane++) k.layRow(rowAt(surface, plane, y) + left * 4, cover, count, speck.bright ? BRIGHT : DARK, s.opacity * min(1, event.scale));
        }
      }
    };
  },
});
