import express, { Router } from 'express';
import { desc, eq } from 'drizzle-orm';
import { FormatError, parseCube } from '@tin-ghost/core';
import type { Context } from '../../context';
import { tables } from '../../db/schema';
import { cleanName } from '../../store/media-store';
import { tableId } from '../../store/tables';
import { HttpError, notFound } from '../errors';

/** A cube of 65 points a side in text takes about 8 MB; the largest the format allows would not fit a picture's time. */
const LARGEST = '32mb';

/** Tables of colours (.cube), kept by the hash of their text, so that a look finds the one it was made with. */
export function tableRoutes({ db }: Context): Router {
  const router = Router();

  router.get('/', async (_request, response) => {
    response.json(await db.select({ id: tables.id, name: tables.name, createdAt: tables.createdAt }).from(tables).orderBy(desc(tables.createdAt)));
  });

  router.post('/', express.text({ limit: LARGEST, type: '*/*' }), async (request, response) => {
    const body = typeof request.body === 'string' ? request.body : '';
    if (body.includes('\0')) throw new HttpError(400, 'what was sent is no text');
    const name = cleanName(typeof request.query.name === 'string' ? request.query.name : 'Table.cube');
    try {
      parseCube(body);
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      throw new HttpError(400, `${name}: ${error.message}`, [{ path: `line ${error.line}`, message: error.reason }]);
    }
    const id = tableId(body);
    await db.insert(tables).values({ id, name, body }).onConflictDoNothing();
    response.status(201).json({ id, name });
  });

  router.get('/:id', async (request, response) => {
    if (!/^[0-9a-f]{64}$/.test(request.params.id)) throw notFound('table');
    const [row] = await db.select().from(tables).where(eq(tables.id, request.params.id));
    if (!row) throw notFound('table');
    response.setHeader('cache-control', 'public, max-age=31536000, immutable');
    response.type('text/plain').send(row.body);
  });

  return router;
}
