import { useEffect, useState } from 'react';
import clsx from 'clsx';
import { traitById, type Look } from '@tin-ghost/core';
import { Button } from '../../parts/button';
import { Tool } from '../../parts/toolbar';
import { preview } from '../../render/preview';
import type { Source } from '../../render/protocol';
import { useDocument } from '../state/document';
import { toggleDraft, usePlayback } from '../state/playback';
import { DRAFT } from './player';
import { texts } from '../../messages/picture';

/** Pictures a second: of the shot, and while it plays those that are shown. */
export function Rate({ source }: { source: Source }) {
  const report = usePlayback((s) => s.report);
  const playing = usePlayback((s) => s.playing);
  const speed = usePlayback((s) => s.speed);
  const draft = usePlayback((s) => s.draft);
  const rate = Math.round(source.rate * 100) / 100;
  const slow = useSlow(source);
  const reported = playing && !speed ? report : null;
  const words = speed
    ? `${Math.abs(speed)}×${speed < 0 ? ' backwards' : ''}`
    : reported
      ? texts.playingRate(draft ? Math.ceil(reported.shown / DRAFT.pictures) : reported.shown, rate)
      : `${rate} fps`;
  const width = reported && texts.playingWidth(reported.width);
  // Where there is little room, only while it tells something new; what costs most comes before the width.
  return (
    <span title={width ? words + width : undefined} className={clsx('mono min-w-0 truncate text-faint', !playing && !speed && '@max-[640px]:hidden', '@max-[420px]:hidden')}>
      {words}
      {width && <span className={clsx(slow && '@max-[960px]:hidden')}>{width}</span>}
    </span>
  );
}

/** So long it must have been too slow before what it costs is measured: that takes time of its own. */
const SLOW_MS = 2000;
/** It is too slow below this share of its rate. */
const SLOW = 0.95;

/** Whether it plays too slowly, or small for the sake of its rate. */
export const useSlow = (source: Source): boolean => usePlayback((s) => s.playing && s.report !== null && (s.report.shown < SLOW * source.rate || s.report.width < source.width));

/** Draft quality, where it is wanted or of use. */
export function Draft({ source }: { source: Source }) {
  const draft = usePlayback((s) => s.draft);
  const slow = useSlow(source);
  if (!slow && !draft) return null;
  return (
    <Tool>
      <Button aria-pressed={draft} title={texts.draftTitle} onClick={toggleDraft}>
        {texts.draft}
      </Button>
    </Tool>
  );
}

/** What costs most where it plays too slowly; in the room that is left, so that nothing moves. */
export function Dearest({ source }: { source: Source }) {
  const draft = usePlayback((s) => s.draft);
  const slow = useSlow(source);
  const dearest = useDearest(source, slow && !draft);
  const words = dearest && slow && !draft ? texts.costsMost(dearest.name, Math.round(dearest.share * 100)) : '';
  return (
    <span role="status" title={words} className="min-w-0 flex-1 truncate text-right text-[13px] text-faint @max-[420px]:hidden">
      {words}
    </span>
  );
}

/** The trait of the look on the bench that takes most of a picture's time, once it has been slow for a while. */
function useDearest(source: Source, slow: boolean): { name: string; share: number } | null {
  const look = useDocument((s) => s.look);
  const [told, setTold] = useState<{ of: Look; name: string; share: number } | null>(null);
  useEffect(() => {
    // What was measured once holds for the look.
    if (!slow || told?.of === look) return;
    const timer = setTimeout(() => {
      void preview()
        .costs(source, usePlayback.getState().frame, look, source)
        .then(
          ({ traits: [first] }) => first && setTold({ of: look, name: traitById(first.trait)!.name, share: first.share }),
          // What cannot be rendered is told by the picture.
          () => undefined,
        );
    }, SLOW_MS);
    return () => clearTimeout(timer);
  }, [slow, look, source, told]);
  return told?.of === look ? told : null;
}
