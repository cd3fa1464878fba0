import { eq, sql } from 'drizzle-orm';
import { EMPTY_LOOK, type Look } from '@tin-ghost/core';
import type { Context } from '../context';
import { media, reels, references, shots } from '../db/schema';
import { notFound } from '../http/errors';

/** A new shot's look: one life, nothing in it yet. */
const FRESH_LOOK: Look = { ...EMPTY_LOOK, name: 'New look', lives: [{ carrier: 'super8', traits: [] }] };

/** What is known of footage before it is read. */
export interface NewMedium {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
  readonly original: string;
}

export const withoutEnding = (name: string): string => name.replace(/\.[^.]{1,5}$/, '') || name;

/**
 * Puts footage on the end of a reel; footage that stands there already stays as it is. Its file may still be on the way.
 * @returns the shot's id
 * @throws HttpError 404 where the reel is gone
 */
export async function addShot({ db, news }: Context, reelId: string, medium: NewMedium, look: Look = FRESH_LOOK, shotName = withoutEnding(medium.name)): Promise<string> {
  const shotId = await db.transaction(async (tx) => {
    const [reel] = await tx
      .update(reels)
      .set({ touchedAt: sql`now()` })
      .where(eq(reels.id, reelId))
      .returning();
    if (!reel) throw notFound('reel');
    const made = await tx.insert(media).values(medium).onConflictDoNothing().returning({ id: media.id });
    const [known] = made.length ? [] : await tx.select({ id: shots.id }).from(shots).where(eq(shots.mediaId, medium.id));
    if (known) return known.id;
    const position = sql<number>`(select coalesce(max(position) + 1, 0) from shots where reel_id = ${reelId})`;
    const [shot] = await tx.insert(shots).values({ reelId, mediaId: medium.id, position, name: shotName, look }).returning();
    return shot!.id;
  });
  news.tell({ type: 'reels' });
  return shotId;
}

/** As `addShot`, for footage to hold shots against: of a reel, or of all where `reelId` is null. */
export async function addReference({ db, news }: Context, reelId: string | null, medium: NewMedium, name = withoutEnding(medium.name)): Promise<string> {
  const id = await db.transaction(async (tx) => {
    if (reelId) {
      const [reel] = await tx.select({ id: reels.id }).from(reels).where(eq(reels.id, reelId)).for('share');
      if (!reel) throw notFound('reel');
    }
    const made = await tx.insert(media).values(medium).onConflictDoNothing().returning({ id: media.id });
    const [known] = made.length ? [] : await tx.select({ id: references.id }).from(references).where(eq(references.mediaId, medium.id));
    if (known) return known.id;
    const [row] = await tx.insert(references).values({ reelId, mediaId: medium.id, name }).returning();
    return row!.id;
  });
  news.tell({ type: 'reels' });
  return id;
}
