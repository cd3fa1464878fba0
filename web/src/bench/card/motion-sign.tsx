import clsx from 'clsx';
import type { Motion } from '@tin-ghost/core';
import { texts } from '../../messages/card';

type Kind = Motion['motion'] | 'steady';

export const MOTION_NAMES: Record<Kind, string> = { steady: texts.steady, wander: texts.wander, jump: texts.jump, keys: texts.keys, follow: texts.follow };

/** Each motion as the line it draws. */
const LINES: Record<Kind, string> = {
  steady: 'M1 6H13',
  wander: 'M1 7C3 1 5 2 7 6S11 11 13 4',
  jump: 'M1 8H4V3H7V9H10V5H13',
  keys: 'M2 9L7 3L12 8',
  follow: 'M1 9H5L10 4M7 3.5H10.5V7',
};

export function MotionLine({ kind }: { kind: Kind }) {
  return (
    <svg width="14" height="12" viewBox="0 0 14 12" fill="none" stroke="currentColor" strokeWidth="1.3" aria-hidden>
      <path d={LINES[kind]} />
      {kind === 'keys' && (
        <g fill="currentColor" stroke="none">
          <circle cx="2" cy="9" r="1.7" />
          <circle cx="7" cy="3" r="1.7" />
          <circle cx="12" cy="8" r="1.7" />
        </g>
      )}
    </svg>
  );
}

/** The small sign beside a setting: how it moves, and the way to its curve. */
export function MotionSign({ name, motion, open, onToggle }: { name: string; motion: Motion | undefined; open: boolean; onToggle: () => void }) {
  const kind = motion?.motion ?? 'steady';
  return (
    <button
      type="button"
      aria-expanded={open}
      aria-label={texts.motionOfKind(name, MOTION_NAMES[kind].toLowerCase())}
      title={texts.motionKind(MOTION_NAMES[kind])}
      onClick={onToggle}
      className={clsx('flex h-6 w-5 shrink-0 items-center justify-center rounded-sm hover:text-oxide', open ? 'bg-rule text-ink' : motion ? 'text-oxide' : 'text-faint')}
    >
      <MotionLine kind={kind} />
    </button>
  );
}
