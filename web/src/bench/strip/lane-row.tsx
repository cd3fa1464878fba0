import { useRef, type ReactNode } from 'react';
import clsx from 'clsx';
import type { Source } from '../../render/protocol';
import { STRIP_MARGIN, useStripWheel } from './stretched';

/** Height of a lane: what a finger hits. */
const LANE = 24;
/** Lanes that are seen without scrolling. */
const SEEN = 3;

/** Lanes of one kind below the footage. */
export function LaneRows({ name, count, source, children }: { name: string; count: number; source: Source; children: ReactNode }) {
  const room = useRef<HTMLDivElement>(null);
  useStripWheel(room, source);
  return (
    <div ref={room} className="shrink-0 overflow-x-hidden overflow-y-auto border-t border-rule" style={{ height: Math.min(count, SEEN) * LANE + 1 }} role="group" aria-label={name}>
      {children}
    </div>
  );
}

interface Props {
  name: string;
  /** Its card is open. */
  open: boolean;
  /** Opens its card; a row without one only has its name. */
  onName?: () => void;
  children: ReactNode;
}

export function LaneRow({ name, open, onName, children }: Props) {
  const words = 'absolute inset-y-0 left-0 truncate border-r border-rule px-2 text-left text-[12px] leading-6';
  return (
    <div className={clsx('relative', open && 'bg-tin')} style={{ height: LANE }}>
      {onName ? (
        <button type="button" onClick={onName} className={clsx(words, open ? 'text-oxide' : 'text-faint')} style={{ width: STRIP_MARGIN }}>
          {name}
        </button>
      ) : (
        <span className={clsx(words, 'pl-4 text-faint')} style={{ width: STRIP_MARGIN }}>
          {name}
        </span>
      )}
      {children}
    </div>
  );
}
