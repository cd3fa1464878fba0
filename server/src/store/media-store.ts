import { mkdir, rename, rm, stat, statfs } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { INTAKE_FILES, type Footage } from '@tin-ghost/media';
import type { Medium, Print } from '../db/schema';
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

/** Folders of originals, previews and prints. Names in it are the server's own; nothing from outside becomes a path. */
export class MediaStore {
  constructor(readonly root: string) {}

  async prepare(): Promise<void> {
    for (const folder of ['uploads', 'media', 'prints']) await mkdir(join(this.root, folder), { recursive: true });
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

  file(mediaId: string, kind: keyof typeof INTAKE_FILES): string {
    return join(this.folder(mediaId), INTAKE_FILES[kind]);
  }

  original(medium: Medium): string {
    return join(this.folder(medium.id), medium.original);
  }

  /** Footage with the path it has on this machine. */
  footage(medium: Medium): Footage {
    if (!medium.footage) throw new Error(`${medium.name} is not ready`);
    return { ...medium.footage, path: join(this.folder(medium.id), medium.footage.path) };
  }

  print(print: Pick<Print, 'id' | 'settings'>): string {
    return join(this.prints, `${print.id}.${print.settings.format}`);
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
    await rm(this.folder(mediaId), { recursive: true, force: true });
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
