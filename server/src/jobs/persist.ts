import { setTimeout as pause } from 'node:timers/promises';
import { isDatabaseAway } from '../db/client';
import { StoreAwayError } from '../store/away';

const SPACING_MS = 400;

/** Runs a write now and then: at most one every 400 ms, none of them waited for. Progress that is not written is only late. */
export function occasionally(write: () => Promise<unknown>): () => void {
  let last = 0;
  return () => {
    const now = Date.now();
    if (now - last < SPACING_MS) return;
    last = now;
    write().catch(() => undefined);
  };
}

/** Runs a write that must not be lost: while the database or the store is away it is tried again. @param signal ends the trying with its reason */
export async function surely<T>(write: () => Promise<T>, signal?: AbortSignal): Promise<T> {
  for (;;) {
    try {
      return await write();
    } catch (error) {
      if (!isDatabaseAway(error) && !(error instanceof StoreAwayError)) throw error;
      await pause(2000, undefined, { signal });
    }
  }
}
