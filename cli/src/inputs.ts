import { createHash } from 'node:crypto';
import { mkdtemp, readdir, readFile, stat } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import {
  AS_SHOT,
  checkPreparation,
  checkTrim,
  FormatError,
  LOOK_LIMITS,
  LookError,
  parseCdl,
  parseCube,
  parseLook,
  shippedLook,
  shippedLooks,
  tableIds,
  type Cdl,
  type ColourTable,
  type Look,
  type Preparation,
} from '@tin-ghost/core';
import {
  fontsFor,
  hashFiles,
  InputError,
  isZipName,
  plateFrom,
  platesFor,
  probe,
  sequenceFromFiles,
  sequenceFromZip,
  shippedPlateFile,
  systemReason,
  type Footage,
  type LookFiles,
} from '@tin-ghost/media';

/** Bytes of a colour file; a cube of 129 points a side in text takes about 60 MB. */
const LARGEST = 64_000_000;

/** The text of a file, refused where it is not there or too large to be what it should be. */
async function textOf(file: string, what: string, most: number): Promise<string> {
  const found = await stat(file).catch((error: unknown) => {
    throw new InputError(file, systemReason(error) ?? 'it cannot be read');
  });
  if (!found.isFile()) throw new InputError(file, found.isDirectory() ? 'it is a folder, not a file' : 'is no file');
  const { size } = found;
  if (size > most) throw new InputError(file, `the file is ${size} bytes; ${what} has at most ${most}`);
  return readFile(file, 'utf8').catch((error: unknown) => {
    throw new InputError(file, systemReason(error) ?? 'it cannot be read');
  });
}

const problems = (error: LookError): string => error.problems.map((p) => (p.path ? `${p.path} ${p.message}` : p.message)).join('\n  ');

/** A look by its file or by the id of one that ships. Errors name the file and the place. */
export async function lookFrom(name: string): Promise<Look> {
  const shipped = shippedLook(name);
  if (shipped) return shipped;
  const there = await stat(name).then(
    () => true,
    () => false,
  );
  if (!there) throw new InputError(name, `there is no such file, nor a look of that id; there are ${shippedLooks.map((l) => l.id).join(', ')}`);
  try {
    return parseLook(await textOf(name, 'a look', LOOK_LIMITS.bytes));
  } catch (error) {
    if (error instanceof LookError) throw new InputError(name, problems(error));
    throw error;
  }
}

/** What is done to a shot, from a JSON file. @param frames of the shot's footage */
export async function preparationFrom(file: string | undefined, frames: number): Promise<Preparation> {
  if (!file) return AS_SHOT;
  const text = await textOf(file, 'a preparation', LOOK_LIMITS.bytes);
  try {
    const preparation = checkPreparation(JSON.parse(text));
    checkTrim(preparation, frames);
    return preparation;
  } catch (error) {
    if (error instanceof LookError) throw new InputError(file, problems(error));
    if (error instanceof SyntaxError) throw new InputError(file, `not JSON: ${error.message}`);
    throw error;
  }
}

/** A colour file of an open format, by its ending. */
export async function colourFrom(file: string): Promise<ColourTable | Cdl[]> {
  const ending = extname(file).toLowerCase();
  const text = await textOf(file, 'a file of colours', LARGEST);
  try {
    if (ending === '.cube') return parseCube(text);
    if (['.cdl', '.ccc', '.cc'].includes(ending)) return parseCdl(text);
  } catch (error) {
    if (error instanceof FormatError) throw new InputError(file, error.reason, `line ${error.line}`);
    throw error;
  }
  throw new InputError(file, `the ending ${ending || '(none)'} is none of .cube, .cdl, .ccc, .cc`);
}

/**
 * The tables that a look and a preparation refer to, from a folder of .cube files.
 * @throws InputError where one of them is not there
 */
export async function tablesFrom(folder: string | undefined, look: Look, preparation: Preparation): Promise<Record<string, ColourTable>> {
  const ids = tableIds(look, preparation);
  const found: Record<string, ColourTable> = {};
  if (folder && ids.length) {
    const names = await readdir(folder).catch(() => {
      throw new InputError(folder, 'there is no such folder');
    });
    for (const name of names.filter((n) => n.toLowerCase().endsWith('.cube'))) {
      const id = createHash('sha256')
        .update(await readFile(join(folder, name), 'utf8'))
        .digest('hex');
      if (ids.includes(id)) found[id] = (await colourFrom(join(folder, name))) as ColourTable;
    }
  }
  const missing = ids.filter((id) => !found[id]);
  if (missing.length)
    throw new InputError(
      folder ?? look.name,
      `the look needs ${missing.length === 1 ? 'a table' : 'tables'} that ${folder ? 'are not in this folder' : 'must be given with --tables FOLDER'}: ${missing.map((id) => basename(id).slice(0, 12)).join(', ')}`,
    );
  return found;
}

/**
 * What a look and a preparation refer to: tables, and the fonts and plates that do not ship, each from a folder of its own.
 * @param scratch folder for what plates with alpha are turned into
 * @throws InputError where one is not there
 */
export async function filesFrom(
  folders: Readonly<Record<'tables' | 'fonts' | 'plates', string | undefined>>,
  look: Look,
  preparation: Preparation,
  scratch: string,
): Promise<LookFiles> {
  const font = async (id: string): Promise<Uint8Array> => readFile((await filesOf(folders.fonts, id, look, 'font'))[0]!);
  const plate = async (id: string): Promise<Footage> => {
    const files = [shippedPlateFile(id) ?? (await filesOf(folders.plates, id, look, 'plate'))].flat();
    const own = await mkdtemp(join(scratch, 'plate-'));
    return plateFrom(await footageFrom(files, join(own, 'sequence')), own);
  };
  const [tables, fonts, plates] = await Promise.all([tablesFrom(folders.tables, look, preparation), fontsFor(look, font), platesFor(look, plate)]);
  return { tables, fonts, plates };
}

/** What files hold: a clip, a still, or a sequence of images, be they many or in a zip. */
async function footageFrom(files: readonly string[], sequence: string): Promise<Footage> {
  const [first] = files as [string];
  if (files.length > 1)
    return (
      await sequenceFromFiles(
        files.map((path) => ({ name: basename(path), path })),
        sequence,
        basename(dirname(first)),
      )
    ).footage;
  return isZipName(first) ? (await sequenceFromZip(first, sequence, basename(first))).footage : probe(first);
}

/** A file of a folder, or the images of a folder in it in the order of their numbers, by the hash that looks call them by. Throws InputError where they are not there. */
async function filesOf(folder: string | undefined, id: string, look: Look, what: 'font' | 'plate'): Promise<string[]> {
  if (!folder) throw new InputError(look.name, `the look needs a ${what} that must be given with --${what}s FOLDER: ${id.slice(0, 12)}`);
  const names = await readdir(folder).catch(() => {
    throw new InputError(folder, 'there is no such folder');
  });
  for (const name of names.sort()) {
    const path = join(folder, name);
    const files = (await stat(path)).isFile() ? [path] : (await readdir(path)).sort(new Intl.Collator('en', { numeric: true }).compare).map((image) => join(path, image));
    const readable = await Promise.all(files.map(async (file) => (await stat(file)).isFile()));
    if (files.length > 0 && readable.every(Boolean) && (await hashFiles(files)) === id) return files;
  }
  throw new InputError(folder, `the look needs a ${what} that is not in this folder: ${id.slice(0, 12)}`);
}
