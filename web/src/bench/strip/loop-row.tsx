import { useRef, type PointerEvent } from 'react';
import { useDrag } from '../../parts/use-drag';
import type { Source } from '../../render/protocol';
import { goTo, setLoop, usePlayback } from '../state/playback';
import { runsOf, snapped } from './strip-places';
import { Stretched } from './stretched';
import { texts } from '../../messages/strip';

/** How near a hand must come to an end of the loop to take hold of it, in pixels. */
const REACH = 6;

/** What is ready to play, and the range that is looped: drawn with the pointer, moved by its ends, gone by a double click. */
export function LoopRow({ source, className }: { source: Source; className: string }) {
  const ready = usePlayback((s) => s.ready);
  const loop = usePlayback((s) => s.loop);
  const row = useRef<HTMLDivElement>(null);
  const { frames } = source;
  const at = (n: number): string => `${(n / frames) * 100}%`;
  const place = (clientX: number): { frame: number; perPixel: number } => {
    const box = row.current!.getBoundingClientRect();
    return { frame: Math.max(0, Math.min(frames, ((clientX - box.left) / box.width) * frames)), perPixel: frames / box.width };
  };
  const drag = useDrag({
    slack: 3,
    start: ({ clientX }) => {
      const { frame, perPixel } = place(clientX);
      const { frame: playhead } = usePlayback.getState();
      const near = (end: number): boolean => Math.abs(end - frame) < REACH * perPixel;
      // Of a loop whose end is taken hold of the other one stays.
      const fixed = loop && near(loop.from) ? loop.to : loop && near(loop.to) ? loop.from : frame;
      return { fixed, marks: [0, playhead, frames] };
    },
    move: ({ clientX }, { fixed, marks }) => {
      const { frame, perPixel } = place(clientX);
      const ends = [fixed, frame].map((end) => Math.round(snapped(end, marks, perPixel))).sort((a, b) => a - b) as [number, number];
      setLoop({ from: ends[0], to: Math.max(ends[0] + 1, ends[1]) });
    },
  });
  return (
    <Stretched className={className} inner={row}>
      <div
        className="absolute inset-0 cursor-crosshair touch-none"
        title={texts.dragToLoopRangeDouble}
        data-loop-row
        {...drag}
        onPointerDown={(event: PointerEvent<Element>) => {
          event.stopPropagation();
          drag.onPointerDown(event);
        }}
        onClick={({ clientX }) => loop === null && goTo(source, Math.floor(place(clientX).frame))}
        onDoubleClick={() => setLoop(null)}
      >
        <div className="absolute inset-x-0 top-1 h-[3px] bg-tin">
          {runsOf(ready).map((run) => (
            <span key={run.from} className="absolute inset-y-0 bg-moss" style={{ left: at(run.from), width: at(run.to - run.from) }} />
          ))}
        </div>
        {loop && <div data-loop className="absolute inset-y-0 border-x-2 border-oxide bg-oxide/20" style={{ left: at(loop.from), width: at(loop.to - loop.from) }} />}
      </div>
    </Stretched>
  );
}
