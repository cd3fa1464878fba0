/** Who works on which segment, as it stands in the database: each of these is one statement, so that of several who try one succeeds. */
import { and, eq, exists, inArray, sql } from 'drizzle-orm';
import type { News } from '@tin-ghost/contract';
import type { Database } from '../db/client';
import { printSegments, prints, type PrintSegment } from '../db/schema';

type PrintNews = Extract<News, { type: 'print' }>;

/** Who works: its row among the workers, and what makes its pictures. */
export interface Claimant {
  readonly id: string;
  readonly engine: string;
}

/**
 * Takes a segment that waits, of a print that is to be struck.
 * @returns undefined where there is nothing to be done any more, or not by this engine
 */
export async function claim(db: Database, id: string, { id: workerId, engine }: Claimant): Promise<PrintSegment | undefined> {
  const [segment] = await db
    .update(printSegments)
    .set({ state: 'working', workerId, done: 0, perSecond: 0 })
    .where(
      and(
        eq(printSegments.id, id),
        eq(printSegments.state, 'waiting'),
        exists(
          db
            .select({ id: prints.id })
            .from(prints)
            .where(and(eq(prints.id, printSegments.printId), wanted)),
        ),
        sql`exists (select 1 from facts f where f.key = 'engine' and f.value = ${engine})`,
        inTurn,
      ),
    )
    .returning();
  if (segment)
    await db
      .update(prints)
      .set({ state: 'striking' })
      .where(and(eq(prints.id, segment.printId), eq(prints.state, 'waiting')));
  return segment;
}

const mine = (segment: PrintSegment, workerId: string) => and(eq(printSegments.id, segment.id), eq(printSegments.workerId, workerId), eq(printSegments.state, 'working'));

/** Notes how far a segment is. @returns false where it is no longer this worker's */
export async function noteProgress(db: Database, segment: PrintSegment, workerId: string, progress: { done: number; perSecond: number }): Promise<boolean> {
  return (await db.update(printSegments).set(progress).where(mine(segment, workerId)).returning({ id: printSegments.id })).length > 0;
}

/** Whether a segment is this worker's. */
export async function isMine(db: Database, segment: PrintSegment, workerId: string): Promise<boolean> {
  return (await db.select({ id: printSegments.id }).from(printSegments).where(mine(segment, workerId))).length > 0;
}

/** Brings the numbers of a print up to those of its segments. @returns news of it, undefined where it is not being struck */
export async function sumUp(db: Database, printId: string): Promise<PrintNews | undefined> {
  const [print] = await db
    .update(prints)
    .set({
      done: sql`x.done`,
      perSecond: sql`x.rate`,
      secondsLeft: sql`case when x.rate > 0 then (${prints.total} - x.done) / x.rate else 0 end`,
      error: null,
    })
    .from(sql`(select coalesce(sum(done), 0)::int as done, coalesce(sum(per_second), 0)::real as rate from print_segments where print_id = ${printId} and kind = 'wear') x`)
    .where(and(eq(prints.id, printId), inArray(prints.state, ['striking', 'paused'])))
    .returning({ id: prints.id, state: prints.state, done: prints.done, total: prints.total, perSecond: prints.perSecond, secondsLeft: prints.secondsLeft, error: prints.error });
  return print && { type: 'print', ...print };
}

/** A segment is made. @returns false where it is no longer this worker's */
export async function finish(db: Database, segment: PrintSegment, workerId: string): Promise<boolean> {
  const [row] = await db
    .update(printSegments)
    .set({ state: 'done', done: segment.to - segment.from, perSecond: 0, workerId: null, jobId: null })
    .where(mine(segment, workerId))
    .returning({ id: printSegments.id });
  return row !== undefined;
}

/** Lets go of a segment, for others or for later. @param fails whether it counts as having failed */
export async function giveBack(db: Database, segment: PrintSegment, workerId: string, { seconds = 0, fails = false } = {}): Promise<void> {
  await db
    .update(printSegments)
    .set({
      ...atRest,
      notBefore: seconds ? sql`now() + make_interval(secs => ${seconds})` : null,
      ...(fails && { fails: sql`${printSegments.fails} + 1` }),
    })
    .where(mine(segment, workerId));
}

/** Stands where work had a job that is gone: another is sent for it at once. */
export const NO_JOB = '00000000-0000-4000-8000-000000000000';

/** Prints that are to be struck. */
export const wanted = inArray(prints.state, ['waiting', 'striking']);

/** Segments that can be begun: the joining when all others are done. */
export const inTurn = sql`(${printSegments.kind} = 'wear' or not exists (select 1 from print_segments o where o.print_id = ${printSegments.printId} and o.kind = 'wear' and o.state <> 'done'))`;

/** A segment that nobody has. */
export const atRest = { state: 'waiting', workerId: null, jobId: null, done: 0, perSecond: 0 } as const;

/** The print is joined: it is at its end, and of its segments nothing more is known. @returns news of it, undefined where it was stopped meanwhile */
export async function endPrint(db: Database, segment: PrintSegment, workerId: string, bytes: number): Promise<PrintNews | undefined> {
  return db.transaction(async (tx) => {
    const [held] = await tx.delete(printSegments).where(mine(segment, workerId)).returning({ id: printSegments.id });
    if (!held) return undefined;
    const [print] = await tx
      .update(prints)
      .set({ state: 'done', done: sql`${prints.total}`, secondsLeft: 0, error: null, bytes, finishedAt: new Date().toISOString() })
      .where(and(eq(prints.id, segment.printId), inArray(prints.state, ['striking', 'paused'])))
      .returning();
    await tx.delete(printSegments).where(eq(printSegments.printId, segment.printId));
    return print && newsOf(print);
  });
}

/** The print cannot be made: nobody goes on with it. What is made of it is kept for another try. @returns news of it, undefined where it is at its end already */
export async function failPrint(db: Database, printId: string, error: string): Promise<PrintNews | undefined> {
  return db.transaction(async (tx) => {
    const [print] = await tx
      .update(prints)
      .set({ state: 'failed', error, perSecond: 0, secondsLeft: 0, finishedAt: new Date().toISOString() })
      .where(and(eq(prints.id, printId), inArray(prints.state, ['waiting', 'striking', 'paused'])))
      .returning();
    await tx
      .update(printSegments)
      .set(atRest)
      .where(and(eq(printSegments.printId, printId), eq(printSegments.state, 'working')));
    return print && newsOf(print);
  });
}

export const newsOf = ({ id, state, done, total, perSecond, secondsLeft, error }: typeof prints.$inferSelect): PrintNews => ({
  type: 'print',
  id,
  state,
  done,
  total,
  perSecond,
  secondsLeft,
  error,
});
