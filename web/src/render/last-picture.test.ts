import { expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import { LastPicture, type PictureAsked } from './last-picture';
import type { Source, Worn } from './protocol';

const source = { mediaId: 'tram', frames: 10, rate: 25 } as Source;
const asked: PictureAsked = { source, n: 3, width: 320, height: 180, options: {} };

/** Notes what is made; each picture is as wide as so many were made before it. */
function noting(): { made: PictureAsked[]; last: LastPicture } {
  const made: PictureAsked[] = [];
  return { made, last: new LastPicture((of) => Promise.resolve({ width: made.push(of) - 1 } as Worn)) };
}

test('the same is made once, whatever else was asked of the picture beside it', async () => {
  const { made, last } = noting();
  const first = await last.wear({ ...asked, options: { scope: true, editing: { life: 0, index: 1 } } }, EMPTY_LOOK);
  expect(await last.wear(asked, EMPTY_LOOK)).toBe(first);
  expect(made.map(({ options }) => options)).toEqual([{ original: false }]);
});

test.each([
  ['another moment', { ...asked, n: 4 }, EMPTY_LOOK],
  ['other footage', { ...asked, source: { ...source } }, EMPTY_LOOK],
  ['another size', { ...asked, height: 181 }, EMPTY_LOOK],
  ['the original', { ...asked, options: { original: true } }, EMPTY_LOOK],
  ['another look', asked, { ...EMPTY_LOOK }],
])('%s is another picture', async (_, other, look) => {
  const { made, last } = noting();
  const first = await last.wear(asked, EMPTY_LOOK);
  expect(await last.wear(other, look)).not.toBe(first);
  expect(made).toHaveLength(2);
});

test('one that could not be made is tried again', async () => {
  let tries = 0;
  const last = new LastPicture(() => (tries++ ? Promise.resolve({ width: 1 } as Worn) : Promise.reject(new Error('the worker ended'))));
  await expect(last.wear(asked, EMPTY_LOOK)).rejects.toThrow('the worker ended');
  expect(await last.wear(asked, EMPTY_LOOK)).toEqual({ width: 1 });
});
