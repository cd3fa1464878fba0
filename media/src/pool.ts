import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { Worker } from 'node:worker_threads';
import { Engine, type Ground, type Look, type PlanOptions, type Score } from '@tin-ghost/core';
import { WorkError } from './errors';
import type { Answer, Order, WorkerStart } from './render-worker';
import type { PlateRead } from './plates';
import type { Made } from './retimed';

const locate = createRequire(import.meta.url);

let compiled: Promise<WebAssembly.Module> | undefined;

/** The kernels, compiled once a process. */
export function kernelModule(): Promise<WebAssembly.Module> {
  compiled ??= readFile(locate.resolve('@tin-ghost/core/kernels.wasm')).then((bytes) => WebAssembly.compile(bytes));
  return compiled;
}

/** An engine of this thread. */
export const newEngine = async (): Promise<Engine> => Engine.create(await kernelModule());

interface Waiting {
  resolve(planes: Uint8Array[]): void;
  reject(error: Error): void;
}

/** Threads that wear pictures by one plan. */
export class RenderPool {
  private readonly workers: { worker: Worker; load: number }[];
  private readonly waiting = new Map<number, Waiting>();
  private next = 0;
  private failed: Error | undefined;
  /** The newest picture, which one that is held shows again. */
  private newest: { readonly held: number; readonly planes: Promise<Uint8Array[]> } | undefined;

  private constructor(
    private readonly score: Score,
    plan: WorkerStart,
    threads: number,
  ) {
    this.workers = Array.from({ length: threads }, () => {
      const worker = new Worker(locate.resolve('@tin-ghost/media/render-worker'), { workerData: plan });
      const entry = { worker, load: 0 };
      worker.on('message', (answer: Answer) => {
        entry.load--;
        const waiting = this.waiting.get(answer.id);
        this.waiting.delete(answer.id);
        if ('error' in answer) waiting?.reject(new WorkError(`a picture could not be rendered: ${answer.error}`));
        else waiting?.resolve(answer.planes);
      });
      worker.on('error', (error) => this.fail(new WorkError(`a render thread ended: ${error.message}`)));
      return entry;
    });
  }

  /** @param score tells which pictures are held @param ground of the wear alone, for which planes of 8 or 16 bits R'G'B' are asked */
  static async start(score: Score, look: Look, options: PlanOptions, { threads, ground }: { readonly threads: number; readonly ground?: Ground }): Promise<RenderPool> {
    return new RenderPool(score, { module: await kernelModule(), look, options, ground }, Math.max(1, threads));
  }

  /** Pictures that may be under way at once so that every thread has its next one waiting. */
  get depth(): number {
    return this.workers.length * 2;
  }

  /**
   * Wears a picture. The memory of what it is made from is handed over. A picture that is held is not worn again: its planes are those of the one before, so
   * whoever takes them only reads.
   */
  render(made: Made & { readonly plates?: readonly PlateRead[] }): Promise<Uint8Array[]> {
    const held = this.score.held(made.n);
    if (this.newest?.held !== held) this.newest = { held, planes: this.wear(made) };
    return this.newest.planes;
  }

  /** On the least busy thread. */
  private wear({ plates = [], ...made }: Made & { readonly plates?: readonly PlateRead[] }): Promise<Uint8Array[]> {
    if (this.failed) return Promise.reject(this.failed);
    const entry = this.workers.reduce((a, b) => (b.load < a.load ? b : a));
    entry.load++;
    const id = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      const planes = [...made.frames.values(), ...plates.map(({ frame }) => frame)].flatMap((frame) => frame.planes);
      entry.worker.postMessage({ id, ...made, plates } satisfies Order, [...new Set(planes.map((p) => p.buffer as ArrayBuffer))]);
    });
  }

  async close(): Promise<void> {
    await Promise.all(this.workers.map(({ worker }) => worker.terminate()));
  }

  private fail(error: Error): void {
    this.failed = error;
    for (const waiting of this.waiting.values()) waiting.reject(error);
    this.waiting.clear();
  }
}
