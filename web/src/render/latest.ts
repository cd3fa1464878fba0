import { useState } from 'react';

/**
 * A queue in which only the newest counts: while one order is being done, what comes meanwhile waits, and only the last of it is done next.
 * @param work does an order; it must say itself what went wrong
 */
export function latest<T>(work: (order: T) => Promise<void>): (order: T) => void {
  let next: { readonly order: T } | null = null;
  let busy = false;
  const run = async (): Promise<void> => {
    busy = true;
    while (next) {
      const { order } = next;
      next = null;
      await work(order);
    }
    busy = false;
  };
  return (order) => {
    next = { order };
    if (!busy) void run();
  };
}

/** `latest` for as long as a component stands. @param work that of the first render is kept: what changes comes with the order */
export function useLatest<T>(work: (order: T) => Promise<void>): (order: T) => void {
  const [ask] = useState(() => latest(work));
  return ask;
}
