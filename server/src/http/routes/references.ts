import type { Router } from 'express';
import { asc, eq, isNull, or, type SQL } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import type { Context } from '../../context';
import { media, references } from '../../db/schema';
import { notFound } from '../../refusal';
import { referenceView } from '../../views';
import { serve } from '../serve';
import { idOf } from '../validate';

/** Stills and clips of the real thing, to hold a shot against. Those of no reel ship and are offered everywhere. */
export function referenceRoutes(router: Router, { db, footage }: Context): void {
  const find = async (where: SQL | undefined) => {
    const rows = await db
      .select({ reference: references, medium: media })
      .from(references)
      .innerJoin(media, eq(media.id, references.mediaId))
      .where(where)
      .orderBy(asc(references.createdAt));
    return rows.map(({ reference, medium }) => referenceView(reference, medium));
  };

  serve(router, ROUTES.listReferences, ({ query }) => {
    const reel = query.reel === undefined ? undefined : idOf(query.reel, 'reel');
    return find(reel ? or(eq(references.reelId, reel), isNull(references.reelId)) : undefined);
  });

  serve(router, ROUTES.renameReference, async ({ params, body }) => {
    const id = idOf(params.id, 'reference');
    await db.update(references).set({ name: body.name }).where(eq(references.id, id));
    const [reference] = await find(eq(references.id, id));
    if (!reference) throw notFound('reference');
    return reference;
  });

  serve(router, ROUTES.deleteReference, ({ params }) => footage.discardReference(idOf(params.id, 'reference')));
}
