import { lightOf } from '../../frame/domain-rows';
import { rowAt } from '../../frame/surface';
import { bell, even } from '../../random/random';
import { colour, perMinute, percentOfWidth, readySettings, seconds, share, stops } from '../settings';
import { MID_GREY } from '../grey';
import { trait } from '../trait';

/** Longest a leak may last, with its spread. */
const LONGEST = 45;

/** Light that gets into the camera past a lid or a seam: a soft patch of colour from one edge that swells, drifts and goes. */
export const lightLeak = trait({
  id: 'light-leak',
  act: 'lens',
  name: 'Light leak',
  says: 'Light gets into the camera past its lid and lies over the picture.',
  domain: 'linear',
  settings: {
    rate: perMinute({ name: 'How often', says: 'Leaks a minute', default: 6, max: 120 }),
    length: seconds({ name: 'Length', says: 'How long one lasts, about', default: 1.2, min: 0.1, max: 20, step: 0.1 }),
    amount: stops({ name: 'Amount', says: 'Stops over mid-grey in its middle', default: 2, min: -2, max: 6 }),
    size: percentOfWidth({ name: 'Size', says: 'Half its width at half its strength', default: 28, min: 2, max: 120, step: 1 }),
    colour: colour({ name: 'Colour', says: 'Of the light, as a display shows it', default: [1, 0.56, 0.24] }),
    drift: percentOfWidth({ name: 'Drift', says: 'How far it moves while it lasts', default: 12, max: 100, step: 1 }),
    edges: share({ name: 'Edges', says: '1 comes from the left or the right edge, 0 from anywhere', default: 0.85 }),
  },
  footprint: 'point',
  events: { place: 'both', rate: (s) => s.rate / 60, length: (s, drawn) => s.length * (0.5 + 1.5 * drawn), longest: LONGEST },
  presets: readySettings({ rate: 2, amount: 0.8, size: 16 }, { rate: 24, amount: 3.5, size: 60 }),
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const weights = store();
    return ({ surface, settings: s, events }) => {
      for (const event of events) {
        // Swells in a third of its time and goes in the rest.
        const t = (event.age + 0.5) / event.of;
        const swell = t < 0.33 ? t / 0.33 : (1 - t) / 0.67;
        const strength = MID_GREY * k.pow(2, s.amount) * event.scale * swell * swell * (3 - 2 * swell) * (0.85 + 0.15 * bell(event.seed, 5, event.age));
        if (strength <= 0) continue;
        const side = even(event.seed, 1) < 0.5 ? 0 : 1;
        const x = (event.placed ? event.x : event.x + (side - event.x) * s.edges) * width + s.drift * (t - 0.5) * (side ? -1 : 1);
        const y = event.y * height;
        const [across, down] = [s.size * (0.7 + 0.6 * even(event.seed, 2)), s.size * (1 + 1.2 * even(event.seed, 3))];
        const row = weights.at(surface.stride);
        for (let line = surface.top; line < surface.bottom; line++) {
          const v = (line + 0.5 - y) / (2 * down);
          k.ellipseRow(row, width, (0.5 - x) / (2 * across), 1 / (2 * across), v * v, 1);
          k.affineRow(row, width, -1, 1);
          for (let plane = 0; plane < 3; plane++) {
            const share = lightOf(k, s.colour[plane]!);
            k.addRow(rowAt(surface, plane, line), row, width, strength * share);
          }
        }
      }
    };
  },
});
