/** What keeps the queue true to the tables: they say what is to be done, jobs only who is to look next. */
import { and, eq, gte, inArray, isNull, notExists, notInArray, or, sql } from 'drizzle-orm';
import { segmentsFor, STILL_RATE } from '@tin-ghost/media';
import type { Database } from '../db/client';
import { media, printSegments, prints, workers, type PrintSegment } from '../db/schema';
import { atRest, inTurn, NO_JOB, wanted } from './claims';

/** Only one process at a time tends. Any number that nobody else uses. */
const TENDING = 7_141_914;

/** How many segments are queued ahead: few, so that a print that is put first comes first. */
const AHEAD = 12;

/** Whoever takes a segment and is gone with it, as often as this, was ended by it: machines that are ended by others are seldom ended so often in the time of one segment. */
const LOSSES = 50;

/** Footage that nobody queued is looked after from this time on: while it is young, whoever sent it may be about to. */
const FORGOTTEN_SECONDS = 300;

export interface Due {
  readonly segments: readonly (Pick<PrintSegment, 'id' | 'printId' | 'kind'> & { readonly priority: number })[];
  readonly media: readonly string[];
  /** Prints with a segment that nobody survived. */
  readonly deadly: readonly string[];
}

/**
 * Takes back what was lost with its workers, cuts up prints that are new, and finds what is to be queued.
 * @returns undefined where another process is at it
 */
export function tend(db: Database): Promise<Due | undefined> {
  return db.transaction(async (tx) => {
    const { rows } = await tx.execute<{ got: boolean }>(sql`select pg_try_advisory_xact_lock(${TENDING}) as got`);
    if (!rows[0]?.got) return undefined;
    const there = tx.select({ id: workers.id }).from(workers);
    await tx
      .update(printSegments)
      .set({ ...atRest, losses: sql`${printSegments.losses} + 1` })
      .where(and(eq(printSegments.state, 'working'), or(isNull(printSegments.workerId), notInArray(printSegments.workerId, there))));
    await tx
      .update(media)
      .set({ state: 'waiting', progress: 0, workerId: null, jobId: NO_JOB })
      .where(and(eq(media.state, 'working'), or(isNull(media.workerId), notInArray(media.workerId, there))));
    await cutUp(tx);
    const deadly = await tx
      .selectDistinct({ id: printSegments.printId })
      .from(printSegments)
      .innerJoin(prints, eq(prints.id, printSegments.printId))
      .where(and(gte(printSegments.losses, LOSSES), wanted));
    const segments = await tx
      .select({ id: printSegments.id, printId: printSegments.printId, kind: printSegments.kind, jobId: printSegments.jobId, priority: prints.priority })
      .from(printSegments)
      .innerJoin(prints, eq(prints.id, printSegments.printId))
      .where(and(eq(printSegments.state, 'waiting'), wanted, sql`coalesce(${printSegments.notBefore} <= now(), true)`, inTurn))
      .orderBy(sql`${prints.priority} desc, ${prints.createdAt}, ${printSegments.position}`)
      .limit(AHEAD);
    const footage = await tx
      .select({ id: media.id, jobId: media.jobId })
      .from(media)
      .where(and(eq(media.state, 'waiting'), sql`(${media.jobId} is not null or ${media.createdAt} < now() - make_interval(secs => ${FORGOTTEN_SECONDS}))`));
    const queued = await living(
      tx,
      [...segments, ...footage].flatMap(({ jobId }) => (jobId ? [jobId] : [])),
    );
    // A print that was put first is queued again, before the others.
    const unqueued = ({ jobId, priority = 0 }: { jobId: string | null; priority?: number }): boolean => !jobId || (queued.get(jobId) ?? -1) < priority;
    return { segments: segments.filter(unqueued), media: footage.filter((medium) => unqueued(medium)).map(({ id }) => id), deadly: deadly.map(({ id }) => id) };
  });
}

/** Those jobs that will still be looked at, or are being begun, with the priority they were queued with. */
async function living(db: Database, ids: readonly string[]): Promise<Map<string, number>> {
  if (ids.length === 0) return new Map();
  const list = sql.join(
    ids.map((id) => sql`${id}::uuid`),
    sql`, `,
  );
  const { rows } = await db.execute<{ id: string; priority: number }>(
    sql`select id, priority from pgboss.job where id in (${list}) and (state in ('created', 'retry') or state = 'active' and started_on > now() - interval '20 s')`,
  );
  return new Map(rows.map(({ id, priority }) => [id, priority]));
}

/** Ids of segments and media that stand under a worker's name. */
export async function heldBy(db: Database, workerId: string): Promise<string[]> {
  const held = await Promise.all([
    db
      .select({ id: printSegments.id })
      .from(printSegments)
      .where(and(eq(printSegments.state, 'working'), eq(printSegments.workerId, workerId))),
    db
      .select({ id: media.id })
      .from(media)
      .where(and(eq(media.state, 'working'), eq(media.workerId, workerId))),
  ]);
  return held.flat().map(({ id }) => id);
}

/** Lets go of segments and media that stand under a worker's name and that it is not working on: the database went away in the midst of the taking. */
export async function letGo(db: Database, workerId: string, ids: readonly string[]): Promise<void> {
  await db
    .update(printSegments)
    .set(atRest)
    .where(and(eq(printSegments.state, 'working'), eq(printSegments.workerId, workerId), inArray(printSegments.id, [...ids])));
  await db
    .update(media)
    .set({ state: 'waiting', progress: 0, workerId: null, jobId: NO_JOB })
    .where(and(eq(media.state, 'working'), eq(media.workerId, workerId), inArray(media.id, [...ids])));
}

/** Makes segments of prints that have none, with the joining last. */
async function cutUp(db: Database): Promise<void> {
  const uncut = await db
    .select({ id: prints.id, total: prints.total, settings: prints.settings, footage: media.footage })
    .from(prints)
    .innerJoin(media, eq(media.id, prints.mediaId))
    .where(and(wanted, notExists(db.select({ id: printSegments.id }).from(printSegments).where(eq(printSegments.printId, prints.id)))));
  for (const { id, total, settings, footage } of uncut) {
    const worn = segmentsFor({ container: settings.format, frames: total, rate: footage?.rate ?? STILL_RATE }).map((segment, position) => ({
      printId: id,
      kind: 'wear' as const,
      position,
      ...segment,
    }));
    await db.insert(printSegments).values([...worn, { printId: id, kind: 'join' as const, position: worn.length, from: 0, to: total }]);
  }
}
