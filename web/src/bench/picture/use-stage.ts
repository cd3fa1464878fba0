import { useEffect, useState, type RefObject } from 'react';
import { useDrag } from '../../parts/use-drag';

const MARGIN = { width: 24, height: 20 };
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

/** Dragging moves the picture at 1:1. */
export function usePan(on: boolean) {
  const [at, setAt] = useState({ x: 0, y: 0 });
  const drag = useDrag({
    start: ({ target }) => ((target as HTMLElement).closest('button, [data-handle]') ? undefined : at),
    move: (_, from, { dx, dy }) => setAt({ x: from.x + dx, y: from.y + dy }),
  });
  return { ...(on ? at : { x: 0, y: 0 }), handlers: on ? drag : {} };
}
