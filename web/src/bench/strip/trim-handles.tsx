import { useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import clsx from 'clsx';
import { useDrag } from '../../parts/use-drag';
import { useWithKeys } from '../keys/actions-context';
import type { Source } from '../../render/protocol';
import { onGesture } from '../state/document';
import { goTo, usePlayback } from '../state/playback';
import { changeTrim } from '../state/trim';
import { snapped } from './strip-places';
import { Stretched } from './stretched';
import { actionNames } from '../../messages/actions';
import { texts } from '../../messages/strip';

type Side = 'in' | 'out';
const NAMES = { in: texts.in, out: texts.out } as const;

/** The ends of the shot: dragged inwards they cut it, outwards they give back what was cut. */
export function TrimHandles({ source, className }: { source: Source; className: string }) {
  const [held, setHeld] = useState<{ side: Side; by: number } | null>(null);
  const row = useRef<HTMLDivElement>(null);
  const share = held ? Math.abs(held.by) / source.frames : 0;
  const cut = held && (held.side === 'in') === held.by > 0;
  return (
    <Stretched className={clsx('pointer-events-none', className)} inner={row}>
      {held && cut && <span className="absolute inset-y-0 bg-surround/75" style={{ [held.side === 'in' ? 'left' : 'right']: 0, width: `${share * 100}%` }} />}
      {([texts.inSide, texts.outSide] as const).map((side) => (
        <Handle key={side} side={side} source={source} row={row} by={held?.side === side ? held.by : 0} onHeld={(by) => setHeld(by === null ? null : { side, by })} />
      ))}
    </Stretched>
  );
}

interface HandleProps {
  side: Side;
  source: Source;
  row: React.RefObject<HTMLDivElement | null>;
  /** Frames of the shot by which it is being moved. */
  by: number;
  onHeld: (by: number | null) => void;
}

function Handle({ side, source, row, by, onHeld }: HandleProps) {
  const withKeys = useWithKeys();
  const { frames } = source;
  const footage = source.proxy.frames;
  const speed = source.preparation.speed ?? 1;
  const { from = 0, to = footage } = source.preparation.trim ?? {};
  const moved = useRef(0);
  const apply = (shotFrames: number): void => {
    const of = Math.round(shotFrames * speed);
    if (of === 0) return;
    if (side === 'in') changeTrim(footage, Math.min(to - 1, from + of), to);
    else changeTrim(footage, from, Math.max(from + 1, to + of));
  };
  const within = (shotFrames: number): number =>
    side === 'in' ? Math.round(Math.max(-from / speed, Math.min(frames - 1, shotFrames))) : Math.round(Math.max(1 - frames, Math.min((footage - to) / speed, shotFrames)));
  const drag = useDrag({
    slack: 2,
    start: () => {
      const { frame, loop } = usePlayback.getState();
      moved.current = 0;
      const rest = side === 'in' ? 0 : frames;
      return { rest, marks: [side === 'in' ? frame : frame + 1, ...(loop ? [loop.from, loop.to] : [])].filter((mark) => mark > 0 && mark < frames) };
    },
    move: (_, { rest, marks }, { dx }) => {
      const perPixel = frames / row.current!.getBoundingClientRect().width;
      moved.current = within(snapped(rest + dx * perPixel, marks, perPixel) - rest);
      onHeld(moved.current);
      // The frame that would be the first, or the last.
      goTo(source, side === 'in' ? Math.max(0, moved.current) : frames - 1 + Math.min(0, moved.current));
    },
    end: () => {
      onHeld(null);
      apply(moved.current);
    },
    onGesture,
  });
  const onKeyDown = (event: KeyboardEvent): void => {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (step === undefined || event.altKey || event.ctrlKey) return;
    event.preventDefault();
    event.stopPropagation();
    apply(within(event.shiftKey ? step * Math.round(source.rate) : step));
  };
  const place = side === 'in' ? { left: `${(by / frames) * 100}%` } : { right: `${(-by / frames) * 100}%` };
  return (
    <span
      tabIndex={0}
      role="slider"
      aria-label={texts.sidePoint(NAMES[side])}
      aria-valuemin={1}
      aria-valuemax={footage}
      aria-valuenow={side === 'in' ? from + 1 : to}
      title={withKeys(texts.dragPoint(NAMES[side]), side === 'in' ? actionNames.beginShotHere : actionNames.endShotHere)}
      data-trim={side}
      className={clsx('pointer-events-auto absolute inset-y-0 w-[9px] cursor-ew-resize touch-none border-ink', side === 'in' ? 'border-l-[3px]' : 'border-r-[3px]')}
      style={place}
      {...drag}
      onPointerDown={(event: PointerEvent<Element>) => {
        event.stopPropagation();
        drag.onPointerDown(event);
      }}
      onKeyDown={onKeyDown}
    >
      {by !== 0 && <output className={clsx('mono absolute top-1 bg-panel px-1 text-[11px] whitespace-nowrap', side === 'in' ? 'left-2' : 'right-2')}>{texts.byFrames(by)}</output>}
    </span>
  );
}
