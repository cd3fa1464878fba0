import { and, eq } from 'drizzle-orm';
import type { PrintState } from '@tin-ghost/contract';
import { CancelledError, strike, type Part } from '@tin-ghost/media';
import { media, printParts, prints, type Print } from '../db/schema';
import { filesFor } from '../store/look-files';
import { failureText } from './bring-in';
import type { JobTools } from './tools';
import { occasionally, surely } from './persist';

/** A shot of a print, with what its look and its preparation refer to. */
async function partOf({ mediaId, look, preparation }: Pick<Print, 'mediaId' | 'look' | 'preparation'>, { db, store }: Pick<JobTools, 'db' | 'store'>): Promise<Part> {
  const [medium] = await db.select().from(media).where(eq(media.id, mediaId));
  return { footage: store.footage(medium!), look, preparation, files: await filesFor(db, store, look, preparation) };
}

/** Renders a print that was ordered. Its file appears whole or not at all. */
export async function strikePrint(id: string, { db, store, news, signal }: JobTools): Promise<void> {
  const [print] = await db
    .update(prints)
    .set({ state: 'striking' })
    .where(and(eq(prints.id, id), eq(prints.state, 'waiting')))
    .returning();
  if (!print) return;
  const { settings, total } = print;
  let at = { done: 0, perSecond: 0, secondsLeft: 0 };
  const tell = (state: PrintState, error: string | null = null): void => news.tell({ type: 'print', id, state, total, error, ...at });
  const note = occasionally(() => db.update(prints).set(at).where(eq(prints.id, id)));
  const end = async (state: 'done' | 'failed' | 'stopped', more: Partial<typeof prints.$inferInsert> = {}): Promise<void> => {
    await surely(
      () =>
        db
          .update(prints)
          .set({ ...at, state, finishedAt: new Date().toISOString(), ...more })
          .where(eq(prints.id, id)),
      signal,
    );
    tell(state, more.error ?? null);
  };
  try {
    tell('striking');
    const later = await db.select().from(printParts).where(eq(printParts.printId, id)).orderBy(printParts.position);
    const [first, ...following] = await Promise.all([print, ...later].map((part) => partOf(part, { db, store })));
    const file = store.print(print);
    await strike({
      ...first!,
      following,
      file,
      container: settings.format,
      coding: settings.coding,
      quality: settings.quality,
      width: settings.width,
      height: settings.height,
      ...(following.length ? {} : { from: settings.from, to: settings.to }),
      sound: settings.sound,
      signal,
      onProgress: ({ done, perSecond, secondsLeft }) => {
        at = { done, perSecond, secondsLeft };
        tell('striking');
        note();
      },
    });
    at = { ...at, done: total, secondsLeft: 0 };
    await end('done', { bytes: await store.size(file) });
  } catch (error) {
    if (error instanceof CancelledError || signal.aborted) {
      const [now] = await db
        .select({ state: prints.state })
        .from(prints)
        .where(eq(prints.id, id))
        .catch(() => []);
      // Stopped by the user; a server going down leaves it to be taken up again.
      if (now?.state === 'stopped') tell('stopped');
      return;
    }
    await end('failed', { error: failureText(error) });
  }
}
