import type { KeyboardEvent } from 'react';
import { Slider as Radix } from 'radix-ui';
import clsx from 'clsx';

interface Props {
  label: string;
  /** 0..1 */
  position: number;
  /** Where the resting value lies, 0..1. */
  rest?: number;
  text: string;
  /** Thousandths that an arrow moves it; ten times as many by page. */
  step?: number;
  className?: string;
  onChange: (position: number) => void;
  /** Does what an arrow or a page key asks for: to go so far, in either direction. Without it the position changes by that. */
  onKey?: (by: number) => void;
  onGesture: (phase: 'begin' | 'end') => void;
  onReset: () => void;
}

const FINENESS = 1000;

const KEYS: Readonly<Record<string, number>> = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1, PageUp: 10, PageDown: -10 };

export function Slider({ label, position, rest, text, step = 1, className, onChange, onKey, onGesture, onReset }: Props) {
  const onKeyDown = (event: KeyboardEvent): void => {
    const steps = KEYS[event.key];
    if (steps === undefined || !onKey) return;
    event.preventDefault();
    onKey((steps * (event.shiftKey && Math.abs(steps) === 1 ? 10 : 1) * step) / FINENESS);
  };
  return (
    <Radix.Root
      className={clsx('relative flex h-5 min-w-0 flex-1 touch-none items-center select-none', className)}
      value={[Math.round(position * FINENESS)]}
      max={FINENESS}
      step={step}
      onKeyDown={onKeyDown}
      onPointerDown={() => onGesture('begin')}
      onValueChange={([v]) => onChange(v! / FINENESS)}
      onPointerUp={() => onGesture('end')}
      onLostPointerCapture={() => onGesture('end')}
      onDoubleClick={onReset}
    >
      <Radix.Track className="relative h-px grow bg-faint">
        {rest !== undefined && <span className="absolute -top-1 h-[9px] w-px bg-faint" style={{ left: `${rest * 100}%` }} />}
      </Radix.Track>
      <Radix.Thumb aria-label={label} aria-valuetext={text} className="block h-[15px] w-[9px] rounded-[1px] border border-panel bg-ink" />
    </Radix.Root>
  );
}
