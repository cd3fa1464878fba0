import { Blur, WIDTH_TO_SIGMA, type Spread } from '../../frame/blur';
import { choice, percentOfHeight, readySettings } from '../settings';
import { trait } from '../trait';

/** Half the width of a bell at half its height, over its sigma. */
const RADIUS_TO_SIGMA = WIDTH_TO_SIGMA / 2;

/** Glass that does not draw sharply: a bell or a disc of light about every point, wider toward the corners. */
export const softness = trait({
  id: 'softness',
  act: 'lens',
  name: 'Softness',
  says: 'The lens is a little out of focus, or poor, and worse toward the corners.',
  domain: 'linear',
  settings: {
    radius: percentOfHeight({ name: 'Radius', says: 'Half the width of a point’s image at half its height', default: 0.12, max: 5, step: 0.01 }),
    shape: choice<Spread>({ name: 'Shape', says: 'What a point becomes', default: 'bell', options: { bell: 'bell: a poor lens', disc: 'disc: out of focus' } }),
    edges: percentOfHeight({ name: 'Corners', says: 'How much wider a point’s image is in the corners', default: 0.15, max: 5, step: 0.01 }),
  },
  footprint: 'area',
  idle: (s) => s.radius === 0 && s.edges === 0,
  presets: readySettings({ radius: 0.05, edges: 0.05 }, { radius: 0.6, edges: 0.8 }),
  prepare({ engine, units, store, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const blur = own(new Blur(engine, width, height));
    const weights = new Map<number, number>();
    /** How far toward the corners each pixel lies: the same for all planes and pictures. */
    const weightsOf = (across: number, down: number, stride: number): number => {
      const known = weights.get(across);
      if (known !== undefined) return known;
      const at = store().at(stride * down);
      weights.set(across, at);
      for (let y = 0; y < down; y++) {
        // 0 in the middle third, 1 in the corners (a distance of sqrt 2 half pictures).
        const dy = (2 * (y + 0.5)) / down - 1;
        k.ellipseRow(at + y * stride, across, (1 / across - 1) / Math.SQRT2, 2 / across / Math.SQRT2, (dy * dy) / 2, 0.7);
      }
      return at;
    };
    return ({ surface, spare, settings: s, swap }) => {
      const spread = s.shape;
      const sizeOf = (radius: number): number => (spread === 'disc' ? radius : radius / RADIUS_TO_SIGMA);
      const [near, far] = [sizeOf(s.radius), sizeOf(s.radius + s.edges)];
      for (let plane = 0; plane < 3; plane++) {
        if (s.edges === 0) blur.run(spare[plane]!, surface.planes[plane]!, surface.stride, near, spread);
        else blur.runVarying(spare[plane]!, surface.planes[plane]!, surface.stride, near, far, weightsOf, spread);
        swap(plane);
      }
    };
  },
});
