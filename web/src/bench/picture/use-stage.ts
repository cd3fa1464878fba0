import { useEffect, useState, type RefObject } from 'react';
import { useDrag } from '../../parts/use-drag';
import { panTo, useSession, zoomBy } from '../state/session';

const MARGIN = { width: 24, height: 20 };
/** Pixels of scrolling that are a step of size. */
const NOTCH = 80;
/** Room between pictures that stand side by side. */
const BETWEEN = 12;

/** The largest size of a shape that fits a stage, or one of several side by side on it. */
export function useFit(stage: RefObject<HTMLDivElement | null>, shape: number, beside = 1): { width: number; height: number } | undefined {
  const [room, setRoom] = useState<{ width: number; height: number }>();
  useEffect(() => {
    const observer = new ResizeObserver(([entry]) => setRoom({ width: entry!.contentRect.width - MARGIN.width, height: entry!.contentRect.height - MARGIN.height }));
    observer.observe(stage.current!);
    return () => observer.disconnect();
  }, [stage]);
  if (!room) return undefined;
  const width = Math.max(16, Math.min((room.width - (beside - 1) * BETWEEN) / beside, room.height * shape));
  return { width: Math.round(width), height: Math.round(width / shape) };
}

/**
 * Dragging moves the picture where it is not fitted; the wheel makes it larger and smaller about the pointer.
 * @param fitted how large the fitted picture is, of its size at 1:1
 */
export function usePan(stage: RefObject<HTMLDivElement | null>, on: boolean, fitted: number | undefined) {
  const pan = useSession((s) => s.pan);
  const drag = useDrag({
    start: ({ target }) => ((target as HTMLElement).closest('button, [data-handle]') ? undefined : pan),
    move: (_, from, { dx, dy }) => panTo({ x: from.x + dx, y: from.y + dy }),
  });
  useEffect(() => {
    const at = stage.current!;
    let turned = 0;
    const wheel = (event: WheelEvent): void => {
      if (useSession.getState().framing) return;
      event.preventDefault();
      // A wheel turns in notches, a pad in many small moves.
      turned += event.deltaMode === WheelEvent.DOM_DELTA_LINE ? event.deltaY * 33 : event.deltaY;
      if (Math.abs(turned) < NOTCH) return;
      const box = at.getBoundingClientRect();
      zoomBy(turned < 0 ? 1 : -1, { x: event.clientX - box.left - box.width / 2, y: event.clientY - box.top - box.height / 2 }, fitted);
      turned = 0;
    };
    // React's own listeners may not keep the page from scrolling.
    at.addEventListener('wheel', wheel, { passive: false });
    return () => at.removeEventListener('wheel', wheel);
  }, [stage, fitted]);
  return { ...(on ? pan : { x: 0, y: 0 }), handlers: on ? drag : {} };
}
