import type { Database } from '../db/client';
import type { Newsroom } from '../newsroom';
import type { MediaStore } from '../store/media-store';
import type { Presence } from './presence';

/** What a job works with. */
export interface JobTools {
  readonly db: Database;
  readonly store: MediaStore;
  readonly news: Newsroom;
  readonly presence: Presence;
  readonly signal: AbortSignal;
  /** Has the queue looked after: something ended, or waits anew. */
  readonly wake: () => void;
}
