import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Router } from 'express';
import { and, asc, desc, eq, isNull, sql } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import { preparedFrames, type Colour } from '@tin-ghost/core';
import { writeCard } from '@tin-ghost/media';
import type { Context } from '../../context';
import { media, reels, shots } from '../../db/schema';
import { notFound, Refusal } from '../../refusal';
import { copyReel } from '../../footage/copies';
import { layCut, readCut } from '../../footage/cut';
import { mediumView, reelView, shotView } from '../../views';
import { serve } from '../serve';
import { idOf } from '../validate';

/** Pictures of a card: a minute at 120 a second. */
const MOST_PICTURES = 7200;

export function reelRoutes(router: Router, context: Context): void {
  const { db, news, footage, bin } = context;
  serve(router, ROUTES.listReels, async () => {
    const rows = await db
      .select()
      .from(reels)
      .where(isNull(reels.discardedAt))
      .orderBy(sql`${reels.place} nulls first`, desc(reels.touchedAt));
    const all = await db
      .select({ id: shots.id, reelId: shots.reelId, name: shots.name, preparation: shots.preparation, medium: media })
      .from(shots)
      .innerJoin(media, eq(media.id, shots.mediaId))
      .where(isNull(shots.discardedAt))
      .orderBy(asc(shots.position));
    return rows.map((reel) => ({
      ...reelView(reel),
      shots: all
        .filter(({ reelId }) => reelId === reel.id)
        .map(({ id, name, preparation, medium }) => ({ id, name, medium: mediumView(medium), frames: medium.footage && preparedFrames(medium.footage.frames, preparation) })),
    }));
  });

  serve(router, ROUTES.makeReel, async ({ body }) => {
    const [reel] = await db.insert(reels).values({ name: body.name }).returning();
    news.tell({ type: 'reels' });
    return { ...reelView(reel!), shots: [] };
  });

  serve(router, ROUTES.readReel, async ({ params }) => {
    const id = idOf(params.id, 'reel');
    const [reel] = await db
      .select()
      .from(reels)
      .where(and(eq(reels.id, id), isNull(reels.discardedAt)));
    if (!reel) throw notFound('reel');
    const rows = await db
      .select({ shot: shots, medium: media })
      .from(shots)
      .innerJoin(media, eq(media.id, shots.mediaId))
      .where(and(eq(shots.reelId, id), isNull(shots.discardedAt)))
      .orderBy(asc(shots.position));
    return { ...reelView(reel), shots: rows.map((row) => shotView(row.shot, row.medium)) };
  });

  serve(router, ROUTES.renameReel, async ({ params, body }) => {
    const [reel] = await db
      .update(reels)
      .set({ name: body.name, touchedAt: sql`now()` })
      .where(eq(reels.id, idOf(params.id, 'reel')))
      .returning();
    if (!reel) throw notFound('reel');
    return reelView(reel);
  });

  serve(router, ROUTES.deleteReel, ({ params }) => bin.discardReel(idOf(params.id, 'reel')));
  serve(router, ROUTES.restoreReel, async ({ params }) => reelView(await bin.restoreReel(idOf(params.id, 'reel'))));
  serve(router, ROUTES.copyReel, async ({ params }) => reelView(await copyReel(context, idOf(params.id, 'reel'))));

  serve(router, ROUTES.readBin, () => bin.read());
  serve(router, ROUTES.emptyBin, () => bin.empty());

  serve(router, ROUTES.addCard, async ({ params, body }) => {
    const id = idOf(params.id, 'reel');
    const [reel] = await db.select({ id: reels.id }).from(reels).where(eq(reels.id, id));
    if (!reel) throw notFound('reel');
    if ((body.seconds * body.rate.num) / body.rate.den > MOST_PICTURES)
      throw new Refusal('invalid', `a card has at most ${MOST_PICTURES} pictures`, [{ path: 'rate', message: `makes more than ${MOST_PICTURES} pictures` }]);
    const name = body.name ?? 'Card';
    const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-card-'));
    try {
      const file = join(folder, 'card.mkv');
      await writeCard({ ...body, upper: body.upper as unknown as Colour, lower: body.lower as unknown as Colour, file });
      const medium = await footage.copyIn(file);
      const shot = await footage.addShot(id, medium, { name });
      await footage.begin(medium.id);
      return { shot };
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
  });

  serve(router, ROUTES.readCut, ({ params }) => readCut(db, idOf(params.id, 'reel')));
  serve(router, ROUTES.layCut, ({ params, body }) => layCut(context, idOf(params.id, 'reel'), body));

  serve(router, ROUTES.orderReels, async ({ body }) => {
    await db.transaction(async (tx) => {
      const held = await tx.select({ id: reels.id }).from(reels).where(isNull(reels.discardedAt)).for('update');
      if (!sameIds(held, body.reels)) throw mustNameAll('reels', 'every reel');
      for (const [place, id] of body.reels.entries()) await tx.update(reels).set({ place }).where(eq(reels.id, id));
    });
    news.tell({ type: 'reels' });
  });

  serve(router, ROUTES.orderReel, async ({ params, body }) => {
    const id = idOf(params.id, 'reel');
    const [reel] = await db.select({ id: reels.id }).from(reels).where(eq(reels.id, id));
    if (!reel) throw notFound('reel');
    const held = await db
      .select({ id: shots.id })
      .from(shots)
      .where(and(eq(shots.reelId, id), isNull(shots.discardedAt)));
    if (!sameIds(held, body.shots)) throw mustNameAll('shots', 'every shot of the reel');
    await db.transaction(async (tx) => {
      for (const [position, shot] of body.shots.entries()) await tx.update(shots).set({ position }).where(eq(shots.id, shot));
    });
    news.tell({ type: 'reels' });
  });
}

const sameIds = (held: readonly { readonly id: string }[], named: readonly string[]): boolean => held.length === named.length && held.every(({ id }) => named.includes(id));

const mustNameAll = (path: string, what: string): Refusal => new Refusal('invalid', `${path} must name ${what} once`, [{ path, message: `must name ${what} once` }]);
