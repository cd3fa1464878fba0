import PgBoss from 'pg-boss';
import type { Database } from '../db/client';
import type { Newsroom } from '../events';
import type { MediaStore } from '../store/media-store';
import { bringIn } from './bring-in';
import { strikePrint } from './strike-print';
import { unfinished } from './recover';

const BRING_IN = 'bring-in';
const STRIKE = 'strike';

export interface JobTools {
  readonly db: Database;
  readonly store: MediaStore;
  readonly news: Newsroom;
  readonly signal: AbortSignal;
}

/** Long work, queued in the database. One of a kind runs at a time: each uses all cores. */
export class Jobs {
  private readonly boss: PgBoss;
  private readonly running = new Map<string, AbortController>();

  constructor(
    url: string,
    private readonly tools: Omit<JobTools, 'signal'>,
  ) {
    this.boss = new PgBoss({ connectionString: url, max: 4 });
    // A database that goes away is met again by pg-boss itself; requests are told by the routes.
    this.boss.on('error', () => undefined);
  }

  async start(): Promise<void> {
    await this.boss.start();
    for (const queue of [BRING_IN, STRIKE]) await this.boss.createQueue(queue);
    await this.boss.work<{ id: string }>(BRING_IN, { pollingIntervalSeconds: 0.5 }, ([job]) => this.run(job!.data.id, bringIn));
    await this.boss.work<{ id: string }>(STRIKE, { pollingIntervalSeconds: 0.5 }, ([job]) => this.run(job!.data.id, strikePrint));
    const left = await unfinished(this.tools.db);
    for (const id of left.media) await this.bringIn(id);
    for (const id of left.prints) await this.strike(id);
  }

  async stop(): Promise<void> {
    for (const controller of this.running.values()) controller.abort();
    await this.boss.stop({ graceful: false, wait: false });
  }

  bringIn(mediaId: string): Promise<unknown> {
    return this.boss.send(BRING_IN, { id: mediaId }, { retryLimit: 0, expireInHours: 23 });
  }

  strike(printId: string): Promise<unknown> {
    return this.boss.send(STRIKE, { id: printId }, { retryLimit: 0, expireInHours: 23 });
  }

  /** Stops the work on a medium or a print, if it runs here. */
  cancel(id: string): void {
    this.running.get(id)?.abort();
  }

  private async run(id: string, work: (id: string, tools: JobTools) => Promise<void>): Promise<void> {
    const controller = new AbortController();
    this.running.set(id, controller);
    try {
      await work(id, { ...this.tools, signal: controller.signal });
    } finally {
      this.running.delete(id);
    }
  }
}
