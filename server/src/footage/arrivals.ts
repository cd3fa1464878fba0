import { copyFile, mkdir, readdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { FileStore } from '@tus/file-store';
import type { Upload } from '@tus/server';
import type { SequenceMade } from '@tin-ghost/contract';
import { isDatabaseAway } from '../db/client';
import { Refusal } from '../refusal';
import { LOOSE, NAMES } from '../jobs/bring-in';
import { cleanName, type MediaStore } from '../store/media-store';
import type { FootageService } from './service';

/** What an upload became. */
export interface Arrived {
  readonly as: 'shot' | 'reference' | 'plate';
  readonly id: string;
}

/** Images that were uploaded one by one and are to become one sequence; kept on disk until they are. */
interface SequenceNote {
  /** null: it becomes a plate. */
  readonly reel: string | null;
  readonly name: string;
  readonly bytes: number;
  readonly images: readonly { readonly upload: string; readonly name: string; readonly file: string }[];
}

const UPLOAD_ID = /^[0-9a-f]{32}$/;
const AGAIN_MS = 2000;

/** The medium that an upload becomes: whoever takes the upload in, and however often, it is the same. */
const mediumOf = (upload: string): string => upload.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');

/**
 * The way of what was uploaded into the store. Its row comes first and its file after, and each step may be made again, so that whatever
 * breaks between them is mended by taking the same upload in once more.
 */
export class Arrivals {
  readonly uploads: FileStore;
  private readonly again = new Set<string>();
  private stopped = false;

  constructor(private readonly context: { readonly store: MediaStore; readonly footage: FootageService }) {
    this.uploads = new FileStore({ directory: context.store.uploads });
  }

  /**
   * Takes a whole upload in as a shot or a reference of the reel it names, as a reference of all reels where it names none, or as a plate.
   * @throws Refusal `not-found` where the reel is gone; the upload is removed then. With the database away it throws, and goes on by itself later.
   */
  async takeUpload(id: string): Promise<Arrived> {
    return this.surely(id, async () => {
      const { store, footage } = this.context;
      const upload = await this.uploads.getUpload(id);
      const { reel, filename, as, together, place } = upload.metadata ?? {};
      const name = cleanName(filename ?? '');
      const medium = { id: mediumOf(id), name, bytes: upload.size ?? 0, original: store.originalName(name) };
      const sent = together && place && /^[\w-]{1,64}$/.test(together) && /^\d{1,6}$/.test(place) ? { together, place: Number(place) } : undefined;
      const kind = as === 'reference' || as === 'plate' ? as : 'shot';
      const add = { shot: () => footage.addShot(reel!, medium, { sent }), reference: () => footage.addReference(reel ?? null, medium), plate: () => footage.addPlate(medium) };
      const row = await add[kind]().catch(async (error: unknown) => {
        if (error instanceof Refusal) await this.remove(id);
        throw error;
      });
      await store.adopt(join(store.uploads, id), medium.id, medium.original);
      await footage.begin(medium.id);
      return { as: kind, id: row };
    });
  }

  /**
   * Makes one sequence of images that were uploaded, in the order of their names. What is to be done is written down first.
   * @param reel whose shot it becomes; null: it becomes a plate
   */
  async takeSequence(reel: string | null, name: string, images: readonly Upload[]): Promise<SequenceMade> {
    const { store } = this.context;
    const order = new Intl.Collator('en', { numeric: true });
    const sorted = [...images].sort((a, b) => order.compare(a.metadata?.filename ?? '', b.metadata?.filename ?? ''));
    const note: SequenceNote = {
      reel,
      name: cleanName(name),
      bytes: sorted.reduce((sum, upload) => sum + (upload.size ?? 0), 0),
      images: sorted.map((upload, i) => {
        const own = cleanName(upload.metadata?.filename ?? '');
        return { upload: upload.id, name: own, file: `${String(i).padStart(6, '0')}${extname(store.originalName(own))}` };
      }),
    };
    const id = mediumOf(sorted[0]!.id);
    const file = this.noteOf(id);
    await writeFile(`${file}.part`, JSON.stringify(note));
    await rename(`${file}.part`, file);
    return this.finishSequence(id);
  }

  private async finishSequence(id: string): Promise<SequenceMade> {
    return this.surely(id, async () => {
      const { store, footage } = this.context;
      const note = JSON.parse(await readFile(this.noteOf(id), 'utf8')) as SequenceNote;
      const medium = { id, name: note.name, bytes: note.bytes, original: LOOSE };
      const added = note.reel === null ? footage.addPlate(medium, note.name) : footage.addShot(note.reel, medium, { name: note.name });
      const row = await added.catch(async (error: unknown) => {
        // The images stay for another reel.
        if (error instanceof Refusal) await rm(this.noteOf(id), { force: true });
        throw error;
      });
      const loose = join(store.folder(id), LOOSE);
      await mkdir(loose, { recursive: true });
      await writeFile(join(store.folder(id), NAMES), JSON.stringify(note.images.map((image) => image.name)));
      for (const image of note.images) {
        const [from, to] = [join(store.uploads, image.upload), join(loose, image.file)];
        if (await exists(from)) await rename(from, to).catch(() => copyFile(from, to));
        await this.remove(image.upload);
      }
      await footage.begin(id);
      await rm(this.noteOf(id), { force: true });
      return { shot: note.reel === null ? null : row, medium: id };
    });
  }

  /** Takes in what is there whole and was not taken in, such as by a server that was killed meanwhile. */
  async takeLeft(): Promise<void> {
    const names = await readdir(this.context.store.uploads);
    for (const name of names.filter((n) => n.endsWith(NOTE))) await this.finishSequence(name.slice(0, -NOTE.length)).catch(() => undefined);
    for (const id of names.filter((n) => UPLOAD_ID.test(n))) {
      const upload = await this.uploads.getUpload(id).catch(() => undefined);
      if (upload && upload.offset === upload.size && isWhole(upload)) await this.takeUpload(id).catch(() => undefined);
    }
  }

  /** Removes uploads that nobody has gone on with for some days, and what belongs to none. */
  async removeOld(milliseconds: number): Promise<void> {
    const { uploads } = this.context.store;
    for (const name of await readdir(uploads)) {
      const known = await stat(join(uploads, name)).catch(() => undefined);
      if (known && Date.now() - known.mtimeMs > milliseconds) await rm(join(uploads, name), { force: true, recursive: true });
    }
  }

  stop(): void {
    this.stopped = true;
  }

  private noteOf(id: string): string {
    return join(this.context.store.uploads, `${id}${NOTE}`);
  }

  private async remove(upload: string): Promise<void> {
    const file = join(this.context.store.uploads, upload);
    await Promise.all([rm(file, { force: true }), rm(`${file}.json`, { force: true })]);
  }

  /** Runs a step; where the database is away, it fails and is made again by itself until the database is back. */
  private async surely<T>(id: string, step: () => Promise<T>): Promise<T> {
    try {
      return await step();
    } catch (error) {
      if (isDatabaseAway(error) && !this.again.has(id)) {
        this.again.add(id);
        void this.untilDone(step).finally(() => this.again.delete(id));
      }
      throw error;
    }
  }

  private async untilDone(step: () => Promise<unknown>): Promise<void> {
    while (!this.stopped) {
      await pause(AGAIN_MS, undefined, { ref: false });
      const away = await step().then(() => false, isDatabaseAway);
      if (!away) return;
    }
  }
}

/** Whether an upload is to be something by itself; images of a sequence wait for each other. */
export const isWhole = ({ metadata }: Pick<Upload, 'metadata'>): boolean => Boolean(metadata?.reel) || metadata?.as === 'plate' || metadata?.as === 'reference';

const NOTE = '.sequence';

const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  );
