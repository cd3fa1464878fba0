import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq } from 'drizzle-orm';
import { CancelledError, hashFile, InputError, intake, isZipName, probe, sequenceFromFiles, sequenceFromZip, WorkError, type Footage } from '@tin-ghost/media';
import { media, type Medium } from '../db/schema';
import type { JobTools } from './jobs';
import { occasionally, surely } from './persist';

/** What a person is told of a failure; anything unforeseen is told as such. */
export function failureText(error: unknown): string {
  if (error instanceof InputError) return error.place ? `${error.reason} (${error.place})` : error.reason;
  if (error instanceof WorkError) return error.message;
  return `something unforeseen happened: ${error instanceof Error ? error.message : String(error)}`;
}

/** Images uploaded for one sequence lie in this folder under the names they came with, numbered. */
export const LOOSE = 'loose';

/** Hash, probe and preview of footage that has been uploaded. The original stays as it came. */
export async function bringIn(id: string, { db, store, news, signal }: JobTools): Promise<void> {
  const [medium] = await db
    .update(media)
    .set({ state: 'working', progress: 0 })
    .where(and(eq(media.id, id), eq(media.state, 'waiting')))
    .returning();
  if (!medium) return;
  let progress = 0;
  const tell = (state: string, error: string | null = null): void => news.tell({ type: 'media', id, state, progress, error });
  const note = occasionally(() => db.update(media).set({ progress }).where(eq(media.id, id)));
  try {
    tell('working');
    const folder = store.folder(id);
    const footage = await identify(medium, store.original(medium), folder, signal);
    const hash = medium.original === LOOSE ? null : await hashFile(store.original(medium));
    progress = 0.05;
    tell('working');
    const result = await intake(
      footage,
      folder,
      (share) => {
        progress = 0.05 + 0.95 * share;
        tell('working');
        note();
      },
      signal,
    );
    progress = 1;
    const relative = { ...footage, path: footage.path.slice(folder.length + 1) };
    await surely(() =>
      db
        .update(media)
        .set({ state: 'ready', progress: 1, hash, footage: relative, proxyWidth: result.proxyWidth, proxyHeight: result.proxyHeight, hasSound: result.sound })
        .where(eq(media.id, id)),
    );
    tell('ready');
  } catch (error) {
    // A server that is going down takes the work up again when it comes back.
    if (error instanceof CancelledError) return;
    const text = failureText(error);
    await surely(() => db.update(media).set({ state: 'failed', error: text }).where(eq(media.id, id)));
    tell('failed', text);
  }
}

async function identify(medium: Medium, original: string, folder: string, signal: AbortSignal): Promise<Footage> {
  const frames = join(folder, 'sequence');
  await rm(frames, { recursive: true, force: true });
  if (medium.original === LOOSE) {
    const names = await readdir(original);
    // Each is kept as NUMBER.ENDING in the order of the names it came with.
    return sequenceFromFiles(
      names.map((name) => ({ name, path: join(original, name) })),
      frames,
      medium.name,
    );
  }
  if (isZipName(medium.original)) return sequenceFromZip(original, frames, medium.name);
  return probe(original, medium.name, signal);
}
