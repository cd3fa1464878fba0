import { Router } from 'express';
import { desc, eq } from 'drizzle-orm';
import { checkLook, shippedLook, shippedLooks } from '@tin-ghost/core';
import type { Context } from '../../context';
import { looks } from '../../db/schema';
import { notFound } from '../errors';
import { idOf } from '../validate';

export function lookRoutes({ db }: Context): Router {
  const router = Router();

  router.get('/', async (_request, response) => {
    const own = await db.select().from(looks).orderBy(desc(looks.createdAt));
    response.json([...own.map((row) => ({ id: row.id, look: row.look, shipped: false })), ...shippedLooks.map(({ id, look }) => ({ id, look, shipped: true }))]);
  });

  router.post('/', async (request, response) => {
    const look = checkLook(request.body);
    const [row] = await db.insert(looks).values({ name: look.name, look }).returning();
    response.status(201).json({ id: row!.id, look: row!.look, shipped: false });
  });

  router.get('/:id', async (request, response) => {
    const shipped = shippedLook(request.params.id);
    if (shipped) return void response.json(shipped);
    const [row] = await db
      .select()
      .from(looks)
      .where(eq(looks.id, idOf(request.params.id, 'look')));
    if (!row) throw notFound('look');
    response.json(row.look);
  });

  router.delete('/:id', async (request, response) => {
    const gone = await db
      .delete(looks)
      .where(eq(looks.id, idOf(request.params.id, 'look')))
      .returning();
    if (gone.length === 0) throw notFound('look');
    response.status(204).end();
  });

  return router;
}
