import { useEffect, useRef, useState } from 'react';

interface Mark {
  readonly at: number;
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

/** Seconds left of something that tells its progress (0 to 1); undefined while they cannot be told. */
export function useTimeLeft(progress: number): number | undefined {
  const first = useRef<Mark>(undefined);
  const [left, setLeft] = useState<number>();
  useEffect(() => {
    const now: Mark = { at: performance.now(), progress };
    // What begins anew is counted from there.
    if (!first.current || progress < first.current.progress) first.current = now;
    setLeft(secondsLeft(first.current, now));
  }, [progress]);
  return left;
}
