import { Router } from 'express';
import Joi from 'joi';
import { and, eq, sql } from 'drizzle-orm';
import { checkLook, checkPreparation, checkTrim } from '@tin-ghost/core';
import type { Context } from '../../context';
import { media, reels, shots } from '../../db/schema';
import { discardUnused } from '../../footage/discard';
import { HttpError, notFound } from '../errors';
import { checked, count, idOf, nameText } from '../validate';
import { mediumView } from './media';

export function shotRoutes(context: Context): Router {
  const { db, news } = context;
  const router = Router();

  const view = async (id: string) => {
    const [row] = await db.select({ shot: shots, medium: media }).from(shots).innerJoin(media, eq(media.id, shots.mediaId)).where(eq(shots.id, id));
    if (!row) throw notFound('shot');
    return { ...row.shot, medium: mediumView(row.medium) };
  };

  router.get('/:id', async (request, response) => {
    response.json(await view(idOf(request.params.id, 'shot')));
  });

  router.patch('/:id', async (request, response) => {
    const id = idOf(request.params.id, 'shot');
    const body = checked(Joi.object<{ name: string }>({ name: nameText().required() }), request.body);
    await db
      .update(shots)
      .set({ name: body.name, touchedAt: sql`now()` })
      .where(eq(shots.id, id));
    response.json(await view(id));
  });

  // A change is kept only on top of the revision it was made from; the other tab's work is never overwritten unseen.
  router.put('/:id/look', async (request, response) => {
    const id = idOf(request.params.id, 'shot');
    const rule = Joi.object<{ look: unknown; preparation?: unknown; revision: number }>({
      look: Joi.any().required(),
      preparation: Joi.any(),
      revision: count().required(),
    });
    const body = checked(rule, request.body);
    const look = checkLook(body.look);
    const preparation = body.preparation === undefined ? undefined : checkPreparation(body.preparation);
    if (preparation?.trim) {
      const { medium } = await view(id);
      if (medium.footage) checkTrim(preparation, medium.footage.frames);
    }
    const [kept] = await db
      .update(shots)
      .set({ look, ...(preparation ? { preparation } : {}), revision: sql`${shots.revision} + 1`, touchedAt: sql`now()` })
      .where(and(eq(shots.id, id), eq(shots.revision, body.revision)))
      .returning({ revision: shots.revision, touchedAt: shots.touchedAt, reelId: shots.reelId });
    if (!kept) {
      await view(id);
      throw new HttpError(409, 'this shot was changed elsewhere in the meantime');
    }
    await db
      .update(reels)
      .set({ touchedAt: sql`now()` })
      .where(eq(reels.id, kept.reelId));
    response.json({ revision: kept.revision, touchedAt: kept.touchedAt });
  });

  router.delete('/:id', async (request, response) => {
    const gone = await db
      .delete(shots)
      .where(eq(shots.id, idOf(request.params.id, 'shot')))
      .returning();
    if (gone.length === 0) throw notFound('shot');
    await discardUnused(context, [gone[0]!.mediaId]);
    news.tell({ type: 'reels' });
    response.status(204).end();
  });

  return router;
}
