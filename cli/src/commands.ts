import { constants } from 'node:fs';
import { access, mkdtemp, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { basename, dirname, join, resolve } from 'node:path';
import {
  bakeCube,
  cubeText,
  frameBytes,
  GROUND_BLENDS,
  Plan,
  preparedFrames,
  preparedSize,
  shippedLook,
  shippedLooks,
  shownSize,
  SIGNALS,
  splitPlanes,
  traitById,
  traits,
  wearAlone,
  type Ground,
  type Look,
  type Setting,
  type Signal,
} from '@tin-ghost/core';
import {
  containerOf,
  codingsOf,
  depthsOf,
  takesBitRate,
  QUALITIES,
  encodingFor,
  endingOf,
  ENDINGS,
  framesAt,
  kindOf,
  InputError,
  newEngine,
  notOver,
  partPlace,
  probe,
  renderFrame,
  strike,
  writePng,
  writeSignal,
  type Coding,
  type Container,
  type Quality,
  type StrikeProgress,
} from '@tin-ghost/media';
import { rateOption, readArguments, realNumber, required, sizeOption, UsageError, wholeNumber } from './arguments';
import { colourFrom, filesFrom, lookFrom, preparationFrom, tablesFrom } from './inputs';

const print = (text: string): void => {
  process.stdout.write(`${text}\n`);
};

async function seeded(name: string, seed: number | undefined): Promise<Look> {
  const look = await lookFrom(name);
  return seed === undefined ? look : { ...look, seed };
}

/**
 * Checks where a result is to stand, before any work is done for it.
 * @param from files that are read; none of them may be written over
 */
async function outputFile(file: string, from: readonly (string | undefined)[] = []): Promise<void> {
  const folder = dirname(resolve(file));
  const there = await stat(folder).then(
    (s) => s.isDirectory(),
    () => false,
  );
  if (!there) throw new InputError(file, `there is no folder ${folder}`);
  const standing = await stat(file).catch(() => undefined);
  if (standing?.isDirectory()) throw new InputError(file, 'it is a folder, not a file');
  await access(folder, constants.W_OK).catch(() => {
    throw new InputError(file, `nothing can be written to ${folder}: permission was denied`);
  });
  await notOver(
    file,
    from.filter((name) => name !== undefined),
  );
}

function progressLine(): ((p: StrikeProgress) => void) | undefined {
  if (!process.stderr.isTTY) return undefined;
  return (p) =>
    process.stderr.write(
      `\r${p.done} of ${p.total} frames${p.perSecond > 0 ? `, ${p.perSecond.toFixed(1)} fps, ${Math.ceil(p.secondsLeft)} s left` : ''}   ${p.done === p.total ? '\n' : ''}`,
    );
}

/** Does some work with a folder that is gone afterwards. */
async function withScratch<T>(work: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'tin-ghost-'));
  try {
    return await work(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

export async function render(args: string[]): Promise<void> {
  const { options, words } = readArguments(
    args,
    ['in', 'look', 'out', 'seed', 'size', 'fps', 'from', 'to', 'depth', 'coding', 'quality', 'bitrate', 'threads', 'wear', 'first', 'preparation', 'tables', 'fonts', 'plates'],
    ['no-sound', 'no-bars'],
  );
  if (words.length) throw new UsageError(`"${words[0]}" is not expected`);
  const input = required(options, 'in');
  const out = required(options, 'out');
  const container = containerOf(out);
  if (!container) throw new UsageError(`--out must end in ${ENDINGS.map((ending) => `.${ending}`).join(', ')}, not "${basename(out)}"`);
  const images = kindOf(container) === 'images';
  if (images && !/%0?\d*d/.test(basename(out))) throw new UsageError(`--out for pictures must number them, such as DIR/%05d.${endingOf(container)}`);
  const codings = codingsOf(container);
  const coding = (options.coding as Coding | undefined) ?? codings[0]!;
  if (!codings.includes(coding)) throw new UsageError(`--coding in ${container} is ${codings.join(' or ')}, not "${coding}"`);
  const depths = depthsOf(coding);
  const bits = wholeNumber(options, 'depth', 8, 16);
  if (bits !== undefined && !depths.includes(bits)) throw new UsageError(`--depth for ${coding} is ${depths.join(' or ')}, not ${bits}`);
  const quality = options.quality as Quality | undefined;
  if (quality !== undefined && !QUALITIES.includes(quality)) throw new UsageError(`--quality is ${QUALITIES.join(', ')}, not "${quality}"`);
  const bitRate = realNumber(options, 'bitrate', 0.1, 400);
  if (bitRate !== undefined && quality !== undefined) throw new UsageError('--bitrate stands in place of --quality');
  if (bitRate !== undefined && !takesBitRate(coding)) throw new UsageError(`--bitrate cannot be set for ${coding}`);
  const ground = options.wear as Ground | undefined;
  if (ground !== undefined && !(ground in GROUND_BLENDS)) throw new UsageError(`--wear is ${Object.keys(GROUND_BLENDS).join(', ')}, not "${ground}"`);
  const firstNumber = wholeNumber(options, 'first', 0);
  if (firstNumber !== undefined && !images) throw new UsageError('--first numbers images');
  const seed = wholeNumber(options, 'seed', 0, 0xffffffff);
  const threads = wholeNumber(options, 'threads', 1, 256);
  const size = sizeOption(options);
  const rate = rateOption(options);
  const from = wholeNumber(options, 'from', 0);
  const to = wholeNumber(options, 'to', 1);
  const look = await seeded(required(options, 'look'), seed);
  const footage = await probe(input, input);
  const read = [input, options.look, options.preparation];
  if (images)
    await notOver(
      out,
      read.filter((name) => name !== undefined),
    );
  else await outputFile(out, read);
  const preparation = await preparationFrom(options.preparation, footage.frames);
  const total = framesAt(footage, rate ?? footage.rate, preparation);
  if ((from ?? 0) >= (to ?? total) || (to ?? total) > total)
    throw new InputError(input, `pictures ${from ?? 0} to ${to ?? total} were asked for; there are 0 to ${total}`, `--from ${from ?? 0} --to ${to ?? total}`);
  if (ground !== undefined) {
    const { look: worn, left } = wearAlone(look);
    if (worn.lives.length === 0) throw new InputError(options.look!, 'there is no wear in it that can be laid over a picture');
    process.stderr.write(`to be laid by ${GROUND_BLENDS[ground]}${left.length ? `; left out: ${left.join(', ')}` : ''}\n`);
  }
  const folders = { tables: options.tables, fonts: options.fonts, plates: options.plates };
  await withScratch(async (scratch) =>
    strike({
      footage,
      look,
      preparation,
      files: await filesFrom(folders, look, preparation, scratch),
      file: resolve(out),
      container,
      coding,
      bits,
      quality,
      bitRate,
      threads,
      ground,
      firstNumber,
      ...(options.flags.has('no-bars') ? shownSize(look, size ?? preparedSize(footage, preparation)) : size),
      rate,
      from,
      to,
      sound: !options.flags.has('no-sound'),
      signal: interrupted(),
      onProgress: progressLine(),
    }),
  );
}

export async function frame(args: string[]): Promise<void> {
  const { options, words } = readArguments(args, ['in', 'look', 'at', 'out', 'seed', 'size', 'preparation', 'tables', 'fonts', 'plates'], ['no-bars']);
  if (words.length) throw new UsageError(`"${words[0]}" is not expected`);
  const input = required(options, 'in');
  const out = required(options, 'out');
  required(options, 'at');
  const at = wholeNumber(options, 'at', 0)!;
  if (containerOf(out) !== 'png') throw new UsageError(`--out must end in .png, not "${basename(out)}"`);
  const size = sizeOption(options);
  const look = await seeded(required(options, 'look'), wholeNumber(options, 'seed', 0, 0xffffffff));
  const footage = await probe(input, input);
  await outputFile(out, [input, options.look, options.preparation]);
  const preparation = await preparationFrom(options.preparation, footage.frames);
  const frames = preparedFrames(footage.frames, preparation);
  if (at >= frames) throw new InputError(input, `there are pictures 0 to ${frames - 1}`, `--at ${at}`);
  const whole = size ?? preparedSize(footage, preparation);
  const shown = options.flags.has('no-bars') ? shownSize(look, whole) : whole;
  const abort = interrupted();
  const folders = { tables: options.tables, fonts: options.fonts, plates: options.plates };
  const planes = await withScratch(async (scratch) =>
    renderFrame(footage, look, at, { size: shown, preparation, files: await filesFrom(folders, look, preparation, scratch), signal: abort }),
  );
  await writePng(resolve(out), shown.width, shown.height, planes, abort);
}

export function looks(args: string[]): void {
  const { options } = readArguments(args, [], ['json']);
  if (options.flags.has('json'))
    print(
      JSON.stringify(
        shippedLooks.map(({ id, look }) => ({ id, name: look.name, carriers: look.lives.map((l) => l.carrier) })),
        null,
        2,
      ),
    );
  else for (const { id, look } of shippedLooks) print(`${id.padEnd(20)}${look.name}`);
}

export async function look(args: string[]): Promise<void> {
  const { options, words } = readArguments(args, ['out'], []);
  if (words.length !== 1) throw new UsageError('one ID is expected');
  const found = shippedLook(words[0]!);
  if (!found) throw new InputError(words[0]!, `no look of that id ships; there are ${shippedLooks.map((l) => l.id).join(', ')}`);
  const text = JSON.stringify(found, null, 2);
  if (!options.out) return print(text);
  await writeWhole(options.out, `${text}\n`);
}

/** A text file that appears whole or not at all. */
async function writeWhole(file: string, text: string, from: readonly string[] = []): Promise<void> {
  await outputFile(file, from);
  const place = await partPlace(file);
  try {
    await writeFile(place.file, text);
    await place.keep();
  } catch (error) {
    await place.discard();
    throw error;
  }
}

/** The point-wise colour of a look as a .cube table. */
export async function cube(args: string[]): Promise<void> {
  const { options, words } = readArguments(args, ['out', 'points', 'tables'], []);
  if (words.length !== 1) throw new UsageError('one look file or id is expected');
  const points = wholeNumber(options, 'points', 2, 129) ?? 33;
  const chosen = await lookFrom(words[0]!);
  const { table, left } = bakeCube(await newEngine(), chosen, points, await tablesFrom(options.tables, chosen, {}));
  const text = cubeText(table);
  if (left.length) process.stderr.write(`a table cannot hold ${left.join(', ')}\n`);
  if (!options.out) return print(text.trimEnd());
  await writeWhole(options.out, text, [words[0]!]);
}

/** What a colour file holds. */
export async function colour(args: string[]): Promise<void> {
  const { words } = readArguments(args, [], []);
  if (words.length !== 1) throw new UsageError('one .cube, .cdl, .ccc or .cc file is expected');
  const found = await colourFrom(words[0]!);
  if (!Array.isArray(found)) return print(`${words[0]}: a table of ${found.dimensions === 1 ? `${found.size} points` : `${found.size} points a side`}, "${found.title}"`);
  for (const c of found) print(`${c.id || '(no id)'}: slope ${c.slope.join(' ')}, offset ${c.offset.join(' ')}, power ${c.power.join(' ')}, saturation ${c.saturation}`);
}

export async function check(args: string[]): Promise<void> {
  const { words } = readArguments(args, [], []);
  if (words.length !== 1) throw new UsageError('one look file is expected');
  const found = await lookFrom(words[0]!);
  print(
    `${words[0]}: a look, "${found.name}", ${found.lives.length} ${found.lives.length === 1 ? 'life' : 'lives'}, ${found.lives.reduce((sum, l) => sum + l.traits.length, 0)} traits`,
  );
}

/** Pictures that are worn to measure a plan. */
const MEASURED = 6;

/** The steps of a look at a size, with what each costs on this machine. */
export async function plan(args: string[]): Promise<void> {
  const { options, words } = readArguments(args, ['size'], []);
  if (words.length !== 1) throw new UsageError('one look file or id is expected');
  const chosen = await lookFrom(words[0]!);
  const size = sizeOption(options) ?? { width: 1280, height: 720 };
  const source = { ...size, encoding: encodingFor('h264', 8) };
  const frame = splitPlanes(new Uint8Array(frameBytes(size.width, size.height, source.encoding)).fill(120), size.width, size.height, source.encoding);
  const compiled = new Plan(await newEngine(), chosen, { source, target: source, rate: 24, clock: () => performance.now() });
  compiled.render(0, frame);
  compiled.costs.clear();
  for (let n = 1; n <= MEASURED; n++) compiled.render(n, frame);
  const rows = compiled.steps.map((step) => {
    const cost = compiled.costs.get(`${step.name} ${step.width}x${step.height}`);
    return [step.name, step.domain, step.footprint, `${step.width}x${step.height}`, cost === undefined ? 'not on these pictures' : `${(cost / MEASURED).toFixed(2)} ms`];
  });
  const widths = [0, 1, 2, 3].map((i) => Math.max(...rows.map((row) => row[i]!.length)));
  for (const row of rows) print(row.map((cell, i) => (i < 4 ? cell.padEnd(widths[i]!) : cell)).join('  '));
  print(`${[...compiled.costs.values()].reduce((a, b) => a + b / MEASURED, 0).toFixed(2)} ms a picture of ${size.width}x${size.height}, on one thread`);
}

function describeSetting(key: string, s: Setting) {
  const common = { id: key, name: s.name, says: s.says, kind: s.kind, default: s.default };
  if (s.kind === 'number') return { ...common, unit: s.unit, sign: s.sign, min: s.min, max: s.max };
  return s.kind === 'choice' ? { ...common, options: s.options } : common;
}

function rangeOf(s: Setting): string {
  if (s.kind === 'number') return `${s.min} to ${s.max} ${s.sign}`;
  if (s.kind === 'choice') return Object.keys(s.options).join(', ');
  if (s.kind === 'toggle') return 'true or false';
  if (s.kind === 'curve') return 'points [in, out] from 0 to 1';
  return s.kind === 'table' ? 'a table kept with the look' : 'red, green, blue from 0 to 1';
}

export function listTraits(args: string[]): void {
  const { options } = readArguments(args, [], ['json']);
  const listed = traits.map((t) => ({
    id: t.id,
    act: t.act,
    name: t.name,
    says: t.says,
    settings: Object.entries(t.settings as Record<string, Setting>).map(([key, s]) => describeSetting(key, s)),
  }));
  if (options.flags.has('json')) return print(JSON.stringify(listed, null, 2));
  for (const t of listed) {
    print(`${t.id} (${t.act}): ${t.says}`);
    for (const [key, s] of Object.entries(traitById(t.id)!.settings as Record<string, Setting>)) print(`  ${key.padEnd(14)}${rangeOf(s)}, ${JSON.stringify(s.default)} by default`);
  }
}

/** What test signals are written as. */
const SIGNAL_FILES: readonly Container[] = ['mkv', 'mp4', 'webm', 'mov', 'png'];

export async function signal(args: string[]): Promise<void> {
  const { options, words } = readArguments(args, ['out', 'size', 'fps', 'seconds', 'level'], []);
  const name = words[0] as Signal;
  if (words.length !== 1 || !SIGNALS.includes(name)) throw new UsageError(`one of ${SIGNALS.join(', ')} is expected`);
  const file = required(options, 'out');
  const container = containerOf(file);
  if (!container || !SIGNAL_FILES.includes(container)) throw new UsageError(`--out must end in .mkv, .mp4, .webm, .mov or .png, not "${basename(file)}"`);
  const { width, height } = sizeOption(options) ?? { width: 1280, height: 720 };
  if ((container === 'mp4' || container === 'webm' || container === 'mov') && (width % 2 || height % 2))
    throw new UsageError(`--size for ${container} must be even; mkv and png take any`);
  const rate = rateOption(options) ?? { num: 24, den: 1 };
  const seconds = realNumber(options, 'seconds', 0, 36_000) ?? 2;
  const level = realNumber(options, 'level', 0, 1);
  await outputFile(file);
  await writeSignal({ signal: name, file: resolve(file), width, height, rate, seconds, level, abort: interrupted() });
}

/** One for the whole process, however many commands it runs. */
let ending: AbortSignal | undefined;

/** Aborts when the user presses Ctrl-C or closes the terminal, so that nothing half-written stays. A second time ends at once. */
export function interrupted(): AbortSignal {
  if (!ending) {
    const controller = new AbortController();
    for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.once(signal, () => controller.abort());
    ending = controller.signal;
  }
  return ending;
}
