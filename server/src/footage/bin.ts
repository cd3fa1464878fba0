import { and, desc, eq, gte, inArray, isNotNull, isNull, lt, ne, sql, type SQL } from 'drizzle-orm';
import { BIN_DAYS, type Bin as BinView } from '@tin-ghost/contract';
import type { Database } from '../db/client';
import { media, reels, references, shots, type Reel } from '../db/schema';
import type { Newsroom } from '../newsroom';
import { notFound } from '../refusal';
import { mediumView } from '../views';
import type { FootageService } from './service';

/** Where deleted reels and shots lie until they are put back or their time is over; their footage stays with them. */
export class Bin {
  constructor(private readonly context: { readonly db: Database; readonly news: Newsroom; readonly footage: FootageService }) {}

  /** Lays a shot in the bin; one whose footage never came in is gone, and its import ended. @throws Refusal `not-found` */
  async discardShot(id: string): Promise<void> {
    const { db } = this.context;
    const [row] = await db.select({ state: media.state }).from(shots).innerJoin(media, eq(media.id, shots.mediaId)).where(eq(shots.id, id));
    if (row && row.state !== 'ready') return this.removeShots(eq(shots.id, id));
    const [gone] = await db
      .update(shots)
      .set({ discardedAt: sql`now()` })
      .where(and(eq(shots.id, id), isNull(shots.discardedAt)))
      .returning({ id: shots.id });
    if (!gone) throw notFound('shot');
    this.context.news.tell({ type: 'reels' });
  }

  /** Lays a reel with its shots and references in the bin. @throws Refusal `not-found` */
  async discardReel(id: string): Promise<void> {
    const [gone] = await this.context.db
      .update(reels)
      .set({ discardedAt: sql`now()` })
      .where(and(eq(reels.id, id), isNull(reels.discardedAt)))
      .returning({ id: reels.id });
    if (!gone) throw notFound('reel');
    this.context.news.tell({ type: 'reels' });
  }

  /** Puts a shot back. @throws Refusal `not-found` where it does not lie here, or its reel is in the bin itself */
  async restoreShot(id: string): Promise<string> {
    const { db, news } = this.context;
    await db.transaction(async (tx) => {
      const standing = tx.select({ id: reels.id }).from(reels).where(isNull(reels.discardedAt));
      const [back] = await tx
        .update(shots)
        .set({ discardedAt: null })
        .where(and(eq(shots.id, id), isNotNull(shots.discardedAt), inArray(shots.reelId, standing)))
        .returning();
      if (!back) throw notFound('shot');
      // The rest may have been put into another order: those from its place on make room.
      await tx
        .update(shots)
        .set({ position: sql`${shots.position} + 1` })
        .where(and(eq(shots.reelId, back.reelId), gte(shots.position, back.position), ne(shots.id, id)));
    });
    news.tell({ type: 'reels' });
    return id;
  }

  /** Puts a reel back. @throws Refusal `not-found` where it does not lie here */
  async restoreReel(id: string): Promise<Reel> {
    const [back] = await this.context.db
      .update(reels)
      .set({ discardedAt: null, touchedAt: sql`now()` })
      .where(and(eq(reels.id, id), isNotNull(reels.discardedAt)))
      .returning();
    if (!back) throw notFound('reel');
    this.context.news.tell({ type: 'reels' });
    return back;
  }

  /** What lies here, the last first. Shots of a reel that lies here are told with it. */
  async read(): Promise<BinView> {
    const { db } = this.context;
    const gone = await db.select().from(reels).where(isNotNull(reels.discardedAt)).orderBy(desc(reels.discardedAt));
    const held = await db
      .select({ reelId: shots.reelId, medium: media })
      .from(shots)
      .innerJoin(media, eq(media.id, shots.mediaId))
      .where(isNull(shots.discardedAt))
      .orderBy(shots.position);
    const single = await db
      .select({ shot: shots, reel: reels.name, medium: media })
      .from(shots)
      .innerJoin(media, eq(media.id, shots.mediaId))
      .innerJoin(reels, eq(reels.id, shots.reelId))
      .where(and(isNotNull(shots.discardedAt), isNull(reels.discardedAt)))
      .orderBy(desc(shots.discardedAt));
    return {
      reels: gone.map(({ id, name, discardedAt }) => {
        const own = held.filter(({ reelId }) => reelId === id);
        return { id, name, discardedAt: discardedAt!, shots: own.length, medium: own[0] ? mediumView(own[0].medium) : null };
      }),
      shots: single.map(({ shot: { id, name, discardedAt, reelId }, reel, medium }) => ({ id, name, discardedAt: discardedAt!, reelId, reel, medium: mediumView(medium) })),
    };
  }

  /** Removes all that lies here for good. */
  async empty(): Promise<void> {
    await this.remove(isNotNull(reels.discardedAt), isNotNull(shots.discardedAt));
  }

  /** Removes what has lain here for its time. */
  async removeOld(days = BIN_DAYS): Promise<void> {
    const over = sql`now() - make_interval(days => ${days})`;
    await this.remove(lt(reels.discardedAt, over), lt(shots.discardedAt, over));
  }

  private async remove(ofReels: SQL, ofShots: SQL): Promise<void> {
    const { db, footage } = this.context;
    const gone = (await db.select({ id: reels.id }).from(reels).where(ofReels)).map(({ id }) => id);
    if (gone.length) {
      const held = [
        ...(await db.select({ mediaId: shots.mediaId }).from(shots).where(inArray(shots.reelId, gone))),
        ...(await db.select({ mediaId: references.mediaId }).from(references).where(inArray(references.reelId, gone))),
      ];
      // One that was put back meanwhile stays.
      await db.delete(reels).where(and(inArray(reels.id, gone), ofReels));
      await footage.gone(held.map((row) => row.mediaId));
    }
    await this.removeShots(ofShots);
  }

  private async removeShots(of: SQL): Promise<void> {
    const gone = await this.context.db.delete(shots).where(of).returning({ mediaId: shots.mediaId });
    if (gone.length) await this.context.footage.gone(gone.map((row) => row.mediaId));
  }
}
