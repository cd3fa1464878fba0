/** A trait and a carrier declared outside the package, by what it offers to anyone. */
import { expect, test } from '@jest/globals';
import { LOOK_SCHEMA, carriers, checkLook, lookJsonSchema, Plan, registerCarrier, registerTrait, rowAt, share, trait, traits, type Look } from './index';
import { newEngine, signalFrame } from './testing';

const veil = trait({
  id: 'grey-veil',
  act: 'lens',
  name: 'Grey veil',
  says: 'A veil of grey over everything.',
  domain: 'display',
  settings: { amount: share({ name: 'Amount', says: 'Share of grey in the picture', default: 0.25 }) },
  footprint: 'point',
  idle: (s) => s.amount === 0,
  prepare:
    ({ engine }) =>
    ({ surface, settings: s }) => {
      for (let plane = 0; plane < 3; plane++)
        for (let y = surface.top; y < surface.bottom; y++) engine.kernels.affineRow(rowAt(surface, plane, y), surface.width, 1 - s.amount, 0.5 * s.amount);
    },
});

test('both are used, checked and described as those that ship', async () => {
  const look: Look = { schema: LOOK_SCHEMA, name: 'Veiled', seed: 1, shape: 'file', lives: [{ carrier: 'film17', traits: [{ trait: 'grey-veil', settings: { amount: 0.5 } }] }] };
  expect(() => checkLook(look)).toThrow('lives[0].carrier: must be one of none');
  registerCarrier({ id: 'film17', name: '17.5 mm', says: 'Film slit down its middle.', medium: 'film', gate: { width: 8.2, height: 6.15 } });
  expect(() => checkLook(look)).toThrow('there is no trait "grey-veil"');
  registerTrait(veil);
  expect(checkLook(look)).toBe(look);
  expect(() => checkLook({ ...look, lives: [{ carrier: 'film17', traits: [{ trait: 'grey-veil', settings: { amount: 2 } }] }] })).toThrow(
    'lives[0].traits[0].settings.amount: must be a number from 0 to 1, without the unit',
  );
  expect(JSON.stringify(lookJsonSchema())).toContain('"const":"grey-veil"');
  expect([traits.at(-1)!.id, carriers.at(-1)!.id]).toEqual(['grey-veil', 'film17']);

  const frame = signalFrame('grey', 8, 8, 1);
  const plan = new Plan(await newEngine(), look, { source: frame, target: frame, rate: 24 });
  const [red] = plan.render(0, frame);
  expect(new Uint16Array(red!.buffer, red!.byteOffset, 64)[9]).toBe(Math.round(0.75 * 65535));
  plan.dispose();
});

test('an id that is taken, or cannot stand in a file, is refused', () => {
  expect(() => registerTrait({ ...veil, id: 'grain' })).toThrow('there is a trait "grain" already');
  expect(() => registerTrait({ ...veil, id: 'Grey veil' })).toThrow('lower-case letters, digits and hyphens');
  expect(traits.filter(({ id }) => id === 'grain')).toHaveLength(1);
});
