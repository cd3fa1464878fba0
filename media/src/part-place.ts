/** Where a file is made before it stands whole under its name. */
import { createHash } from 'node:crypto';
import { readlinkSync } from 'node:fs';
import { mkdir, readdir, realpath, rename, rm, stat } from 'node:fs/promises';
import { hostname } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { InputError } from './errors';

export interface PartPlace {
  /** Where to write (for images, their pattern). */
  readonly file: string;
  /** Puts what was written in its place, over what stood there. */
  keep(): Promise<void>;
  discard(): Promise<void>;
}

/** Those that this process is writing. */
const own = new Set<string>();

/**
 * A hidden place beside the wanted one, on the same disk, so that a file appears whole or not at all. What a process that was killed left in
 * that folder for the same file is removed.
 * @param file to make; with `many`, the pattern of images in a folder
 */
export async function partPlace(file: string, many = false): Promise<PartPlace> {
  const folder = dirname(file);
  const made = many ? await mkdir(folder, { recursive: true }) : undefined;
  // A percent sign would make a pattern of it.
  const stem = `.${basename(file).replaceAll('%', '_')}.part-`;
  await removeLeft(folder, (name) => name.startsWith(stem));
  const part = join(folder, `${stem}${here()}-${process.pid}-${Math.random().toString(36).slice(2, 8)}`);
  own.add(part);
  if (!many)
    return {
      file: part,
      async keep() {
        await rename(part, file);
        own.delete(part);
      },
      async discard() {
        await rm(part, { force: true });
        own.delete(part);
      },
    };
  await mkdir(part);
  return {
    // A percent sign in a folder's name is not part of the pattern.
    file: join(part.replaceAll('%', '%%'), basename(file)),
    async keep() {
      for (const name of await readdir(part)) await rename(join(part, name), join(folder, name));
      await rm(part, { recursive: true });
      own.delete(part);
    },
    async discard() {
      // A child just killed may still be writing its last picture.
      await pause(20);
      await rm(made ?? part, { recursive: true, force: true, maxRetries: 3 });
      own.delete(part);
    },
  };
}

const PART = /^\..*\.part-([0-9a-f]+)-(\d+)-[a-z0-9]+(?:\.list|\.images)?$/;

/** What another machine has not written to for this time is nobody's. */
const ABANDONED_MS = 3_600_000;

/** Removes from a folder what processes that are gone were making in it: those of this machine at once, those of others when they are old. */
export async function removeLeft(folder: string, which: (name: string) => boolean = () => true): Promise<void> {
  const names = await readdir(folder).catch(() => []);
  for (const name of names.filter(which)) {
    const [, host, pid] = PART.exec(name) ?? [];
    if (!host) continue;
    const path = join(folder, name);
    const left = host === here() ? (Number(pid) === process.pid ? !own.has(path.replace(/\.(list|images)$/, '')) : !processRuns(Number(pid))) : await abandoned(path);
    if (left) await rm(path, { recursive: true, force: true });
  }
}

const abandoned = (path: string): Promise<boolean> =>
  stat(path).then(
    ({ mtimeMs }) => Date.now() - mtimeMs > ABANDONED_MS,
    () => false,
  );

let place: string | undefined;

/** Names the machine, or that part of it, in which process numbers mean the same processes as here. */
export function here(): string {
  place ??= createHash('sha256').update(`${hostname()} ${numbersOfProcesses()}`).digest('hex').slice(0, 10);
  return place;
}

function numbersOfProcesses(): string {
  try {
    return readlinkSync('/proc/self/ns/pid');
  } catch {
    return '';
  }
}

/** Whether a process of this machine is running. */
export function processRuns(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM';
  }
}

/**
 * Refuses a file to be made that is one of those it is made from, under whichever name, by whichever link.
 * @param file to make, or the pattern of images @param from files, and patterns of images, that are read
 */
export async function notOver(file: string, from: readonly string[]): Promise<void> {
  const refuse = (): never => {
    throw new InputError(file, 'it is what is read; the result needs a name of its own');
  };
  const target = await identity(file);
  for (const source of from) {
    if ((await placeOf(source)) === (await placeOf(file))) refuse();
    const same = await identity(source);
    if (target && same === target) refuse();
    // Images by a pattern: one of their names may be the source's.
    const pattern = /^(.*)%0?\d*d(.*)$/.exec(basename(file));
    const name = basename(source);
    if (pattern && (await placeOf(dirname(source))) === (await placeOf(dirname(file))) && name.startsWith(pattern[1]!) && name.endsWith(pattern[2]!)) refuse();
  }
}

/** Device and number of a file, which all its links share. */
const identity = (file: string): Promise<string | undefined> =>
  stat(file, { bigint: true }).then(
    ({ dev, ino }) => `${dev}:${ino}`,
    () => undefined,
  );

/** A path without links, also of a file that is not there yet. */
async function placeOf(path: string): Promise<string> {
  const full = resolve(path);
  return realpath(full).catch(async () => join(await realpath(dirname(full)).catch(() => dirname(full)), basename(full)));
}
