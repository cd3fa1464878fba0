import { expect, test } from '@jest/globals';
import { traits, type NumberSetting, type Setting } from '@tin-ghost/core';
import { movedByKey, positionOf, settle, valueAt } from './scale';

const numbers = traits.flatMap((t) => Object.values(t.settings as Record<string, Setting>)).filter((s): s is NumberSetting => s.kind === 'number');

test('a slider leads to a value and back, from end to end, for every setting there is', () => {
  for (const s of numbers) {
    for (let p = 0; p <= 1; p += 0.05) expect(positionOf(s, valueAt(s, p))).toBeCloseTo(p, 6);
    expect(valueAt(s, 0)).toBeCloseTo(s.min, 9);
    expect(valueAt(s, 1)).toBeCloseTo(s.max, 9);
  }
});

test('values settle on the step and stay in range', () => {
  const s = numbers.find((n) => n.min < 0 && n.unit === 'percentOfWidth')!;
  expect(settle(s, 0.1234)).toBe(0.12);
  expect(settle(s, 0.1234, 10)).toBe(0.123);
  expect(settle(s, 99)).toBe(s.max);
  expect(settle(s, -99)).toBe(s.min);
});

test('every key on a slider moves the value, as far as there is room, and leads from one end to the other', () => {
  for (const s of numbers) {
    const at = (v: number): number => settle(s, v);
    for (const value of [s.min, s.default, s.max, 0, s.step, -s.step].map(at))
      for (const by of [0.001, 0.01]) {
        const [up, down] = [movedByKey(s, value, by), movedByKey(s, value, -by)];
        expect([s.name, value, up > value || value === at(s.max), down < value || value === at(s.min)]).toEqual([s.name, value, true, true]);
      }
    let value = at(s.min);
    for (let i = 0; i < 150 && value < at(s.max); i++) value = movedByKey(s, value, 0.01);
    expect([s.name, value]).toEqual([s.name, at(s.max)]);
  }
});
