import { expect, test } from '@jest/globals';
import { sharesOf } from './costs';

test('steps of a trait are summed over its sizes, others belong to none, the dearest comes first', () => {
  const spent = new Map([
    ['linear to density 960x540', 20],
    ['grain 960x540', 10],
    ['halation 960x540', 15],
    ['halation 480x270', 15],
    ['resize and write 960x540', 40],
  ]);
  expect(sharesOf(spent, 100)).toEqual([
    { trait: 'halation', share: 0.3 },
    { trait: 'grain', share: 0.1 },
  ]);
  expect(sharesOf(new Map([['write 96x54', 3]]), 3)).toEqual([]);
});
