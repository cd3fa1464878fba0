import type pg from 'pg';
import PgBoss from 'pg-boss';
import { setTimeout as pause } from 'node:timers/promises';
import { isDatabaseAway } from '../db/client';
import { bringIn } from './bring-in';
import { strikePrint } from './strike-print';
import { unfinished } from './recover';
import type { JobTools } from './tools';

const BRING_IN = 'bring-in';
const STRIKE = 'strike';

/** While the database is away, it is asked again after this time. */
const AWAY_MS = 1000;
const LAST_WORDS_MS = 2000;

/**
 * Long work, queued in the database. One of a kind runs at a time: each uses all cores. While the database is away the queue waits for it: nothing
 * that it asks fails, so that no failure of its own can end the process.
 */
export class Jobs {
  private readonly boss: PgBoss;
  private readonly running = new Map<string, { controller: AbortController; ended: Promise<void> }>();
  private stopped = false;

  constructor(
    private readonly pool: pg.Pool,
    private readonly tools: Omit<JobTools, 'signal'>,
  ) {
    this.boss = new PgBoss({ db: { executeSql: (text: string, values: unknown[]) => this.query(text, values) as Promise<{ rows: unknown[]; rowCount: number }> } });
    this.boss.on('error', (error) => this.stopped || console.error(error));
  }

  /** The queue itself: from now on work may be sent to it. */
  async open(): Promise<void> {
    await this.boss.start();
    for (const queue of [BRING_IN, STRIKE]) await this.boss.createQueue(queue);
  }

  /** Begins to work, with what was left unfinished. */
  async start(): Promise<void> {
    const left = await unfinished(this.tools.db);
    for (const id of left.media) await this.bringIn(id);
    for (const id of left.prints) await this.strike(id);
    await this.boss.work<{ id: string }>(BRING_IN, { pollingIntervalSeconds: 0.5 }, ([job]) => this.run(job!.data.id, bringIn));
    await this.boss.work<{ id: string }>(STRIKE, { pollingIntervalSeconds: 0.5 }, ([job]) => this.run(job!.data.id, strikePrint));
  }

  async stop(): Promise<void> {
    await Promise.all([...this.running.keys()].map((id) => this.cancel(id)));
    // With the database away it would wait for it.
    await Promise.race([this.boss.stop({ graceful: false, wait: false }), pause(LAST_WORDS_MS, undefined, { ref: false })]);
    this.stopped = true;
  }

  bringIn(mediaId: string): Promise<unknown> {
    return this.boss.send(BRING_IN, { id: mediaId }, { retryLimit: 0, expireInHours: 23 });
  }

  strike(printId: string): Promise<unknown> {
    return this.boss.send(STRIKE, { id: printId }, { retryLimit: 0, expireInHours: 23 });
  }

  /** Stops the work on a medium or a print, if it runs here. @returns when it has ended */
  async cancel(id: string): Promise<void> {
    const running = this.running.get(id);
    running?.controller.abort();
    await running?.ended;
  }

  /** Never throws: how the work ended stands in its own row. */
  private async run(id: string, work: (id: string, tools: JobTools) => Promise<void>): Promise<void> {
    const controller = new AbortController();
    const ended = work(id, { ...this.tools, signal: controller.signal }).catch((error: unknown) => {
      if (!controller.signal.aborted) console.error(error);
    });
    this.running.set(id, { controller, ended });
    await ended;
    this.running.delete(id);
  }

  private async query(text: string, values: unknown[]): Promise<{ rows: unknown[]; rowCount: number } | null> {
    while (!this.stopped) {
      try {
        const { rows, rowCount } = await this.pool.query(text, values);
        return { rows, rowCount: rowCount ?? 0 };
      } catch (error) {
        if (!isDatabaseAway(error) && !this.stopped) throw error;
        await pause(AWAY_MS, undefined, { ref: false });
      }
    }
    // The queue takes this for nothing found and nothing written: its workers come to their end.
    return null;
  }
}
