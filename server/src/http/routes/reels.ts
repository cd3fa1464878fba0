import { Router } from 'express';
import Joi from 'joi';
import { asc, desc, eq, sql } from 'drizzle-orm';
import type { Context } from '../../context';
import { media, reels, references, shots } from '../../db/schema';
import { discardUnused } from '../../footage/discard';
import { HttpError, notFound } from '../errors';
import { checked, idOf, nameText } from '../validate';
import { mediumView } from './media';

const name = nameText().required();

export function reelRoutes(context: Context): Router {
  const { db, news } = context;
  const router = Router();

  router.get('/', async (_request, response) => {
    const rows = await db.select().from(reels).orderBy(desc(reels.touchedAt));
    const all = await db
      .select({ id: shots.id, reelId: shots.reelId, name: shots.name, medium: media })
      .from(shots)
      .innerJoin(media, eq(media.id, shots.mediaId))
      .orderBy(asc(shots.position));
    response.json(rows.map((reel) => ({ ...reel, shots: all.filter((s) => s.reelId === reel.id).map((s) => ({ id: s.id, name: s.name, medium: mediumView(s.medium) })) })));
  });

  router.post('/', async (request, response) => {
    const body = checked(Joi.object<{ name: string }>({ name }), request.body);
    const [reel] = await db.insert(reels).values({ name: body.name }).returning();
    news.tell({ type: 'reels' });
    response.status(201).json({ ...reel, shots: [] });
  });

  router.get('/:id', async (request, response) => {
    const id = idOf(request.params.id, 'reel');
    const [reel] = await db.select().from(reels).where(eq(reels.id, id));
    if (!reel) throw notFound('reel');
    const rows = await db.select({ shot: shots, medium: media }).from(shots).innerJoin(media, eq(media.id, shots.mediaId)).where(eq(shots.reelId, id)).orderBy(asc(shots.position));
    response.json({ ...reel, shots: rows.map((row) => ({ ...row.shot, medium: mediumView(row.medium) })) });
  });

  router.patch('/:id', async (request, response) => {
    const id = idOf(request.params.id, 'reel');
    const body = checked(Joi.object<{ name: string }>({ name }), request.body);
    const [reel] = await db
      .update(reels)
      .set({ name: body.name, touchedAt: sql`now()` })
      .where(eq(reels.id, id))
      .returning();
    if (!reel) throw notFound('reel');
    response.json(reel);
  });

  router.delete('/:id', async (request, response) => {
    const id = idOf(request.params.id, 'reel');
    const held = [
      ...(await db.select({ mediaId: shots.mediaId }).from(shots).where(eq(shots.reelId, id))),
      ...(await db.select({ mediaId: references.mediaId }).from(references).where(eq(references.reelId, id))),
    ];
    const gone = await db.delete(reels).where(eq(reels.id, id)).returning();
    if (gone.length === 0) throw notFound('reel');
    // Footage that a print was struck from stays with the print.
    await discardUnused(
      context,
      held.map((row) => row.mediaId),
    );
    news.tell({ type: 'reels' });
    response.status(204).end();
  });

  router.put('/:id/order', async (request, response) => {
    const id = idOf(request.params.id, 'reel');
    const body = checked(Joi.object<{ shots: string[] }>({ shots: Joi.array().items(Joi.string().uuid()).unique().required() }), request.body);
    const [reel] = await db.select({ id: reels.id }).from(reels).where(eq(reels.id, id));
    if (!reel) throw notFound('reel');
    const held = await db.select({ id: shots.id }).from(shots).where(eq(shots.reelId, id));
    if (held.length !== body.shots.length || held.some((s) => !body.shots.includes(s.id)))
      throw new HttpError(400, 'shots must name every shot of the reel once', [{ path: 'shots', message: 'must name every shot of the reel once' }]);
    await db.transaction(async (tx) => {
      for (const [position, shot] of body.shots.entries()) await tx.update(shots).set({ position }).where(eq(shots.id, shot));
    });
    response.status(204).end();
  });

  return router;
}
