import type { Router } from 'express';
import { desc, eq } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import { FormatError, parseCube } from '@tin-ghost/core';
import type { Context } from '../../context';
import { tables } from '../../db/schema';
import { notFound, Refusal } from '../../refusal';
import { cleanName } from '../../store/media-store';
import { fileId } from '../../store/look-files';
import { serve } from '../serve';

/** Tables of colours (.cube), kept by the hash of their text, so that a look finds the one it was made with. */
export function tableRoutes(router: Router, { db }: Context): void {
  serve(router, ROUTES.listTables, () => db.select({ id: tables.id, name: tables.name }).from(tables).orderBy(desc(tables.createdAt)));

  serve(router, ROUTES.storeTable, async ({ body, query }) => {
    if (body.includes('\0')) throw new Refusal('unusable-file', 'what was sent is no text');
    const name = cleanName(typeof query.name === 'string' ? query.name : 'Table.cube');
    try {
      parseCube(body);
    } catch (error) {
      if (!(error instanceof FormatError)) throw error;
      throw new Refusal('unusable-file', `${name}: ${error.message}`, [{ path: `line ${error.line}`, message: error.reason }]);
    }
    const id = fileId(body);
    await db.insert(tables).values({ id, name, body }).onConflictDoNothing();
    return { id, name };
  });

  serve(router, ROUTES.readTable, async ({ params, response }) => {
    if (!/^[0-9a-f]{64}$/.test(params.id!)) throw notFound('table');
    const [row] = await db.select().from(tables).where(eq(tables.id, params.id!));
    if (!row) throw notFound('table');
    response.setHeader('cache-control', 'public, max-age=31536000, immutable');
    response.type('text/plain').send(row.body);
  });
}
