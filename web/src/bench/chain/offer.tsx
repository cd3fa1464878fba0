import { useEffect, useMemo, useRef, useState } from 'react';
import type { Act, AnyTrait, TraitUse } from '@tin-ghost/core';
import { PictureCanvas } from '../../render/canvas';
import type { Source } from '../../render/protocol';
import { useNear } from '../../parts/use-near';
import { usePicture } from '../../render/use-picture';
import { useDocument } from '../state/document';
import { TRIED, tryUse } from '../state/look-edits';
import { usePlayback } from '../state/playback';
import { tryLook } from '../state/session';
import { texts } from '../../messages/chain';

const THUMB_WIDTH = 176;
/** Frames of a thumbnail that plays, a second, and how long it plays before it begins again. */
const PLAYED = { rate: 8, seconds: 2 };

type Settings = TraitUse['settings'];

interface Props {
  trait: AnyTrait;
  life: number;
  act: Act;
  source: Source;
  onAdd: (settings: Settings) => void;
}

/** A trait that may be added, seen on this picture; under the pointer it plays, and the large picture shows it. */
export function Offer({ trait, life, act, source, onAdd }: Props) {
  const place = useRef<HTMLLIElement>(null);
  const near = useNear(place);
  const [settings, setSettings] = useState<Settings>({});
  const [under, setUnder] = useState(false);
  const ticks = useTicks(under && source.proxy.made);
  const frame = usePlayback((s) => (s.playing ? s.begunAt : s.frame));
  // Far enough in for an event to be under way.
  const begins = Math.max(frame, Math.min(source.frames - 1, Math.ceil(TRIED.age * source.rate)));
  const shown = Math.min(source.frames - 1, begins + Math.round((ticks * source.rate) / PLAYED.rate));
  const look = useDocument((s) => s.look);
  const tried = useMemo(() => tryUse(look, life, trait.id, act, begins / source.rate, settings), [look, life, trait, act, begins, source, settings]);
  const height = Math.round((THUMB_WIDTH * 2 * source.height) / source.width);
  const { worn } = usePicture(near ? source : null, shown, tried, { width: THUMB_WIDTH * 2, height });
  const show = (next: Settings): void => {
    setSettings(next);
    setUnder(true);
    const { frame: seen } = usePlayback.getState();
    tryLook(tryUse(useDocument.getState().look, life, trait.id, act, seen / source.rate, next));
  };
  const leave = (): void => {
    setSettings({});
    setUnder(false);
    tryLook(null);
  };
  const ready = trait.presets && 'ruined' in trait.presets ? (Object.entries(trait.presets) as [string, Settings][]) : [];
  return (
    <li
      ref={place}
      className="flex flex-col rounded-sm border border-rule bg-well hover:border-oxide has-[:focus-visible]:border-oxide"
      onPointerLeave={leave}
      onBlur={(event) => !event.currentTarget.contains(event.relatedTarget) && leave()}
    >
      <button type="button" onClick={() => onAdd({})} onPointerEnter={() => show({})} onFocus={() => show({})} className="flex flex-1 flex-col p-1.5 pb-1 text-left">
        <PictureCanvas worn={worn} label={texts.nameOnThisPicture(trait.name)} className="block w-full bg-surround" style={{ aspectRatio: `${source.width} / ${source.height}` }} />
        <span className="mt-1 flex w-full items-baseline justify-between">
          <span className="font-semibold">{trait.name}</span>
          {trait.act !== act && !trait.family && <span className="label !text-[10px]">{trait.act}</span>}
        </span>
        <span className="block text-[13px] leading-[1.25] text-faint">{trait.says}</span>
      </button>
      {ready.length > 0 && (
        <span className="flex border-t border-rule" role="group" aria-label={texts.howMuchOfName(trait.name)}>
          {ready.map(([name, preset]) => (
            <button
              key={name}
              type="button"
              aria-label={`${trait.name}, ${name}`}
              className="flex-1 py-0.5 text-[13px] text-faint not-first:border-l not-first:border-rule hover:bg-oxide hover:text-oxide-ink focus-visible:bg-oxide focus-visible:text-oxide-ink"
              onPointerEnter={() => show(preset)}
              onFocus={() => show(preset)}
              onClick={() => onAdd(preset)}
            >
              {name}
            </button>
          ))}
        </span>
      )}
    </li>
  );
}

/** Counts up while it is on, and begins again after a while; 0 while it is not. */
function useTicks(on: boolean): number {
  const [ticks, setTicks] = useState(0);
  useEffect(() => {
    if (!on) return;
    const timer = setInterval(() => setTicks((n) => (n + 1) % (PLAYED.rate * PLAYED.seconds)), 1000 / PLAYED.rate);
    return () => {
      clearInterval(timer);
      setTicks(0);
    };
  }, [on]);
  return on ? ticks : 0;
}
