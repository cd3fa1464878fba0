import { useEffect, useMemo, useRef, type KeyboardEvent, type MouseEvent } from 'react';
import clsx from 'clsx';
import { traitById, type ListedEvent, type Look } from '@tin-ghost/core';
import type { Source } from '../../render/protocol';
import { useLights } from '../../parts/top-bar';
import { editEvent, isChanged, isMuted, nearest, pinEvent } from '../state/event-edits';
import { paintLane } from './lane-painting';
import { sameUse, traitUseAt, type UseAt } from '../state/look-edits';
import { changeLook, onGesture, useDocument } from '../state/document';
import { useEventListing, useEvents, useEventsOf } from '../state/events';
import { selectEvent, useSession } from '../state/session';
import { goTo, usePlayback } from '../state/playback';
import { useDrag } from '../../parts/use-drag';

/** Height of one lane; so many are seen without scrolling. */
const LANE = 17;
const LANES_SEEN = 4;
/** How near a hand must come to a mark, and how far it must move for a drag, in pixels. */
const REACH = 6;
const DRAG = 4;

/** Uses of a look that make events, in the order of the chain. */
const eventUses = (look: Look): UseAt[] =>
  look.lives.flatMap((life, l) => life.traits.flatMap((use, index) => (traitById(use.trait)?.events && use.on !== false ? [{ life: l, index }] : [])));

/** Below the footage: a lane for each trait that makes events. */
export function Lanes({ source, margin }: { source: Source; margin: number }) {
  const look = useDocument((s) => s.look);
  useEventListing(look, source.rate, source.frames);
  const events = useEvents();
  const uses = useMemo(() => eventUses(look), [look]);
  // A lane is painted anew when its own events are others.
  const lanes = useMemo(() => uses.map((at) => events.filter((e) => sameUse(e, at))), [uses, events]);
  if (uses.length === 0) return null;
  return (
    <div className="shrink-0 overflow-y-auto border-t border-rule" style={{ height: Math.min(uses.length, LANES_SEEN) * LANE + 1 }} aria-label="Events" role="group">
      {uses.map((at, i) => (
        <Lane key={`${at.life}.${at.index}`} at={at} events={lanes[i]!} source={source} margin={margin} />
      ))}
    </div>
  );
}

function Lane({ at, events, source, margin }: { at: UseAt; events: readonly ListedEvent[]; source: Source; margin: number }) {
  const look = useDocument((s) => s.look);
  const selected = useSession((s) => (sameUse(s.selected, at) ? s.event : null));
  const open = useSession((s) => sameUse(s.selected, at));
  const current = useEventsOf(look);
  const lit = useLights((s) => s.down);
  const canvas = useRef<HTMLCanvasElement>(null);
  const use = traitUseAt(look, at)!;
  const name = use.name ?? traitById(use.trait)!.name;
  const seconds = source.frames / source.rate;

  useEffect(() => {
    const element = canvas.current!;
    const draw = (): void => paintLane(element, events, seconds, selected, (id) => isChanged(use, id));
    const observer = new ResizeObserver(draw);
    observer.observe(element);
    draw();
    return () => observer.disconnect();
  }, [events, seconds, selected, use, lit]);

  useEffect(() => {
    if (open) canvas.current!.scrollIntoView({ block: 'nearest' });
  }, [open]);

  const momentOf = (x: number): { at: number; perPixel: number } => {
    const box = canvas.current!.getBoundingClientRect();
    return { at: ((x - box.left) / box.width) * seconds, perPixel: seconds / box.width };
  };
  const under = (x: number): ListedEvent | undefined => {
    const moment = momentOf(x);
    return nearest(events, moment.at, REACH * moment.perPixel);
  };
  const show = (seconds: number): void => goTo(source, Math.floor(seconds * source.rate + 1e-6));

  const drag = useDrag({
    slack: DRAG,
    start: (e) => {
      const event = under(e.clientX);
      selectEvent(at, event?.id ?? null);
      if (event) show(event.at);
      return event;
    },
    move: (_, event, { dx }) => {
      const moved = event.at + dx * momentOf(0).perPixel;
      // On the picture it falls on, so that it is seen where it stands.
      const on = Math.round(Math.max(0, Math.min(seconds - 1 / source.rate, moved)) * source.rate) / source.rate;
      changeLook(editEvent(useDocument.getState().look, at, event, { at: on }));
      show(on);
    },
    onGesture,
  });
  const pinAt = (moment: number): void => {
    const pinned = pinEvent(useDocument.getState().look, at, moment);
    changeLook(pinned.look);
    selectEvent(at, pinned.id);
    show(moment);
  };
  const onDoubleClick = (e: MouseEvent): void => {
    if (!under(e.clientX)) pinAt(Math.floor(momentOf(e.clientX).at * source.rate) / source.rate);
  };
  const onKeyDown = (e: KeyboardEvent): void => {
    const now = events.findIndex((event) => event.id === selected);
    const event = events[now];
    const step = e.key === 'ArrowRight' ? 1 : e.key === 'ArrowLeft' ? -1 : 0;
    if (step) {
      const frame = usePlayback.getState().frame / source.rate;
      const from = event ? now : step > 0 ? events.findIndex((x) => x.at >= frame) - 1 : events.filter((x) => x.at < frame).length;
      const next = events[Math.max(0, Math.min(events.length - 1, from + step))];
      if (next) {
        selectEvent(at, next.id);
        show(next.at);
      }
    } else if (e.key === 'Enter') pinAt(usePlayback.getState().frame / source.rate);
    else return;
    e.preventDefault();
    e.stopPropagation();
  };
  return (
    <div className={clsx('relative', open && 'bg-tin')} style={{ height: LANE }}>
      <button
        type="button"
        onClick={() => selectEvent(at, null)}
        className={clsx('absolute inset-y-0 left-0 truncate border-r border-rule px-2 text-left text-[12px] leading-4', open ? 'text-oxide' : 'text-faint')}
        style={{ width: margin }}
      >
        {name}
      </button>
      <canvas
        ref={canvas}
        tabIndex={0}
        role="application"
        aria-label={`Events of ${name}: ${events.filter((e) => !isMuted(e)).length}; arrows go from one to the next, Enter pins one at this picture, Delete mutes it`}
        data-lane={use.trait}
        data-events={events.length}
        data-current={current ? '' : undefined}
        title="Click a mark to choose it, drag to move it; double-click to pin one here"
        className="absolute inset-y-0 right-3 h-full"
        style={{ left: margin + 10, width: `calc(100% - ${margin + 22}px)` }}
        {...drag}
        onDoubleClick={onDoubleClick}
        onKeyDown={onKeyDown}
      />
    </div>
  );
}
