import { rowAt } from '../../frame/surface';
import { lines, linesPerSecond, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';

/**
 * How much of a wave of `frequency` cycles a pixel survives: the mean over the pixel's height, and nothing from half a
 * cycle on, where it could only show as a false, coarser pattern.
 */
function damping(frequency: number, engine: { sin(x: number): number; cos(x: number): number }): number {
  if (frequency >= 0.5) return 0;
  const x = Math.PI * frequency;
  const box = frequency === 0 ? 1 : engine.sin(x) / x;
  const fade = frequency <= 0.45 ? 1 : 0.5 + 0.5 * engine.cos((Math.PI * (frequency - 0.45)) / 0.05);
  return box * fade;
}

const settings = {
  lines: lines({ name: 'Lines', says: 'Lines over the height of the picture', default: 240, min: 30, max: 1200 }),
  width: share({ name: 'Beam width', says: 'Width of a dark line over the distance of lines', default: 0.6, min: 0.3, max: 1.5 }),
  widening: share({ name: 'Widening', says: 'How much wider a white line is', default: 0.5, max: 1.5 }),
  drift: linesPerSecond({ name: 'Drift', says: 'Lines a second the pattern moves down; 0 is locked to the picture', default: 0, min: -60, max: 60 }),
};

/**
 * The lines a beam writes on a tube. Each line is a bell in linear light that widens with brightness, so bright lines meet
 * and dark ones part; the mean light stays. A picture too low to hold the lines shows none instead of moire.
 */
export const scanlines = trait({
  id: 'scanlines',
  act: 'screen',
  name: 'Scanlines',
  says: 'The beam writes the picture in lines, thin where it is dark and broad where it is bright.',
  domain: 'linear',
  settings,
  footprint: 'point',
  prepare({ engine, units }) {
    const k = engine.kernels;
    const ofSettings = perSettings((s: Values<typeof settings>) => {
      const frequency = s.lines / units.height;
      return { frequency, amounts: [1, 2, 3].map((m) => damping(m * frequency, k)) };
    });
    return ({ surface, seconds, settings: s }) => {
      const { frequency, amounts } = ofSettings(s);
      // The whole lines drop out before the product with the row, so a long shot drifts as exactly as a short one.
      const moved = ((seconds * s.drift) % 1) + 0.5;
      for (let y = surface.top; y < surface.bottom; y++) {
        const phase = 2 * Math.PI * ((((y + 0.5) * frequency) % 1) - moved);
        const [c1, c2, c3] = amounts.map((amount, i) => (amount === 0 ? 0 : amount * k.cos((i + 1) * phase)));
        for (let plane = 0; plane < 3; plane++) k.scanlineRow(rowAt(surface, plane, y), surface.width, s.width, s.widening, c1!, c2!, c3!);
      }
    };
  },
});
