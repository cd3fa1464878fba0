import { expect, test } from '@jest/globals';
import { joined, unjoined } from './joining';

const points = (text: string): string[] => [...text].map((c) => c.codePointAt(0)!.toString(16));

test('letters take the form their neighbours ask for (Unicode, chapter 9.2: joining types)', () => {
  // Seen, lam, alef with hamza, meem alone: the ligature joins what comes before it, and nothing after it.
  expect(points(joined('سلام'))).toEqual(['feb3', 'fefc', 'fee1']);
  // Beh at each place; reh joins the one before it alone.
  expect(points(joined('ببب'))).toEqual(['fe91', 'fe92', 'fe90']);
  expect(points(joined('برب'))).toEqual(['fe91', 'feae', 'fe8f']);
  expect(points(joined('ب'))).toEqual(['fe8f']);
  expect(points(joined('لا'))).toEqual(['fefb']);
});

test('marks do not part letters, spaces and Latin do', () => {
  expect(points(joined('بَب'))).toEqual(['fe91', '64e', 'fe90']);
  expect(points(joined('ب ب'))).toEqual(['fe8f', '20', 'fe8f']);
  expect(points(joined('بAب'))).toEqual(['fe8f', '41', 'fe8f']);
  expect(points(joined('بـب'))).toEqual(['fe91', '640', 'fe90']);
  expect(joined('The last tram 😀')).toBe('The last tram 😀');
});

test('a font that has no joined letters is asked for plain ones', () => {
  expect(unjoined(0xfefc)).toEqual([0x644, 0x627]);
  expect(unjoined(0x41)).toEqual([0x41]);
});
