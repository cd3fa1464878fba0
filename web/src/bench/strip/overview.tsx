import { useRef, type KeyboardEvent, type PointerEvent } from 'react';
import { useDrag } from '../../parts/use-drag';
import type { Source } from '../../render/protocol';
import { scrollStrip, showStrip, useStripView, wholeStrip } from '../state/strip-view';
import { BarHandle } from './bar-handle';
import { SHOT_SIDES } from './stretched';
import { texts } from '../../messages/strip';

/** All of the shot, and the stretch of it that is seen: moved along it, longer and shorter by its ends, all of it by a double click. */
export function Overview({ source, className }: { source: Source; className: string }) {
  const { zoom, from } = useStripView();
  const bar = useRef<HTMLDivElement>(null);
  const to = from + 1 / zoom;
  const drag = useDrag({
    start: ({ target, clientX }) => {
      const box = bar.current!.getBoundingClientRect();
      const part = (target as HTMLElement).dataset.part ?? 'all';
      const at = (clientX - box.left) / box.width;
      if (at >= from && at <= to) return { part, from, to };
      // Beside what is seen: go there.
      const begins = Math.max(0, Math.min(1 - 1 / zoom, at - 0.5 / zoom));
      showStrip(source.frames, begins, begins + 1 / zoom);
      return { part: 'all', from: begins, to: begins + 1 / zoom };
    },
    move: (_, held, { dx }) => {
      const by = dx / bar.current!.getBoundingClientRect().width;
      if (held.part === 'all') {
        const begins = Math.max(0, Math.min(1 - (held.to - held.from), held.from + by));
        showStrip(source.frames, begins, begins + held.to - held.from);
      } else if (held.part === 'from') showStrip(source.frames, Math.max(0, Math.min(held.to - 1e-4, held.from + by)), held.to);
      else showStrip(source.frames, held.from, Math.min(1, Math.max(held.from + 1e-4, held.to + by)));
    },
  });
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = { ArrowLeft: -0.25, ArrowRight: 0.25, PageUp: -1, PageDown: 1, Home: -Infinity, End: Infinity }[event.key];
    if (by === undefined || event.ctrlKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    scrollStrip(Math.sign(by) * Math.min(1e9, Math.abs(by)));
  };
  return (
    <div className={`absolute ${className}`} style={SHOT_SIDES}>
      <div
        ref={bar}
        tabIndex={0}
        role="scrollbar"
        aria-orientation="horizontal"
        aria-label={texts.partOfShotOnStrip}
        aria-controls="strip"
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={Math.round(from * 100)}
        aria-valuetext={zoom === 1 ? texts.allOfShot : texts.percentFromTo((from * 100).toFixed(1), (to * 100).toFixed(1))}
        title={texts.partOfShotOnStripDrag}
        onKeyDown={onKeyDown}
        onDoubleClick={wholeStrip}
        className="absolute inset-0 touch-none bg-tin"
        {...drag}
        onPointerDown={(event: PointerEvent<Element>) => {
          event.stopPropagation();
          drag.onPointerDown(event);
        }}
      >
        <div className="@container absolute inset-y-0 min-w-[10px] cursor-grab bg-rule" style={{ left: `${from * 100}%`, width: `${(to - from) * 100}%` }}>
          <BarHandle part="from" left="3px" cursor="cursor-w-resize" />
          <BarHandle part="to" left="calc(100% - 3px)" cursor="cursor-e-resize" />
        </div>
      </div>
    </div>
  );
}
