import { useState } from 'react';
import { mixLooks, type Look } from '@tin-ghost/core';
import type { StoredLook } from '@tin-ghost/contract';
import { Slider } from '../../parts/slider';
import { changeLook, onGesture, useDocument } from '../state/document';
import { texts } from '../../messages/chain';

interface Mixing {
  /** Of the other look, in the stockroom. */
  readonly id: string;
  readonly from: Look;
  readonly to: Look;
  readonly share: number;
  /** What the slider made last; a look that is another was changed elsewhere, and is not mixed any more. */
  readonly made: Look;
}

/** The shot's look mixed with another by a slider. */
export function MixBar({ looks }: { looks: readonly StoredLook[] }) {
  const look = useDocument((s) => s.look);
  const [held, setHeld] = useState<Mixing | null>(null);
  const mixing = held?.made === look ? held : null;
  const mix = (share: number): void => {
    if (!mixing) return;
    const made = mixLooks(mixing.from, mixing.to, share);
    setHeld({ ...mixing, share, made });
    changeLook(made, null);
  };
  const percent = Math.round((mixing?.share ?? 0) * 100);
  return (
    <div className="mt-2 flex items-center gap-2" data-mix>
      <select
        aria-label={texts.mixWith}
        value={mixing?.id ?? ''}
        onChange={(e) => {
          const stored = looks.find(({ id }) => id === e.currentTarget.value);
          // Another one is mixed with what was mixed with the last.
          setHeld(stored ? { id: stored.id, from: look, to: stored.look, share: 0, made: look } : null);
        }}
        className="w-[130px] rounded-sm border border-rule bg-well px-1 py-0.5"
      >
        <option value="">{texts.mixWithOne}</option>
        {looks.map((stored) => (
          <option key={stored.id} value={stored.id}>
            {stored.look.name}
          </option>
        ))}
      </select>
      {mixing && (
        <>
          <Slider label={texts.shareOfName(mixing.to.name)} position={mixing.share} text={`${percent} %`} step={10} onChange={mix} onGesture={onGesture} onReset={() => mix(0)} />
          <output className="mono w-[44px] text-right text-[13px]">{percent} %</output>
        </>
      )}
    </div>
  );
}
