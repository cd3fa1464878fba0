/** Threads that wear pictures. One that is done is kept for a while: the next segment of a film begins with warm ones. */
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { Worker } from 'node:worker_threads';
import type { Answer, Said, Task } from './render-worker';

const locate = createRequire(import.meta.url);

let compiled: Promise<WebAssembly.Module> | undefined;

/** The kernels, compiled once a process. */
export function kernelModule(): Promise<WebAssembly.Module> {
  compiled ??= readFile(locate.resolve('@tin-ghost/core/kernels.wasm')).then((bytes) => WebAssembly.compile(bytes));
  return compiled;
}

/** How long one waits for its next task. */
const SPARED_MS = 10_000;

interface Listener {
  answered(answer: Answer): void;
  failed(error: Error): void;
}

/** A thread and whoever it works for. */
export class Thread {
  private static readonly spare = new Set<Thread>();
  private readonly worker: Worker;
  private listener: Listener | undefined;
  private ending: NodeJS.Timeout | undefined;

  private constructor(module: WebAssembly.Module) {
    this.worker = new Worker(locate.resolve('@tin-ghost/media/render-worker'), { workerData: module });
    this.worker.on('message', (answer: Answer) => this.listener?.answered(answer));
    this.worker.on('error', (error) => {
      Thread.spare.delete(this);
      this.listener?.failed(error);
    });
  }

  /** One that has nothing to do, or a new one. */
  static async take(task: Task, listener: Listener): Promise<Thread> {
    const module = await kernelModule();
    const [thread = new Thread(module)] = Thread.spare;
    Thread.spare.delete(thread);
    clearTimeout(thread.ending);
    thread.worker.ref();
    thread.listener = listener;
    thread.say({ task });
    return thread;
  }

  say(said: Said, transfer: readonly ArrayBuffer[] = []): void {
    this.worker.postMessage(said, transfer);
  }

  /** Keeps it for the next task; what it was told before must be answered. It holds no process up. */
  release(): void {
    this.listener = undefined;
    this.say({ task: undefined });
    this.worker.unref();
    Thread.spare.add(this);
    this.ending = setTimeout(() => {
      Thread.spare.delete(this);
      void this.worker.terminate();
    }, SPARED_MS).unref();
  }

  async end(): Promise<void> {
    this.listener = undefined;
    await this.worker.terminate();
  }
}
