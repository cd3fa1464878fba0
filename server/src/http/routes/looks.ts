import type { Router } from 'express';
import { desc, eq } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import { checkLook, freeName, shippedLook, shippedLooks } from '@tin-ghost/core';
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

  /** Names that other looks have. */
  const taken = async (but?: string): Promise<Set<string>> => {
    const own = await db.select({ id: looks.id, name: looks.name }).from(looks);
    return new Set([...own.filter(({ id }) => id !== but).map(({ name }) => name), ...shippedLooks.map(({ look }) => look.name)]);
  };

  serve(router, ROUTES.storeLook, async ({ body }) => {
    const given = checkLook(body);
    const look = { ...given, name: freeName(given.name, await taken()) };
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

  serve(router, ROUTES.renameLook, async ({ params, body }) => {
    const id = idOf(params.id, 'look');
    const [row] = await db.select().from(looks).where(eq(looks.id, id));
    if (!row) throw notFound('look');
    const look = { ...row.look, name: freeName(body.name, await taken(id)) };
    await db.update(looks).set({ name: look.name, look }).where(eq(looks.id, id));
    return { id, look, shipped: false };
  });

  serve(router, ROUTES.deleteLook, async ({ params }) => {
    const gone = await db
      .delete(looks)
      .where(eq(looks.id, idOf(params.id, 'look')))
      .returning();
    if (gone.length === 0) throw notFound('look');
  });
}
