/** A watched folder: files that arrive in it are worn by a look and laid in another, each once, through restarts. */
import { readdir, readFile, rename, stat, writeFile } from 'node:fs/promises';
import { join, parse, resolve } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { CancelledError, containerOf, ENDINGS, InputError, kindOf, WorkError } from '@tin-ghost/media';
import { readArguments, required, UsageError, wholeNumber, type Options } from './arguments';
import { interrupted, render } from './commands';
import { lookFrom } from './inputs';
import { reasonOf } from './reason';

/** What was done stands here, in the folder of the results. */
const RECORD = '.tin-ghost-watch.json';

/** A file as it was when it was worn, or could not be: when it changes it comes again. */
interface Done {
  readonly bytes: number;
  readonly changed: number;
  /** Name of its result: nothing else is written over. */
  readonly out: string;
  /** It was begun, and not ended yet. */
  readonly begun?: true;
  readonly error?: string;
}

const FULL = 'the disk is full';

/** Options that go on to `render` as they are. */
const PASSED = ['look', 'seed', 'size', 'fps', 'depth', 'coding', 'quality', 'bitrate', 'threads', 'wear', 'preparation', 'tables', 'fonts', 'plates'] as const;
const FLAGS = ['no-sound', 'no-bars'] as const;

async function recordIn(folder: string): Promise<Map<string, Done>> {
  const file = join(folder, RECORD);
  const text = await readFile(file, 'utf8').catch((error: NodeJS.ErrnoException) => {
    if (error.code === 'ENOENT') return '{}';
    throw error;
  });
  try {
    return new Map(Object.entries(JSON.parse(text) as Record<string, Done>));
  } catch {
    throw new InputError(file, 'it is damaged; remove it, and every file in the folder is worn again');
  }
}

/** Whole or not at all. */
async function keep(folder: string, record: ReadonlyMap<string, Done>): Promise<void> {
  const part = join(folder, `${RECORD}.part`);
  await writeFile(part, `${JSON.stringify(Object.fromEntries(record), null, 2)}\n`);
  await rename(part, join(folder, RECORD));
}

interface Arrived {
  readonly name: string;
  readonly bytes: number;
  readonly changed: number;
}

/** Files of a folder, by name; those that are hidden are somebody's own. */
async function filesIn(folder: string): Promise<Arrived[]> {
  const entries = await readdir(folder, { withFileTypes: true });
  const found = await Promise.all(
    entries
      .filter((entry) => entry.isFile() && !entry.name.startsWith('.'))
      .map(({ name }) =>
        stat(join(folder, name)).then(
          ({ size, mtimeMs }): Arrived => ({ name, bytes: size, changed: Math.round(mtimeMs) }),
          // It has been taken away again.
          () => undefined,
        ),
      ),
  );
  return found.filter((one) => one !== undefined).sort((a, b) => a.name.localeCompare(b.name));
}

/** A name for the result of a file: that which it has, else one that is nobody's. */
async function nameFor(file: string, ending: string, folder: string, record: ReadonlyMap<string, Done>): Promise<string> {
  const own = record.get(file);
  if (own) return own.out;
  const taken = new Set([...(await readdir(folder)), ...[...record.values()].map(({ out }) => out)]);
  for (let n = 1; ; n++) {
    const name = n === 1 ? `${parse(file).name}.${ending}` : n === 2 ? `${file}.${ending}` : `${file} ${n}.${ending}`;
    if (!taken.has(name)) return name;
  }
}

/** Whether a file is as it was. */
const same = (a: Pick<Done, 'bytes' | 'changed'> | undefined, b: Arrived): boolean => a?.bytes === b.bytes && a.changed === b.changed;

async function folderOf(options: Options, name: 'in' | 'out'): Promise<string> {
  const folder = resolve(required(options, name));
  const there = await stat(folder).then(
    (found) => found.isDirectory(),
    () => false,
  );
  if (!there) throw new InputError(folder, 'there is no such folder');
  return folder;
}

/** @throws WorkError where it goes through the folder once and a file could not be worn */
export async function watch(args: string[]): Promise<void> {
  const { options, words } = readArguments(args, ['in', 'out', 'as', 'every', ...PASSED], [...FLAGS, 'once']);
  if (words.length) throw new UsageError(`"${words[0]}" is not expected`);
  const [from, to] = [await folderOf(options, 'in'), await folderOf(options, 'out')];
  if (from === to) throw new UsageError('--out must be another folder than --in');
  // What is asked wrongly is told before a file comes.
  await lookFrom(required(options, 'look'));
  const ending = options.as ?? 'mp4';
  const container = containerOf(`a.${ending}`);
  if (!container || kindOf(container) === 'images')
    throw new UsageError(`--as is ${ENDINGS.filter((one) => kindOf(containerOf(`a.${one}`)!) !== 'images').join(', ')}, not "${ending}"`);
  const seconds = wholeNumber(options, 'every', 1, 3600) ?? 2;
  const passed = [
    ...PASSED.flatMap((key) => (options[key] === undefined ? [] : [`--${key}`, options[key]])),
    ...FLAGS.flatMap((flag) => (options.flags.has(flag) ? [`--${flag}`] : [])),
  ];
  const record = await recordIn(to);
  const signal = interrupted();
  let before = new Map<string, Arrived>();
  let failed = 0;
  while (!signal.aborted) {
    const files = await filesIn(from);
    for (const file of files) {
      const known = record.get(file.name);
      if (same(known, file) && !known!.begun) continue;
      // What still grows is looked at the next time.
      if (!options.flags.has('once') && !same(before.get(file.name), file)) continue;
      const done: Done = { bytes: file.bytes, changed: file.changed, out: await nameFor(file.name, ending, to, record) };
      const note = async (more: Partial<Done>): Promise<void> => {
        record.set(file.name, { ...done, ...more });
        await keep(to, record);
      };
      try {
        await note({ begun: true });
        await render(['--in', join(from, file.name), '--out', join(to, done.out), ...passed]);
        await note({});
        process.stdout.write(`${file.name}: ${done.out}\n`);
      } catch (error) {
        if (error instanceof UsageError) throw error;
        if (error instanceof CancelledError) return;
        const reason = reasonOf(error);
        failed++;
        // No fault of the file: it comes again when there is room.
        if (reason.endsWith(FULL)) process.stderr.write(`${file.name}: ${reason}; it is tried again\n`);
        else {
          await note({ error: reason });
          process.stdout.write(`${file.name}: not worn: ${reason}\n`);
        }
      }
    }
    if (options.flags.has('once')) {
      if (failed) throw new WorkError(failed === 1 ? 'one file was not worn' : `${failed} files were not worn`);
      return;
    }
    before = new Map(files.map((file) => [file.name, file]));
    await pause(seconds * 1000, undefined, { signal }).catch(() => undefined);
  }
}
