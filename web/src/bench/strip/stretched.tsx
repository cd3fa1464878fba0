import { useEffect, type ReactNode, type Ref, type RefObject } from 'react';
import clsx from 'clsx';
import { scrollStrip, useStripView, zoomStrip } from '../state/strip-view';
import type { Source } from '../../render/protocol';

/** Room for the names of lanes. */
export const STRIP_MARGIN = 92;
/** Where the shot lies on the strip, from the left and from the right, in pixels. */
export const SHOT_SIDES = { left: STRIP_MARGIN + 10, right: 12 } as const;
/** Turns of the wheel, in pixels, for a strip twice as long. */
const TWICE = 240;

interface Props {
  /** Where it lies from top to bottom. */
  className?: string;
  /** What is stretched: the whole shot, of which the room shows a part. */
  inner?: Ref<HTMLDivElement>;
  children: ReactNode;
}

/** Things at shares of the shot, drawn so that the stretch that is seen fills the room. */
export function Stretched({ className = 'inset-y-0', inner, children }: Props) {
  const { zoom, from } = useStripView();
  return (
    <div className={clsx('absolute overflow-clip', className)} style={SHOT_SIDES}>
      <div ref={inner} className="absolute inset-y-0" style={{ left: `${-100 * zoom * from}%`, width: `${100 * zoom}%` }}>
        {children}
      </div>
    </div>
  );
}

/** The wheel on a part of the strip: with Ctrl about the pointer longer and shorter, sideways or with Shift along the shot. */
export function useStripWheel(room: RefObject<HTMLElement | null>, source: Source): void {
  useEffect(() => {
    const at = room.current;
    if (!at) return;
    const wheel = (event: WheelEvent): void => {
      const pixels = event.deltaMode === WheelEvent.DOM_DELTA_LINE ? 33 : 1;
      const box = at.getBoundingClientRect();
      const width = box.width - SHOT_SIDES.left - SHOT_SIDES.right;
      if (event.ctrlKey || event.metaKey) {
        const { zoom, from } = useStripView.getState();
        const across = Math.max(0, Math.min(1, (event.clientX - box.left - SHOT_SIDES.left) / width));
        zoomStrip(source, 2 ** ((-event.deltaY * pixels) / TWICE), from + across / zoom);
      } else {
        const along = event.shiftKey ? event.deltaX || event.deltaY : event.deltaX;
        if (along === 0 || Math.abs(event.deltaY) > Math.abs(along)) return;
        scrollStrip((along * pixels) / width);
      }
      event.preventDefault();
    };
    // React's own listeners may not keep the page from scrolling, or from growing.
    at.addEventListener('wheel', wheel, { passive: false });
    return () => at.removeEventListener('wheel', wheel);
  }, [room, source]);
}
