import { OPENED_FOR, Placer } from '../../frame/placed';
import { wander } from '../../motion/wander';
import { bell, hash } from '../../random/random';
import { degrees, hertz, percentOfHeight, readySettings } from '../settings';
import { trait, type Values } from '../trait';

const settings = {
  sideways: percentOfHeight({ name: 'Sideways', says: 'RMS drift to the side', default: 0.15, max: 5 }),
  upDown: percentOfHeight({ name: 'Up and down', says: 'RMS drift up and down', default: 0.2, max: 5 }),
  turn: degrees({ name: 'Turn', says: 'RMS turn', default: 0, max: 3 }),
  rate: hertz({ name: 'Rate', says: 'Fastest of the slow drift', default: 1.2, max: 24 }),
  shake: percentOfHeight({ name: 'Shake', says: 'RMS jump, anew on each picture or at its rate', default: 0.04, max: 5 }),
  shakeRate: hertz({ name: 'Shake rate', says: 'Jumps a second; 0 is each picture', default: 0, max: 60 }),
};

/** Where the picture stands at a moment: shifts in pixels, turn in radians. */
function place(s: Values<typeof settings>, seed: number, picture: number, seconds: number, k: { sin(x: number): number }): { x: number; y: number; turn: number } {
  const n = s.shakeRate > 0 ? Math.floor(seconds * s.shakeRate + 1e-9) : picture;
  const slow = (i: number): number => wander(k, hash(seed, i), seconds, s.rate);
  return { x: s.sideways * slow(0) + s.shake * bell(seed, 10, n), y: s.upDown * slow(1) + s.shake * bell(seed, 11, n), turn: s.turn * slow(2) };
}

/** By how much the frame is enlarged so that what it usually does bares no edge; lengths in one unit, whichever. */
function opened(s: Values<typeof settings>, width: number, height: number): number {
  const far = (drift: number): number => OPENED_FOR * Math.sqrt(drift * drift + s.shake * s.shake);
  return 1 + Math.max((2 * far(s.sideways)) / width, (2 * far(s.upDown)) / height) + OPENED_FOR * s.turn * Math.max(width / height, height / width);
}

/**
 * The gate is a little larger than the film: slow drift and a small jump on each picture. The frame is opened just so far
 * that no edge shows; where it still would, the picture's edge is continued.
 */
export const gateWeave = trait({
  id: 'gate-weave',
  act: 'machine',
  media: ['film'],
  name: 'Gate weave',
  says: 'The picture drifts because the film sits loosely in the gate.',
  domain: 'any',
  settings,
  footprint: 'area',
  idle: (s) => s.sideways === 0 && s.upDown === 0 && s.turn === 0 && s.shake === 0,
  // Settings are hundredths of the height, and degrees.
  tells: (s, shape) => `The frame is opened by ${((opened({ ...s, turn: (s.turn * Math.PI) / 180 }, 100 * shape, 100) - 1) * 100).toFixed(2)} %, so that no edge shows.`,
  activity: ({ engine, settings: s, seed, picture, seconds }) => {
    const at = place({ ...s, sideways: 1, upDown: 1 }, seed, picture, seconds, engine.kernels);
    return (at.x + at.y) / 2;
  },
  // How steady a picture stands is the gauge's own.
  onto(s, from, to) {
    if (!from.unsteadiness || !to.unsteadiness || from.unsteadiness === to.unsteadiness) return undefined;
    const by = to.unsteadiness / from.unsteadiness;
    const scaled = (key: 'sideways' | 'upDown' | 'shake'): number => {
      const { max, step } = settings[key];
      return Number(Math.min(max, Math.round((s[key] * by) / step) * step).toFixed(3));
    };
    const next = { sideways: scaled('sideways'), upDown: scaled('upDown'), shake: scaled('shake') };
    return {
      settings: next,
      says: `is ${by > 1 ? 'larger' : 'smaller'}: up and down ${s.upDown} became ${next.upDown} % of the height, as ${to.name} is that much ${by > 1 ? 'less steady' : 'steadier'}.`,
    };
  },
  displaces: ({ engine, settings: s, seed, picture, seconds }) => place(s, seed, picture, seconds, engine.kernels),
  presets: readySettings({ sideways: 0.05, upDown: 0.07, shake: 0.01 }, { sideways: 0.8, upDown: 1.1, turn: 0.2, shake: 0.25 }),
  prepare({ engine, units, seed, own }) {
    const k = engine.kernels;
    const { width, height } = units;
    const placer = own(new Placer(engine, width, height));
    return (pass) => {
      const { settings: s } = pass;
      const at = place(s, seed, pass.picture, pass.seconds, k);
      const zoom = opened(s, width, height);
      placer.run(pass, { ...at, zoom });
    };
  },
});
