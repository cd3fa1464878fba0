import { inArray } from 'drizzle-orm';
import type { Database } from '../db/client';
import { media, prints } from '../db/schema';

/** Work that was under way or waiting when the server ended; it is set back to waiting. */
export async function unfinished(db: Database): Promise<{ media: string[]; prints: string[] }> {
  const m = await db
    .update(media)
    .set({ state: 'waiting', progress: 0 })
    .where(inArray(media.state, ['waiting', 'working']))
    .returning({ id: media.id });
  const p = await db
    .update(prints)
    .set({ state: 'waiting', done: 0, perSecond: 0, secondsLeft: 0 })
    .where(inArray(prints.state, ['waiting', 'striking']))
    .returning({ id: prints.id });
  return { media: m.map((row) => row.id), prints: p.map((row) => row.id) };
}
