import { gainsIn } from '../../frame/gain-rows';
import { OPENED_FOR, Placer } from '../../frame/placed';
import { floatStride, rowAt } from '../../frame/surface';
import { wander } from '../../motion/wander';
import { bell, hash } from '../../random/random';
import { hertz, percent, percentOfHeight, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

/** A filament that dims loses blue first: powers of its light in red, green and blue, over what all lose. */
const DIMS = [-0.25, 0, 0.5] as const;
const LEAST = 1e-4;

/** How bright the lamp is at a moment: unit RMS about 0. */
const unsteady = (k: { sin(x: number): number }, seed: number, picture: number, seconds: number, rate: number, part: number): number =>
  rate > 0 ? wander(k, hash(seed, part), seconds, rate) : bell(seed, part, picture);

const settings = {
  amount: percent({ name: 'Amount', says: 'RMS of the light about its mean; 1 to 4 is a lamp, 10 a worn one', default: 2, max: 40, step: 0.1 }),
  rate: hertz({ name: 'Rate', says: 'Fastest of the swing; 0 is anew on each picture', default: 0, max: 30 }),
  warm: share({ name: 'Warm', says: 'How far the lamp goes redder as it dims', default: 0 }),
  uneven: share({ name: 'Uneven', says: 'How far the right side swings otherwise than the left', default: 0.2 }),
  sway: percentOfHeight({ name: 'Sway', says: 'RMS by which the picture goes up and down with the swing, as where the shutter is late', default: 0, max: 2, step: 0.01 }),
};

/** Light that is unsteady: a worn lamp, a shutter that does not keep time. */
export const flicker = trait({
  id: 'flicker',
  act: 'machine',
  name: 'Flicker',
  says: 'The lamp and the shutter are unsteady, so the light swings.',
  domain: 'rgb',
  settings,
  footprint: (s) => (s.sway > 0 ? 'area' : 'point'),
  idle: (s) => s.amount === 0 && s.sway === 0,
  activity: ({ engine, settings: s, seed, picture, seconds }) => unsteady(engine.kernels, seed, picture, seconds, s.rate, 0),
  presets: readySettings({ amount: 0.8 }, { amount: 12, warm: 0.4, uneven: 0.5 }),
  prepare({ engine, units, domain, seed, store, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const rows = store();
    const stride = floatStride(width);
    const placer = own(new Placer(engine, width, height));
    /** How each plane's rows change on a picture; only a warm lamp's planes differ. */
    const changesOf = perSettings((s: Values<typeof settings>, picture: number, seconds: number) => {
      const whole = unsteady(k, seed, picture, seconds, s.rate, 0);
      const side = s.uneven > 0 ? unsteady(k, seed, picture, seconds, s.rate, 1) : 0;
      // Each side is a mixture of unit variance of the common swing and, to the right, the other one.
      const right = Math.sqrt(1 - s.uneven * s.uneven) * whole + s.uneven * side;
      const [a, b] = [Math.max(0, 1 + s.amount * whole), Math.max(0, 1 + s.amount * right)];
      const at = rows.at(3 * stride);
      return [0, 1, 2].map((plane) => {
        const gains = at + plane * stride;
        k.rampRow(gains, width, a, (b - a) / width);
        if (s.warm > 0) k.powRow(gains, width, 1 + s.warm * DIMS[plane]!, LEAST);
        return gainsIn(k, domain, gains, width);
      });
    });
    return (pass) => {
      const { surface, picture, seconds, settings: s } = pass;
      if (s.sway > 0) {
        const whole = unsteady(k, seed, picture, seconds, s.rate, 0);
        placer.run(pass, { x: 0, y: s.sway * whole, turn: 0, zoom: 1 + (2 * OPENED_FOR * s.sway) / height });
      }
      changesOf(s, picture, seconds).forEach((change, plane) => {
        for (let y = surface.top; y < surface.bottom; y++) change(rowAt(surface, plane, y));
      });
    };
  },
});
