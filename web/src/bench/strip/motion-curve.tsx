import { useMemo, useRef, useState, type KeyboardEvent, type PointerEvent } from 'react';
import type { Key, Value } from '@tin-ghost/core';
import { decimalsOf, settle } from '../../parts/scale';
import { useDrag } from '../../parts/use-drag';
import { rangeOf, type KeyValue, type Moving } from '../state/motion-edits';
import { onGesture } from '../state/document';
import type { Trace } from './use-trace';
import { texts } from '../../messages/strip';

const INKS = ['#8c2f25', '#2f6b3c', '#2c4c8c'];

interface Props {
  name: string;
  setting: Moving;
  base: Value;
  trace: Trace | null;
  /** The part of the shot that fills the width, in frames. */
  from: number;
  to: number;
  frames: number;
  rate: number;
  /** Room, in pixels. */
  width: number;
  height: number;
  keys: readonly Key[];
  chosen: number | null;
  onChoose: (i: number | null) => void;
  onSeek: (frame: number) => void;
  onKey: (i: number, more: Partial<Key>) => void;
  onAdd: (seconds: number, value: KeyValue) => void;
  onRemove: (i: number) => void;
}

/** A setting drawn over the shot. Click to go there; keys are dragged, and made or taken away by a double click. */
export function MotionCurve({ name, setting, base, trace, from, to, frames, rate, width, height, keys, chosen, onChoose, onSeek, onKey, onAdd, onRemove }: Props) {
  const field = useRef<SVGSVGElement>(null);
  // While a key is dragged the drawing stands still under it.
  const [still, setStill] = useState<readonly [number, number] | null>(null);
  // Worked out when the curve changes, not with every picture that passes.
  const range = useMemo(() => {
    const keyValues = keys.flatMap((k) => (typeof k.value === 'number' ? [k.value] : [...k.value]));
    return rangeOf(setting, [...(trace?.rows.flatMap((row) => [...row]) ?? []), ...keyValues], base);
  }, [setting, trace, keys, base]);
  const [low, high] = still ?? range;
  const x = (frame: number): number => ((frame + 0.5 - from) / (to - from)) * width;
  const y = (value: number): number => height - ((value - low) / (high - low || 1)) * height;
  const lines = trace?.rows.map((row) => Array.from(row, (v, j) => `${j ? 'L' : 'M'}${x(trace.pictures[j]!).toFixed(1)} ${y(v).toFixed(1)}`).join('')) ?? [];
  const number = setting.kind === 'number' ? setting : null;
  const text = (v: number): string => v.toFixed(number ? decimalsOf(number.step) : 2);

  const placeOf = (event: { clientX: number; clientY: number }): { picture: number; value: number } => {
    const box = field.current!.getBoundingClientRect();
    const across = Math.max(0, Math.min(1, (event.clientX - box.left) / box.width));
    const down = Math.max(0, Math.min(1, (event.clientY - box.top) / box.height));
    const value = high - down * (high - low);
    return { picture: Math.max(0, Math.min(frames - 1, Math.floor(from + across * (to - from) + 1e-6))), value: number ? settle(number, value) : value };
  };
  const keyAt = (event: PointerEvent | React.MouseEvent): number => {
    const box = field.current!.getBoundingClientRect();
    const [px, py] = [event.clientX - box.left, event.clientY - box.top];
    return keys.findIndex((k) => Math.hypot(x(k.at * rate) - px, typeof k.value === 'number' ? y(k.value) - py : 0) < 9);
  };
  const drag = useDrag({
    start: (event) => {
      const i = keyAt(event);
      onChoose(i < 0 ? null : i);
      if (i < 0) return void onSeek(placeOf(event).picture);
      setStill([low, high]);
      return i;
    },
    move: (event, i) => {
      const { picture, value } = placeOf(event);
      onKey(i, { at: picture / rate, ...(number ? { value } : {}) });
    },
    end: () => setStill(null),
    onGesture,
  });
  const onDoubleClick = (event: React.MouseEvent): void => {
    const i = keyAt(event);
    if (i >= 0) return onRemove(i);
    const { picture, value } = placeOf(event);
    onAdd(picture / rate, number ? value : (base as KeyValue));
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    const key = chosen === null ? undefined : keys[chosen];
    if (!key) return;
    const size = event.shiftKey ? 10 : 1;
    const value = typeof key.value === 'number' && number ? key.value : null;
    if (event.key === 'ArrowLeft') onKey(chosen!, { at: key.at - size / rate });
    else if (event.key === 'ArrowRight') onKey(chosen!, { at: key.at + size / rate });
    else if (event.key === 'ArrowUp' && value !== null) onKey(chosen!, { value: settle(number!, value + size * number!.step) });
    else if (event.key === 'ArrowDown' && value !== null) onKey(chosen!, { value: settle(number!, value - size * number!.step) });
    else if (event.key === 'Delete' || event.key === 'Backspace') onRemove(chosen!);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <svg
      ref={field}
      width={width}
      height={height}
      className="block cursor-crosshair touch-none bg-well select-none"
      tabIndex={0}
      role="application"
      aria-label={texts.curveOverShot(name, text(low), text(high), keys.length)}
      {...drag}
      onDoubleClick={onDoubleClick}
      onKeyDown={onKeyDown}
    >
      {number && <line x1="0" x2={width} y1={y(base as number)} y2={y(base as number)} stroke="var(--color-rule)" strokeDasharray="3 3" />}
      {lines.map((line, i) => (
        <path key={i} d={line} fill="none" stroke={lines.length === 1 ? 'var(--color-ink)' : INKS[i]} strokeWidth="1.2" />
      ))}
      {keys.map((key, i) => (
        <rect
          key={i}
          x={x(key.at * rate) - 3.5}
          y={(typeof key.value === 'number' ? y(key.value) : height / 2) - 3.5}
          width="7"
          height="7"
          fill={i === chosen ? 'var(--color-oxide)' : 'var(--color-panel)'}
          stroke={i === chosen ? 'var(--color-oxide)' : 'var(--color-ink)'}
        />
      ))}
      <g className="mono" fontSize="8.5" fill="var(--color-ink)" stroke="var(--color-well)" strokeWidth="3" paintOrder="stroke">
        <text x="3" y="10.5">
          {text(high)}
        </text>
        <text x="3" y={height - 4}>
          {text(low)}
        </text>
      </g>
    </svg>
  );
}
