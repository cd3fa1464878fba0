import { useEffect, useRef, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { Maximize2, ZoomIn, ZoomOut } from 'lucide-react';
import useSWR from 'swr';
import type { Shot } from '@tin-ghost/contract';
import { api } from '../../api/client';
import { Tool, Toolbar } from '../../parts/toolbar';
import { useDrag } from '../../parts/use-drag';
import { useWithKeys } from '../keys/actions-context';
import type { Source } from '../../render/protocol';
import { CancelImport } from '../shot/cancel-import';
import { Importing } from '../../parts/medium-state';
import { goTo, stepFrame, usePlayback } from '../state/playback';
import { followOnStrip, useStripView, wholeStrip, zoomAtPlayhead } from '../state/strip-view';
import { FootageOnStrip } from './footage';
import { LoopRow } from './loop-row';
import { Overview } from './overview';
import { Playhead } from './playhead';
import { rulerMarks } from './strip-places';
import { SHOT_SIDES, STRIP_MARGIN, Stretched, useStripWheel } from './stretched';
import { TrimHandles } from './trim-handles';
import { actionNames } from '../../messages/actions';
import { texts } from '../../messages/strip';

/** Time under the chain: seconds, what is ready to play, the footage, the shape of its sound. Drag to move through it. */
export function Strip({ shot: { id, reelId, medium }, source }: { shot: Shot; source: Source }) {
  const { data: peaks } = useSWR(medium.hasSound ? `/media/${medium.id}/peaks` : null, (path: string) => api<number[]>(path));
  const room = useRef<HTMLElement>(null);
  const whole = useRef<HTMLDivElement>(null);
  useStripWheel(room, source);
  useEffect(() => usePlayback.subscribe((now, before) => now.frame !== before.frame && followOnStrip((now.frame + 0.5) / source.frames)), [source]);

  const scrub = (event: PointerEvent): void => {
    const box = whole.current!.getBoundingClientRect();
    const { zoom, from } = useStripView.getState();
    // What is not seen is not gone to by hand.
    const share = Math.max(from, Math.min(from + 1 / zoom - 0.5 / source.frames, (event.clientX - box.left) / box.width));
    goTo(source, Math.floor(share * source.frames + 1e-6));
  };
  const drag = useDrag({
    start: (event) => {
      scrub(event);
      return true;
    },
    move: scrub,
  });

  return (
    <section ref={room} id="strip" aria-label={texts.strip} className="relative h-[120px] shrink-0 touch-none overflow-hidden" {...drag}>
      <div className="absolute inset-y-0 left-0 border-r border-rule text-[13px] text-faint" style={{ width: STRIP_MARGIN }}>
        <Sizes source={source} />
        <div className="flex h-9 items-center px-2">{texts.footage}</div>
        {peaks && <div className="mt-1 flex h-8 items-center px-2">{texts.sound}</div>}
      </div>
      <Moment source={source}>
        <div className="absolute inset-x-0 top-0 h-[17px] overflow-clip">
          <Stretched inner={whole} className="inset-y-0 !inset-x-0">
            <Ruler source={source} />
          </Stretched>
        </div>
        <div className="absolute inset-x-0 top-[30px] h-[72px]">
          <FootageOnStrip medium={medium} source={source} peaks={peaks} />
        </div>
      </Moment>
      <LoopRow source={source} className="top-[17px] h-[12px]" />
      <TrimHandles source={source} className="top-[30px] h-9" />
      <Overview source={source} className="bottom-1 h-[10px]" />
      {!source.proxy.made && (
        // Where the sound will be.
        <div className="absolute top-[67px] flex h-9 items-center gap-3 text-[13px] text-faint" style={SHOT_SIDES} onPointerDown={(event) => event.stopPropagation()}>
          <span role="status" data-importing className="w-[220px]">
            <Importing medium={medium} />
          </span>
          <CancelImport shot={{ id, reelId }} />
        </div>
      )}
      <Playhead frames={source.frames} />
    </section>
  );
}

function Sizes({ source }: { source: Source }) {
  const whole = useStripView((s) => s.zoom === 1);
  // A press here is none on the strip.
  return (
    <Toolbar label={texts.lengthOfStrip} className="flex h-[30px] items-center px-1" onPointerDown={(event) => event.stopPropagation()}>
      <SizeButton label={texts.shorterStrip} action={actionNames.shorterStrip} disabled={whole} onClick={() => zoomAtPlayhead(source, -1)}>
        <ZoomOut size={15} />
      </SizeButton>
      <SizeButton label={texts.longerStrip} action={actionNames.longerStrip} onClick={() => zoomAtPlayhead(source, 1)}>
        <ZoomIn size={15} />
      </SizeButton>
      <SizeButton label={texts.allOfTheShot} action={actionNames.allOfShotOnStrip} disabled={whole} onClick={wholeStrip}>
        <Maximize2 size={14} />
      </SizeButton>
    </Toolbar>
  );
}

/** @param action its name in the list of keys */
function SizeButton({ label, action, ...rest }: { label: string; action: string; disabled?: boolean; onClick: () => void; children: ReactNode }) {
  const withKeys = useWithKeys();
  return (
    <Tool disabled={rest.disabled}>
      <button type="button" className="grid h-6 flex-1 place-items-center hover:text-ink disabled:opacity-40" aria-label={label} title={withKeys(action, action)} {...rest} />
    </Tool>
  );
}

function Ruler({ source }: { source: Source }) {
  const { zoom, from } = useStripView();
  const seconds = source.frames / source.rate;
  return rulerMarks(from * seconds, Math.min(seconds, (from + 1 / zoom) * seconds), source.rate).map((mark) => (
    <span
      key={mark.seconds}
      className="mono absolute top-1 border-l border-ink pl-1 text-[11px] whitespace-nowrap leading-3 text-faint"
      style={{ left: `${(mark.seconds / seconds) * 100}%` }}
    >
      {mark.text}
    </span>
  ));
}

/** The strip as a slider. What lies in it stays as it is while its value changes. */
function Moment({ source, children }: { source: Source; children: ReactNode }) {
  const frame = usePlayback((s) => s.frame);
  // What has the focus takes the arrows itself; the bench's own keys leave sliders alone.
  const onKeyDown = (event: KeyboardEvent): void => {
    const by = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1, PageUp: 10, PageDown: -10, Home: -source.frames, End: source.frames }[event.key];
    if (by === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    stepFrame(source, event.shiftKey ? by * Math.round(source.rate) : by);
  };
  return (
    <div
      onKeyDown={onKeyDown}
      className="absolute inset-y-0"
      style={SHOT_SIDES}
      role="slider"
      tabIndex={0}
      aria-label={texts.momentInShot}
      aria-valuemin={1}
      aria-valuemax={source.frames}
      aria-valuenow={frame + 1}
    >
      {children}
    </div>
  );
}
