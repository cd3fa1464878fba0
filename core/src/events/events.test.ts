import { beforeAll, describe, expect, test } from '@jest/globals';
import type { Engine } from '../engine';
import { mean, newEngine } from '../testing';
import { poisson } from '../random/random';
import { eventsAt, eventsBetween, type Generator } from './events';

let engine: Engine;
beforeAll(async () => {
  engine = await newEngine();
});

const generator = (perSecond: number, length = 0.2): Generator => ({ seed: 12, picturesPerSecond: 18, longest: length, rate: () => perSecond, length: () => length });
const between = (g: Generator, from: number, to: number, changes = {}, muted = false) => eventsBetween(engine.kernels, g, changes, from, to, muted);

describe('events', () => {
  test('are Poisson with the rate set', () => {
    const counts = Array.from({ length: 3000 }, (_, s) => between(generator(3), s, s + 1).length);
    expect(mean(counts)).toBeGreaterThan(2.9);
    expect(mean(counts)).toBeLessThan(3.1);
    const variance = mean(counts.map((c) => (c - 3) ** 2));
    expect(variance).toBeGreaterThan(2.7);
    expect(variance).toBeLessThan(3.3);
  });

  test('do not depend on the stretch that is asked for, and have ids of their own', () => {
    const whole = between(generator(5), 0, 50);
    const parts = [0, 7.3, 7.4, 20, 50].flatMap((to, i, all) => (i === 0 ? [] : between(generator(5), all[i - 1]!, to)));
    expect(parts).toEqual(whole);
    expect(new Set(whole.map((e) => e.id)).size).toBe(whole.length);
  });

  test('stay when more are asked for', () => {
    const few = between(generator(2), 0, 30).map((e) => e.id);
    const many = new Set(between(generator(6), 0, 30).map((e) => e.id));
    expect(few.every((id) => many.has(id))).toBe(true);
  });

  test('at picture 100,000 cost what those at picture 1 cost', () => {
    let asked = 0;
    const g: Generator = { ...generator(4), rate: () => (asked++, 4) };
    eventsAt(engine.kernels, g, {}, 1_000);
    const early = asked;
    asked = 0;
    eventsAt(engine.kernels, g, {}, 100_000);
    expect(asked).toBeLessThanOrEqual(early + 1);
  });

  test('are muted, moved, turned down and pinned by the user', () => {
    const [first, second, third] = between(generator(2), 0, 30);
    const changes = {
      muted: [first!.id],
      changed: { [second!.id]: { at: 25.5, x: 0.1 }, [third!.id]: { scale: 0.3 } },
      pinned: [{ id: 'mine', at: 3.25, x: 0.9 }],
    };
    const now = between(generator(2), 0, 30, changes);
    expect(now.find((e) => e.id === first!.id)).toBeUndefined();
    expect(now.find((e) => e.id === second!.id)).toMatchObject({ at: 25.5, x: 0.1, y: second!.y });
    expect(now.find((e) => e.id === third!.id)).toMatchObject({ at: third!.at, scale: 0.3 });
    expect(now.find((e) => e.id === 'mine')).toMatchObject({ at: 3.25, x: 0.9, pinned: true });
    expect(now.length).toBe(between(generator(2), 0, 30).length);
    // The interface lists the muted too.
    expect(between(generator(2), 0, 30, changes, true).find((e) => e.id === first!.id)).toMatchObject({ scale: 0 });
  });

  test('show on as many pictures as they last, at least one', () => {
    const changes = {
      pinned: [
        { id: 'mine', at: 2, length: 0.17 },
        { id: 'short', at: 5, length: 0 },
      ],
    };
    const shown = (id: string) =>
      Array.from({ length: 120 }, (_, n) => eventsAt(engine.kernels, generator(0), changes, n).some((e) => e.id === id)).reduce<number[]>(
        (all, on, n) => (on ? [...all, n] : all),
        [],
      );
    expect(shown('mine')).toEqual([36, 37, 38]);
    expect(shown('short')).toEqual([90]);
    expect(eventsAt(engine.kernels, generator(0), changes, 37)[0]).toMatchObject({ age: 1, of: 3 });
  });
});

describe('a Poisson count', () => {
  const { exp } = Math;

  test('never falls when the mean rises, wherever in its law it was drawn', () => {
    for (const u of [1e-6, 0.02, 0.5, 0.98, 1 - 1e-6]) {
      let before = 0;
      for (const mean of [0, 0.3, 5, 60, 399, 400, 401, 402, 799, 801, 1440, 3600, 4000]) {
        const count = poisson(mean, u, exp);
        expect(count).toBeGreaterThanOrEqual(before);
        before = count;
      }
    }
  });

  test.each([3, 390, 410, 1440, 4000])('of mean %d has that mean, and as much variance', (mean) => {
    const counts = Array.from({ length: 2000 }, (_, i) => poisson(mean, (i + 0.5) / 2000, exp));
    const found = counts.reduce((a, b) => a + b, 0) / counts.length;
    expect(Math.abs(found / mean - 1)).toBeLessThan(0.002);
    expect(Math.abs(counts.reduce((sum, c) => sum + (c - found) ** 2, 0) / counts.length / mean - 1)).toBeLessThan(0.02);
  });
});
