import { useRef, useState, type MouseEvent, type PointerEvent, type RefObject } from 'react';
import type { Look } from '@tin-ghost/core';
import { preview } from '../../render/preview';
import type { Source } from '../../render/protocol';
import { useLatest } from '../../render/latest';
import { useDocument } from '../state/document';
import { usePlayback } from '../state/playback';
import { selectEvent } from '../state/session';

/** So far a press may wander, in pixels, and still be a click. */
const SLACK = 4;

interface Asked {
  readonly source: Source;
  readonly n: number;
  readonly look: Look;
  readonly at: { readonly x: number; readonly y: number };
}

/**
 * A click on the picture chooses what happens there: its card opens at that event.
 * @returns handlers of the stage, which has the pointer where the picture is panned, and whether one is being looked for
 */
export function useEventUnder(picture: RefObject<HTMLElement | null>, source: Source, on: boolean): { handlers: object; looking: boolean } {
  const pressed = useRef<{ x: number; y: number } | null>(null);
  const [looking, setLooking] = useState(false);
  const find = useLatest(async ({ source: of, n, look, at }: Asked) => {
    setLooking(true);
    const found = await preview()
      .under(of, n, look, of, at)
      // What cannot be rendered is told by the picture.
      .catch(() => null);
    setLooking(false);
    // Another look or moment has come meanwhile.
    if (!found || useDocument.getState().look !== look || usePlayback.getState().frame !== n) return;
    selectEvent({ life: found.life, index: found.index }, found.id);
  });
  const handlers = {
    onPointerDownCapture: (event: PointerEvent): void => void (pressed.current = event.button === 0 ? { x: event.clientX, y: event.clientY } : null),
    onClick: (event: MouseEvent): void => {
      const from = pressed.current;
      if (!on || !from || Math.hypot(event.clientX - from.x, event.clientY - from.y) > SLACK || (event.target as Element).closest('button, input, [data-handle]')) return;
      const box = picture.current!.getBoundingClientRect();
      const at = { x: (event.clientX - box.left) / box.width, y: (event.clientY - box.top) / box.height };
      const { frame, playing } = usePlayback.getState();
      if (playing || at.x < 0 || at.x > 1 || at.y < 0 || at.y > 1) return;
      find({ source, n: frame, look: useDocument.getState().look, at });
    },
  };
  return { handlers, looking };
}
