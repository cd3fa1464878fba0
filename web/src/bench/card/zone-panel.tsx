import { Diamond } from 'lucide-react';
import clsx from 'clsx';
import { BLENDS, zoneAt, type Blend, type TraitUse, type Zone } from '@tin-ghost/core';
import { Button } from '../../parts/button';
import { plainNumber } from '../../parts/plain-number';
import type { Source } from '../../render/protocol';
import { changeLook, useDocument } from '../state/document';
import { changeUse, type UseAt } from '../state/look-edits';
import { usePlayback } from '../state/playback';
import { hasZoneKey, setSoftness, setTones, setZoneKind, toggleZoneKey, tonesOf, type Tones } from '../state/zone-edits';
import { NumberRow } from './setting-row';

const WHERE: Readonly<Record<Zone['kind'], string>> = { all: 'Everywhere', edges: 'Toward the edges', ellipse: 'In an ellipse', quiet: 'All but an ellipse' };
const TONE_NAMES: Readonly<Record<Tones, string>> = { all: 'All tones', shadows: 'Shadows', midtones: 'Midtones', highlights: 'Highlights', own: 'As the file has them' };
const SOFT = plainNumber('Soft border', 'Share of its radius over which the border fades', '%');
const blendName = (blend: Blend): string => blend[0]!.toUpperCase() + blend.slice(1).replace('-', ' ');

/** Where a trait acts, in which tones, and how it is laid over what is there. */
export function ZonePanel({ at, use, source }: { at: UseAt; use: TraitUse; source: Source }) {
  const seconds = usePlayback((s) => s.frame / source.rate);
  const now = () => useDocument.getState().look;
  const { zone } = use;
  const kind = zone?.kind ?? 'all';
  const tones = tonesOf(zone);
  const keyed = hasZoneKey(zone, seconds);
  const lies = zone && zoneAt(zone, seconds);
  const count = zone?.keys?.length ?? 0;
  return (
    <div className="mt-1" role="group" aria-label="Where it acts">
      <Choice label="Where" value={kind} options={WHERE} onChange={(v) => changeLook(setZoneKind(now(), at, v))} />
      {lies && (
        <div className="mb-1 border-l-2 border-rule pl-2">
          <NumberRow setting={SOFT} value={Math.round(lies.soft * 100)} onChange={(v) => changeLook(setSoftness(now(), at, (v ?? 40) / 100))} />
          <div className="flex items-center justify-between text-[13px]">
            <span className="text-faint">{count === 0 ? 'Drawn on the picture, at rest' : `Moves by ${count} ${count === 1 ? 'key' : 'keys'}`}</span>
            <Button
              kind="bare"
              aria-pressed={keyed}
              aria-label={keyed ? 'Remove the zone’s key here' : 'Key the zone here'}
              title={keyed ? 'Remove its key at this picture' : 'Set a key at this picture, so that the ellipse moves from key to key'}
              onClick={() => changeLook(toggleZoneKey(now(), at, seconds))}
            >
              <Diamond size={13} className={clsx(keyed && 'fill-oxide text-oxide')} /> Key
            </Button>
          </div>
        </div>
      )}
      <Choice label="Tones" value={tones} options={tones === 'own' ? TONE_NAMES : { ...TONE_NAMES, own: undefined }} onChange={(v) => changeLook(setTones(now(), at, v))} />
      <Choice
        label="Laid"
        value={use.blend ?? 'normal'}
        options={Object.fromEntries(BLENDS.map((blend) => [blend, blendName(blend)])) as Record<Blend, string>}
        onChange={(blend) => changeLook(changeUse(now(), at, { blend: blend === 'normal' ? undefined : blend }))}
      />
    </div>
  );
}

function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: Readonly<Record<T, string | undefined>>;
  onChange: (value: T) => void;
}) {
  return (
    <label className="flex min-h-7 items-center gap-1.5">
      <span className="w-[86px] shrink-0">{label}</span>
      <select className="min-w-0 flex-1 rounded-sm border border-rule bg-well px-1 py-0.5" value={value} onChange={(e) => onChange(e.currentTarget.value as T)}>
        {(Object.entries(options) as [T, string | undefined][]).map(
          ([id, name]) =>
            name !== undefined && (
              <option key={id} value={id}>
                {name}
              </option>
            ),
        )}
      </select>
    </label>
  );
}
