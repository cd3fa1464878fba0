import { Router } from 'express';
import Joi from 'joi';
import { asc, eq, isNull, or } from 'drizzle-orm';
import type { Context } from '../../context';
import { media, references } from '../../db/schema';
import { discardUnused } from '../../footage/discard';
import { HttpError, notFound } from '../errors';
import { checked, idOf, nameText } from '../validate';
import { mediumView } from './media';

/** Stills and clips of the real thing, to hold a shot against. Those of no reel ship and are offered everywhere. */
export function referenceRoutes(context: Context): Router {
  const { db, news } = context;
  const router = Router();

  // Those of one reel and those that ship; without a reel, all there are.
  router.get('/', async (request, response) => {
    const reel = request.query.reel === undefined ? undefined : idOf(request.query.reel, 'reel');
    const rows = await db
      .select({ reference: references, medium: media })
      .from(references)
      .innerJoin(media, eq(media.id, references.mediaId))
      .where(reel ? or(eq(references.reelId, reel), isNull(references.reelId)) : undefined)
      .orderBy(asc(references.createdAt));
    response.json(rows.map(({ reference, medium }) => ({ ...reference, shipped: reference.reelId === null, medium: mediumView(medium) })));
  });

  router.patch('/:id', async (request, response) => {
    const body = checked(Joi.object<{ name: string }>({ name: nameText().required() }), request.body);
    const [row] = await db
      .update(references)
      .set({ name: body.name })
      .where(eq(references.id, idOf(request.params.id, 'reference')))
      .returning();
    if (!row) throw notFound('reference');
    response.json(row);
  });

  router.delete('/:id', async (request, response) => {
    const id = idOf(request.params.id, 'reference');
    const [row] = await db.select().from(references).where(eq(references.id, id));
    if (!row) throw notFound('reference');
    if (row.reelId === null) throw new HttpError(409, 'a reference that ships stays');
    await db.delete(references).where(eq(references.id, id));
    await discardUnused(context, [row.mediaId]);
    news.tell({ type: 'reels' });
    response.status(204).end();
  });

  return router;
}
