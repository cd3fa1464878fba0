import { and, asc, eq, gt, isNull, sql } from 'drizzle-orm';
import type { Database } from '../db/client';
import { clips, cuts, reels, references, shots, type Reel } from '../db/schema';
import type { Newsroom } from '../newsroom';
import { notFound } from '../refusal';

interface Room {
  readonly db: Database;
  readonly news: Newsroom;
}

/** As long as a name may be, with what is added to it. */
const copyName = (name: string): string => `${name.slice(0, 150)} copy`;

/** Makes a second shot after one, of the same footage, look and preparation. @returns its id @throws Refusal `not-found` */
export async function copyShot({ db, news }: Room, id: string): Promise<string> {
  const made = await db.transaction(async (tx) => {
    const [shot] = await tx
      .select()
      .from(shots)
      .where(and(eq(shots.id, id), isNull(shots.discardedAt)));
    if (!shot) throw notFound('shot');
    await tx
      .update(shots)
      .set({ position: sql`${shots.position} + 1` })
      .where(and(eq(shots.reelId, shot.reelId), gt(shots.position, shot.position)));
    const { reelId, mediaId, position, name, look, preparation, versions } = shot;
    const [copy] = await tx
      .insert(shots)
      .values({ reelId, mediaId, position: position + 1, name: copyName(name), look, preparation, versions })
      .returning({ id: shots.id });
    const [clip] = await tx.select().from(clips).where(eq(clips.shotId, id));
    // What stands before it in its cut stands there once.
    const { before: _before, passed: _passed, ...origin } = clip?.origin ?? {};
    if (clip) await tx.insert(clips).values({ shotId: copy!.id, origin });
    return copy!.id;
  });
  news.tell({ type: 'reels' });
  return made;
}

/** Makes a second reel of the same shots and references, which share their footage. @throws Refusal `not-found` */
export async function copyReel({ db, news }: Room, id: string): Promise<Reel> {
  const made = await db.transaction(async (tx) => {
    const [reel] = await tx
      .select()
      .from(reels)
      .where(and(eq(reels.id, id), isNull(reels.discardedAt)));
    if (!reel) throw notFound('reel');
    const [copy] = await tx
      .insert(reels)
      .values({ name: copyName(reel.name) })
      .returning();
    const [cut] = await tx.select().from(cuts).where(eq(cuts.reelId, id));
    if (cut) await tx.insert(cuts).values({ reelId: copy!.id, origin: cut.origin });
    const held = await tx
      .select({ shot: shots, origin: clips.origin })
      .from(shots)
      .leftJoin(clips, eq(clips.shotId, shots.id))
      .where(and(eq(shots.reelId, id), isNull(shots.discardedAt)))
      .orderBy(asc(shots.position));
    for (const { shot, origin } of held) {
      const { mediaId, position, name, look, preparation, versions } = shot;
      const [second] = await tx.insert(shots).values({ reelId: copy!.id, mediaId, position, name, look, preparation, versions }).returning({ id: shots.id });
      if (origin) await tx.insert(clips).values({ shotId: second!.id, origin });
    }
    for (const { mediaId, name } of await tx.select().from(references).where(eq(references.reelId, id))) await tx.insert(references).values({ reelId: copy!.id, mediaId, name });
    return copy!;
  });
  news.tell({ type: 'reels' });
  return made;
}
