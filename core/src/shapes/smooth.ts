const { max, min } = Math;

/** From 0 to 1 with no slope at either end; `t` must be within. */
export const smooth = (t: number): number => t * t * (3 - 2 * t);

/** As `smooth`, held to 0 below and to 1 above. */
export const smoothHeld = (t: number): number => smooth(max(0, min(1, t)));
