/** Pictures that a film lost at its joins, counted as one would who has numbered the pictures of the shot. */
import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import type { RawFrame } from '../frame/encoding';
import type { Look, TraitUse } from '../look/look';
import { Plan } from '../plan/plan';
import { lookOf, newEngine, painted, RGB8 } from '../testing';
import { Score } from './score';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const film = (settings: TraitUse['settings'], more: Partial<TraitUse> = {}, carrier = 'film16'): Look => lookOf([{ trait: 'splices', settings, ...more }], carrier);

/** The number of the shot's picture that is seen on each picture of the file. */
const seenOn = (look: Look, count: number, rate = 24): number[] => {
  const score = new Score(engine, look, { rate });
  return Array.from({ length: count }, (_, n) => score.at(n).source);
};
/** Pictures of the file that are the first after a join. */
const joinsOf = (look: Look, seconds: number, rate = 24): number[] => [
  ...new Set(new Score(engine, look, { rate }).events(0, seconds).map(({ at }) => Math.floor(at * rate + 1e-9))),
];
const steps = (seen: readonly number[]): number[] => seen.slice(1).map((of, i) => of - seen[i]!);

describe('joins that lose pictures', () => {
  test.each([
    [1, 24],
    [4, 24],
    [7, 25],
    [12, 60],
  ])('%d, at %d a second: so many numbers are missing at each join, none elsewhere, and the end is where it was', (lost, rate) => {
    const at = [2, 7, 9.5, 16, 25];
    const look = film({ count: 0, lost }, { events: { pinned: at.map((of, i) => ({ id: `join${i}`, at: of })) } });
    const seen = seenOn(look, 30 * rate, rate);
    const first = at.map((of) => Math.floor(of * rate + 1e-9));
    for (const [i, step] of steps(seen).entries()) {
      if (first.includes(i + 1)) expect([i + 1, step]).toEqual([i + 1, lost + 1]);
      // Held twice, and one at a time, or the next.
      else expect([0, 1]).toContain(step);
    }
    expect([seen[0], seen.at(-1)]).toEqual([0, 30 * rate - 1]);
    // In step with the sound to within half of what is lost.
    expect(Math.max(...seen.map((of, n) => Math.abs(of - n)))).toBe(Math.ceil(lost / 2));
  });

  test('as many joins as are set, a minute: each is missing its pictures where there are enough between them', () => {
    const look = film({ count: 12, lost: 3 });
    const seen = seenOn(look, 24 * 120);
    const joins = joinsOf(look, 120);
    expect(joins.length).toBeGreaterThan(12);
    const apart = (i: number): number => Math.min(joins[i]! - (joins[i - 1] ?? -99), (joins[i + 1] ?? 24 * 130) - joins[i]!);
    const clear = joins.filter((join, i) => apart(i) > 8 && join > 8);
    expect(clear.length).toBeGreaterThan(0.5 * joins.length);
    for (const join of clear) expect(seen[join]! - seen[join - 1]!).toBe(4);
    expect(steps(seen).filter((step) => step > 1).length).toBeLessThanOrEqual(joins.length);
  });

  test('at their most, and where motion changes what is lost, it never runs backwards, and the pictures asked for are those foretold', () => {
    for (const look of [film({ count: 120, lost: 12 }), film({ count: 60, lost: 6 }, { motions: { lost: { motion: 'jump', amount: 6 } } })]) {
      const score = new Score(engine, look, { rate: 24 });
      const seen = seenOn(look, 24 * 60);
      expect(Math.min(...steps(seen))).toBeGreaterThanOrEqual(0);
      let before = { first: 0, last: 0 };
      seen.forEach((of, n) => {
        const window = score.sourceWindow(n);
        expect([of >= window.first, of <= window.last, window.first >= before.first, window.last >= before.last]).toEqual([true, true, true, true]);
        before = window;
      });
      // A picture alone is that of the sequence.
      expect(new Score(engine, look, { rate: 24 }).at(777).source).toBe(seen[777]);
    }
  });

  test('a join that is muted, or of no strength, loses nothing; one of half strength half', () => {
    const pinned = [{ id: 'mine', at: 5 }];
    const still = Array.from({ length: 240 }, (_, n) => n);
    expect(seenOn(film({ count: 0, lost: 6 }, { events: { pinned: [{ id: 'mine', at: 5, scale: 0 }] } }), 240)).toEqual(still);
    expect(seenOn(film({ count: 0, lost: 6 }, { events: { pinned }, strength: 0 }), 240)).toEqual(still);
    expect(seenOn(film({ count: 0, lost: 0 }, { events: { pinned } }), 240)).toEqual(still);
    const half = seenOn(film({ count: 0, lost: 6 }, { events: { pinned }, strength: 0.5 }), 240);
    expect(half[120]! - half[119]!).toBe(4);
  });

  test('a film of 18 pictures in a file of 24 loses pictures of the film', () => {
    const events = { pinned: [{ id: 'mine', at: 5 }] };
    const [whole, cut] = [0, 6].map((lost) =>
      seenOn(
        lookOf(
          [
            { trait: 'cadence', settings: { rate: 18 } },
            { trait: 'splices', settings: { count: 0, lost }, events },
          ],
          'super8',
        ),
        240,
      ),
    ) as [number[], number[]];
    const join = 120;
    // Six of 18 a second are a third of a second: eight of the file.
    expect(cut[join]! - cut[join - 1]! - (whole[join]! - whole[join - 1]!)).toBe(8);
    expect(Math.min(...steps(cut))).toBeGreaterThanOrEqual(0);
  });

  test('a film under another life: the tape goes on, the film jumps', () => {
    const look: Look = {
      ...film({}),
      lives: [...film({ count: 0, lost: 4 }, { events: { pinned: [{ id: 'mine', at: 5 }] } }).lives, { carrier: 'none', traits: [{ trait: 'noise' }] }],
    };
    const seen = seenOn(look, 240);
    expect(seen[120]! - seen[119]!).toBe(5);
  });

  test.each([
    [96, 54],
    [320, 180],
  ])('is seen on the pictures themselves, at %dx%d', (width, height) => {
    // Each picture of the shot is as grey as its number.
    const shot = (n: number): RawFrame => painted(width, height, () => n / 255);
    const look = film({ count: 0, glue: 0, bump: 0, lost: 5 }, { events: { pinned: [{ id: 'mine', at: 2 }] } });
    const plan = new Plan(engine, look, { source: shot(0), target: { width, height, encoding: RGB8 }, rate: 24 });
    const greys = [44, 46, 47, 48, 49, 95].map((n) => plan.render(n, shot)[1]![(width * height) >> 1]!);
    plan.dispose();
    const [before, , last, first, , after] = greys as [number, number, number, number, number, number];
    expect(first - last).toBe(6);
    expect([before <= last, after]).toEqual([true, 95]);
  });
});
