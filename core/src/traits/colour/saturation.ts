import { curve, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { ByLuma } from './by-luma';
import { through } from './curves';

const settings = {
  amount: share({ name: 'Saturation', says: '1 leaves it, 0 is grey', default: 1, max: 3 }),
  vibrance: share({ name: 'Vibrance', says: 'Saturation for what has little of it; below 0 takes it', default: 0, min: -1, max: 1 }),
  byLuma: curve({
    name: 'Over luma',
    says: 'How much of it holds at each luma; the middle of the height leaves it, the top doubles it',
    default: [
      [0, 0.5],
      [1, 0.5],
    ],
    over: 'luma',
  }),
};

export const saturation = trait({
  id: 'saturation',
  act: 'stock',
  family: 'colour',
  name: 'Saturation',
  says: 'Colours made paler or fuller, all of them or by how light they are.',
  domain: 'display',
  settings,
  footprint: 'point',
  idle: (s) => s.amount === 1 && s.vibrance === 0 && s.byLuma.every(([, y]) => y === 0.5),
  prepare({ engine, own }) {
    const byLuma = own(new ByLuma(engine));
    const fill = perSettings((s: Values<typeof settings>) => {
      const over = through(s.byLuma);
      byLuma.fill((luma) => ({ gain: 1, saturation: s.amount * 2 * over(luma), vibrance: s.vibrance, added: [0, 0, 0] }));
    });
    return ({ surface, settings: s }) => {
      fill(s);
      byLuma.run(surface);
    };
  },
});
