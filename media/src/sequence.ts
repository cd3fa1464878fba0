import { link, mkdir, copyFile, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { InputError } from './errors';
import { LARGEST_PIXELS, STILL_RATE, type Footage, type Rate } from './footage';
import { footageFile } from './inputs';
import { probeSequence } from './probe';
import { extract, list, nameOf, openZip } from './zip';

const IMAGES = new Set(['.png', '.jpg', '.jpeg', '.tif', '.tiff', '.bmp', '.webp', '.dpx', '.exr', '.tga']);
const MOST_IMAGES = 200_000;

/** Whether a file's name is that of an image. */
export const isImageName = (name: string): boolean => IMAGES.has(extname(name).toLowerCase());
export const isZipName = (name: string): boolean => extname(name).toLowerCase() === '.zip';

/** Numbers inside names count as numbers: frame 2 before frame 10. */
const byNumber = new Intl.Collator('en', { numeric: true });

/** Images laid out in order, and the names they came with. */
export interface Sequence {
  readonly footage: Footage;
  readonly names: readonly string[];
}

/**
 * Lays images out as a numbered sequence in a new folder.
 * @param files name (for the order) and path of each @param folder is made; removed again on failure
 * @throws InputError where they are not images of one kind
 */
export async function sequenceFromFiles(files: readonly { name: string; path: string }[], folder: string, name: string, rate: Rate = STILL_RATE): Promise<Sequence> {
  return laidOut(
    folder,
    name,
    rate,
    files.map((file) => ({ name: file.name, put: (target: string) => link(file.path, target).catch(() => copyFile(file.path, target)) })),
  );
}

/**
 * As `sequenceFromFiles`, from the images in a zip; whatever else is in it is passed over.
 * @param freeBytes room on the disk, which the images must not fill
 */
export async function sequenceFromZip(zip: string, folder: string, name: string, freeBytes = Infinity, rate: Rate = STILL_RATE): Promise<Sequence> {
  const archive = await openZip(zip, name);
  try {
    const entries = (await list(archive, name, MOST_IMAGES)).filter((entry) => isImageName(nameOf(entry)) && !/(^|\/)(\.[^./]|__MACOSX)/.test(nameOf(entry)));
    const bytes = entries.reduce((sum, entry) => sum + entry.uncompressedSize, 0);
    if (bytes > freeBytes) throw new InputError(name, `its images take ${Math.ceil(bytes / 1e6)} MB; the disk has ${Math.floor(freeBytes / 1e6)} MB free`);
    const large = entries.find((entry) => entry.uncompressedSize > LARGEST_IMAGE);
    if (large) throw new InputError(name, `an image of ${Math.ceil(large.uncompressedSize / 1e6)} MB; one has at most ${LARGEST_IMAGE / 1e6}`, nameOf(large));
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

/** Four planes of 32 bits of the largest picture that can be worked on. */
const LARGEST_IMAGE = LARGEST_PIXELS * 16;

async function laidOut(folder: string, name: string, rate: Rate, images: { name: string; put: (target: string) => Promise<void> }[]): Promise<Sequence> {
  if (images.length === 0) throw new InputError(name, 'there are no images in it');
  if (images.length > MOST_IMAGES) throw new InputError(name, `${images.length} images; a sequence has at most ${MOST_IMAGES}`);
  const kinds = [...new Set(images.map((image) => extname(image.name).toLowerCase()))];
  if (kinds.length > 1) throw new InputError(name, `images of different kinds (${kinds.join(', ')}); a sequence is of one kind`);
  await mkdir(folder, { recursive: true });
  try {
    const sorted = [...images].sort((a, b) => byNumber.compare(a.name, b.name));
    // Names are our own: nothing of a name from outside becomes a path.
    for (const [i, image] of sorted.entries()) {
      const target = join(folder, `${String(i).padStart(6, '0')}${kinds[0]}`);
      await image.put(target);
      // What is no image is met at once, before the next is unpacked.
      await footageFile(target, image.name).catch((error: unknown) => {
        throw error instanceof InputError ? new InputError(name, error.reason, image.name, i) : error;
      });
    }
    const footage = await probeSequence(join(folder.replaceAll('%', '%%'), `%06d${kinds[0]}`), sorted.length, rate, name);
    return { footage, names: sorted.map((image) => image.name) };
  } catch (error) {
    await rm(folder, { recursive: true, force: true });
    throw error;
  }
}
