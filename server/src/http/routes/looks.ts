import type { Router } from 'express';
import { desc, eq } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import { checkLook, shippedLook, shippedLooks } from '@tin-ghost/core';
import type { Context } from '../../context';
import { looks } from '../../db/schema';
import { notFound } from '../../refusal';
import { serve } from '../serve';
import { idOf } from '../validate';

export function lookRoutes(router: Router, { db }: Context): void {
  serve(router, ROUTES.listLooks, async () => {
    const own = await db.select().from(looks).orderBy(desc(looks.createdAt));
    return [...own.map((row) => ({ id: row.id, look: row.look, shipped: false })), ...shippedLooks.map(({ id, look }) => ({ id, look, shipped: true }))];
  });

  serve(router, ROUTES.storeLook, async ({ body }) => {
    const look = checkLook(body);
    const [row] = await db.insert(looks).values({ name: look.name, look }).returning();
    return { id: row!.id, look: row!.look, shipped: false };
  });

  serve(router, ROUTES.readLook, async ({ params }) => {
    const shipped = shippedLook(params.id!);
    if (shipped) return shipped;
    const [row] = await db
      .select()
      .from(looks)
      .where(eq(looks.id, idOf(params.id, 'look')));
    if (!row) throw notFound('look');
    return row.look;
  });

  serve(router, ROUTES.deleteLook, async ({ params }) => {
    const gone = await db
      .delete(looks)
      .where(eq(looks.id, idOf(params.id, 'look')))
      .returning();
    if (gone.length === 0) throw notFound('look');
  });
}
