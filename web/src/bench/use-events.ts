import { useEffect, useState } from 'react';
import type { ListedEvent, Look } from '@tin-ghost/core';
import { preview } from '../render/preview';

/** The events of a look over a shot, by time; the last ones until those of a changed look are there. */
export function useEvents(look: Look, rate: number, frames: number): readonly ListedEvent[] {
  const [events, setEvents] = useState<readonly ListedEvent[]>([]);
  useEffect(() => {
    let wanted = true;
    preview()
      .ask({ kind: 'events', look, rate, frames })
      .then((found) => wanted && setEvents(found))
      // A worker that was ended for a newer order: that one answers.
      .catch(() => undefined);
    return () => {
      wanted = false;
    };
  }, [look, rate, frames]);
  return events;
}
