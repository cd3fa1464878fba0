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
  onGesture: (phase: 'begin' | 'end') => void;
  onReset: () => void;
}

const FINENESS = 1000;

export function Slider({ label, position, rest, text, step = 1, className, onChange, onGesture, onReset }: Props) {
  return (
    <Radix.Root
      className={clsx('relative flex h-5 min-w-0 flex-1 touch-none items-center select-none', className)}
      value={[Math.round(position * FINENESS)]}
      max={FINENESS}
      step={step}
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
