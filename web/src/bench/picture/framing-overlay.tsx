import type { KeyboardEvent, WheelEvent } from 'react';
import { framingAt, heldFraming, partSize, turnedSize, type Framing } from '@tin-ghost/core';
import type { Medium } from '@tin-ghost/contract';
import { useDrag } from '../../parts/use-drag';
import type { Source } from '../../render/protocol';
import { changeFraming } from '../state/framing';
import { useGuides } from '../state/guides';
import { onGesture, useDocument } from '../state/document';
import { usePlayback } from '../state/playback';
import { texts } from '../../messages/picture';

/** Title-safe area: 90 % of each side (SMPTE ST 2046-1). */
const SAFE = 0.05;
const LINE = 'absolute bg-[#f4f5f4] opacity-80 outline-1 outline-[#1b1e1f]/40';

/** Over the picture: it is dragged and scaled under its mask, with guides. */
export function FramingOverlay({ medium, source }: { medium: Medium; source: Source }) {
  const preparation = useDocument((s) => s.preparation);
  const frame = usePlayback((s) => s.frame);
  const guides = useGuides();
  const footage = turnedSize(medium.footage!, preparation);
  const shape = source.width / source.height;
  const seconds = frame / source.rate;
  const wanted = framingAt(preparation, seconds);
  const framing = preparation.beyond ? wanted : heldFraming(footage, shape, wanted);
  const part = partSize(footage, shape, framing.scale);

  const set = (next: Framing): void => changeFraming(preparation.beyond ? next : heldFraming(footage, shape, next), seconds);
  const drag = useDrag({
    start: ({ target }) => ({ from: framing, scaling: (target as HTMLElement).dataset.corner !== undefined }),
    move: (event, { from, scaling }, way) => {
      const box = event.currentTarget.getBoundingClientRect();
      if (scaling) {
        // A corner drawn away from the middle shows less of the footage, larger.
        const [x, y] = [event.clientX - box.left - box.width / 2, event.clientY - box.top - box.height / 2];
        const before = Math.hypot(x - way.dx, y - way.dy);
        return set({ ...from, scale: Math.max(0.1, Math.min(20, from.scale * (Math.max(8, Math.hypot(x, y)) / before))) });
      }
      const turn = (from.turn * Math.PI) / 180;
      const [u, v] = [((preparation.mirror ? -way.dx : way.dx) / box.width) * part.width, (way.dy / box.height) * part.height];
      const [x, y] = [Math.cos(turn) * u + Math.sin(turn) * v, -Math.sin(turn) * u + Math.cos(turn) * v];
      set({ ...from, x: from.x - x / footage.width, y: from.y - y / footage.height });
    },
    onGesture,
  });
  const onWheel = (event: WheelEvent): void => set({ ...framing, scale: Math.max(0.1, Math.min(20, framing.scale * Math.exp(-event.deltaY / 800))) });
  const onKeyDown = (event: KeyboardEvent): void => {
    const way = { ArrowLeft: [1, 0], ArrowRight: [-1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[event.key];
    if (way) set({ ...framing, x: framing.x + (way[0]! * part.width) / footage.width / 100, y: framing.y + (way[1]! * part.height) / footage.height / 100 });
    else if (event.key === '+' || event.key === '-') set({ ...framing, scale: framing.scale * (event.key === '+' ? 1.02 : 1 / 1.02) });
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  return (
    <div
      className="absolute inset-0 cursor-move touch-none outline-2 outline-oxide"
      role="application"
      tabIndex={0}
      aria-label={texts.framingDragPictureCorners}
      data-framing={`${framing.x.toFixed(4)} ${framing.y.toFixed(4)} ${framing.scale.toFixed(4)}`}
      {...drag}
      onWheel={onWheel}
      onKeyDown={onKeyDown}
    >
      {guides.thirds &&
        [1 / 3, 2 / 3].flatMap((t) => [
          <span key={`v${t}`} className={`${LINE} inset-y-0 w-px`} style={{ left: `${t * 100}%` }} />,
          <span key={`h${t}`} className={`${LINE} inset-x-0 h-px`} style={{ top: `${t * 100}%` }} />,
        ])}
      {guides.centre && (
        <>
          <span className={`${LINE} top-[calc(50%-14px)] left-1/2 h-7 w-px`} />
          <span className={`${LINE} top-1/2 left-[calc(50%-14px)] h-px w-7`} />
        </>
      )}
      {guides.horizon && <span className={`${LINE} inset-x-0 top-1/2 h-px`} />}
      {guides.safe && <span className="absolute border border-[#f4f5f4] opacity-80" style={{ inset: `${SAFE * 100}%` }} />}
      {['top-0 left-0', 'top-0 right-0', 'bottom-0 left-0', 'right-0 bottom-0'].map((corner) => (
        <span key={corner} data-corner className={`absolute h-4 w-4 cursor-nwse-resize border-2 border-[#f4f5f4] bg-oxide ${corner}`} />
      ))}
    </div>
  );
}
