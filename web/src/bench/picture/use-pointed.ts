import { useEffect, useState, type RefObject } from 'react';

/** So long after the bench was opened, after the pointer has left, and after it has come to rest where the picture plays. */
const OPENED_MS = 5000;
const LEFT_MS = 1000;
const RESTED_MS = 2500;

/**
 * Whether the pointer is at the picture; for a while after it was, too, and at first.
 * @param playing then a pointer that rests is as good as one that has left
 */
export function usePointed(stage: RefObject<HTMLElement | null>, playing: boolean): boolean {
  const [pointed, setPointed] = useState(true);
  useEffect(() => {
    const at = stage.current!;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const leaveAfter = (ms: number): void => {
      clearTimeout(timer);
      timer = setTimeout(() => setPointed(false), ms);
    };
    const moved = (): void => {
      setPointed(true);
      clearTimeout(timer);
      if (playing) leaveAfter(RESTED_MS);
    };
    const left = (): void => leaveAfter(LEFT_MS);
    if (playing || !at.matches(':hover')) leaveAfter(playing ? RESTED_MS : OPENED_MS);
    at.addEventListener('pointermove', moved);
    at.addEventListener('pointerdown', moved);
    at.addEventListener('pointerleave', left);
    return () => {
      clearTimeout(timer);
      at.removeEventListener('pointermove', moved);
      at.removeEventListener('pointerdown', moved);
      at.removeEventListener('pointerleave', left);
    };
  }, [stage, playing]);
  return pointed;
}
