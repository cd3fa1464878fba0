import { useEffect, useMemo, useRef, type KeyboardEvent, type PointerEvent, type ReactNode, type RefObject } from 'react';
import useSWR from 'swr';
import type { Medium } from '@tin-ghost/contract';
import { api } from '../../api/client';
import { useLights } from '../../parts/top-bar';
import type { Source } from '../../render/protocol';
import { goTo, stepFrame, usePlayback } from '../state/playback';
import { runsOf, takenPart } from './strip-places';
import { useDrag } from '../../parts/use-drag';

/** Room for the names of lanes. */
export const STRIP_MARGIN = 92;

/** Time under the chain: seconds, what is ready to play, the footage, the shape of its sound. Drag to move through it. */
export function Strip({ medium, source }: { medium: Medium; source: Source }) {
  const ready = usePlayback((s) => s.ready);
  const loop = usePlayback((s) => s.loop);
  const { data: peaks } = useSWR(medium.hasSound ? `/media/${medium.id}/peaks` : null, (path: string) => api<number[]>(path));
  const lane = useRef<HTMLDivElement>(null);
  const seconds = source.frames / source.rate;
  const at = (n: number): string => `${(n / source.frames) * 100}%`;

  const scrub = (event: PointerEvent): void => {
    const box = lane.current!.getBoundingClientRect();
    goTo(source, Math.floor(((event.clientX - box.left) / box.width) * source.frames));
  };
  const drag = useDrag({
    start: (event) => {
      scrub(event);
      return true;
    },
    move: scrub,
  });
  const marks = useMemo(() => {
    const every = [1, 2, 5, 10, 30, 60, 300].find((s) => seconds / s <= 14) ?? 600;
    return Array.from({ length: Math.floor(seconds / every) + 1 }, (_, i) => i * every).filter((s) => s < seconds * 0.97);
  }, [seconds]);
  const wave = useMemo(() => peaks && `M${peaks.map((p, i) => `${i} ${20 - p * 19}V${20 + p * 19}`).join('M')}`, [peaks]);

  const taken = useMemo(() => takenPart(medium.footage!.frames, source), [medium, source]);

  return (
    <section aria-label="Strip" className="relative h-[118px] shrink-0 touch-none overflow-hidden" {...drag}>
      <div className="absolute inset-y-0 left-0 border-r border-rule px-2 text-[13px] text-faint" style={{ width: STRIP_MARGIN }}>
        <div className="mt-[30px] flex h-9 items-center">Footage</div>
        {peaks && <div className="flex h-10 items-center">Sound</div>}
      </div>
      <Moment lane={lane} source={source}>
        {marks.map((s) => (
          <span key={s} className="mono absolute top-1 border-l border-ink pl-1 text-[11px] whitespace-nowrap leading-3 text-faint" style={{ left: `${(s / seconds) * 100}%` }}>
            {s} s
          </span>
        ))}
        <div className="absolute inset-x-0 top-[21px] h-[3px] bg-tin">
          {runsOf(ready).map((run) => (
            <span key={run.from} className="absolute inset-y-0 bg-moss" style={{ left: at(run.from), width: at(run.to - run.from) }} />
          ))}
        </div>
        {loop && <div className="absolute top-[18px] h-[9px] border-x-2 border-oxide" style={{ left: at(loop.from), width: at(loop.to - loop.from) }} />}
        <div className="absolute inset-x-0 top-[30px] h-20 overflow-hidden">
          <div className="absolute inset-y-0" style={taken}>
            <img src={`/api/media/${medium.id}/strip`} alt="" draggable={false} className="absolute inset-x-0 top-0 h-9 w-full object-fill" />
            {wave && (
              <svg className="absolute inset-x-0 top-10 h-10 w-full" viewBox={`0 0 ${peaks!.length} 40`} preserveAspectRatio="none" aria-hidden>
                <path d={wave} stroke="var(--color-faint)" strokeWidth="1" vectorEffect="non-scaling-stroke" fill="none" />
              </svg>
            )}
          </div>
        </div>
      </Moment>
      <Line frames={source.frames} />
    </section>
  );
}

/** The line at the picture that is seen. Drawn: an element that moved would have the browser go through all layers of the page with every picture. */
function Line({ frames }: { frames: number }) {
  const ref = useRef<HTMLCanvasElement>(null);
  const lit = useLights((s) => s.down);
  useEffect(() => {
    const canvas = ref.current!;
    const draw = (): void => {
      const g = canvas.getContext('2d')!;
      g.clearRect(0, 0, canvas.width, 1);
      g.fillRect(Math.floor(((usePlayback.getState().frame + 0.5) / frames) * canvas.width), 0, 1, 1);
    };
    const observer = new ResizeObserver(() => {
      canvas.width = Math.round(canvas.clientWidth * devicePixelRatio);
      canvas.getContext('2d')!.fillStyle = getComputedStyle(canvas).getPropertyValue('--color-oxide');
      draw();
    });
    observer.observe(canvas);
    const stop = usePlayback.subscribe((now, before) => now.frame !== before.frame && draw());
    return () => {
      stop();
      observer.disconnect();
    };
  }, [frames, lit]);
  return (
    <canvas
      ref={ref}
      height={1}
      aria-hidden
      className="pointer-events-none absolute inset-y-0 right-3 h-full"
      style={{ left: STRIP_MARGIN + 10, width: `calc(100% - ${STRIP_MARGIN + 22}px)` }}
    />
  );
}

/** The strip as a slider. What lies in it stays as it is while its value changes. */
function Moment({ lane, source, children }: { lane: RefObject<HTMLDivElement | null>; source: Source; children: ReactNode }) {
  const frame = usePlayback((s) => s.frame);
  // What has the focus takes the arrows itself; the bench's own keys leave sliders alone.
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageUp: 10, PageDown: -10, Home: -source.frames, End: source.frames }[event.key];
    if (by === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    stepFrame(source, event.shiftKey ? by * Math.round(source.rate) : by);
  };
  return (
    <div
      ref={lane}
      onKeyDown={onKeyDown}
      className="absolute inset-y-0 right-3"
      style={{ left: STRIP_MARGIN + 10 }}
      role="slider"
      tabIndex={0}
      aria-label="Moment in the shot"
      aria-valuemin={1}
      aria-valuemax={source.frames}
      aria-valuenow={frame + 1}
    >
      {children}
    </div>
  );
}
