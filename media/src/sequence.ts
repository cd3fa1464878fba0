import { createWriteStream } from 'node:fs';
import { link, mkdir, copyFile, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { InputError } from './errors';
import { STILL_RATE, type Footage, type Rate } from './footage';
import { probeSequence } from './probe';

const IMAGES = new Set(['.png', '.jpg', '.jpeg', '.tif', '.tiff', '.bmp', '.webp', '.dpx', '.exr', '.tga']);
const MOST_IMAGES = 200_000;

/** Whether a file's name is that of an image. */
export const isImageName = (name: string): boolean => IMAGES.has(extname(name).toLowerCase());
export const isZipName = (name: string): boolean => extname(name).toLowerCase() === '.zip';

/** Numbers inside names count as numbers: frame 2 before frame 10. */
const byNumber = new Intl.Collator('en', { numeric: true });

/**
 * Lays images out as a numbered sequence in a new folder.
 * @param files name (for the order) and path of each @param folder is made; removed again on failure
 * @throws InputError where they are not images of one kind
 */
export async function sequenceFromFiles(files: readonly { name: string; path: string }[], folder: string, name: string, rate: Rate = STILL_RATE): Promise<Footage> {
  return laidOut(
    folder,
    name,
    rate,
    files.map((file) => ({ name: file.name, put: (target: string) => link(file.path, target).catch(() => copyFile(file.path, target)) })),
  );
}

/** As `sequenceFromFiles`, from the images in a zip; whatever else is in it is passed over. */
export async function sequenceFromZip(zip: string, folder: string, name: string, rate: Rate = STILL_RATE): Promise<Footage> {
  const archive = await openZip(zip, name);
  try {
    const entries = (await list(archive, name)).filter((entry) => isImageName(nameOf(entry)) && !/(^|\/)(\.[^./]|__MACOSX)/.test(nameOf(entry)));
    return await laidOut(
      folder,
      name,
      rate,
      entries.map((entry) => ({ name: nameOf(entry), put: (target: string) => extract(archive, entry, target, name) })),
    );
  } finally {
    archive.close();
  }
}

async function laidOut(folder: string, name: string, rate: Rate, images: { name: string; put: (target: string) => Promise<void> }[]): Promise<Footage> {
  if (images.length === 0) throw new InputError(name, 'there are no images in it');
  if (images.length > MOST_IMAGES) throw new InputError(name, `${images.length} images; a sequence has at most ${MOST_IMAGES}`);
  const kinds = [...new Set(images.map((image) => extname(image.name).toLowerCase()))];
  if (kinds.length > 1) throw new InputError(name, `images of different kinds (${kinds.join(', ')}); a sequence is of one kind`);
  await mkdir(folder, { recursive: true });
  try {
    const sorted = [...images].sort((a, b) => byNumber.compare(a.name, b.name));
    // Names are our own: nothing of a name from outside becomes a path.
    for (const [i, image] of sorted.entries()) await image.put(join(folder, `${String(i).padStart(6, '0')}${kinds[0]}`));
    return await probeSequence(join(folder.replaceAll('%', '%%'), `%06d${kinds[0]}`), sorted.length, rate, name);
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw error;
  }
}

/** An entry's name; it comes as bytes. */
const nameOf = (entry: Entry): string => String(entry.fileName);

function openZip(path: string, name: string): Promise<ZipFile> {
  return new Promise((resolve, reject) => {
    // Names are only shown and sorted by, never used as paths, so those that point upwards are no reason to refuse the rest.
    yauzl.open(path, { lazyEntries: true, autoClose: false, decodeStrings: false }, (error, archive) => {
      if (error || !archive) reject(new InputError(name, 'no zip archive that can be read'));
      else resolve(archive);
    });
  });
}

function list(archive: ZipFile, name: string): Promise<Entry[]> {
  return new Promise((resolve, reject) => {
    const entries: Entry[] = [];
    archive.on('entry', (entry: Entry) => {
      entries.push(entry);
      if (entries.length > MOST_IMAGES) reject(new InputError(name, `more than ${MOST_IMAGES} files in it`));
      else archive.readEntry();
    });
    archive.on('end', () => resolve(entries));
    archive.on('error', (error: Error) => reject(new InputError(name, `the archive is damaged: ${error.message}`)));
    archive.readEntry();
  });
}

function extract(archive: ZipFile, entry: Entry, target: string, name: string): Promise<void> {
  return new Promise((resolve, reject) => {
    archive.openReadStream(entry, (error, stream) => {
      if (error || !stream) return reject(new InputError(name, 'cannot be read', nameOf(entry)));
      pipeline(stream, createWriteStream(target)).then(resolve, (failure: NodeJS.ErrnoException) =>
        reject(failure.code === 'ENOSPC' ? failure : new InputError(name, `damaged: ${failure.message}`, nameOf(entry))),
      );
    });
  });
}
