import { expect, test } from '@jest/globals';
import { evaluate } from './arithmetic';

test.each([
  ['1.5', 1.5],
  ['-0.12', -0.12],
  ['1,5', 1.5],
  ['2+3*4', 14],
  ['(2+3)*4', 20],
  ['10/4-1', 1.5],
  ['-(2-5)', 3],
  ['1e2', 100],
])('%s is %d', (text, value) => {
  expect(evaluate(text)).toBeCloseTo(value, 12);
});

test.each(['', 'abc', '1+', '(1', '1/0', '2 3', 'alert(1)'])('%j is no sum', (text) => {
  expect(evaluate(text)).toBeUndefined();
});
