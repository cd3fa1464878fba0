import { and, eq, notExists } from 'drizzle-orm';
import type { Context } from '../context';
import { media, prints, references, shots } from '../db/schema';

/**
 * Removes footage that nothing refers to any more, neither shot nor reference nor print: work on it is ended, its row and its files go.
 * @param ids those to look at; all there are by default
 * @returns those that went
 */
export async function discardUnused({ db, jobs, store }: Context, ids?: readonly string[]): Promise<string[]> {
  const gone: string[] = [];
  for (const id of ids ?? (await unused(db)).map((row) => row.id)) {
    const [row] = await db
      .delete(media)
      .where(and(eq(media.id, id), ...nobodyRefers(db)))
      .returning({ id: media.id });
    if (!row) continue;
    // Its files are removed when nothing writes them any more.
    await jobs.cancel(id);
    await store.forget(id);
    gone.push(id);
  }
  return gone;
}

const unused = (db: Context['db']) =>
  db
    .select({ id: media.id })
    .from(media)
    .where(and(...nobodyRefers(db)));

const nobodyRefers = (db: Context['db']) =>
  [shots, references, prints].map((table) =>
    notExists(
      db
        .select({ id: table.id })
        .from(table as typeof shots)
        .where(eq(table.mediaId, media.id)),
    ),
  );
