/** How far something had come at a moment. */
export interface Mark {
  /** In milliseconds. */
  readonly at: number;
  /** 0 to 1. */
  readonly progress: number;
}

/** It is told once so much has been done since it was first seen, in so long at least. */
const TOLD_FROM = { share: 0.03, seconds: 1 };

/** Seconds that are left, by how much was done since; undefined while it cannot be told. @param first when it was first seen */
export function secondsLeft(first: Mark, now: Mark): number | undefined {
  const [share, seconds] = [now.progress - first.progress, (now.at - first.at) / 1000];
  if (share < TOLD_FROM.share || seconds < TOLD_FROM.seconds) return undefined;
  return ((1 - now.progress) * seconds) / share;
}
