import { Engine, type Ground, type Look, type PlanOptions, type Score } from '@tin-ghost/core';
import { WorkError } from './errors';
import { memoryFor, type PictureMemory } from './picture-memory';
import type { Answer, Task } from './render-worker';
import type { PlateRead } from './plates';
import type { Made } from './retimed';
import { kernelModule, Thread } from './threads';

/** An engine of this thread. */
export const newEngine = async (): Promise<Engine> => Engine.create(await kernelModule());

interface Waiting {
  resolve(planes: Uint8Array[]): void;
  reject(error: Error): void;
}

/** Threads that wear pictures by one plan. */
export class RenderPool {
  private workers: readonly { readonly thread: Thread; load: number }[] = [];
  private readonly waiting = new Map<number, Waiting>();
  private next = 0;
  private failed: Error | undefined;
  /** The newest picture, which one that is held shows again. */
  private newest: { readonly held: number; readonly planes: Promise<Uint8Array[]> } | undefined;
  /** Results of another size than the footage's, for those that come next. */
  private readonly spare: (readonly Uint8Array[])[] = [];

  private constructor(
    private readonly score: Score,
    /** Of the footage's pictures. */
    readonly memory: PictureMemory,
  ) {}

  /** @param score tells which pictures are held @param ground of the wear alone, for which planes of 8 or 16 bits R'G'B' are asked */
  static async start(score: Score, look: Look, options: PlanOptions, { threads, ground }: { readonly threads: number; readonly ground?: Ground }): Promise<RenderPool> {
    const pool = new RenderPool(score, memoryFor(options.source));
    pool.workers = await Promise.all(Array.from({ length: Math.max(1, threads) }, () => pool.begun({ look, options, ground })));
    return pool;
  }

  private async begun(task: Task): Promise<{ readonly thread: Thread; load: number }> {
    const failed = (error: Error): void => this.fail(new WorkError(`a render thread ended: ${error.message}`));
    const entry = { load: 0 };
    const answered = (answer: Answer): void => {
      entry.load--;
      const waiting = this.waiting.get(answer.id);
      this.waiting.delete(answer.id);
      if ('error' in answer) waiting?.reject(new WorkError(`a picture could not be rendered: ${answer.error}`));
      else {
        this.memory.give(answer.over);
        waiting?.resolve(answer.planes);
      }
    };
    return Object.assign(entry, { thread: await Thread.take(task, { answered, failed }) });
  }

  /** Pictures that may be under way at once so that every thread has its next one waiting. */
  get depth(): number {
    return this.workers.length * 2;
  }

  /**
   * Wears a picture. The memory of what it is made from is handed over. A picture that is held is not worn again: its planes are those of the one before, so
   * whoever takes them only reads, and gives them back by `done`.
   */
  render(made: Made & { readonly plates?: readonly PlateRead[] }): Promise<Uint8Array[]> {
    const held = this.score.held(made.n);
    if (this.newest?.held !== held) this.newest = { held, planes: this.wear(made) };
    else for (const { planes } of made.frames.values()) this.memory.give(planes);
    return this.newest.planes;
  }

  /** Takes back the planes of a picture that is shown no more. */
  done(planes: readonly Uint8Array[]): void {
    if (!this.memory.give(planes) && this.spare.length < this.depth) this.spare.push(planes);
  }

  /** On the least busy thread. */
  private wear({ plates = [], ...made }: Made & { readonly plates?: readonly PlateRead[] }): Promise<Uint8Array[]> {
    if (this.failed) return Promise.reject(this.failed);
    const entry = this.workers.reduce((a, b) => (b.load < a.load ? b : a));
    entry.load++;
    const id = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve, reject });
      const into = this.spare.pop();
      const planes = [...[...made.frames.values(), ...plates.map(({ frame }) => frame)].flatMap((frame) => frame.planes), ...(into ?? [])];
      entry.thread.say({ id, ...made, plates, into }, [...new Set(planes.map((p) => p.buffer as ArrayBuffer))]);
    });
  }

  async close(): Promise<void> {
    await Promise.all(this.workers.map(async ({ thread, load }) => (load > 0 || this.failed ? thread.end() : thread.release())));
  }

  private fail(error: Error): void {
    this.failed = error;
    for (const waiting of this.waiting.values()) waiting.reject(error);
    this.waiting.clear();
  }
}
