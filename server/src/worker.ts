/** A process that makes segments of prints, on the server's machine or on another: it needs the server's database and its store, nothing else. */
import { engineStamp } from '@tin-ghost/media';
import { connect } from './db/client';
import { engineOf } from './jobs/engine-fact';
import { Jobs } from './jobs/jobs';
import { Presence } from './jobs/presence';
import { Newsroom } from './newsroom';
import { StartError } from './refusal';
import { Bucket } from './store/bucket';
import { MediaStore } from './store/media-store';

export interface WorkerOptions {
  readonly databaseUrl: string;
  /** The server's own folder; with a bucket, one that this worker has for itself. */
  readonly mediaFolder: string;
  readonly bucket?: string;
  readonly threads?: number;
  /** Told when the worker cannot go on: the server has another engine now. */
  readonly onOutdated?: () => void;
}

const LOOK_MS = 5000;
/** Footage that was fetched is kept for this time after it was last used. */
const KEPT_MS = 3_600_000;

const OUTDATED = 'The server makes prints with another version of the engine (or of ffmpeg) than this worker. Bring both to the same version.';

/** @throws StartError where the server's engine is another, or no server has used the database */
export async function startWorker(options: WorkerOptions): Promise<{ id: string; close: () => Promise<void> }> {
  const { db, pool, close } = connect(options.databaseUrl);
  const engine = await engineStamp();
  try {
    const servers = await engineOf(db).catch((error: unknown) => {
      throw new StartError(`The database cannot be used: ${error instanceof Error ? (error.cause instanceof Error ? error.cause.message : error.message) : String(error)}`);
    });
    if (servers === undefined) throw new StartError('No server has used this database yet. Start the server first.');
    if (servers !== engine) throw new StartError(OUTDATED);
  } catch (error) {
    await close();
    throw error;
  }
  const store = new MediaStore(options.mediaFolder, options.bucket ? await Bucket.at(options.bucket) : undefined);
  await store.prepare();
  await store.clearSegments();
  const jobs = new Jobs(pool, { db, store, news: new Newsroom(pool) });
  const presence = new Presence(db, engine, options.threads);
  await presence.enter();
  await jobs.open();
  await jobs.start(presence, { imports: false, strikes: true });
  const looking = setInterval(() => void look().catch(() => undefined), LOOK_MS).unref();
  async function look(): Promise<void> {
    if ((await engineOf(db)) !== engine) options.onOutdated?.();
    await store.trim(KEPT_MS);
  }
  return {
    id: presence.id,
    async close() {
      clearInterval(looking);
      await jobs.stop();
      await close();
    },
  };
}
