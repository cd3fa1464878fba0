import { choice, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { LUMINANCE, type Matrix, type Row } from '../../frame/colorimetry';
import { DyeRows, neutral, SAME, type Emulsion } from './dye-rows';
import { MID_GREY_DENSITY } from '../grey';

/** What a process does: to light before the layers, to each layer's density (slope about mid-grey, shift), and by its dyes. */
interface Chemistry {
  readonly name: string;
  readonly sees?: Matrix;
  readonly slope: Row;
  readonly shift?: Row;
  readonly dyes?: Matrix;
  readonly base?: Row;
  /** No layer is thinner than this. */
  readonly least?: number;
}

const grey = (weights: Row): Matrix => [weights, weights, weights];
/** Silver that is left in lies over the dyes as a picture of its own, of this share of their density. */
const SILVER = 0.5;
/** What sepia makes of silver's density in red, green and blue; clear film stays clear. */
const SEPIA: Row = [0.84, 1.02, 1.24];
/** No layer is denser than this. */
const DEEPEST = 9;
/** Density at which a negative of clear film ends. */
const NEGATIVE = 1.75;

const KINDS = {
  silver: {
    name: 'Silver left in',
    slope: [0.88, 0.88, 0.88],
    dyes: [0, 1, 2].map((i) => LUMINANCE.map((w, j) => SILVER * w + (i === j ? 1 : 0))) as unknown as Matrix,
    base: [-SILVER * MID_GREY_DENSITY, -SILVER * MID_GREY_DENSITY, -SILVER * MID_GREY_DENSITY],
  },
  wrong: {
    name: 'Wrong chemistry',
    slope: [1.45, 1.25, 0.82],
    shift: [0.03, -0.1, 0.12],
    dyes: neutral([
      [1.25, -0.15, -0.1],
      [-0.1, 1.25, -0.15],
      [0, -0.2, 1.2],
    ]),
    base: [0, 0, 0.06],
  },
  strips: {
    name: 'Three-strip dyes',
    slope: [1.08, 1.08, 1.08],
    dyes: neutral([
      [1.6, -0.35, -0.25],
      [-0.3, 1.6, -0.3],
      [-0.2, -0.4, 1.6],
    ]),
  },
  // One dye of blue-green made from the red record, one of red-orange from the green record; blue has none of its own.
  two: {
    name: 'Two colours',
    slope: [1.1, 1.1, 1.1],
    dyes: neutral([
      [0.94, 0.06, 0],
      [0.26, 0.74, 0],
      [0.3, 0.7, 0],
    ]),
    base: [0, 0.01, 0.03],
  },
  plain: { name: 'Black and white', sees: grey([0.3, 0.55, 0.15]), slope: [1.1, 1.1, 1.1] },
  yellow: { name: 'Black and white, yellow filter', sees: grey([0.4, 0.56, 0.04]), slope: [1.12, 1.12, 1.12] },
  red: { name: 'Black and white, red filter', sees: grey([0.86, 0.14, 0]), slope: [1.18, 1.18, 1.18] },
  green: { name: 'Black and white, green filter', sees: grey([0.14, 0.78, 0.08]), slope: [1.1, 1.1, 1.1] },
  // Sepia turns silver into a brown salt: densest against blue, thinnest against red.
  sepia: {
    name: 'Sepia',
    sees: grey([0.3, 0.55, 0.15]),
    slope: SEPIA,
    shift: [-(1 - SEPIA[0]) * MID_GREY_DENSITY, -(1 - SEPIA[1]) * MID_GREY_DENSITY, -(1 - SEPIA[2]) * MID_GREY_DENSITY],
    base: [0, 0.01, 0.04],
  },
  negative: { name: 'Negative', slope: [-1, -1, -1], shift: [NEGATIVE - 2 * MID_GREY_DENSITY, NEGATIVE - 2 * MID_GREY_DENSITY, NEGATIVE - 2 * MID_GREY_DENSITY], least: 0.04 },
} as const satisfies Record<string, Chemistry>;
type Kind = keyof typeof KINDS;

const settings = {
  kind: choice({
    name: 'Kind',
    says: 'What was done',
    default: 'silver',
    options: Object.fromEntries(Object.entries(KINDS).map(([id, c]) => [id, c.name])) as Record<Kind, string>,
  }),
  amount: share({ name: 'Amount', says: 'How much of it shows', default: 1 }),
};

/** Chemistry other than the usual, in density and dye. */
export const process = trait({
  id: 'process',
  act: 'stock',
  media: ['film'],
  name: 'Process',
  says: 'Developed in another way: silver left in, wrong baths, fewer dyes or none.',
  domain: 'linear',
  leaves: 'density',
  settings,
  footprint: 'point',
  ofColourAlone: true,
  idle: (s) => s.amount === 0,
  prepare({ engine, own }) {
    const rows = own(new DyeRows(engine));
    const emulsionOf = perSettings((s: Values<typeof settings>): Emulsion => {
      const { sees = SAME, slope, shift = [0, 0, 0], dyes = SAME, base = [0, 0, 0], least = -2 }: Chemistry = KINDS[s.kind as Kind];
      const layer = (density: number, plane: number): number => Math.min(DEEPEST, Math.max(least, MID_GREY_DENSITY + slope[plane]! * (density - MID_GREY_DENSITY) + shift[plane]!));
      return { sees, dyes, base, layer };
    });
    return ({ surface, settings: s }) => rows.run(surface, emulsionOf(s), s.amount);
  },
});
