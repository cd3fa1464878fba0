import type { ReactNode } from 'react';
import { NumberField } from '../../parts/number-field';
import { plainNumber } from '../../parts/plain-number';

export const FIELD = 'rounded-sm border border-rule bg-well px-1 py-1';

/** A choice of few, by its words. */
export function Choose<T extends string>({
  name,
  options,
  value,
  onChange,
  wide,
}: {
  name: string;
  options: readonly (readonly [T, string])[];
  value: T;
  onChange: (value: T) => void;
  wide?: boolean;
}) {
  return (
    <select aria-label={name} value={value} onChange={(e) => onChange(e.currentTarget.value as T)} className={`${FIELD} ${wide ? 'w-full' : ''}`}>
      {options.map(([id, words]) => (
        <option key={id} value={id}>
          {words}
        </option>
      ))}
    </select>
  );
}

export const Row = ({ name, children }: { name: string; children: ReactNode }) => (
  <>
    <span>{name}</span>
    <span className="flex flex-wrap items-center gap-2">{children}</span>
  </>
);

export const Check = ({ checked, onChange, children }: { checked: boolean; onChange: (checked: boolean) => void; children: ReactNode }) => (
  <label className="flex items-center gap-1">
    <input type="checkbox" checked={checked} onChange={(e) => onChange(e.currentTarget.checked)} className="accent-oxide" /> {children}
  </label>
);

interface Numbered {
  name: string;
  value: number;
  least?: number;
  most?: number;
  onChange: (value: number) => void;
}

/** Larger than any number of an image. */
const MOST = 1e9;

/** A number by itself: what is typed counts once it is left, and keeps within its limits. */
export const Figure = ({ name, value, least = 1, most = MOST, onChange }: Numbered) => (
  <NumberField setting={plainNumber(name, '', '', { default: value, min: least, max: most })} value={value} label={name} onChange={onChange} onGesture={() => undefined} />
);

/** A whole number, as of a frame or an image. */
export const WholeField = ({ onChange, ...more }: Numbered) => <Figure {...more} onChange={(value) => onChange(Math.round(value))} />;
