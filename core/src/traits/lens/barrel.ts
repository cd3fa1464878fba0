import { RadialWarp, type Radial } from '../../frame/radial';
import { rowAt, type Surface } from '../../frame/surface';
import { percent, readySettings, toggle } from '../settings';
import { perSettings, trait } from '../trait';

/** Source distance over distance at a distance from the middle (1 in the corners). */
const drawn = ({ amount, zoom }: Radial, r2: number): number => zoom * (1 + amount * r2);

/** A simple lens draws straight lines bent: bulging, or pinched. */
export const barrel = trait({
  id: 'barrel',
  act: 'lens',
  name: 'Barrel',
  says: 'The lens bends straight lines outward or inward.',
  domain: 'any',
  settings: {
    amount: percent({
      name: 'Amount',
      says: 'How far the corners are drawn in, of their distance from the middle; below 0 they are drawn out',
      default: 5,
      min: -30,
      max: 40,
      step: 0.1,
    }),
    filled: toggle({ name: 'Keep filled', says: 'The picture is enlarged so far that it fills the frame; else black is seen round it', default: true }),
  },
  footprint: 'area',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 2 }, { amount: 18 }),
  prepare({ engine, units, domain, own }) {
    const { width, height } = units;
    const warp = own(new RadialWarp(engine, width, height));
    const diagonal = width * width + height * height;
    const nearest = (Math.min(width, height) * Math.min(width, height)) / diagonal;
    // Black in a domain: the least light, in density a great deal.
    const black = domain === 'density' ? 3.6 : 0;

    /**
     * The map that brings the corners nearer to the middle by a share of where a straight lens has them. A corner is read at r z (1 + a r^2) = 1, and stands at r = (1 - share) / z;
     * so a = z^2 share / (1 - share)^3, where the zoom z that fills the frame follows from a again.
     */
    const mapOf = perSettings((share: number, filled: boolean) => {
      const wanted = share / (1 - share) ** 3;
      // Drawn in, the corners come from outside; drawn out, the nearer edges' middles do.
      const fills = (amount: number): number => (filled ? 1 / (1 + amount * (share > 0 ? 1 : nearest)) : 1);
      let [low, high] = [Math.min(0, wanted), Math.max(0, wanted)];
      for (let i = 0; i < 60; i++) {
        const amount = (low + high) / 2;
        if (amount / fills(amount) ** 2 < wanted) low = amount;
        else high = amount;
      }
      const amount = (low + high) / 2;
      return { amount, zoom: fills(amount) };
    });

    /** Leaves black what lies beyond the source's edges. */
    const bared = (surface: Surface, map: Radial): void => {
      for (let y = 0; y < height; y++) {
        const dy = y + 0.5 - height / 2;
        const seen = (dx: number): boolean => {
          const by = drawn(map, (4 * (dx * dx + dy * dy)) / diagonal);
          return Math.abs(dx * by) <= width / 2 && Math.abs(dy * by) <= height / 2;
        };
        // The farther from the middle, the farther out the source: the seen part is one stretch.
        let [low, high] = [0, Math.ceil(width / 2)];
        while (low < high) {
          const middle = (low + high) >> 1;
          if (seen(middle + (width % 2 ? 0 : 0.5))) low = middle + 1;
          else high = middle;
        }
        const left = Math.max(0, Math.floor(width / 2) - low);
        if (left === 0) continue;
        for (let plane = 0; plane < 3; plane++) {
          const row = engine.floats(rowAt(surface, plane, y), width);
          const value = domain === 'video' && plane > 0 ? 0 : black;
          row.fill(value, 0, left).fill(value, width - left);
        }
      }
    };
    return ({ surface, settings: s, spare, swap }) => {
      const { amount, zoom } = mapOf(s.amount, s.filled);
      const map = { amount, power: 2, zoom };
      warp.runThree(spare, surface.planes, surface.stride, map);
      for (let plane = 0; plane < 3; plane++) swap(plane);
      if (!s.filled && s.amount > 0) bared(surface, map);
    };
  },
});
