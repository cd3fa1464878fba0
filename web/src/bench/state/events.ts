import { useEffect } from 'react';
import { create } from 'zustand';
import type { ListedEvent, Look } from '@tin-ghost/core';
import { latest } from '../../render/latest';
import { preview } from '../../render/preview';
import { changeLook, useDocument } from './document';
import { editEvent, momentOfEvent } from './event-edits';
import type { UseAt } from './look-edits';
import { goTo } from './playback';
import { useSession } from './session';

const useListed = create<{ events: readonly ListedEvent[]; of: Look | null }>(() => ({ events: [], of: null }));

/** The picture has the machine first. */
const AFTER_MS = 60;

const list = latest(async (order: { look: Look; rate: number; frames: number }) => {
  await new Promise((go) => setTimeout(go, AFTER_MS));
  await preview()
    .ask({ kind: 'events', ...order })
    .then(
      (events) => useListed.setState({ events, of: order.look }),
      // A worker that fails leaves the marks as they were; the picture tells what went wrong.
      () => undefined,
    );
});

/** Keeps the list of what happens in a look over a shot; for one place of the page. */
export function useEventListing(look: Look, rate: number, frames: number): void {
  useEffect(() => list({ look, rate, frames }), [look, rate, frames]);
}

/** The events of the look on the bench, by time; those of the last one until a changed look's are there. */
export const useEvents = (): readonly ListedEvent[] => useListed((s) => s.events);

/** Whether those are this look's own. */
export const useEventsOf = (look: Look): boolean => useListed((s) => s.of === look);

interface Shot {
  readonly frames: number;
  readonly rate: number;
}

/** Moves an event to a moment, in seconds: to the picture it falls on, so that it is seen where it stands. */
export function moveEvent(shot: Shot, at: UseAt, event: ListedEvent, to: number): void {
  const { frames, rate } = shot;
  const frame = Math.round(Math.max(0, Math.min((frames - 1) / rate, to)) * rate);
  changeLook(editEvent(useDocument.getState().look, at, event, { at: frame / rate }));
  goTo(shot, frame);
}

/** Moves an event by pictures from where it stands. */
export const stepEvent = (shot: Shot, at: UseAt, event: ListedEvent, by: number): void =>
  moveEvent(shot, at, event, momentOfEvent(useDocument.getState().look, at, event) + by / shot.rate);

/** The event that is chosen on the bench, as it is listed. */
function chosenEvent(): { at: UseAt; event: ListedEvent } | undefined {
  const { selected: at, event: id } = useSession.getState();
  const event = at && id && useListed.getState().events.find((one) => one.life === at.life && one.index === at.index && one.id === id);
  return event ? { at: at, event } : undefined;
}

export const isEventChosen = (): boolean => chosenEvent() !== undefined;

export function stepChosenEvent(shot: Shot, by: number): void {
  const chosen = chosenEvent();
  if (chosen) stepEvent(shot, chosen.at, chosen.event, by);
}
