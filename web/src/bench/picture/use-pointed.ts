import { useEffect, useState, type RefObject } from 'react';

/** So long after the bench was opened, after the pointer has left, and after it has come to rest. */
const OPENED_MS = 5000;
const LEFT_MS = 1000;
const RESTED_MS = 2500;

/** Whether the pointer moves over the picture, or did a moment ago; at first, too. */
export function usePointed(stage: RefObject<HTMLElement | null>): boolean {
  const [pointed, setPointed] = useState(true);
  useEffect(() => {
    const [at, listening] = [stage.current!, new AbortController()];
    let timer: ReturnType<typeof setTimeout> | undefined;
    const goAfter = (ms: number): void => {
      clearTimeout(timer);
      timer = setTimeout(() => setPointed(false), ms);
    };
    const moved = (): void => {
      setPointed(true);
      goAfter(RESTED_MS);
    };
    const { signal } = listening;
    for (const kind of ['pointermove', 'pointerdown']) at.addEventListener(kind, moved, { signal });
    at.addEventListener('pointerleave', () => goAfter(LEFT_MS), { signal });
    goAfter(OPENED_MS);
    return () => {
      clearTimeout(timer);
      listening.abort();
    };
  }, [stage]);
  return pointed;
}
