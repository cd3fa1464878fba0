/** Archives of images: one that comes in is read entry by entry, one that goes out is written so, its images as they are. */
import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import yazl from 'yazl';
import { InputError, systemReason } from './errors';

/** An entry's name; it comes as bytes. */
export const nameOf = (entry: Entry): string => String(entry.fileName);

/** @throws InputError where it is no archive */
export function openZip(path: string, name: string): Promise<ZipFile> {
  return new Promise((resolve, reject) => {
    // Names are only shown and sorted by, never used as paths, so those that point upwards are no reason to refuse the rest.
    yauzl.open(path, { lazyEntries: true, autoClose: false, decodeStrings: false }, (error, archive) => {
      if (error || !archive) reject(new InputError(name, 'no zip archive that can be read'));
      else resolve(archive);
    });
  });
}

/** @throws InputError where there are more than `most` entries, or the archive is damaged */
export function list(archive: ZipFile, name: string, most: number): Promise<Entry[]> {
  return new Promise((resolve, reject) => {
    const entries: Entry[] = [];
    archive.on('entry', (entry: Entry) => {
      entries.push(entry);
      if (entries.length > most) reject(new InputError(name, `more than ${most} files in it`));
      else archive.readEntry();
    });
    archive.on('end', () => resolve(entries));
    archive.on('error', (error: Error) => reject(new InputError(name, `the archive is damaged: ${error.message}`)));
    archive.readEntry();
  });
}

/** @throws InputError where the entry is damaged, or the system's error where it cannot be written */
export function extract(archive: ZipFile, entry: Entry, target: string, name: string): Promise<void> {
  return new Promise((resolve, reject) => {
    archive.openReadStream(entry, (error, stream) => {
      if (error || !stream) return reject(new InputError(name, 'cannot be read', nameOf(entry)));
      pipeline(stream, createWriteStream(target)).then(resolve, (failure: NodeJS.ErrnoException) =>
        reject(systemReason(failure) ? failure : new InputError(name, `damaged: ${failure.message}`, nameOf(entry))),
      );
    });
  });
}

/** The same images make the same archive. */
const AS_THEY_ARE = { compress: false, mtime: new Date(1980, 0, 1), mode: 0o100644 } as const;

async function written(file: string, fill: (archive: yazl.ZipFile) => void, signal?: AbortSignal): Promise<void> {
  const archive = new yazl.ZipFile();
  const broken = new Promise<never>((_, reject) => archive.on('error', reject));
  const output = createWriteStream(file);
  fill(archive);
  archive.end();
  try {
    await Promise.race([pipeline(archive.outputStream, output, { signal }), broken]);
  } catch (error) {
    output.destroy();
    throw error;
  }
}

/** Writes files as an archive. @param files name in it, and path, of each */
export const zipOf = (file: string, files: readonly { readonly name: string; readonly path: string }[], signal?: AbortSignal): Promise<void> =>
  written(file, (archive) => files.forEach(({ name, path }) => archive.addFile(path, name, AS_THEY_ARE)), signal);

/** Writes what is in several archives, one after the other, as one. @param naming name of an entry by its number @returns how many there are */
export async function zipsJoined(file: string, parts: readonly string[], naming: (n: number) => string, most: number, signal?: AbortSignal): Promise<number> {
  const archives: ZipFile[] = [];
  try {
    const all: { from: ZipFile; entry: Entry }[] = [];
    for (const part of parts) {
      const from = await openZip(part, part);
      archives.push(from);
      all.push(...(await list(from, part, most)).map((entry) => ({ from, entry })));
    }
    const fill = (archive: yazl.ZipFile): void =>
      all.forEach(({ from, entry }, n) =>
        archive.addReadStreamLazy(naming(n), { ...AS_THEY_ARE, size: entry.uncompressedSize }, (take) => from.openReadStream(entry, (error, stream) => take(error, stream))),
      );
    await written(file, fill, signal);
    return all.length;
  } finally {
    for (const archive of archives) archive.close();
  }
}
