import { mkdir, mkdtemp, readdir, rename, rm, stat, statfs, utimes } from 'node:fs/promises';
import { dirname, extname, join, relative } from 'node:path';
import { INTAKE_FILES, printPoster, removeLeft, type Footage } from '@tin-ghost/media';
import type { Medium, Print, PrintSegment } from '../db/schema';
import type { Bucket } from './bucket';
import { oneLine } from '@tin-ghost/contract/rules';

/** A name from outside as it may be shown: one line, no path, not endless. */
export function cleanName(name: string): string {
  const last =
    name
      .split(/[/\\]/)
      .filter((part) => part !== '..' && part !== '.')
      .at(-1) ?? '';
  return oneLine(last, 160) || 'Untitled';
}

/** Room that an upload or an unpacked archive must leave on the disk, for previews and for the database. */
export const SPARE_BYTES = 200_000_000;

/** A segment's place in the store. */
type SegmentPlace = Pick<PrintSegment, 'printId' | 'position'>;

/**
 * Folders of originals, previews, prints and what those are made in. Names in it are the server's own; nothing from outside becomes a path. With a bucket
 * all that is finished lies there, for every machine, under the same names; the folder is this machine's own, and holds what it works with.
 */
export class MediaStore {
  private readonly fetching = new Map<string, Promise<void>>();

  constructor(
    readonly root: string,
    private readonly bucket?: Bucket,
  ) {}

  async prepare(): Promise<void> {
    for (const folder of ['uploads', 'media', 'prints', 'segments']) await mkdir(join(this.root, folder), { recursive: true });
  }

  get uploads(): string {
    return join(this.root, 'uploads');
  }

  get media(): string {
    return join(this.root, 'media');
  }

  get prints(): string {
    return join(this.root, 'prints');
  }

  folder(mediaId: string): string {
    return join(this.media, mediaId);
  }

  /** Name an original is kept under: the ending tells its kind to a person, nothing more. */
  originalName(name: string): string {
    const ending = /^\.[a-z0-9]{1,5}$/.exec(extname(name).toLowerCase())?.[0] ?? '';
    return `original${ending}`;
  }

  /** A file that was made when footage came in. */
  async file(mediaId: string, kind: keyof typeof INTAKE_FILES): Promise<string> {
    const file = join(this.folder(mediaId), INTAKE_FILES[kind]);
    await this.bring(file);
    return file;
  }

  original(medium: Medium): string {
    return join(this.folder(medium.id), medium.original);
  }

  get segments(): string {
    return join(this.root, 'segments');
  }

  /** Footage with the path it has on this machine. */
  async footage(medium: Medium): Promise<Footage> {
    if (!medium.footage) throw new Error(`${medium.name} is not ready`);
    const path = join(this.folder(medium.id), medium.footage.path);
    // Images of a sequence lie in a folder of their own, which has their pattern.
    if (medium.footage.path.includes('/')) await this.bringFolder(dirname(path));
    else await this.bring(path);
    return { ...medium.footage, path };
  }

  /** Footage has come in: others can have it. */
  async keepMedium(mediaId: string): Promise<void> {
    await this.send(this.folder(mediaId));
  }

  /** Where a print is, or is to be made. */
  print(print: Pick<Print, 'id' | 'settings'>): string {
    return join(this.prints, `${print.id}.${print.settings.format}`);
  }

  private segmentFile({ printId, position }: SegmentPlace): string {
    return join(this.segments, printId, `${String(position).padStart(5, '0')}.part`);
  }

  /** A print is made: others can have it. */
  async keepPrint(print: Pick<Print, 'id' | 'settings'>): Promise<void> {
    await this.send(this.print(print));
  }

  /** File of a print that is made. */
  async finishedPrint(print: Pick<Print, 'id' | 'settings'>): Promise<string> {
    await this.bring(this.print(print));
    return this.print(print);
  }

  private posterFile(print: Pick<Print, 'id'>): string {
    return join(this.prints, `${print.id}.jpg`);
  }

  /** A still of a finished print, made when it is first asked for. @param seconds of the print */
  async printPoster(print: Pick<Print, 'id' | 'settings' | 'total'>, seconds: number): Promise<string> {
    const file = this.posterFile(print);
    await this.once(file, async () => {
      if (!(await exists(file))) {
        const { format, ground } = print.settings;
        await printPoster({ path: await this.finishedPrint(print), container: format, frames: print.total, seconds, alpha: ground === 'alpha' }, file);
      }
    });
    return file;
  }

  /** Where a segment is to be made. */
  async segmentPlace(segment: SegmentPlace): Promise<string> {
    const file = this.segmentFile(segment);
    await mkdir(dirname(file), { recursive: true });
    return file;
  }

  /** A segment is made: others can have it, and here it is not needed until all are joined; nor where it cannot be sent, as somebody makes it again. */
  async keepSegment(segment: SegmentPlace): Promise<void> {
    const file = this.segmentFile(segment);
    try {
      await this.send(file);
    } finally {
      if (this.bucket) await rm(file, { force: true });
    }
  }

  /** File of a segment that is made. */
  async segment(segment: SegmentPlace): Promise<string> {
    const file = this.segmentFile(segment);
    await this.bring(file);
    return file;
  }

  /** What the bucket has in one of its folders: names of files and folders. Nothing where there is none, or it is away. */
  async inBucket(folder: 'media' | 'prints' | 'segments'): Promise<string[]> {
    const keys = (await this.bucket?.list(`${folder}/`).catch(() => [])) ?? [];
    return [...new Set(keys.map((key) => key.split('/')[1]!))];
  }

  /** Removes from the bucket a file or folder that `inBucket` told. */
  async dropFromBucket(folder: 'media' | 'prints' | 'segments', name: string): Promise<void> {
    await this.bucket?.remove(`${folder}/${name}`);
  }

  async dropSegments(printId: string): Promise<void> {
    await this.drop(join(this.segments, printId));
  }

  async dropPrint(print: Pick<Print, 'id' | 'settings'>): Promise<void> {
    await this.drop(this.print(print));
    await rm(this.posterFile(print), { force: true });
  }

  /** Moves a finished upload in; one that was moved before is there already. */
  async adopt(upload: string, mediaId: string, original: string): Promise<void> {
    await mkdir(this.folder(mediaId), { recursive: true });
    await rename(upload, join(this.folder(mediaId), original)).catch(async (error: NodeJS.ErrnoException) => {
      if (error.code !== 'ENOENT') throw error;
      await stat(join(this.folder(mediaId), original));
    });
    await rm(`${upload}.json`, { force: true });
  }

  async forget(mediaId: string): Promise<void> {
    await this.drop(this.folder(mediaId));
  }

  /** Removes what a worker that was killed was making in a folder that is this worker's alone; in one that is shared, its parts are found by their names. */
  async clearSegments(): Promise<void> {
    if (this.bucket) await rm(this.segments, { recursive: true, force: true });
    await mkdir(this.segments, { recursive: true });
    for (const id of await readdir(this.segments)) await removeLeft(join(this.segments, id));
  }

  /** Removes footage that was fetched from the bucket and has not been used for a while. */
  async trim(unusedMs: number): Promise<void> {
    if (!this.bucket) return;
    for (const id of await readdir(this.media)) {
      const { mtimeMs } = await stat(join(this.media, id));
      if (Date.now() - mtimeMs > unusedMs) await rm(join(this.media, id), { recursive: true, force: true });
    }
  }

  private key(path: string): string {
    return relative(this.root, path);
  }

  /** Sends a file, or all that is in a folder. */
  private async send(path: string): Promise<void> {
    if (!this.bucket) return;
    const files = (await stat(path)).isDirectory() ? (await readdir(path, { recursive: true, withFileTypes: true })).filter((entry) => entry.isFile()) : undefined;
    for (const file of files?.map((entry) => join(entry.parentPath, entry.name)) ?? [path]) await this.bucket.put(this.key(file), file);
  }

  /** Fetches a file that is not here, where there is a bucket that has it. */
  private async bring(file: string): Promise<void> {
    if (!this.bucket) return;
    await this.once(file, async () => {
      if (!(await exists(file))) {
        await mkdir(dirname(file), { recursive: true });
        await this.bucket!.get(this.key(file), file);
      }
      await this.touch(file);
    });
  }

  /** Fetches a folder that is not here: it appears whole. */
  private async bringFolder(folder: string): Promise<void> {
    if (!this.bucket) return;
    await this.once(folder, async () => {
      if (!(await exists(folder))) {
        const beginning = `${this.key(folder)}/`;
        await mkdir(dirname(folder), { recursive: true });
        const part = await mkdtemp(join(dirname(folder), '.fetching-'));
        for (const key of await this.bucket!.list(beginning)) {
          const file = join(part, key.slice(beginning.length));
          await mkdir(dirname(file), { recursive: true });
          await this.bucket!.get(key, file);
        }
        await rename(part, folder);
      }
      await this.touch(folder);
    });
  }

  /** The folder of a medium bears the time when it was last used. */
  private async touch(path: string): Promise<void> {
    const [kind, id] = this.key(path).split('/');
    if (kind === 'media' && id) await utimes(this.folder(id), new Date(), new Date());
  }

  /** Several who want the same file wait for the first. */
  private async once(path: string, fetch: () => Promise<void>): Promise<void> {
    const under = this.fetching.get(path) ?? fetch().finally(() => this.fetching.delete(path));
    this.fetching.set(path, under);
    await under;
  }

  private async drop(path: string): Promise<void> {
    await rm(path, { recursive: true, force: true, maxRetries: 3 });
    await this.bucket?.remove(this.key(path));
  }

  async size(path: string): Promise<number> {
    return (await stat(path)).size;
  }

  /** Bytes free on the disk of the store. */
  async free(): Promise<number> {
    const s = await statfs(this.root);
    return s.bavail * s.bsize;
  }
}

const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );
