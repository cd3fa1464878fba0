import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { EMPTY_LOOK, type Look } from '@tin-ghost/core';
import type { Shot } from '@tin-ghost/contract';

// The bench keeps its drafts in the browser's store; here nowhere.
globalThis.localStorage = { getItem: () => null, setItem: () => undefined, removeItem: () => undefined } as unknown as Storage;
globalThis.fetch = async () => new Response('{"revision":1}');
const { changeLook, openShot } = await import('./document');
const { LATER_MS, lookLater } = await import('./look-later');

const look = (amount: number, ...more: string[]): Look => ({
  ...EMPTY_LOOK,
  lives: [{ carrier: 'super8', traits: [{ trait: 'saturation', settings: { amount } }, ...more.map((trait) => ({ trait }))] }],
});
const shot = (id: string, amount: number): Shot => ({ id, reelId: 'r', look: look(amount), preparation: {}, revision: 1, touchedAt: '2026-01-01T00:00:00Z' }) as Shot;
const shown = (): Look => lookLater.getState().look;

beforeEach(() => {
  jest.useFakeTimers();
  openShot(shot('one', 50));
});
afterEach(() => {
  jest.useRealTimers();
});

test('a changed value is shown a moment later, the last of several, and no later for those that came after it', () => {
  changeLook(look(60));
  jest.advanceTimersByTime(LATER_MS - 10);
  changeLook(look(70));
  expect(shown()).toEqual(look(50));
  jest.advanceTimersByTime(10);
  expect(shown()).toEqual(look(70));
  changeLook(look(80));
  expect(shown()).toEqual(look(70));
  jest.advanceTimersByTime(LATER_MS);
  expect(shown()).toEqual(look(80));
});

test('another trait is shown at once, with the values that waited', () => {
  changeLook(look(60));
  changeLook(look(60, 'grain'));
  expect(shown()).toEqual(look(60, 'grain'));
  changeLook(look(60));
  expect(shown()).toEqual(look(60));
});

test('what a control was told is shown at once: a name, and that a trait is off', () => {
  const named: Look = { ...look(60), name: 'Tram' };
  changeLook(named);
  expect(shown()).toEqual(named);
  const off: Look = { ...named, lives: named.lives.map((life) => ({ ...life, traits: life.traits.map((use) => ({ ...use, on: false })) })) };
  changeLook(off);
  expect(shown()).toEqual(off);
});

test('another shot is shown at once, also one of the same traits', () => {
  changeLook(look(60));
  openShot(shot('two', 20));
  expect(shown()).toEqual(look(20));
  jest.advanceTimersByTime(LATER_MS);
  expect(shown()).toEqual(look(20));
});
