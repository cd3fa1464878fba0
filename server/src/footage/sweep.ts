import { readdir, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { removeLeft } from '@tin-ghost/media';
import type { Context } from '../context';
import { media, prints } from '../db/schema';

const DAY_MS = 86_400_000;
/** An upload that was cut off can be gone on with for this long. */
const UPLOAD_DAYS = 7;
/** While others may be at work, what is younger than this may be in the making. */
const YOUNG_MS = 3_600_000;

/**
 * Brings rows and files together again: takes in uploads that are whole, and removes what has lain in the bin for its time, what nobody refers to and what was half made.
 * @param alone true where nobody else is at work on the store, as when the server starts
 */
export async function sweep(context: Context, alone: boolean): Promise<void> {
  const { db, store, footage, bin, arrivals } = context;
  await arrivals.takeLeft();
  await arrivals.removeOld(UPLOAD_DAYS * DAY_MS);
  await bin.removeOld();
  await footage.discardUnused();
  const old = async (path: string): Promise<boolean> =>
    alone ||
    (await stat(path).then(
      ({ mtimeMs }) => Date.now() - mtimeMs > YOUNG_MS,
      () => false,
    ));
  const removeStrangers = async (folder: string, known: ReadonlySet<string>): Promise<void> => {
    for (const name of await readdir(folder))
      if (!name.startsWith('.') && !known.has(name) && (await old(join(folder, name)))) await rm(join(folder, name), { recursive: true, force: true });
  };
  // Looked at before the rows: what comes meanwhile is known by then.
  const lying = { media: await store.inBucket('media'), prints: await store.inBucket('prints'), segments: await store.inBucket('segments') };
  const folders = await readdir(store.media);
  const rows = new Set((await db.select({ id: media.id }).from(media)).map((row) => row.id));
  const struck = await db.select({ id: prints.id, settings: prints.settings, state: prints.state }).from(prints);
  const known = {
    media: rows,
    prints: new Set(struck.flatMap(({ id, settings }) => [`${id}.${settings.format}`, `${id}.jpg`])),
    // A print that failed can be gone on with.
    segments: new Set(struck.filter(({ state }) => state !== 'done' && state !== 'stopped').map(({ id }) => id)),
  };
  for (const folder of ['media', 'prints', 'segments'] as const) {
    await removeStrangers(store[folder], known[folder]);
    for (const name of lying[folder]) if (!known[folder].has(name)) await store.dropFromBucket(folder, name);
  }
  for (const id of folders.filter((name) => rows.has(name))) await removeLeft(store.folder(id));
  await removeLeft(store.prints);
  for (const id of await readdir(store.segments)) await removeLeft(join(store.segments, id));
}
