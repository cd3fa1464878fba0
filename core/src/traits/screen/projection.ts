import { NoiseField } from '../../frame/noise';
import { rowAt } from '../../frame/surface';
import { percent, percentOfHeight, share, stops } from '../settings';
import { trait } from '../trait';

/** Thrown on a screen: brighter in the middle, on cloth that is seen, in a room that is not quite dark. */
export const projection = trait({
  id: 'projection',
  act: 'screen',
  still: true,
  media: ['film'],
  name: 'Projection',
  says: 'Thrown on a screen: a hot spot, the cloth, light in the room.',
  domain: 'linear',
  settings: {
    hotSpot: stops({ name: 'Hot spot', says: 'Stops that the corners are darker than the middle', default: 0.6, max: 4 }),
    reach: share({ name: 'Reach', says: 'How far from the corners the fall of light begins', default: 0.95, min: 0.05 }),
    texture: percent({ name: 'Texture', says: 'RMS of the cloth', default: 1.2, max: 20, step: 0.1 }),
    grain: percentOfHeight({ name: 'Weave', says: 'Width of what is seen of the cloth', default: 0.28, min: 0.05, max: 4 }),
    spill: percent({ name: 'Spill', says: 'Light of the room over white light', default: 0.4, max: 20, step: 0.1 }),
  },
  footprint: 'point',
  idle: (s) => s.hotSpot === 0 && s.texture === 0 && s.spill === 0,
  prepare({ engine, units, seed, store, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const field = own(new NoiseField(engine));
    const [gains, cloth] = [store(), store()];
    const corner = Math.sqrt(width * width + height * height) / 2;
    let shaped = -1;
    return ({ surface, settings: s }) => {
      const sigma = s.grain / 2.3548;
      if (shaped !== sigma) {
        field.shape(width, sigma);
        shaped = sigma;
      }
      const lost = 1 - k.pow(2, -s.hotSpot);
      const row = gains.at(surface.stride);
      const woven = cloth.at(surface.stride + 64);
      for (let y = surface.top; y < surface.bottom; y++) {
        const v = (y + 0.5 - height / 2) / corner;
        k.ellipseRow(row, width, (0.5 - width / 2) / corner, 1 / corner, v * v, s.reach);
        k.affineRow(row, width, -lost, 1);
        if (s.texture > 0) {
          field.row(woven, seed, y);
          k.affineRow(woven, width, s.texture / field.share, 1);
          k.timesRow(row, woven, width);
        }
        for (let plane = 0; plane < 3; plane++) {
          k.timesRow(rowAt(surface, plane, y), row, width);
          if (s.spill > 0) k.affineRow(rowAt(surface, plane, y), width, 1, s.spill);
        }
      }
    };
  },
});
