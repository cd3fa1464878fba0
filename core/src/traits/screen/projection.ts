import { NoiseField } from '../../frame/noise';
import { floatStride, rowAt } from '../../frame/surface';
import { percent, percentOfHeight, readySettings, share, stops } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const settings = {
  hotSpot: stops({ name: 'Hot spot', says: 'Stops that the corners are darker than the middle', default: 0.6, max: 4 }),
  reach: share({ name: 'Reach', says: 'How far from the corners the fall of light begins', default: 0.95, min: 0.05 }),
  texture: percent({ name: 'Texture', says: 'RMS of the cloth', default: 1.2, max: 20, step: 0.1 }),
  grain: percentOfHeight({ name: 'Weave', says: 'Width of what is seen of the cloth', default: 0.28, min: 0.05, max: 4 }),
  spill: percent({ name: 'Spill', says: 'Light of the room over white light', default: 0.4, max: 20, step: 0.1 }),
};

/** Thrown on a screen: brighter in the middle, on cloth that is seen, in a room that is not quite dark. */
export const projection = trait({
  id: 'projection',
  act: 'screen',
  still: true,
  media: ['film'],
  name: 'Projection',
  says: 'Thrown on a screen: a hot spot, the cloth, light in the room.',
  domain: 'linear',
  settings,
  footprint: 'point',
  idle: (s) => s.hotSpot === 0 && s.texture === 0 && s.spill === 0,
  presets: readySettings({ hotSpot: 0.25, texture: 0.4, spill: 0.15 }, { hotSpot: 2, texture: 7, spill: 4 }),
  prepare({ engine, units, seed, store, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const field = own(new NoiseField(engine));
    const [gains, cloth] = [store(), store()];
    const corner = Math.sqrt(width * width + height * height) / 2;
    /** Lays out how much of its light each pixel throws back: the same on all planes, and on every picture until a setting changes. */
    const throwsBack = perSettings((s: Values<typeof settings>) => {
      const stride = floatStride(width);
      const [map, woven] = [gains.at(stride * height), cloth.at(stride + 64)];
      const lost = 1 - k.pow(2, -s.hotSpot);
      if (s.texture > 0) field.shape(width, s.grain / 2.3548);
      for (let y = 0; y < height; y++) {
        const row = map + y * stride;
        const v = (y + 0.5 - height / 2) / corner;
        k.ellipseRow(row, width, (0.5 - width / 2) / corner, 1 / corner, v * v, s.reach);
        k.affineRow(row, width, -lost, 1);
        if (s.texture === 0) continue;
        field.row(woven, seed, y);
        k.affineRow(woven, width, s.texture / field.share, 1);
        k.timesRow(row, woven, width);
      }
      return { map, stride };
    });
    return ({ surface, settings: s }) => {
      const { map, stride } = throwsBack(s);
      for (let y = surface.top; y < surface.bottom; y++) {
        for (let plane = 0; plane < 3; plane++) {
          const row = rowAt(surface, plane, y);
          k.timesRow(row, map + y * stride, width);
          if (s.spill > 0) k.affineRow(row, width, 1, s.spill);
        }
      }
    };
  },
});
