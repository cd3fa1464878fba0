import { createHash } from 'node:crypto';
import { eq, inArray } from 'drizzle-orm';
import { parseCube, tableIds, type ColourTable, type Look, type Preparation } from '@tin-ghost/core';
import { fontsFor, platesFor, WorkError, type LookFiles } from '@tin-ghost/media';
import type { Database } from '../db/client';
import { fonts, media, plates, tables } from '../db/schema';
import { plateKey } from '../views';
import type { MediaStore } from './media-store';

/** What a table of colours or a font is called by in looks: the hash of its file. */
export const fileId = (body: string | Buffer): string => createHash('sha256').update(body).digest('hex');

async function tablesFor(db: Database, look: Look, preparation: Preparation): Promise<Record<string, ColourTable>> {
  const ids = tableIds(look, preparation);
  if (ids.length === 0) return {};
  const rows = await db.select().from(tables).where(inArray(tables.id, ids));
  const missing = ids.filter((id) => !rows.some((row) => row.id === id));
  if (missing.length) throw new WorkError(`a table of colours is not here: ${missing.join(', ')}; bring its .cube file in again, or take the table off`);
  return Object.fromEntries(rows.map((row) => [row.id, parseCube(row.body)]));
}

/**
 * What a look and a preparation refer to: tables of colours, fonts, and plates.
 * @throws WorkError where one is not there: a print without it would not be what was seen
 */
export async function filesFor(db: Database, store: MediaStore, look: Look, preparation: Preparation): Promise<LookFiles> {
  const font = async (id: string): Promise<Uint8Array | undefined> => (await db.select({ body: fonts.body }).from(fonts).where(eq(fonts.id, id)))[0]?.body;
  const kept = await db.select({ plate: plates, medium: media }).from(plates).innerJoin(media, eq(media.id, plates.mediaId));
  const found = await Promise.all([
    tablesFor(db, look, preparation),
    fontsFor(look, font),
    platesFor(look, async (key) => {
      const row = kept.find(({ plate, medium }) => medium.state === 'ready' && plateKey(plate, medium) === key);
      return row && (await store.footage(row.medium));
    }),
  ]);
  return { tables: found[0], fonts: found[1], plates: found[2] };
}
