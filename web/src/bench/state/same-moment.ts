import type { Preparation } from '@tin-ghost/core';

/**
 * The frame of a shot, prepared in another way, that shows the moment of the footage that a frame of it showed before. Not below the first; how
 * many there are is for the caller to know.
 */
export function sameMoment(before: Preparation, after: Preparation, frame: number): number {
  const moment = (before.trim?.from ?? 0) + frame * (before.speed ?? 1);
  return Math.max(0, Math.round((moment - (after.trim?.from ?? 0)) / (after.speed ?? 1)));
}
