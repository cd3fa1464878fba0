import { lightOf } from '../../frame/domain-rows';
import { lightOver } from '../../frame/light-over';
import { rowAt } from '../../frame/surface';
import { colour, degrees, percentOfWidth, readySettings, share, stops } from '../settings';
import { MID_GREY } from '../grey';
import { trait } from '../trait';

/** The knee about the threshold, as a share of it. */
const KNEE = 0.5;

/** Highlights drawn out into a line of light, as by a squeezed lens or a scratched filter. */
export const streak = trait({
  id: 'streak',
  act: 'lens',
  name: 'Streak',
  says: 'The brightest lights are drawn out into a line of light.',
  domain: 'linear',
  settings: {
    from: stops({ name: 'From', says: 'Stops over mid-grey from which light is drawn out', default: 1.6, min: -2, max: 6 }),
    length: percentOfWidth({ name: 'Length', says: 'From a light to where its streak has half its strength', default: 9, min: 0.2, max: 60, step: 0.1 }),
    angle: degrees({ name: 'Angle', says: 'Turned clockwise from the level', default: 0, min: -90, max: 90, step: 1 }),
    colour: colour({ name: 'Colour', says: 'Of the streak, as a display shows it', default: [0.67, 0.81, 1] }),
    amount: share({ name: 'Amount', says: 'Light in the streak for light over the threshold', default: 0.8, max: 8 }),
  },
  footprint: 'area',
  idle: (s) => s.amount === 0,
  presets: readySettings({ amount: 0.3, length: 5 }, { from: 0.8, amount: 2.5, length: 25 }),
  prepare({ engine, units, store }) {
    const k = engine.kernels;
    const { width, height } = units;
    const [padded, xs, ys] = [store(), store(), store()];

    /** A box along the rows, twice: a triangle that has half its height at `radius`. */
    const level = (plane: number, stride: number, radius: number): void => {
      const pad = radius + 2;
      for (let y = 0; y < height; y++) {
        const row = plane + y * stride;
        for (let i = 0; i < 2; i++) {
          const at = padded.at((width + 2 * pad + 16) * 4);
          k.padRow(at, row, width, pad);
          k.boxRow(row, at + pad * 4, width, radius);
        }
      }
    };

    /** dst = the mean of src moved by half a step one way and half a step the other. */
    const doubled = (dst: number, src: number, other: number, stride: number, dx: number, dy: number): void => {
      const [x, y] = [xs.at(stride), ys.at(stride)];
      for (let row = 0; row < height; row++) {
        for (const [to, side] of [
          [dst, 0.5],
          [other, -0.5],
        ] as const) {
          k.rampRow(x, width, side * dx, 1);
          k.fillRow(y, width, row + side * dy);
          k.warpLinear(to + row * stride, width, x, y, src, stride, width, height);
        }
        k.mix(dst + row * stride, other + row * stride, width, 0.5);
      }
    };

    return ({ surface, settings: s, spare }) => {
      const { stride } = surface;
      let [light, next] = [spare[0]!, spare[1]!];
      lightOver(k, [{ at: light, from: MID_GREY * k.pow(2, s.from) }], surface, KNEE);
      if (s.angle === 0) level(light, stride, Math.max(1, Math.round(s.length)));
      else {
        // A box of 2^n steps, each time twice as long; twice, for a triangle.
        let steps = 1;
        while (2 ** steps * Math.SQRT2 < 2 * s.length) steps++;
        for (let i = 0; i < 2 * steps; i++) {
          const step = ((2 * s.length) / 2 ** steps) * 2 ** (i % steps);
          doubled(next, light, spare[2]!, stride, step * k.cos(s.angle), step * k.sin(s.angle));
          [light, next] = [next, light];
        }
      }
      for (let plane = 0; plane < 3; plane++) {
        const strength = s.amount * lightOf(k, s.colour[plane]!);
        for (let y = 0; y < height; y++) k.addRow(rowAt(surface, plane, y), light + y * stride, width, strength);
      }
    };
  },
});
