import { useEffect } from 'react';
import { create } from 'zustand';
import type { ListedEvent, Look } from '@tin-ghost/core';
import { preview } from '../render/preview';

const useListed = create<{ events: readonly ListedEvent[]; of: Look | null }>(() => ({ events: [], of: null }));
let wanted: { look: Look; rate: number; frames: number } | null = null;
let busy = false;

/** Lists the newest look that was asked for; while one is being listed, of those that come meanwhile only the last is. */
async function list(): Promise<void> {
  if (busy) return;
  busy = true;
  while (wanted) {
    const order = wanted;
    wanted = null;
    // A worker that fails leaves the marks as they were; the picture tells what went wrong.
    const events = await preview()
      .ask({ kind: 'events', ...order })
      .catch(() => null);
    if (events) useListed.setState({ events, of: order.look });
  }
  busy = false;
}

/** Keeps the list of what happens in a look over a shot; for one place of the page. */
export function useEventListing(look: Look, rate: number, frames: number): void {
  useEffect(() => {
    wanted = { look, rate, frames };
    void list();
  }, [look, rate, frames]);
}

/** The events of the look on the bench, by time; those of the last one until a changed look's are there. */
export const useEvents = (): readonly ListedEvent[] => useListed((s) => s.events);

/** Whether those are this look's own. */
export const useEventsOf = (look: Look): boolean => useListed((s) => s.of === look);
