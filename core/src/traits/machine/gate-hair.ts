import { bell, hash } from '../../random/random';
import { Stamp, type Mark } from '../../shapes/stamp';
import { fibre, stroke } from '../../shapes/stroke';
import { choice, micrometres, millimetres, readySettings, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

const EDGES = { bottom: 'Lower edge', top: 'Upper edge', left: 'Left edge', right: 'Right edge' } as const;
type Edge = keyof typeof EDGES;
const QUARTER = Math.PI / 2;
/** Where along an edge a hair is rooted, and the way it sets out. */
const ROOTS: Readonly<Record<Edge, (at: number) => { x: number; y: number; way: number }>> = {
  bottom: (at) => ({ x: at, y: 1, way: -QUARTER }),
  top: (at) => ({ x: at, y: 0, way: QUARTER }),
  left: (at) => ({ x: 0, y: at, way: 0 }),
  right: (at) => ({ x: 1, y: at, way: Math.PI }),
};

const settings = {
  edge: choice({ name: 'Edge', says: 'Where it is caught', default: 'bottom', options: EDGES }),
  place: share({ name: 'Place', says: 'Along that edge, from the left or the top', default: 0.72 }),
  length: millimetres({ name: 'Length', says: 'Of what hangs into the picture', default: 0.6, min: 0.05, max: 12 }),
  width: micrometres({ name: 'Width', says: 'Of the hair at the gate', default: 22, min: 3, max: 150, step: 1 }),
  curl: share({ name: 'Curl', says: '0 is straight, 1 goes round in a loop', default: 0.35 }),
  trembles: share({ name: 'Trembles', says: 'How far it moves from picture to picture', default: 0.35 }),
  soft: share({ name: 'Soft', says: 'The gate lies a little out of focus', default: 0.4 }),
  opacity: share({ name: 'Opacity', says: 'How much it covers', default: 0.92 }),
};

/** A hair caught in the gate: it stays where it is while the film passes, and trembles. */
export const gateHair = trait({
  id: 'gate-hair',
  act: 'machine',
  media: ['film'],
  name: 'Gate hair',
  says: 'A hair is caught in the gate and trembles as the film passes.',
  domain: 'rgb',
  settings,
  footprint: 'point',
  idle: (s) => s.opacity === 0,
  presets: readySettings({ length: 0.25, width: 14, opacity: 0.6 }, { length: 4, width: 50, opacity: 1 }),
  prepare({ engine, units, domain, seed, own }) {
    const stamp = own(new Stamp(engine));
    const { width, height } = units;
    const hair = perSettings((s: Values<typeof settings>, picture: number): Mark[] => {
      const root = ROOTS[s.edge as Edge](s.place);
      // It is held at its root and slides back with the film: most of the trembling is of its way.
      const shakes = s.trembles * bell(seed, 1, picture) + 0.4 * s.trembles * bell(hash(seed, 2), Math.floor(picture / 7));
      const start = { x: root.x * width, y: root.y * height, way: root.way + 0.35 * bell(seed, 3) + 0.22 * shakes };
      const line = fibre(engine.kernels, hash(seed, 4), start, s.length * (1 + 0.05 * s.trembles * bell(seed, 5, picture)), s.curl * (1 + 0.12 * shakes));
      return [{ shape: stroke(line, s.width, 1 + 2 * s.soft * s.width, 0.2), colour: [0.02, 0.02, 0.02], share: s.opacity }];
    });
    return ({ surface, settings: s, picture }) => stamp.laySeen(surface, domain, hair(s, picture));
  },
});
