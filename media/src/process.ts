import { spawn, type ChildProcess } from 'node:child_process';
import { Readable, type Writable } from 'node:stream';
import { CancelledError, WorkError, type WorkCode } from './errors';

export interface ChildOptions {
  readonly signal?: AbortSignal;
  /** The child is killed after this time without a byte in or out. Default 60 s. */
  readonly stallSeconds?: number;
  /** The child is killed after this time, whatever it does. No limit by default. */
  readonly limitSeconds?: number;
  /** Bytes of memory it may take. Default `MEMORY_BYTES`. */
  readonly memoryBytes?: number;
  /** File descriptor at which it writes, in place of `stdout`. */
  readonly output?: number;
}

/** A running program with pipes. `done` settles when it has ended and never rejects unhandled. */
export interface Child {
  readonly stdin: Writable;
  /** Empty where it was given another output. */
  readonly stdout: Readable;
  /** Resolves at exit code 0, unless a file was left without its end; rejects with CancelledError or WorkError. */
  readonly done: Promise<void>;
  /** The end of what it has said on standard error so far. */
  said(): string;
  /** To be called when something moved, so that it does not count as stalled. */
  alive(): void;
  kill(): void;
}

const KEPT_OUTPUT = 16_384;

/** What a program may take. Pictures of 50 megapixels at 16 bits, read ahead by its threads, need about two of these gigabytes. */
export const MEMORY_BYTES = 4e9;

/** What programs say, and what it means to a person. Their own words, which name paths of this machine, are told to nobody. */
const MEANINGS: readonly (readonly [RegExp, string, WorkCode?])[] = [
  [/No space left on device|Disk quota exceeded/i, 'the disk is full'],
  [/Permission denied/i, 'permission was denied'],
  [/moov atom not found/i, 'the file is cut short: its index is missing', 'no-index'],
  [/Format not on whitelist|not allowed for demuxer|not in allowed_|Protocol .* not on whitelist/i, 'a kind of file that is no footage'],
  [/Cannot allocate memory|get_buffer\(\) failed|Killed/i, 'it takes more memory than is given to one file'],
  [/exceeds specified max pixel count|Picture size \S+ is invalid|Invalid (?:image|picture) size/i, 'its picture is too large, or its size is damaged'],
  [/(?:Decoder|Encoder).* not found|Unsupported codec|unknown codec|could not find codec parameters/i, 'its coding is unknown'],
  [/No such file or directory/i, 'the file is gone'],
  [/Input\/output error/i, 'the disk gave an error'],
  [/dimensions? (?:not |too )|width or height|Invalid argument/i, 'its size or its kind cannot be worked on'],
  [/Invalid data found when processing input|Error while decoding|Invalid PNG signature|not a valid|End of file|truncat|corrupt/i, 'no footage that can be read'],
];

/** ffmpeg ends with 0 also where the end of its file, an index say, could not be written: such a file cannot be read. */
const UNFINISHED = /Error writing trailer of/;

/** What a program's last words mean to a person (empty where they are not known), and to a program. */
export function meaningOf(said: string): { reason: string; code: WorkCode } {
  const [, reason = '', code = 'failed'] = MEANINGS.find(([words]) => words.test(said)) ?? [];
  return { reason, code };
}

/**
 * Before every program: it dies with this process, however that ends, and takes no more memory than it is given. What it has in view but
 * does not use is not counted.
 */
export const CONFINED = (bytes: number): string[] => ['setpriv', '--pdeathsig', 'KILL', '--', 'prlimit', `--data=${bytes}`, '--core=0', '--'];

/** Starts a program without a shell. Arguments are passed as they are. */
export function start(program: string, args: readonly string[], options: ChildOptions = {}): Child {
  if (options.signal?.aborted) throw new CancelledError();
  const [first, ...rest] = [...CONFINED(options.memoryBytes ?? MEMORY_BYTES), program, ...args];
  const child: ChildProcess = spawn(first!, rest, { stdio: ['pipe', options.output ?? 'pipe', 'pipe'], shell: false });
  const began = Date.now();
  let said = '';
  let tooLong = '';
  child.stderr!.setEncoding('utf8').on('data', (text: string) => {
    said = (said + text).slice(-KEPT_OUTPUT);
  });
  const limit = (options.stallSeconds ?? 60) * 1000;
  let last = Date.now();
  const alive = (): void => {
    last = Date.now();
  };
  const watch = setInterval(() => {
    const now = Date.now();
    if (now - last > limit) tooLong = `${program} stopped moving and was ended after ${limit / 1000} s`;
    else if (now - began > (options.limitSeconds ?? Infinity) * 1000) tooLong = `it takes too long and was ended after ${options.limitSeconds} s`;
    if (tooLong) child.kill('SIGKILL');
  }, 1000);
  const kill = (): void => {
    child.kill('SIGKILL');
  };
  options.signal?.addEventListener('abort', kill, { once: true });
  // A program that ends early breaks the pipe; how it ended is told by `done`.
  child.stdin!.on('error', () => undefined);
  const done = new Promise<void>((resolve, reject) => {
    const settle = (error?: Error): void => {
      clearInterval(watch);
      options.signal?.removeEventListener('abort', kill);
      if (error) reject(error);
      else resolve();
    };
    child.on('error', (error: NodeJS.ErrnoException) => {
      settle(error.code === 'ENOENT' ? missing(program) : new WorkError(`${program} cannot be started: ${error.message}`));
    });
    child.on('close', (code, signal) => {
      if (options.signal?.aborted) settle(new CancelledError());
      else if (tooLong) settle(new WorkError(tooLong, said, 'stalled'));
      else if (code === 0 && !UNFINISHED.test(said)) settle();
      else if (code === NOT_FOUND) settle(missing(program));
      else if (signal) settle(new WorkError(`${program} was ended from outside (${signal})`, said, 'ended'));
      else {
        const known = meaningOf(said);
        settle(new WorkError(known.reason || `${program} failed (${code})`, said, known.code));
      }
    });
  });
  done.catch(() => undefined);
  return { stdin: child.stdin!, stdout: child.stdout ?? Readable.from([]), done, said: () => said, alive, kill };
}

const missing = (program: string): WorkError => new WorkError(`the program ${program} is not installed`, '', 'not-installed');

/** Runs a program to its end. @returns what it printed, and the end of what it said beside @throws as `Child.done` */
export async function run(program: string, args: readonly string[], options: ChildOptions = {}): Promise<{ printed: Buffer; said: string }> {
  const child = start(program, args, options);
  child.stdin.end();
  const chunks: Buffer[] = [];
  for await (const chunk of child.stdout) {
    child.alive();
    chunks.push(chunk as Buffer);
  }
  await child.done;
  return { printed: Buffer.concat(chunks), said: child.said() };
}

/** First arguments of every ffmpeg call: quiet, no terminal, nothing but local files and pipes. */
export const FFMPEG = ['-nostdin', '-hide_banner', '-v', 'error', '-y'] as const;
export const LOCAL_ONLY = ['-protocol_whitelist', 'file,pipe'] as const;

/** How `prlimit` says that there is no such program. */
const NOT_FOUND = 127;
