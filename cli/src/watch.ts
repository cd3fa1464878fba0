/** A watched folder: files that arrive in it are worn by a look and laid in another, each once, through restarts. */
import { readdir, readFile, rename, stat, writeFile } from 'node:fs/promises';
import { extname, join, parse, resolve } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { CancelledError, InputError } from '@tin-ghost/media';
import { readArguments, required, UsageError, wholeNumber, type Options } from './arguments';
import { interrupted, render } from './commands';
import { reasonOf } from './reason';

/** What was done stands here, in the folder of the results. */
const RECORD = '.tin-ghost-watch.json';

/** A file as it was when it was worn, or could not be: when it changes it comes again. */
interface Done {
  readonly bytes: number;
  readonly changed: number;
  readonly error?: string;
}

const FULL = 'the disk is full';

/** Options that go on to `render` as they are. */
const PASSED = ['look', 'seed', 'size', 'fps', 'depth', 'coding', 'quality', 'wear', 'preparation', 'tables', 'fonts', 'plates'] as const;
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
      .map(async ({ name }) => {
        const { size, mtimeMs } = await stat(join(folder, name));
        return { name, bytes: size, changed: Math.round(mtimeMs) };
      }),
  );
  return found.sort((a, b) => a.name.localeCompare(b.name));
}

/** Whether a file is as it was. */
const same = (a: Omit<Done, 'error'> | undefined, b: Arrived): boolean => a?.bytes === b.bytes && a.changed === b.changed;

async function folderOf(options: Options, name: 'in' | 'out'): Promise<string> {
  const folder = resolve(required(options, name));
  const there = await stat(folder).then(
    (found) => found.isDirectory(),
    () => false,
  );
  if (!there) throw new InputError(folder, 'there is no such folder');
  return folder;
}

export async function watch(args: string[]): Promise<void> {
  const { options, words } = readArguments(args, ['in', 'out', 'as', 'every', ...PASSED], [...FLAGS, 'once']);
  if (words.length) throw new UsageError(`"${words[0]}" is not expected`);
  const [from, to] = [await folderOf(options, 'in'), await folderOf(options, 'out')];
  if (from === to) throw new UsageError('--out must be another folder than --in');
  required(options, 'look');
  const ending = options.as ?? 'mp4';
  const seconds = wholeNumber(options, 'every', 1, 3600) ?? 2;
  const passed = [
    ...PASSED.flatMap((key) => (options[key] === undefined ? [] : [`--${key}`, options[key]])),
    ...FLAGS.flatMap((flag) => (options.flags.has(flag) ? [`--${flag}`] : [])),
  ];
  const record = await recordIn(to);
  const signal = interrupted();
  let before = new Map<string, Arrived>();
  for (;;) {
    const files = await filesIn(from);
    for (const file of files) {
      if (signal.aborted) return;
      if (same(record.get(file.name), file)) continue;
      // What still grows is looked at the next time.
      if (!options.flags.has('once') && !same(before.get(file.name), file)) continue;
      const out = join(to, `${parse(file.name).name}${extname(file.name) === `.${ending}` ? ' worn' : ''}.${ending}`);
      let error: string | undefined;
      try {
        await render(['--in', join(from, file.name), '--out', out, ...passed]);
      } catch (caught) {
        if (caught instanceof UsageError || caught instanceof CancelledError) throw caught;
        error = reasonOf(caught);
      }
      if (error === FULL) {
        // No fault of the file: it comes again when there is room.
        process.stderr.write(`${file.name}: ${error}\n`);
        continue;
      }
      record.set(file.name, { bytes: file.bytes, changed: file.changed, ...(error !== undefined && { error }) });
      await keep(to, record);
      process.stdout.write(error === undefined ? `${file.name}: ${out}\n` : `${file.name}: not worn: ${error}\n`);
    }
    if (options.flags.has('once') || signal.aborted) return;
    before = new Map(files.map((file) => [file.name, file]));
    await pause(seconds * 1000, undefined, { signal }).catch(() => undefined);
  }
}
