import type { ChoiceSetting, Colour, ColourSetting, NumberSetting, Setting, ToggleSetting, Value } from '@tin-ghost/core';
import { NumberField } from '../parts/number-field';
import { positionOf, settle, valueAt } from '../parts/scale';
import { Slider } from '../parts/slider';
import { onGesture } from './store';

interface RowProps<S extends Setting, V extends Value> {
  setting: S;
  value: V;
  /** undefined puts the default back. */
  onChange: (value: V | undefined) => void;
}

/** One setting of a card, by its kind. */
export function SettingRow({ setting, value, onChange }: RowProps<Setting, Value>) {
  switch (setting.kind) {
    case 'number':
      return <NumberRow setting={setting} value={value as number} onChange={onChange} />;
    case 'toggle':
      return <ToggleRow setting={setting} value={value as boolean} onChange={onChange} />;
    case 'choice':
      return <ChoiceRow setting={setting} value={value as string} onChange={onChange} />;
    case 'colour':
      return <ColourRow setting={setting} value={value as Colour} onChange={onChange} />;
  }
}

export function NumberRow({ setting, value, onChange }: RowProps<NumberSetting, number>) {
  const reset = (): void => onChange(undefined);
  return (
    <div className="flex h-7 items-center gap-2" title={setting.says} data-setting={setting.name}>
      <span className="w-[92px] shrink-0 truncate" onDoubleClick={reset}>
        {setting.name}
      </span>
      <Slider
        label={setting.name}
        position={positionOf(setting, value)}
        rest={positionOf(setting, setting.default)}
        text={`${value} ${setting.sign}`}
        onChange={(p) => onChange(settle(setting, valueAt(setting, p)))}
        onGesture={onGesture}
        onReset={reset}
      />
      <NumberField setting={setting} value={value} label={setting.name} onChange={onChange} onGesture={onGesture} />
    </div>
  );
}

function ToggleRow({ setting, value, onChange }: RowProps<ToggleSetting, boolean>) {
  return (
    <label className="flex h-7 items-center gap-2" title={setting.says}>
      <span className="w-[92px] shrink-0">{setting.name}</span>
      <input type="checkbox" className="h-4 w-4 accent-oxide" checked={value} onChange={(e) => onChange(e.currentTarget.checked)} />
    </label>
  );
}

function ChoiceRow({ setting, value, onChange }: RowProps<ChoiceSetting, string>) {
  return (
    <label className="flex h-7 items-center gap-2" title={setting.says}>
      <span className="w-[92px] shrink-0">{setting.name}</span>
      <select value={value} onChange={(e) => onChange(e.currentTarget.value)} className="min-w-0 flex-1 rounded-sm border border-rule bg-well px-1 py-0.5">
        {Object.entries(setting.options).map(([id, name]) => (
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

function ColourRow({ setting, value, onChange }: RowProps<ColourSetting, Colour>) {
  return (
    <label className="flex h-7 items-center gap-2" title={setting.says} onDoubleClick={() => onChange(undefined)}>
      <span className="w-[92px] shrink-0">{setting.name}</span>
      <input
        type="color"
        aria-label={setting.name}
        value={toHex(value)}
        onChange={(e) => onChange(fromHex(e.currentTarget.value))}
        className="h-6 w-12 rounded-sm border border-rule bg-well"
      />
      <span className="mono text-faint">{value.map((v) => v.toFixed(2)).join(' ')}</span>
    </label>
  );
}
