import type { Database } from '../db/client';
import type { Newsroom } from '../newsroom';
import type { MediaStore } from '../store/media-store';
import type { Presence } from './presence';
import type { Turns } from './turns';

/** What a job works with. */
export interface JobTools {
  readonly db: Database;
  readonly store: MediaStore;
  readonly news: Newsroom;
  readonly presence: Presence;
  readonly signal: AbortSignal;
  /** Lets this process begin with the next of the same kind: what is left to do does not keep it busy. */
  readonly free: () => void;
  /** Has the queue looked after: something ended, or waits anew. */
  readonly wake: () => void;
  /** Of imports that use all cores. */
  readonly turns: Turns;
}
