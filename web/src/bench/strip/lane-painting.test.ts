import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { ListedEvent } from '@tin-ghost/core';
import { paintLane } from './lane-painting';

/** As much of a browser as painting a lane needs; inks go by their names. */
const browser = globalThis as unknown as { getComputedStyle?: unknown };
const before = { getComputedStyle: browser.getComputedStyle };
beforeAll(() => {
  browser.getComputedStyle = () => ({ getPropertyValue: (name: string) => name.replace('--color-', '') });
});
afterAll(() => {
  Object.assign(browser, before);
});

interface Mark {
  readonly kind: 'fill' | 'stroke' | 'head';
  readonly ink: string;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly alpha: number;
}

/** Paints on a lane 500 pixels wide and 17 high, of a stretch that is ten seconds. */
function painted(events: readonly ListedEvent[], selected: string | null = null, changed: readonly string[] = [], [from, to] = [0, 10]): Mark[] {
  const marks: Mark[] = [];
  const g = {
    fillStyle: '',
    strokeStyle: '',
    globalAlpha: 1,
    fillRect: (x: number, y: number, width: number, height: number) => marks.push({ kind: 'fill', ink: g.fillStyle, x, y, width, height, alpha: g.globalAlpha }),
    strokeRect: (x: number, y: number, width: number, height: number) => marks.push({ kind: 'stroke', ink: g.strokeStyle, x, y, width, height, alpha: g.globalAlpha }),
    beginPath: () => undefined,
    arc: (x: number, y: number, r: number) => marks.push({ kind: 'head', ink: g.fillStyle, x, y, width: 2 * r, height: 2 * r, alpha: g.globalAlpha }),
    fill: () => undefined,
  };
  paintLane(g as unknown as CanvasRenderingContext2D, 500, 17, {
    events,
    longest: Math.max(0, ...events.map(({ length }) => length)),
    from,
    to,
    selected,
    changed: (id) => changed.includes(id),
  });
  const [line, ...rest] = marks;
  expect(line).toMatchObject({ kind: 'fill', ink: 'rule', x: 0, width: 500, height: 1 });
  return rest;
}

const event = (id: string, more: Partial<ListedEvent> = {}): ListedEvent =>
  ({ id, at: 2, length: 0, scale: 1, seed: 1, x: 0.5, y: 0.5, pinned: false, life: 0, index: 0, trait: 'dust', ...more }) as ListedEvent;

test('a mark is where and as long as its event', () => {
  const marks = painted([event('a'), event('b', { at: 5, length: 2 })]);
  expect(marks.map(({ x, width }) => [x, width])).toEqual([
    [100, 2],
    [250, 100],
  ]);
  // About the middle of the lane.
  for (const { y, height } of marks) expect(y + height / 2).toBe(9);
});

test('a weak event is lower than a strong one, and none is higher than its lane', () => {
  const marks = painted([event('weak', { scale: 0.3 }), event('usual'), event('strong', { scale: 5 })]);
  const [weak, usual, strong] = marks.map(({ height }) => height);
  expect(weak).toBeLessThan(usual!);
  expect(usual).toBeLessThan(strong!);
  expect(strong).toBeLessThanOrEqual(17 - 4);
});

test('what is muted is hollow, what is pinned has a head, what a hand changed is ink', () => {
  const marks = painted([event('muted', { scale: 0 }), event('pinned', { at: 4, pinned: true }), event('changed', { at: 6 }), event('plain', { at: 8 })], null, ['changed']);
  expect(marks.map(({ kind, ink }) => [kind, ink])).toEqual([
    ['stroke', 'faint'],
    ['fill', 'ink'],
    ['head', 'ink'],
    ['fill', 'ink'],
    ['fill', 'faint'],
  ]);
});

test('the chosen one is oxide, full, and over the others', () => {
  const marks = painted([event('chosen', { length: 1 }), event('other', { length: 1 })], 'chosen');
  expect(marks.map(({ ink, alpha }) => [ink, alpha < 1])).toEqual([
    ['faint', true],
    ['oxide', false],
  ]);
});

test('of a stretch that is seen the events outside it are not drawn, one that reaches into it is', () => {
  const marks = painted([event('before', { at: 1 }), event('into', { at: 3.5, length: 1 }), event('in', { at: 4.5 }), event('after', { at: 9 })], null, [], [4, 5]);
  expect(marks.map(({ x, width }) => [Math.round(x), Math.round(width)])).toEqual([
    [-250, 500],
    [250, 2],
  ]);
});

test('a hundred thousand events of an hour cost no more marks than there are pixels, and none of a kind of its own is left out', () => {
  const many = Array.from({ length: 100_000 }, (_, i) => event(`e${i}`, { at: (i / 100_000) * 3600 }));
  const marks = painted([...many, event('pinned', { at: 1800, pinned: true }), event('muted', { at: 1800, scale: 0 })], 'e50000', [], [0, 3600]);
  expect(marks.length).toBeLessThan(1500);
  // Each half pixel that has events has a mark.
  expect(new Set(marks.map(({ x }) => Math.round(x))).size).toBeGreaterThanOrEqual(499);
  expect(marks.map(({ kind, ink }) => `${kind} ${ink}`)).toEqual(expect.arrayContaining(['head ink', 'stroke faint', 'fill oxide']));
});
