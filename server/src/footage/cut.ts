import { randomUUID } from 'node:crypto';
import { and, asc, eq, inArray, isNull } from 'drizzle-orm';
import type { CutOrder, ReelCut } from '@tin-ghost/contract';
import { checkLook, checkPreparation, checkTrim, LookError, type Look, type Preparation } from '@tin-ghost/core';
import type { Database } from '../db/client';
import { clips, cuts, media, reels, shots } from '../db/schema';
import type { Newsroom } from '../newsroom';
import { notFound, Refusal } from '../refusal';

/** One statement takes 65,535 values at most. */
const ROWS_AT_ONCE = 1000;

/** What a reel and its shots were in the cut that they came with. @throws Refusal `not-found` */
export async function readCut(db: Database, reelId: string): Promise<ReelCut> {
  const [reel] = await db
    .select({ origin: cuts.origin })
    .from(reels)
    .leftJoin(cuts, eq(cuts.reelId, reels.id))
    .where(and(eq(reels.id, reelId), isNull(reels.discardedAt)));
  if (!reel) throw notFound('reel');
  const held = await db
    .select({ shot: shots.id, origin: clips.origin })
    .from(clips)
    .innerJoin(shots, eq(shots.id, clips.shotId))
    .where(and(eq(shots.reelId, reelId), isNull(shots.discardedAt)))
    .orderBy(asc(shots.position));
  return { ...reel, clips: held };
}

/** A check whose problems are told with the place of the shot. */
function at<T>(place: string, check: () => T): T {
  try {
    return check();
  } catch (error) {
    if (!(error instanceof LookError)) throw error;
    throw new LookError(error.problems.map((problem) => ({ ...problem, path: `${place}${problem.path && '.'}${problem.path}` })));
  }
}

/**
 * Lays a cut as the first shots of a reel, all or none. Shots of this reel that it is taken from make way for it; its others come after.
 * @throws Refusal `not-found` for the reel or a shot, `not-ready` where footage has not come in, LookError with the place of what is wrong
 */
export async function layCut({ db, news }: { readonly db: Database; readonly news: Newsroom }, reelId: string, order: CutOrder): Promise<void> {
  await db.transaction(async (tx) => {
    const [reel] = await tx
      .select({ id: reels.id })
      .from(reels)
      .where(and(eq(reels.id, reelId), isNull(reels.discardedAt)))
      .for('update');
    if (!reel) throw notFound('reel');
    const sources = await tx
      .select({ shot: shots, medium: media })
      .from(shots)
      .innerJoin(media, eq(media.id, shots.mediaId))
      .where(and(inArray(shots.id, [...new Set(order.shots.map(({ from }) => from))]), isNull(shots.discardedAt)));
    const laid = order.shots.map(({ from, name, look, preparation }, i) => {
      const source = sources.find(({ shot }) => shot.id === from);
      if (!source) throw notFound('shot');
      const { shot, medium } = source;
      if (!medium.footage) throw new Refusal('not-ready', `the footage of ${shot.name} is not ready yet`);
      const checked: Preparation = at(`shots[${i}].preparation`, () => {
        const right = checkPreparation(preparation);
        checkTrim(right, medium.footage!.frames);
        return right;
      });
      const worn: Look = look === undefined ? shot.look : at(`shots[${i}].look`, () => checkLook(look));
      return { id: randomUUID(), reelId, mediaId: medium.id, position: i, name, look: worn, preparation: checked };
    });
    const made = sources.filter(({ shot }) => shot.reelId === reelId).map(({ shot }) => shot.id);
    if (made.length) await tx.delete(shots).where(inArray(shots.id, made));
    const after = await tx
      .select({ id: shots.id })
      .from(shots)
      .where(and(eq(shots.reelId, reelId), isNull(shots.discardedAt)))
      .orderBy(asc(shots.position));
    for (const [i, { id }] of after.entries())
      await tx
        .update(shots)
        .set({ position: laid.length + i })
        .where(eq(shots.id, id));
    for (let i = 0; i < laid.length; i += ROWS_AT_ONCE) await tx.insert(shots).values(laid.slice(i, i + ROWS_AT_ONCE));
    const came = order.shots.flatMap(({ origin }, i) => (origin ? [{ shotId: laid[i]!.id, origin }] : []));
    for (let i = 0; i < came.length; i += ROWS_AT_ONCE) await tx.insert(clips).values(came.slice(i, i + ROWS_AT_ONCE));
    await tx.delete(cuts).where(eq(cuts.reelId, reelId));
    if (order.origin) await tx.insert(cuts).values({ reelId, origin: order.origin });
  });
  news.tell({ type: 'reels' });
}
