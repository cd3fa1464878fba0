import type { EventChanges, ListedEvent, Look, TraitEvent, TraitUse } from '@tin-ghost/core';
import { changeUse, traitUseAt, type UseAt } from './look-edits';

/** What a hand may change of an event. */
export type EventEdit = { at?: number; x?: number; y?: number; scale?: number };

/** Changes of a use by hand, without what is empty; undefined where nothing is left. */
function tidy({ muted = [], changed = {}, pinned = [] }: EventChanges): TraitUse['events'] {
  const left = {
    ...(muted.length ? { muted } : {}),
    ...(Object.keys(changed).length ? { changed } : {}),
    ...(pinned.length ? { pinned } : {}),
  };
  return Object.keys(left).length ? left : undefined;
}

function withEvents(look: Look, at: UseAt, change: (events: EventChanges) => EventChanges): Look {
  const events = tidy(change(traitUseAt(look, at)?.events ?? {}));
  const next = changeUse(look, at, { events });
  if (events) return next;
  // A use without changes is written as one that never had any.
  const { events: _none, ...bare } = traitUseAt(next, at)!;
  return { ...look, lives: look.lives.map((l, i) => (i === at.life ? { ...l, traits: l.traits.map((use, j) => (j === at.index ? bare : use)) } : l)) };
}

/** Moves or scales one event; one that was generated keeps its identity. */
export const editEvent = (look: Look, at: UseAt, { id, pinned }: Pick<TraitEvent, 'id' | 'pinned'>, more: EventEdit): Look =>
  withEvents(look, at, (events) =>
    pinned
      ? { ...events, pinned: events.pinned?.map((pin) => (pin.id === id ? { ...pin, ...more } : pin)) }
      : { ...events, changed: { ...events.changed, [id]: { ...events.changed?.[id], ...more } } },
  );

/** Where an event stands now: what a hand did last may not be listed yet. */
export function momentOfEvent(look: Look, at: UseAt, event: ListedEvent): number {
  const { pinned, changed } = traitUseAt(look, at)?.events ?? {};
  return (event.pinned ? pinned?.find(({ id }) => id === event.id)?.at : changed?.[event.id]?.at) ?? event.at;
}

/** Turns one event off or on. */
export const muteEvent = (look: Look, at: UseAt, id: string, off: boolean): Look =>
  withEvents(look, at, (events) => ({ ...events, muted: [...(events.muted ?? []).filter((m) => m !== id), ...(off ? [id] : [])] }));

/** Puts an event where a hand wants it. @returns the look and the event's identity */
export function pinEvent(look: Look, at: UseAt, seconds: number): { look: Look; id: string } {
  const taken = new Set(traitUseAt(look, at)?.events?.pinned?.map((pin) => pin.id));
  let n = 1;
  while (taken.has(`hand-${n}`)) n++;
  const id = `hand-${n}`;
  return { look: withEvents(look, at, (events) => ({ ...events, pinned: [...(events.pinned ?? []), { id, at: Math.max(0, seconds) }] })), id };
}

/** Takes a pinned event away; one that was generated is put back as it was. */
export const restoreEvent = (look: Look, at: UseAt, id: string): Look =>
  withEvents(look, at, ({ muted, changed = {}, pinned }) => {
    const { [id]: _before, ...rest } = changed;
    return { muted: muted?.filter((m) => m !== id), changed: rest, pinned: pinned?.filter((pin) => pin.id !== id) };
  });

/** Whether a hand has changed a generated event. */
export const isChanged = (use: TraitUse | undefined, id: string): boolean => Boolean(use?.events?.changed?.[id] || use?.events?.muted?.includes(id));

export const isMuted = (event: Pick<ListedEvent, 'scale'>): boolean => event.scale === 0;

/** The event nearest to a moment, within a reach in seconds: one under way counts as there. */
export function nearest<E extends Pick<TraitEvent, 'at' | 'length'>>(events: readonly E[], seconds: number, reach: number): E | undefined {
  let best: { event: E; away: number } | undefined;
  for (const event of events) {
    const away = seconds < event.at ? event.at - seconds : Math.max(0, seconds - event.at - event.length);
    // Of two as near, the one that began last lies on top.
    if (away <= reach && (!best || away < best.away || (away === best.away && event.at >= best.event.at))) best = { event, away };
  }
  return best?.event;
}
