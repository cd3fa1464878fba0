import { expect, test } from '@jest/globals';
import { groupImages, sequenceName } from './sequences';

const grouped = (...names: string[]): string[][] => groupImages(names.map((name) => ({ name }))).map((group) => group.map(({ name }) => name));

test('images that differ by their number alone are one sequence, all else is by itself', () => {
  expect(grouped('a-001.png', 'a-002.png', 'b1.png', 'clip1.mov', 'clip2.mov', 'a-10.PNG', 'paper.jpg')).toEqual([
    ['a-001.png', 'a-002.png', 'a-10.PNG'],
    ['b1.png'],
    ['clip1.mov'],
    ['clip2.mov'],
    ['paper.jpg'],
  ]);
  expect(grouped('paper.jpg', 'paper.jpg')).toEqual([['paper.jpg'], ['paper.jpg']]);
  // The number that counts is the last one.
  expect(grouped('roll2_0001.tif', 'roll3_0001.tif')).toHaveLength(2);
});

test('a sequence is called what its images have in common', () => {
  expect(sequenceName('dust_0001.png')).toBe('dust');
  expect(sequenceName('0001.png')).toBe('0001.png');
});
