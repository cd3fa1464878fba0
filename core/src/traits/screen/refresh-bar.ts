import { gainsIn } from '../../frame/gain-rows';
import { rowAt } from '../../frame/surface';
import { hertz, percent, readySettings, share } from '../settings';
import { trait } from '../trait';

const settings = {
  difference: hertz({ name: 'Difference', says: 'Pictures a second by which camera and tube differ; the bar passes so often', default: 0.7, min: -30, max: 30 }),
  height: share({ name: 'Height', says: 'Of the bar, of the picture', default: 0.3, min: 0.02, max: 1 }),
  amount: percent({ name: 'Amount', says: 'How much light it takes, or, below 0, adds', default: 22, min: -80, max: 100, step: 1 }),
  soft: share({ name: 'Softness', says: 'Of its edges, of its height', default: 0.4 }),
};

/** A camera that is out of step with a tube sees where the beam was twice, or not at all. */
export const refreshBar = trait({
  id: 'refresh-bar',
  act: 'screen',
  name: 'Refresh bar',
  says: 'A camera out of step with the tube sees a bar travel through the picture.',
  domain: 'rgb',
  settings,
  footprint: 'point',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 8 }, { amount: 55, height: 0.45 }),
  prepare({ engine, units, domain, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const rows = store();
    return ({ surface, seconds, settings: s }) => {
      const gains = rows.at(surface.stride);
      const middle = (((seconds * s.difference) % 1) + 1.5) % 1;
      for (let y = surface.top; y < surface.bottom; y++) {
        let from = Math.abs((y + 0.5) / height - middle);
        from = Math.min(from, 1 - from) / (s.height / 2);
        if (from >= 1 + s.soft) continue;
        const within = s.soft === 0 ? 1 : Math.max(0, Math.min(1, (1 + s.soft - from) / (2 * s.soft)));
        k.fillRow(gains, width, 1 - s.amount * within * within * (3 - 2 * within));
        const change = gainsIn(k, domain, gains, width);
        for (let plane = 0; plane < 3; plane++) change(rowAt(surface, plane, y));
      }
    };
  },
});
