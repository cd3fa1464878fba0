import type { ReactNode } from 'react';
import { tooColourful, type ChoiceSetting, type Colour, type ColourSetting, type Curve, type NumberSetting, type Setting, type ToggleSetting, type Value } from '@tin-ghost/core';
import { hasLongSign, NumberField } from '../../parts/number-field';
import { movedByKey, positionOf, settle, valueAt } from '../../parts/scale';
import { Slider } from '../../parts/slider';
import type { ScopeData } from '../../render/protocol';
import { CurveEditor } from './curve-editor';
import { onGesture } from '../state/document';
import { FontField } from './font-field';
import { partsOf } from './setting-name';
import { TableField } from './table-field';
import { TextField } from './text-field';
import { texts } from '../../messages/card';

/** A row of a card, and the name at its head. */
const ROW = 'flex h-7 items-center gap-1.5';
const NAME = 'w-[86px] shrink-0 truncate';

interface RowProps<S extends Setting, V extends Value> {
  /** Stands at the end of the row of what may move. */
  sign?: ReactNode;
  setting: S;
  value: V;
  /** The carrier it is meant for, whose colours have an end. */
  carrier?: string;
  /** The picture as it comes to the trait, measured. */
  before?: ScopeData;
  /** undefined puts the default back. */
  onChange: (value: V | undefined) => void;
}

/** One setting of a card, by its kind. */
export function SettingRow({ setting, value, carrier, before, sign, onChange }: RowProps<Setting, Value>) {
  switch (setting.kind) {
    case 'number':
      return <NumberRow setting={setting} value={value as number} sign={sign} onChange={onChange} />;
    case 'toggle':
      return <ToggleRow setting={setting} value={value as boolean} onChange={onChange} />;
    case 'choice':
      return <ChoiceRow setting={setting} value={value as string} onChange={onChange} />;
    case 'colour':
      return <ColourRow setting={setting} value={value as Colour} carrier={carrier} sign={sign} onChange={onChange} />;
    case 'curve':
      return <CurveEditor setting={setting} value={value as Curve} before={before} onChange={onChange} />;
    case 'table':
      return <TableField label={setting.name} value={value as string} onChange={(id) => onChange(id || undefined)} />;
    case 'font':
      return <FontField label={setting.name} value={value as string} onChange={onChange} />;
    case 'plate':
      // Chosen with its blend, by the card.
      return null;
    case 'text':
      return <TextField setting={setting} value={value as string} onChange={onChange} />;
  }
}

export function NumberRow({ setting, value, sign, onChange }: RowProps<NumberSetting, number>) {
  const reset = (): void => onChange(undefined);
  return (
    <div className="flex h-[40px] items-end gap-2 pb-1" title={setting.says} data-setting={setting.name}>
      <div className="flex min-w-0 flex-1 flex-col">
        <span className="truncate text-[14px] leading-4" onDoubleClick={reset}>
          {partsOf(setting.name).part}
          {hasLongSign(setting) && <span className="mono ml-1.5 text-[11px] text-faint">{setting.sign}</span>}
        </span>
        <Slider
          label={setting.name}
          position={positionOf(setting, value)}
          rest={positionOf(setting, setting.default)}
          text={`${value} ${setting.sign}`}
          className="!h-[17px] !flex-none"
          onChange={(p) => onChange(settle(setting, valueAt(setting, p)))}
          onKey={(by) => onChange(movedByKey(setting, value, by))}
          onGesture={onGesture}
          onReset={reset}
        />
      </div>
      <NumberField setting={setting} value={value} label={setting.name} onChange={onChange} onGesture={onGesture} />
      {sign}
    </div>
  );
}

function ToggleRow({ setting, value, onChange }: RowProps<ToggleSetting, boolean>) {
  return (
    <label className={ROW} title={setting.says}>
      <span className={NAME}>{setting.name}</span>
      <input type="checkbox" className="h-4 w-4 accent-oxide" checked={value} onChange={(e) => onChange(e.currentTarget.checked)} />
    </label>
  );
}

function ChoiceRow({ setting, value, onChange }: RowProps<ChoiceSetting, string>) {
  return <ChoiceField label={partsOf(setting.name).part} says={setting.says} value={value} options={setting.options} onChange={onChange} />;
}

interface ChoiceFieldProps<T extends string> {
  label: string;
  says?: string;
  value: T;
  options: Readonly<Record<T, string>>;
  onChange: (value: T) => void;
}

/** A row on which one of several is chosen. */
export function ChoiceField<T extends string>({ label, says, value, options, onChange }: ChoiceFieldProps<T>) {
  return (
    <label className={ROW} title={says}>
      <span className={NAME}>{label}</span>
      <select value={value} onChange={(e) => onChange(e.currentTarget.value as T)} className="min-w-0 flex-1 rounded-sm border border-rule bg-well px-1 py-0.5">
        {(Object.entries(options) as [T, string][]).map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}

const toHex = (c: Colour): string =>
  `#${c
    .map((v) =>
      Math.round(v * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
const fromHex = (hex: string): Colour => [1, 3, 5].map((i) => Number.parseInt(hex.slice(i, i + 2), 16) / 255) as unknown as Colour;

export function ColourRow({ setting, value, carrier, sign, onChange }: RowProps<ColourSetting, Colour>) {
  const warning = carrier && tooColourful(value, carrier);
  return (
    <div>
      <div className={ROW} title={setting.says} data-setting={setting.name}>
        <span className={NAME} onDoubleClick={() => onChange(undefined)}>
          {partsOf(setting.name).part}
        </span>
        <input
          type="color"
          aria-label={setting.name}
          value={toHex(value)}
          onChange={(e) => onChange(fromHex(e.currentTarget.value))}
          className="h-6 w-8 shrink-0 rounded-sm border border-rule bg-well"
        />
        <HexField key={toHex(value)} name={setting.name} value={value} onChange={onChange} />
        {sign}
      </div>
      {warning && (
        <p role="status" className="mb-1 text-[13px] text-oxide">
          {texts.thisIsWarning(warning)}
        </p>
      )}
    </div>
  );
}

/** A colour typed as red, green and blue from 0 to 1, or as six hexadecimal digits. */
function HexField({ name, value, onChange }: { name: string; value: Colour; onChange: (value: Colour | undefined) => void }) {
  const commit = (text: string): void => {
    const hex = /^#?([0-9a-f]{6})$/i.exec(text.trim());
    const numbers = text
      .trim()
      .split(/[\s,]+/)
      .map(Number);
    if (hex) onChange(fromHex(`#${hex[1]}`));
    else if (numbers.length === 3 && numbers.every((v) => v >= 0 && v <= 1)) onChange(numbers as unknown as Colour);
  };
  return (
    <input
      aria-label={texts.nameRedGreenBlue(name)}
      className="mono w-0 flex-1 rounded-sm border border-rule bg-well px-0.5 text-[11px] tracking-tight"
      defaultValue={value.map((v) => v.toFixed(2)).join(' ')}
      onBlur={(e) => commit(e.currentTarget.value)}
      onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
    />
  );
}
