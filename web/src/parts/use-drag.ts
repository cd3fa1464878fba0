import { useRef, type PointerEvent } from 'react';

/** How far a hand has come since it took hold, in pixels. */
export interface Way {
  readonly dx: number;
  readonly dy: number;
}

interface Drag<T> {
  /** Takes hold of what lies under the pointer; undefined where nothing can be held there. */
  start: (event: PointerEvent<Element>) => T | undefined;
  move: (event: PointerEvent<Element>, held: T, way: Way) => void;
  /** The hand lets go, or the browser takes the pointer away. */
  end?: (held: T) => void;
  /** So far a press may wander, in pixels, before it is a drag. */
  slack?: number;
  /** Told around the drag, so that it counts as one change. */
  onGesture?: (phase: 'begin' | 'end') => void;
}

/** Handlers of an element that something is dragged on with the first button; the pointer is its own until it is let go. */
export function useDrag<T>({ start, move, end, slack = 0, onGesture }: Drag<T>) {
  const drag = useRef<{ held: T; x: number; y: number; moved: boolean } | null>(null);
  const release = (): void => {
    const last = drag.current;
    if (!last) return;
    drag.current = null;
    end?.(last.held);
    if (last.moved) onGesture?.('end');
  };
  return {
    onPointerDown: (event: PointerEvent<Element>): void => {
      if (event.button !== 0) return;
      // What taking hold changes belongs to the gesture.
      if (slack === 0) onGesture?.('begin');
      const held = start(event);
      if (held === undefined) {
        if (slack === 0) onGesture?.('end');
        return;
      }
      event.currentTarget.setPointerCapture(event.pointerId);
      drag.current = { held, x: event.clientX, y: event.clientY, moved: slack === 0 };
    },
    onPointerMove: (event: PointerEvent<Element>): void => {
      const now = drag.current;
      if (!now) return;
      const way = { dx: event.clientX - now.x, dy: event.clientY - now.y };
      if (!now.moved && Math.hypot(way.dx, way.dy) < slack) return;
      if (!now.moved) onGesture?.('begin');
      now.moved = true;
      move(event, now.held, way);
    },
    onPointerUp: release,
    onPointerCancel: release,
    onLostPointerCapture: release,
  };
}
