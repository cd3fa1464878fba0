import { setTimeout as pause } from 'node:timers/promises';
import { isDatabaseAway } from '../db/client';

const SPACING_MS = 400;
const TRIES = 60;

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

/** Runs a write that must not be lost: while the database is away it is tried again, for two minutes. */
export async function surely<T>(write: () => Promise<T>): Promise<T> {
  for (let attempt = 0; ; attempt++) {
    try {
      return await write();
    } catch (error) {
      if (!isDatabaseAway(error) || attempt >= TRIES) throw error;
      await pause(2000);
    }
  }
}
