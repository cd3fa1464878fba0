/** Which event lies under a point of the picture, at two sizes. */
import { beforeAll, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { Look, TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import { Score } from '../score/score';
import { lookOf, newEngine, painted } from '../testing';
import { differenceAt, eventUnder, withoutEvents } from './under';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

/** Places of the specks, away from the scratch. */
const SPECKS = [
  [0.2, 0.25],
  [0.55, 0.4],
  [0.8, 0.7],
  [0.6, 0.85],
] as const;
const SCRATCH = 0.35;
const uses: TraitUse[] = [
  {
    trait: 'dust',
    settings: { count: 0 },
    events: { pinned: SPECKS.map(([x, y], i) => ({ id: `speck ${i}`, at: 0, x, y, length: 1, scale: 2 })) },
  },
  { trait: 'scratches', settings: { count: 0, depth: 1, wander: 0, broken: 0, width: 40 }, events: { pinned: [{ id: 'scratch', at: 0, x: SCRATCH, length: 2 }] } },
];

/** What is found at points of picture 3 of a look, and how often it was asked. */
async function found(look: Look, height: number, points: readonly (readonly [number, number])[], n = 3): Promise<{ ids: (string | null)[]; asked: number }> {
  const width = Math.round((height * 4) / 3);
  const frame = painted(width, height, () => 0.5);
  const pixels = (worn: Look): Uint8Array => {
    const plan = new Plan(engine, worn, { source: frame, target: { width, height, encoding: 'rgba' }, rate: 24 });
    const [made] = plan.render(n, frame);
    plan.dispose();
    return made!.slice();
  };
  const whole = pixels(look);
  const events = new Score(engine, look, { rate: 24 }).shown(n);
  let asked = 0;
  const ids: (string | null)[] = [];
  for (const [x, y] of points) {
    const event = await eventUnder(events, async (some) => {
      asked++;
      return differenceAt(whole, pixels(withoutEvents(look, some)), width, height, x, y);
    });
    ids.push(event && event.id);
  }
  return { ids, asked };
}

test.each([240, 480])('a speck where it was put, a scratch along its line, nothing where nothing is, at %d lines', async (height) => {
  const look = lookOf(uses);
  const points = [...SPECKS, [SCRATCH, 0.2], [SCRATCH, 0.9], [0.5, 0.6], [0.1, 0.9]] as const;
  const { ids } = await found(look, height, points, 12);
  expect(ids).toEqual(['speck 0', 'speck 1', 'speck 2', 'speck 3', 'scratch', 'scratch', null, null]);
});

test('what happens to the whole picture is found where nothing else is; a speck under it still is', async () => {
  const flash: TraitUse = { trait: 'flash', settings: { rate: 0, length: 24, amount: 0.4 }, events: { pinned: [{ id: 'flash', at: 0.05, length: 1 }] } };
  const { ids } = await found(lookOf([...uses, flash]), 240, [SPECKS[1], [0.5, 0.6]], 4);
  expect(ids).toEqual(['speck 1', 'flash']);
});

test('a picture that is moved is searched where its specks are seen, not where they were put', async () => {
  const slip: TraitUse = { trait: 'frame-slip', settings: { count: 0, far: 0.25, way: 'up', trail: 0 }, events: { pinned: [{ id: 'slip', at: 0, length: 0.5 }] } };
  const look = lookOf([...uses, slip]);
  const [width, height, n] = [320, 240, 4];
  const frame = painted(width, height, () => 0.5);
  // Where the picture with one speck differs from that without any, as it slips.
  const events = new Score(engine, look, { rate: 24 }).shown(n);
  const others = events.filter(({ id }) => id !== 'speck 1' && id !== 'slip');
  const [a, b] = [others, events.filter(({ id }) => id !== 'slip')].map((muted) => {
    const plan = new Plan(engine, withoutEvents(look, muted), { source: frame, target: { width, height, encoding: 'rgba' }, rate: 24 });
    const made = plan.render(n, frame)[0]!.slice();
    plan.dispose();
    return made;
  });
  let [sum, x, y] = [0, 0, 0];
  for (let i = 0; i < width * height; i++) {
    const differs = Math.abs(a![4 * i]! - b![4 * i]!);
    [sum, x, y] = [sum + differs, x + differs * ((i % width) + 0.5), y + differs * (Math.floor(i / width) + 0.5)];
  }
  const seen = [x / sum / width, y / sum / height] as const;
  expect(Math.abs(seen[1] - SPECKS[1][1])).toBeGreaterThan(0.05);
  expect((await found(look, height, [seen], n)).ids).toEqual(['speck 1']);
});

test('of sixty specks the one that is meant is found by halves', async () => {
  const look = lookOf([{ trait: 'dust', settings: { count: 60 } }]);
  const events = new Score(engine, look, { rate: 24 }).shown(3);
  expect(events.length).toBeGreaterThan(40);
  const places = events.slice(0, 5).map(({ x, y }): [number, number] => [x, y]);
  const { ids, asked } = await found(look, 240, places);
  // Each is found, or one that lies over it.
  const near = (id: string | null, [x, y]: [number, number]): boolean => {
    const event = events.find((one) => one.id === id);
    return event !== undefined && Math.hypot(event.x - x, event.y - y) < 0.04;
  };
  ids.forEach((id, i) => expect(near(id, places[i]!)).toBe(true));
  expect(asked).toBeLessThanOrEqual(5 * (1 + 2 * 7));
});
