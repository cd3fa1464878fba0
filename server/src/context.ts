import type { Database } from './db/client';
import type { Newsroom } from './newsroom';
import type { Jobs } from './jobs/jobs';
import type { FootageService } from './footage/service';
import type { Bin } from './footage/bin';
import type { Arrivals } from './footage/arrivals';
import type { MediaStore } from './store/media-store';

/** What routes and jobs work with. */
export interface Context {
  readonly db: Database;
  readonly store: MediaStore;
  readonly news: Newsroom;
  readonly jobs: Jobs;
  readonly footage: FootageService;
  readonly bin: Bin;
  readonly arrivals: Arrivals;
}
