import type { Database } from '../db/client';
import type { Newsroom } from '../newsroom';
import type { MediaStore } from '../store/media-store';

/** What a job works with. */
export interface JobTools {
  readonly db: Database;
  readonly store: MediaStore;
  readonly news: Newsroom;
  readonly signal: AbortSignal;
}
