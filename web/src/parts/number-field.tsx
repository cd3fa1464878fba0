import { useState, type KeyboardEvent } from 'react';
import { ChevronsLeftRight } from 'lucide-react';
import type { NumberSetting } from '@tin-ghost/core';
import { evaluate } from './arithmetic';
import { decimalsOf, settle } from './scale';
import { useDrag } from './use-drag';
import { texts } from '../messages/parts';

interface Props {
  setting: NumberSetting;
  value: number;
  label: string;
  onChange: (value: number) => void;
  /** Around a drag, so that it counts as one change. */
  onGesture: (phase: 'begin' | 'end') => void;
}

/** Text of a value with the decimals its step needs, and more where it was set finer. */
const shown = (s: NumberSetting, value: number): string => {
  const usual = value.toFixed(decimalsOf(s.step));
  return Number(usual) === value ? usual : String(value);
};

/** Width of the field: a value of seven characters and a short unit are seen whole. */
const FIELD = 96;

/** Whether a unit is too long to stand in the field beside the value; then it stands with the setting's name. */
export const hasLongSign = (s: NumberSetting): boolean => s.sign.length > 4;

/** A number with its unit: typed (also as a sum), stepped by arrows (Shift coarse, Alt fine), or dragged sideways by the unit. */
export function NumberField({ setting, value, label, onChange, onGesture }: Props) {
  const [draft, setDraft] = useState<string | null>(null);

  const commit = (): void => {
    const typed = draft === null ? undefined : evaluate(draft);
    if (typed !== undefined) onChange(Math.max(setting.min, Math.min(setting.max, Number(typed.toFixed(decimalsOf(setting.step) + 1)))));
    setDraft(null);
  };
  const stepBy = (event: KeyboardEvent, direction: number): void => {
    event.preventDefault();
    const size = event.shiftKey ? 10 : event.altKey ? 0.1 : 1;
    setDraft(null);
    onChange(settle(setting, value + direction * size * setting.step, event.altKey ? 10 : 1));
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    // What was begun is taken back first; then Ctrl+Z is the bench's.
    if (event.key.toLowerCase() === 'z' && (event.ctrlKey || event.metaKey) && draft !== null) {
      event.preventDefault();
      event.stopPropagation();
      setDraft(null);
    } else if (event.key === 'Enter') commit();
    else if (event.key === 'Escape') setDraft(null);
    else if (event.key === 'ArrowUp') stepBy(event, 1);
    else if (event.key === 'ArrowDown') stepBy(event, -1);
  };
  const drag = useDrag({
    start: () => value,
    move: ({ shiftKey, altKey }, from, { dx }) => onChange(settle(setting, from + dx * setting.step * (shiftKey ? 10 : altKey ? 0.1 : 1), altKey ? 10 : 1)),
    onGesture,
  });

  return (
    <span className="flex h-6 shrink-0 items-center rounded-sm border border-rule bg-well focus-within:border-oxide" style={{ width: FIELD }}>
      <input
        aria-label={`${label}${setting.sign ? `, ${setting.sign}` : ''}`}
        inputMode="decimal"
        className="mono w-0 min-w-[52px] flex-1 bg-transparent pr-1 pl-1 text-right outline-none"
        value={draft ?? shown(setting, value)}
        onFocus={(event) => event.currentTarget.select()}
        onChange={(event) => setDraft(event.currentTarget.value)}
        onBlur={commit}
        onKeyDown={onKeyDown}
      />
      <span className="mono cursor-ew-resize truncate pr-1 text-[11px] text-faint select-none" title={texts.dragToChange} {...drag}>
        {hasLongSign(setting) ? <ChevronsLeftRight size={11} /> : setting.sign || <ChevronsLeftRight size={11} />}
      </span>
    </span>
  );
}
