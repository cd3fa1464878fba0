import { useEffect, useState, type KeyboardEvent } from 'react';
import type { TextSetting } from '@tin-ghost/core';
import { abandonGesture, onGesture } from '../state/document';
import { partsOf } from './setting-name';
import { texts } from '../../messages/card';

interface Props {
  setting: TextSetting;
  value: string;
  onChange: (value: string) => void;
}

const FIELD = 'w-full min-w-0 rounded-sm border border-rule bg-well px-1.5 py-1';

/** All that is typed until a field is left is one change; Escape takes it back. */
function useTyping(left?: () => void) {
  // A field that goes with its card is not told that it has lost the focus.
  useEffect(() => () => onGesture('end'), []);
  return {
    onFocus: () => onGesture('begin'),
    onBlur: () => {
      left?.();
      onGesture('end');
    },
    onKeyDown: (event: KeyboardEvent<HTMLElement>) => {
      if (event.key !== 'Escape') return;
      abandonGesture();
      event.currentTarget.blur();
    },
  };
}

/** Words of one line or several, or a short text of a form. */
export function TextField(props: Props) {
  return props.setting.fields ? <Lines {...props} /> : <Short {...props} />;
}

function Lines({ setting, value, onChange }: Props) {
  const typing = useTyping();
  const insert = (name: string): void => {
    if (name) onChange(`${value}{${name}}`);
  };
  return (
    <div className="mb-1" title={setting.says}>
      <div className="flex h-7 items-center justify-between gap-2">
        <span>{setting.name}</span>
        <select aria-label={texts.insertField} value="" onChange={(e) => insert(e.currentTarget.value)} className="rounded-sm border border-rule bg-well px-1 py-0.5 text-[13px]">
          <option value="">{texts.insert}</option>
          {setting.fields!.map((name) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </select>
      </div>
      <textarea
        aria-label={setting.name}
        rows={3}
        maxLength={setting.most}
        spellCheck={false}
        dir="auto"
        className={`${FIELD} resize-y`}
        value={value}
        {...typing}
        onChange={(e) => onChange(e.currentTarget.value)}
      />
    </div>
  );
}

/** A short text of a form; what is not of it is not taken until it is. */
function Short({ setting, value, onChange }: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const typing = useTyping(() => setDraft(null));
  const fits = (text: string): boolean => new RegExp(setting.pattern ?? '').test(text);
  const wrong = draft !== null && !fits(draft);
  return (
    <label className="flex h-7 items-center gap-1.5" title={setting.says}>
      <span className="w-[86px] shrink-0 truncate">{partsOf(setting.name).part}</span>
      <input
        aria-label={setting.name}
        aria-invalid={wrong}
        maxLength={setting.most}
        className={`mono ${FIELD} ${wrong ? '!border-oxide' : ''}`}
        value={draft ?? value}
        {...typing}
        onChange={(e) => {
          const text = e.currentTarget.value;
          setDraft(text);
          if (fits(text)) onChange(text);
        }}
      />
      {wrong && (
        <span role="status" className="shrink-0 text-[13px] text-oxide">
          {setting.form}
        </span>
      )}
    </label>
  );
}
