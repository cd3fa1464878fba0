import type pg from 'pg';
import PgBoss from 'pg-boss';
import { setTimeout as pause } from 'node:timers/promises';
import { eq } from 'drizzle-orm';
import { isDatabaseAway } from '../db/client';
import { media, printSegments } from '../db/schema';
import { log } from '../log';
import { bringIn } from './bring-in';
import { failPrint } from './claims';
import type { Presence } from './presence';
import { strikeSegmentJob } from './strike-segment';
import { heldBy, letGo, tend } from './tend';
import type { JobTools } from './tools';
import { Turns } from './turns';

const BRING_IN = 'bring-in';
const SEGMENT = 'segment';
const JOIN = 'join';

/** While the database is away, it is asked again after this time. */
const AWAY_MS = 1000;
const LAST_WORDS_MS = 2000;
const TEND_MS = 2000;
/** Another process is at it: once more after this time. */
const BUSY_MS = 150;
const POLL = { pollingIntervalSeconds: 0.5, priority: true } as const;
/** A job that ended with its process is looked at again by the queue after this time; long before, its work is taken up by its row. */
const JOB = { retryLimit: 2, retryDelay: 5, expireInHours: 23 } as const;

/** Which work a process takes. */
export interface Roles {
  /** Reads footage in: needs the uploads, which lie with the server. */
  readonly imports: boolean;
  /** Makes segments of prints, and joins them. */
  readonly strikes: boolean;
}

/**
 * Long work, queued in the database: imports, segments of prints, and the joining of those, each in a queue of its own, so that none waits for another. One
 * of a kind uses all cores at a time. What there is to do, and who does it, stands in the tables; a job says who is to look next, and one too many
 * does no harm. While the database is away the queue waits for it: nothing that it asks fails, so that no failure of its own can end the process.
 */
export class Jobs {
  private readonly boss: PgBoss;
  private readonly turns = new Turns();
  private readonly running = new Map<string, { controller: AbortController; ended: Promise<void>; of: string }>();
  private readonly listeners: string[] = [];
  private presence: Presence | undefined;
  private orphans: ReadonlySet<string> = new Set();
  private stopping = false;
  private stopped = false;
  private tending: Promise<void> | undefined;
  private asked = false;
  private timer: NodeJS.Timeout | undefined;

  constructor(
    private readonly pool: pg.Pool,
    private readonly tools: Pick<JobTools, 'db' | 'store' | 'news'>,
  ) {
    this.boss = new PgBoss({ db: { executeSql: (text: string, values: unknown[]) => this.query(text, values) as Promise<{ rows: unknown[]; rowCount: number }> } });
    this.boss.on('error', (error) => this.stopped || log.error({ err: error }, 'queue'));
  }

  /** The queue itself: from now on work may be sent to it. */
  async open(): Promise<void> {
    await this.boss.start();
    for (const queue of [BRING_IN, SEGMENT, JOIN]) await this.boss.createQueue(queue);
  }

  /** Begins to work, with what was left unfinished. @param presence that has entered */
  async start(presence: Presence, { imports, strikes }: Roles): Promise<void> {
    this.presence = presence;
    if (imports) this.listeners.push(await this.boss.work<{ id: string }>(BRING_IN, POLL, ([job]) => this.run(job!.data.id, bringIn, job!.data.id)));
    // A film whose segments are done does not wait for those of another.
    for (const queue of strikes ? [SEGMENT, JOIN] : [])
      this.listeners.push(await this.boss.work<{ id: string; printId: string }>(queue, POLL, ([job]) => this.run(job!.data.id, strikeSegmentJob, job!.data.printId)));
    this.timer = setInterval(() => this.wake(), TEND_MS).unref();
    this.wake();
  }

  async stop(): Promise<void> {
    this.stopping = true;
    clearInterval(this.timer);
    this.asked = false;
    await Promise.all([...this.running.keys()].map((id) => this.end(id)));
    await this.tending;
    // With the database away it would wait for it.
    const gone = async (): Promise<void> => {
      await this.presence?.leave().catch(() => undefined);
      await this.boss.stop({ graceful: false, wait: false });
    };
    await Promise.race([gone(), pause(LAST_WORDS_MS, undefined, { ref: false })]);
    this.stopped = true;
  }

  async bringIn(mediaId: string): Promise<void> {
    const jobId = await this.boss.send(BRING_IN, { id: mediaId }, JOB);
    await this.tools.db.update(media).set({ jobId }).where(eq(media.id, mediaId));
    this.look();
  }

  /** Has the queue looked after: something is to be done, or was. */
  wake(): void {
    this.asked = true;
    if (this.stopping || !this.presence) return;
    this.tending ??= this.tendAll()
      .catch((error: unknown) => void (isDatabaseAway(error) || this.stopped || log.error({ err: error }, 'tending the queue')))
      .finally(() => (this.tending = undefined));
  }

  /** Stops the work on a medium or a print, as far as it runs here. @returns when it has ended */
  async cancel(id: string): Promise<void> {
    await Promise.all([...this.running].filter(([, { of }]) => of === id).map(([key]) => this.end(key)));
  }

  private async end(key: string): Promise<void> {
    const running = this.running.get(key);
    running?.controller.abort();
    await running?.ended;
  }

  private async tendAll(): Promise<void> {
    const { db, news } = this.tools;
    while (this.asked && !this.stopped) {
      this.asked = false;
      await this.presence!.removeGone();
      await this.letGoOfOrphans();
      const due = await tend(db);
      if (!due) {
        await pause(BUSY_MS, undefined, { ref: false });
        this.asked = true;
        continue;
      }
      for (const printId of due.deadly) {
        const end = await failPrint(db, printId, 'a part of it ended its worker again and again; the picture may be too large for the memory there is');
        if (end) news.tell(end);
      }
      for (const { id, printId, kind, priority } of due.segments) {
        const jobId = await this.boss.send(kind === 'join' ? JOIN : SEGMENT, { id, printId }, { ...JOB, priority });
        await db.update(printSegments).set({ jobId }).where(eq(printSegments.id, id));
      }
      for (const id of due.media) await this.bringIn(id);
      if (due.segments.length) this.look();
    }
  }

  /** What this process holds and does not work on; what is so when it is looked at twice has not just been taken. */
  private async letGoOfOrphans(): Promise<void> {
    const { db } = this.tools;
    const idle = (await heldBy(db, this.presence!.id)).filter((id) => !this.running.has(id));
    const still = idle.filter((id) => this.orphans.has(id));
    this.orphans = new Set(idle);
    if (still.length) await letGo(db, this.presence!.id, still);
  }

  /** Has this process look for work at once. */
  private look(): void {
    for (const id of this.listeners) this.boss.notifyWorker(id);
  }

  /** Never throws: how the work ended stands in its own row. */
  private async run(id: string, work: (id: string, tools: JobTools) => Promise<void>, of: string): Promise<void> {
    // Another process is sent for it.
    if (this.stopping) return;
    const controller = new AbortController();
    const wake = (): void => this.wake();
    let free = (): void => undefined;
    const freed = new Promise<void>((done) => (free = done));
    const ended = work(id, { ...this.tools, presence: this.presence!, signal: controller.signal, wake, free, turns: this.turns }).catch((error: unknown) => {
      // What it had begun to take is let go of when the queue is tended.
      if (!controller.signal.aborted && !isDatabaseAway(error)) log.error({ err: error, job: id }, 'unforeseen');
    });
    this.running.set(id, { controller, ended, of });
    await Promise.race([ended.finally(() => this.running.delete(id)), freed]);
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
