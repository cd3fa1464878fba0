import type { RawFrame } from '../frame/encoding';
import { pictureBetween } from '../shot/between';
import { ledBetweenParts, type Preparation } from '../shot/preparation';
import type { Need } from './score';

/** Gives pictures of the footage by their numbers. */
export type FootagePictures = (picture: number) => RawFrame | Promise<RawFrame>;

/**
 * The pictures of a prepared shot that are needed, each made from those of the footage that share in it: what every host does between asking a score and rendering.
 * Rejects as `footage` does.
 * @returns by their numbers, in the order of `needs`
 */
export async function shotPictures(needs: readonly Need[], preparation: Preparation, footage: FootagePictures): Promise<Map<number, RawFrame>> {
  const led = ledBetweenParts(preparation);
  const made = needs.map(async ({ picture, parts }): Promise<[number, RawFrame]> => {
    const frames = await Promise.all(parts.map(async (part) => footage(part.picture)));
    return [picture, pictureBetween(frames, parts, led)];
  });
  return new Map(await Promise.all(made));
}
