import { useEffect, useMemo, type KeyboardEvent, type MouseEvent } from 'react';
import { traitById, type ListedEvent, type Look } from '@tin-ghost/core';
import type { Source } from '../../render/protocol';
import { useLights } from '../../parts/top-bar';
import { isChanged, isMuted, nearest, pinEvent } from '../state/event-edits';
import { LaneRow, LaneRows } from './lane-row';
import { paintLane } from './lane-painting';
import { SHOT_SIDES } from './stretched';
import { snapped } from './strip-places';
import { sameUse, traitUseAt, type UseAt } from '../state/look-edits';
import { changeLook, onGesture, useDocument } from '../state/document';
import { useEventListing, useEvents, useEventsOf, moveEvent, stepEvent } from '../state/events';
import { selectEvent, useSession } from '../state/session';
import { goTo, usePlayback } from '../state/playback';
import { useStripView } from '../state/strip-view';
import { useDrag } from '../../parts/use-drag';
import { usePainted } from '../../parts/use-painted';
import { texts } from '../../messages/strip';

/** How near a hand must come to a mark, and how far it must move for a drag, in pixels. */
const REACH = 6;
const DRAG = 4;

/** Uses of a look that make events, in the order of the chain. */
const eventUses = (look: Look): UseAt[] =>
  look.lives.flatMap((life, l) => life.traits.flatMap((use, index) => (traitById(use.trait)?.events && use.on !== false ? [{ life: l, index }] : [])));

/** Below the footage: a lane for each trait that makes events. */
export function Lanes({ source }: { source: Source }) {
  const look = useDocument((s) => s.look);
  useEventListing(look, source.rate, source.frames);
  const events = useEvents();
  const uses = useMemo(() => eventUses(look), [look]);
  // A lane is painted anew when its own events are others.
  const lanes = useMemo(() => uses.map((at) => events.filter((e) => sameUse(e, at))), [uses, events]);
  if (uses.length === 0) return null;
  return (
    <LaneRows name={texts.events} count={uses.length} source={source}>
      {uses.map((at, i) => (
        <Lane key={`${at.life}.${at.index}`} at={at} events={lanes[i]!} source={source} />
      ))}
    </LaneRows>
  );
}

function Lane({ at, events, source }: { at: UseAt; events: readonly ListedEvent[]; source: Source }) {
  const { zoom, from } = useStripView();
  const look = useDocument((s) => s.look);
  const selected = useSession((s) => (sameUse(s.selected, at) ? s.event : null));
  const open = useSession((s) => sameUse(s.selected, at));
  const current = useEventsOf(look);
  const lit = useLights((s) => s.down);
  const use = traitUseAt(look, at)!;
  const name = use.name ?? traitById(use.trait)!.name;
  const seconds = source.frames / source.rate;
  // An hour has very many, and is scrolled.
  const { longest, shown } = useMemo(
    () => ({ longest: events.reduce((most, { length }) => Math.max(most, length), 0), shown: events.reduce((count, event) => count + (isMuted(event) ? 0 : 1), 0) }),
    [events],
  );

  const canvas = usePainted(
    (g, width, height) => paintLane(g, width, height, { events, longest, from: from * seconds, to: (from + 1 / zoom) * seconds, selected, changed: (id) => isChanged(use, id) }),
    [events, seconds, selected, use.events, lit, zoom, from],
  );

  useEffect(() => {
    if (open) canvas.current!.scrollIntoView({ block: 'nearest' });
  }, [open, canvas]);

  const momentOf = (x: number): { at: number; perPixel: number } => {
    const box = canvas.current!.getBoundingClientRect();
    const perPixel = seconds / zoom / box.width;
    return { at: from * seconds + (x - box.left) * perPixel, perPixel };
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
      const { perPixel } = momentOf(0);
      const { loop } = usePlayback.getState();
      moveEvent(source, at, event, snapped(event.at + dx * perPixel, loop ? [loop.from / source.rate, loop.to / source.rate] : [], perPixel));
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
    if (step && e.altKey) {
      if (event) stepEvent(source, at, event, step * (e.shiftKey ? Math.round(source.rate) : 1));
    } else if (step) {
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
    <LaneRow name={name} open={open} onName={() => selectEvent(at, null)}>
      <canvas
        ref={canvas}
        tabIndex={0}
        role="application"
        aria-label={texts.eventsOf(name, shown)}
        data-lane={use.trait}
        data-events={events.length}
        data-current={current ? '' : undefined}
        title={texts.clickMarkToChoose}
        className="absolute inset-y-0 h-full"
        style={{ left: SHOT_SIDES.left, width: `calc(100% - ${SHOT_SIDES.left + SHOT_SIDES.right}px)` }}
        {...drag}
        onDoubleClick={onDoubleClick}
        onKeyDown={onKeyDown}
      />
    </LaneRow>
  );
}
