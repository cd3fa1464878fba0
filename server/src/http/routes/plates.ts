import type { Router } from 'express';
import { asc, eq, type SQL } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import type { Context } from '../../context';
import { media, plates } from '../../db/schema';
import { notFound, Refusal } from '../../refusal';
import { plateView } from '../../views';
import { serve } from '../serve';
import { idOf } from '../validate';

/** Clips and stills that looks lay over pictures. */
export function plateRoutes(router: Router, { db, footage }: Context): void {
  const find = async (where?: SQL) => {
    const rows = await db.select({ plate: plates, medium: media }).from(plates).innerJoin(media, eq(media.id, plates.mediaId)).where(where).orderBy(asc(plates.createdAt));
    const views = rows.map(({ plate, medium }) => plateView(plate, medium));
    return [...views.filter((view) => view.shipped), ...views.filter((view) => !view.shipped)];
  };

  serve(router, ROUTES.listPlates, () => find());

  serve(router, ROUTES.renamePlate, async ({ params, body }) => {
    const id = idOf(params.id, 'plate');
    const [before] = await find(eq(plates.id, id));
    if (!before) throw notFound('plate');
    if (before.shipped) throw new Refusal('wrong-state', 'a plate that ships keeps its name');
    await db.update(plates).set({ name: body.name }).where(eq(plates.id, id));
    return { ...before, name: body.name };
  });

  serve(router, ROUTES.deletePlate, ({ params }) => footage.discardPlate(idOf(params.id, 'plate')));
}
