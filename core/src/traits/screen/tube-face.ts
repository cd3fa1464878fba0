import { RadialWarp } from '../../frame/radial';
import { floatStride, rowAt } from '../../frame/surface';
import { percent, percentOfHeight, readySettings, share, toggle } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  curve: percent({ name: 'Curve', says: 'How far the glass bulges: by so much the corners are drawn in', default: 4, max: 25, step: 0.1 }),
  corner: percentOfHeight({ name: 'Corner', says: 'Radius of the rounded corners', default: 5, max: 40, step: 0.1 }),
  edge: percentOfHeight({ name: 'Edge', says: 'Width over which the picture ends', default: 0.5, min: 0.05, max: 10 }),
  filled: toggle({ name: 'Keep filled', says: 'The picture is enlarged so far that the bulge shows no black', default: true }),
  dim: share({ name: 'Dim corners', says: 'How much light the slant of the glass takes in the corners', default: 0.15 }),
  reflection: percent({ name: 'Reflection', says: 'Light of a window on the glass, of white light', default: 0, max: 20, step: 0.1 }),
};

/** The glass of a tube: it bulges, its corners are round, the picture ends before its edge, and a window may be seen in it. */
export const tubeFace = trait({
  id: 'tube-face',
  act: 'screen',
  still: true,
  name: 'Tube face',
  says: 'The picture stands on bulging glass with round corners.',
  domain: 'linear',
  settings,
  footprint: 'area',
  presets: readySettings({ curve: 1.5, corner: 2, dim: 0.06 }, { curve: 14, corner: 14, dim: 0.5, reflection: 8 }),
  prepare({ engine, units, store, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const warp = own(new RadialWarp(engine, width, height));
    const [covers, light] = [store(), store()];
    const stride = floatStride(width);
    const diagonal = width * width + height * height;
    /** How much of each pixel's light comes through, and what the window adds. */
    const glass = perSettings((s: Values<typeof settings>) => {
      const map = covers.at(stride * height);
      const window = light.at(stride * height);
      const zoom = s.filled ? 1 / (1 + s.curve) : 1;
      for (let y = 0; y < height; y++) {
        const row = engine.floats(map + y * stride, width);
        const shine = engine.floats(window + y * stride, width);
        const dy = y + 0.5 - height / 2;
        for (let x = 0; x < width; x++) {
          const dx = x + 0.5 - width / 2;
          const r2 = (4 * (dx * dx + dy * dy)) / diagonal;
          // Where the picture's own edge comes to lie, in pixels of the picture before.
          const by = zoom * (1 + s.curve * r2);
          const qx = Math.abs(dx * by) - (width / 2 - s.corner);
          const qy = Math.abs(dy * by) - (height / 2 - s.corner);
          const beyond = Math.max(qx, qy) <= 0 ? Math.max(qx, qy) - s.corner : Math.sqrt(Math.max(0, qx) ** 2 + Math.max(0, qy) ** 2) - s.corner;
          const t = Math.max(0, Math.min(1, 0.5 - (beyond + s.edge / 2) / s.edge));
          row[x] = t * t * (3 - 2 * t) * (1 - s.dim * r2 * r2);
          // A window, upper left: soft panes.
          const u = (dx / height + 0.52) / 0.16;
          const v = (dy / height + 0.27) / 0.12;
          const pane = Math.max(0, 1 - u * u) * Math.max(0, 1 - v * v) * (Math.abs(u) < 0.05 || Math.abs(v) < 0.06 ? 0.35 : 1);
          shine[x] = s.reflection * pane;
        }
      }
      return { map, window, zoom };
    });
    return ({ surface, settings: s, spare, swap }) => {
      const { map, window, zoom } = glass(s);
      if (s.curve > 0) {
        warp.runThree(spare, surface.planes, surface.stride, { amount: s.curve, power: 2, zoom });
        for (let plane = 0; plane < 3; plane++) swap(plane);
      }
      for (let y = 0; y < height; y++) {
        for (let plane = 0; plane < 3; plane++) {
          const row = rowAt(surface, plane, y);
          k.timesRow(row, map + y * stride, width);
          if (s.reflection > 0) k.addRow(row, window + y * stride, width, 1);
        }
      }
    };
  },
});
