import { spawn, type ChildProcess } from 'node:child_process';
import type { Readable, Writable } from 'node:stream';
import { CancelledError, WorkError } from './errors';

export interface ChildOptions {
  readonly signal?: AbortSignal;
  /** The child is killed after this time without a byte in or out. Default 60 s. */
  readonly stallSeconds?: number;
}

/** A running program with pipes. `done` settles when it has ended and never rejects unhandled. */
export interface Child {
  readonly stdin: Writable;
  readonly stdout: Readable;
  /** Resolves at exit code 0; rejects with CancelledError or WorkError. */
  readonly done: Promise<void>;
  /** To be called when something moved, so that it does not count as stalled. */
  alive(): void;
  kill(): void;
}

const KEPT_OUTPUT = 16_384;

/** What a program's last words mean to a person. */
export function reasonOf(said: string): string {
  if (/No space left on device/i.test(said)) return 'the disk is full';
  if (/Permission denied/i.test(said)) return 'the folder cannot be written to';
  if (/moov atom not found/i.test(said)) return 'the file is cut short: its index is missing';
  if (/Invalid data found when processing input/i.test(said)) return 'no footage that can be read';
  const lines = said.trim().split('\n').filter(Boolean);
  return (
    lines
      .at(-1)
      ?.replace(/^\[[^\]]*\] /, '')
      .slice(0, 300) ?? ''
  );
}

/** Starts a program without a shell. Arguments are passed as they are. */
export function start(program: string, args: readonly string[], options: ChildOptions = {}): Child {
  if (options.signal?.aborted) throw new CancelledError();
  const child: ChildProcess = spawn(program, args, { stdio: ['pipe', 'pipe', 'pipe'], shell: false });
  let said = '';
  let stalled = false;
  child.stderr!.setEncoding('utf8').on('data', (text: string) => {
    said = (said + text).slice(-KEPT_OUTPUT);
  });
  const limit = (options.stallSeconds ?? 60) * 1000;
  let last = Date.now();
  const alive = (): void => {
    last = Date.now();
  };
  const watch = setInterval(() => {
    if (Date.now() - last > limit) {
      stalled = true;
      child.kill('SIGKILL');
    }
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
      settle(new WorkError(error.code === 'ENOENT' ? `the program ${program} is not installed` : `${program} cannot be started: ${error.message}`));
    });
    child.on('close', (code, signal) => {
      if (options.signal?.aborted) settle(new CancelledError());
      else if (stalled) settle(new WorkError(`${program} stopped moving and was ended after ${limit / 1000} s`, said));
      else if (code === 0) settle();
      else settle(new WorkError(signal ? `${program} was ended from outside (${signal})` : reasonOf(said) || `${program} failed (${code})`, said));
    });
  });
  done.catch(() => undefined);
  return { stdin: child.stdin!, stdout: child.stdout!, done, alive, kill };
}

/** Runs a program to its end and returns what it printed. Throws as `Child.done`. */
export async function run(program: string, args: readonly string[], options: ChildOptions = {}): Promise<Buffer> {
  const child = start(program, args, options);
  child.stdin.end();
  const chunks: Buffer[] = [];
  for await (const chunk of child.stdout) {
    child.alive();
    chunks.push(chunk as Buffer);
  }
  await child.done;
  return Buffer.concat(chunks);
}

/** First arguments of every ffmpeg call: quiet, no terminal, nothing but local files and pipes. */
export const FFMPEG = ['-nostdin', '-hide_banner', '-v', 'error', '-y'] as const;
export const LOCAL_ONLY = ['-protocol_whitelist', 'file,pipe'] as const;
