import { expect, test } from '@jest/globals';
import { traits, type NumberSetting, type Setting } from '@tin-ghost/core';
import { positionOf, settle, valueAt } from './scale';

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
