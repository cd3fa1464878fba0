import { randomUUID } from 'node:crypto';
import { availableParallelism, hostname } from 'node:os';
import { eq, ne, sql } from 'drizzle-orm';
import { here, processRuns } from '@tin-ghost/media';
import type { Database } from '../db/client';
import { workers } from '../db/schema';

const BEAT_MS = 3000;
/** Whoever was not seen for this time is gone, and what it worked on is taken by others. */
export const GONE_SECONDS = 15;

/** Those of this process: in tests there are several. */
const own = new Set<string>();

/**
 * This process among those that take work. It says every few seconds that it is there; whoever no longer says so has lost what it was working on. Its id
 * stands beside all that it works on, and only under this id may it come to an end with it.
 */
export class Presence {
  readonly id = randomUUID();
  private beating: NodeJS.Timeout | undefined;
  /** When the database was last away, by this process's clock. */
  private awayAt = -Infinity;

  /** @param engine stamp of what makes the pictures */
  constructor(
    private readonly db: Database,
    readonly engine: string,
    readonly threads = availableParallelism(),
  ) {}

  async enter(): Promise<void> {
    own.add(this.id);
    await this.say();
    this.beating = setInterval(() => void this.beat(), BEAT_MS).unref();
  }

  async leave(): Promise<void> {
    clearInterval(this.beating);
    own.delete(this.id);
    await this.db.delete(workers).where(eq(workers.id, this.id));
  }

  /** Whether nobody else is seen. */
  async alone(): Promise<boolean> {
    await this.removeGone();
    return (await this.db.select({ id: workers.id }).from(workers).where(ne(workers.id, this.id))).length === 0;
  }

  /** Removes those that are gone: at once where it can be seen that their process is, else after a time. */
  async removeGone(): Promise<void> {
    const rows = await this.db.select().from(workers).where(ne(workers.id, this.id));
    const ended = rows.filter(({ id, place, pid }) => place === here() && (pid === process.pid ? !own.has(id) : !processRuns(pid))).map((row) => row.id);
    for (const id of ended) await this.db.delete(workers).where(eq(workers.id, id));
    // After the database was away nobody has been seen for a while.
    if (performance.now() - this.awayAt > GONE_SECONDS * 1000)
      await this.db.delete(workers).where(sql`${workers.seenAt} < now() - make_interval(secs => ${GONE_SECONDS}) and ${workers.id} <> ${this.id}`);
  }

  private async beat(): Promise<void> {
    await this.say().catch(() => {
      this.awayAt = performance.now();
    });
  }

  private async say(): Promise<void> {
    await this.db
      .insert(workers)
      .values({ id: this.id, name: hostname(), place: here(), pid: process.pid, engine: this.engine, threads: this.threads })
      .onConflictDoUpdate({ target: workers.id, set: { seenAt: sql`now()` } });
  }
}
