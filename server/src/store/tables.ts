import { createHash } from 'node:crypto';
import { inArray } from 'drizzle-orm';
import { parseCube, tableIds, type ColourTable, type Look, type Preparation } from '@tin-ghost/core';
import { WorkError } from '@tin-ghost/media';
import type { Database } from '../db/client';
import { tables } from '../db/schema';

/** What a table of colours is called by in looks: the hash of its file. */
export const tableId = (body: string): string => createHash('sha256').update(body).digest('hex');

/**
 * The tables that a look and a preparation refer to.
 * @throws WorkError where one is not there: a print without it would not be what was seen
 */
export async function tablesFor(db: Database, look: Look, preparation: Preparation): Promise<Record<string, ColourTable>> {
  const ids = tableIds(look, preparation);
  if (ids.length === 0) return {};
  const rows = await db.select().from(tables).where(inArray(tables.id, ids));
  const missing = ids.filter((id) => !rows.some((row) => row.id === id));
  if (missing.length) throw new WorkError(`a table of colours is not here: ${missing.join(', ')}; bring its .cube file in again, or take the table off`);
  return Object.fromEntries(rows.map((row) => [row.id, parseCube(row.body)]));
}
