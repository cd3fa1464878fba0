/** A join at which the film lost pictures. */
export interface Join {
  /** The first picture after it. */
  readonly picture: number;
  readonly lost: number;
}

/** Seconds before and after a join in which the film leaves its place and comes back to it: long enough not to be seen, short enough to keep step with the sound. */
const WITHIN = 2;

/** Pictures before and after one that joins must be known of, to tell how far on the film is there. */
export const joinReach = (rate: number): number => 2 * Math.round(WITHIN * rate) + 2;

/**
 * How far on the film is at a picture, as pictures are lost at joins: half of them are yet to come before a join, half have gone by after it, and by then
 * some are held twice, one at a time; so the film keeps its length and its sound, and never runs backwards. Between joins that have fewer pictures
 * between them than are lost, as many are lost as can be.
 * @param joins by picture, one at most at each; those within `joinReach` suffice
 * @param rate pictures a second
 * @returns whole pictures, at most half of `lost` rounded up, either way
 */
export function lostBy(picture: number, joins: readonly Join[], rate: number): number {
  const at = joins.findIndex((join) => join.picture > picture);
  const [last, next] = [joins[(at < 0 ? joins.length : at) - 1], at < 0 ? undefined : joins[at]];
  // Both must have come back to their place before they meet.
  const room = Math.min(WITHIN * rate, last && next ? (next.picture - last.picture - 1) / 2 : Infinity);
  const left = (of: number, away: number): number => (room < 1 ? 0 : Math.round(Math.min(of, Math.floor(room)) * Math.max(0, 1 - away / room)));
  const gone = last ? left(Math.ceil(last.lost / 2), picture - last.picture) : 0;
  const toCome = next ? left(Math.floor(next.lost / 2), next.picture - 1 - picture) : 0;
  return gone - toCome;
}
