import { useEffect } from 'react';
import { create } from 'zustand';
import type { ListedEvent, Look } from '@tin-ghost/core';
import { latest } from '../../render/latest';
import { preview } from '../../render/preview';

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
