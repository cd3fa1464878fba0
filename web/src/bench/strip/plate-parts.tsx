import { useRef, type KeyboardEvent } from 'react';
import clsx from 'clsx';
import { toast } from 'sonner';
import type { StoredPlate } from '@tin-ghost/contract';
import type { Look } from '@tin-ghost/core';
import { useDrag } from '../../parts/use-drag';
import type { Source } from '../../render/protocol';
import { changeLook, onGesture, useDocument } from '../state/document';
import type { UseAt } from '../state/look-edits';
import { changeSeam, movePart, passOf, removePart, trimPart, type Clip, type PlatePass } from '../state/plate-edits';
import { BAR, BarHandle } from './bar-handle';
import { texts } from '../../messages/strip';

type Held = 'from' | 'to' | 'seam' | 'all';

/** Repeats of a plate that are drawn; beyond them a shot is full of marks. */
const REPEATS_SEEN = 60;
/** Of a clip that flickers all the time no more parts than these are drawn, as none of them could be told from its neighbours. */
const PARTS_SEEN = 200;

/** A plate as a clip, where it moves. */
export function clipOf(plate: StoredPlate | undefined): Clip | undefined {
  const footage = plate?.medium.footage;
  return footage && footage.frames > 1 ? { frames: footage.frames, rate: footage.rate.num / footage.rate.den, light: plate.light ?? undefined } : undefined;
}

/** What of a plate is kept and when it is shown: each part a bar that is moved, trimmed and removed, its repeats fainter after it. */
export function PlateParts({ at, clip, source }: { at: UseAt; clip: Clip; source: Source }) {
  const look = useDocument((s) => s.look);
  const pass = passOf(look, at, clip);
  const lane = useRef<HTMLDivElement>(null);
  const seconds = source.frames / source.rate;
  const perPixel = (): number => seconds / lane.current!.getBoundingClientRect().width;
  return (
    <div ref={lane} className="absolute inset-0 overflow-hidden" data-plate-parts>
      <Repeats pass={pass} seconds={seconds} />
      {pass.parts.slice(0, PARTS_SEEN).map((_, i) => (
        <PartBar key={i} index={i} at={at} clip={clip} pass={pass} seconds={seconds} perPixel={perPixel} />
      ))}
      {pass.parts.length > PARTS_SEEN && <span className="absolute right-1 bg-tin px-1 text-[12px] leading-4 text-faint">{texts.firstParts(PARTS_SEEN, pass.parts.length)}</span>}
    </div>
  );
}

const place = (from: number, length: number, seconds: number): { left: string; width: string } => ({ left: `${(from / seconds) * 100}%`, width: `${(length / seconds) * 100}%` });

function Repeats({ pass: { parts, begins, picture, period, loop }, seconds }: { pass: PlatePass; seconds: number }) {
  if (loop === 'once') return null;
  if (loop === 'hold') return <span className="absolute inset-y-[6px] bg-oxide opacity-20" style={place(begins + period * picture, seconds, seconds)} />;
  const from = begins + period * picture;
  const count = Math.min(Math.ceil((seconds - from) / (period * picture)), Math.floor(REPEATS_SEEN / parts.length));
  return Array.from({ length: Math.max(0, count) }, (_, pass) =>
    parts.map((part, i) => (
      <span
        key={`${pass}.${i}`}
        className="absolute inset-y-[4px] border-l border-ink bg-oxide opacity-25"
        style={place(from + (pass * period + part.at) * picture, (part.to - part.from) * picture, seconds)}
      />
    )),
  );
}

interface PartProps {
  index: number;
  at: UseAt;
  clip: Clip;
  pass: PlatePass;
  seconds: number;
  perPixel: () => number;
}

function PartBar({ index, at, clip, pass, seconds, perPixel }: PartProps) {
  const { from, to, at: shown } = pass.parts[index]!;
  const last = index === pass.parts.length - 1;
  const change = (held: Held, look: Look, by: number): Look => {
    if (held === 'all') return movePart(look, at, clip, index, by);
    return held === 'seam' ? changeSeam(look, at, clip, pass.seam - by) : trimPart(look, at, clip, index, held, by);
  };
  const drag = useDrag({
    slack: 2,
    start: ({ target }) => ({ part: ((target as HTMLElement).dataset.part ?? 'all') as Held, look: useDocument.getState().look, change, picture: pass.picture }),
    // From where it was taken hold of, so that what was held back at an edge comes back with the hand.
    move: (_, held, { dx }) => changeLook(held.change(held.part, held.look, Math.round((dx * perPixel()) / held.picture))),
    onGesture,
  });
  const remove = (): void => {
    const { look } = useDocument.getState();
    const left = removePart(look, at, clip, index);
    if (left !== look) changeLook(left);
    else toast.message(pass.whole ? texts.allOfThisPlate : texts.lastPartStaysToSee);
  };
  const onKeyDown = (event: KeyboardEvent): void => {
    if (event.key === 'Delete' || event.key === 'Backspace') remove();
    else {
      const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
      if (way === undefined) return;
      changeLook(change(event.altKey ? 'to' : 'all', useDocument.getState().look, way * (event.shiftKey ? Math.round(clip.rate) : 1)));
    }
    event.preventDefault();
    event.stopPropagation();
  };
  const seam = last && pass.loop === 'loop';
  const ramp = (pass.seam / (to - from)) * 100;
  const begins = pass.begins + shown * pass.picture;
  return (
    <div
      {...drag}
      tabIndex={0}
      role="slider"
      aria-label={texts.partOfPlate(index + 1)}
      aria-valuemin={0}
      aria-valuemax={seconds}
      aria-valuenow={begins}
      aria-valuetext={texts.partShownAt((from / clip.rate).toFixed(2), (to / clip.rate).toFixed(2), begins.toFixed(2))}
      onKeyDown={onKeyDown}
      className={BAR}
      style={place(begins, (to - from) * pass.picture, seconds)}
    >
      <span
        className={clsx('pointer-events-none absolute inset-0 border-l border-ink bg-oxide opacity-60')}
        style={{ clipPath: `polygon(0 0, ${100 - (seam ? Math.min(100, ramp) : 0)}% 0, 100% ${seam && pass.seam > 0 ? '100%' : '0'}, 100% 100%, 0 100%)` }}
      />
      {seam && <BarHandle part="seam" left={`${Math.max(0, 100 - ramp)}%`} cursor="cursor-col-resize" />}
      <BarHandle part="from" left="0%" cursor="cursor-w-resize" />
      <BarHandle part="to" left="100%" cursor="cursor-e-resize" />
    </div>
  );
}
