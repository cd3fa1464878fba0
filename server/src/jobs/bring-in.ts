import { readdir, readFile, rm } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { and, eq } from 'drizzle-orm';
import type { MediumState } from '@tin-ghost/contract';
import {
  CancelledError,
  hashFiles,
  InputError,
  intake,
  isZipName,
  plateFrom,
  probe,
  proxySize,
  sequenceFromFiles,
  sequenceFromZip,
  systemReason,
  WorkError,
  type Footage,
} from '@tin-ghost/media';
import { log } from '../log';
import { media, plates, type Medium } from '../db/schema';
import { SPARE_BYTES, type MediaStore } from '../store/media-store';
import type { JobTools } from './tools';
import { NO_JOB } from './claims';
import { occasionally, surely } from './persist';

/** What a person is told of a failure; anything unforeseen is told as such. */
export function failureText(error: unknown): string {
  const system = systemReason(error);
  if (system) return system;
  if (error instanceof InputError) return error.place ? `${error.reason} (${error.place})` : error.reason;
  if (error instanceof WorkError) return error.message;
  log.error({ err: error }, 'unforeseen');
  return 'something unforeseen happened in the server';
}

/** Images uploaded for one sequence lie in this folder, numbered in the order of the names they came with; those stand in this file. */
export const LOOSE = 'loose';
export const NAMES = 'names.json';

/** What is told as done when its turn has come, and when the original is hashed. */
const BEGUN = 0.01;
const HASHED = 0.05;

/**
 * Probe, hash and preview of footage that has been uploaded. What it holds is told at once, so that its pictures can be seen before its proxy is made; the rest
 * waits for its turn. The original stays as it came.
 */
export async function bringIn(id: string, { db, store, news, signal, presence, free, turns }: JobTools): Promise<void> {
  const [medium] = await db
    .update(media)
    .set({ state: 'working', progress: 0, workerId: presence.id })
    .where(and(eq(media.id, id), eq(media.state, 'waiting')))
    .returning();
  if (!medium) return;
  const mine = and(eq(media.id, id), eq(media.workerId, presence.id));
  let progress = 0;
  const tell = (state: MediumState, error: string | null = null): void => news.tell({ type: 'media', id, state, progress, error });
  const note = occasionally(() => db.update(media).set({ progress }).where(mine));
  try {
    tell('working');
    const folder = store.folder(id);
    const { footage: found, names } = await identify(medium, store, signal);
    const [plate] = await surely(() => db.select({ id: plates.id }).from(plates).where(eq(plates.mediaId, id)), signal);
    const known = (footage: Footage) => {
      const { width: proxyWidth, height: proxyHeight } = proxySize(footage);
      return { footage: { ...footage, path: footage.path.slice(folder.length + 1) }, proxyWidth, proxyHeight };
    };
    // What a plate is worn as is not known before it has been looked through.
    if (!plate) {
      await surely(() => db.update(media).set(known(found)).where(mine), signal);
      news.tell({ type: 'reels' });
    }
    free();
    await turns.take(async () => {
      const advance = (share: number): void => {
        progress = share;
        tell('working');
        note();
      };
      advance(BEGUN);
      const footage = plate ? await plateFrom(found, folder, signal) : found;
      const hash = await hashFiles(await filesOf(medium, store));
      advance(HASHED);
      const hasSound = await intake(footage, folder, (share) => advance(HASHED + (1 - HASHED) * share), { signal, threads: presence.threads }).catch((error: unknown) => {
        // An image of a sequence is told by the name it came with.
        throw error instanceof InputError && error.picture !== undefined && names ? new InputError(medium.name, error.reason, names[error.picture]) : error;
      });
      await surely(() => store.keepMedium(id), signal);
      progress = 1;
      await surely(
        () =>
          db
            .update(media)
            .set({ ...known(footage), state: 'ready', progress, hash, hasSound, workerId: null })
            .where(mine),
        signal,
      );
    }, signal);
    tell('ready');
  } catch (error) {
    // Whoever comes next takes up what a server that is going down leaves.
    if (error instanceof CancelledError || signal.aborted) {
      await db
        .update(media)
        .set({ state: 'waiting', progress: 0, workerId: null, jobId: NO_JOB })
        .where(mine)
        .catch(() => undefined);
      return;
    }
    const text = failureText(error);
    await surely(() => db.update(media).set({ state: 'failed', error: text, footage: null, workerId: null }).where(mine), signal);
    tell('failed', text);
  }
}

/** The files of an original, in order. */
async function filesOf(medium: Medium, store: MediaStore): Promise<string[]> {
  const original = store.original(medium);
  return medium.original === LOOSE ? (await readdir(original)).sort().map((name) => join(original, name)) : [original];
}

/** What an original holds, and of a sequence the names of its images in order. */
async function identify(medium: Medium, store: MediaStore, signal: AbortSignal): Promise<{ footage: Footage; names?: readonly string[] }> {
  const folder = store.folder(medium.id);
  const original = store.original(medium);
  const frames = join(folder, 'sequence');
  await rm(frames, { recursive: true, force: true });
  if (medium.original === LOOSE) {
    const files = (await filesOf(medium, store)).map((path) => ({ name: basename(path), path }));
    const { footage } = await sequenceFromFiles(files, frames, medium.name);
    const names = JSON.parse(await readFile(join(folder, NAMES), 'utf8').catch(() => 'null')) as string[] | null;
    return { footage, names: names ?? undefined };
  }
  if (isZipName(medium.original)) return sequenceFromZip(original, frames, medium.name, (await store.free()) - SPARE_BYTES);
  return { footage: await probe(original, medium.name, signal) };
}
