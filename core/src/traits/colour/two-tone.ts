import { colour, share } from '../settings';
import { perSettings, trait, type Values } from '../trait';
import { ByLuma } from './by-luma';

const settings = {
  blacks: colour({ name: 'Blacks', says: 'What black becomes', default: [0.08, 0.05, 0.12] }),
  whites: colour({ name: 'Whites', says: 'What white becomes', default: [1, 0.93, 0.78] }),
  amount: share({ name: 'Amount', says: 'How much of its own colour the picture loses to the two', default: 0.6 }),
};

export const twoTone = trait({
  id: 'two-tone',
  act: 'stock',
  family: 'colour',
  name: 'Two tones',
  says: 'Blacks go to one colour, whites to another, all between along the way.',
  domain: 'display',
  settings,
  footprint: 'point',
  idle: (s) => s.amount === 0,
  prepare({ engine, own }) {
    const byLuma = own(new ByLuma(engine));
    const fill = perSettings(({ blacks, whites, amount }: Values<typeof settings>) =>
      byLuma.fill((luma) => ({
        gain: 1 - amount,
        saturation: 1,
        vibrance: 0,
        added: blacks.map((b, i) => amount * (b + (whites[i]! - b) * luma)) as [number, number, number],
      })),
    );
    return ({ surface, settings: s }) => {
      fill(s);
      byLuma.run(surface);
    };
  },
});
