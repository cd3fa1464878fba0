import type { Look } from '@tin-ghost/core';
import type { Envelope, Order, Reply, ResultOf, Source, Want, Worn } from './protocol';

interface Waiting {
  resolve(result: unknown): void;
  reject(error: Error): void;
}

/** What may be asked of a picture besides the look. */
export interface WearOptions {
  readonly original?: boolean;
  readonly editing?: Want['editing'];
  readonly scope?: boolean;
}

/** More workers than this would only compete with the page and the decoder. */
const MOST_WORKERS = 6;

/** The render workers of the page. */
export class Preview {
  private readonly workers: { worker: Worker; load: number }[];
  private readonly waiting = new Map<number, Waiting>();
  private next = 1;

  constructor(count = Math.max(1, Math.min(MOST_WORKERS, navigator.hardwareConcurrency || 2))) {
    this.workers = Array.from({ length: count }, () => {
      const entry = { worker: new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module' }), load: 0 };
      entry.worker.onmessage = ({ data }: MessageEvent<Reply>) => {
        entry.load--;
        const waiting = this.waiting.get(data.id);
        this.waiting.delete(data.id);
        if ('error' in data) waiting?.reject(new Error(data.error));
        else waiting?.resolve(data.result);
      };
      return entry;
    });
  }

  get size(): number {
    return this.workers.length;
  }

  /** Orders under way. */
  get load(): number {
    return this.workers.reduce((sum, entry) => sum + entry.load, 0);
  }

  /** Has the least busy worker do something. */
  ask<O extends Order>(order: O): Promise<ResultOf<O>> {
    const entry = this.workers.reduce((a, b) => (b.load < a.load ? b : a));
    entry.load++;
    const id = this.next++;
    return new Promise((resolve, reject) => {
      this.waiting.set(id, { resolve: resolve as Waiting['resolve'], reject });
      entry.worker.postMessage({ id, order } satisfies Envelope);
    });
  }

  /** One picture. */
  wear(source: Source, n: number, look: Look, size: { width: number; height: number }, { original = false, editing = null, scope = false }: WearOptions = {}): Promise<Worn> {
    return this.ask({ kind: 'wear', source, n, look, width: size.width, height: size.height, original, editing, scope });
  }
}

let shared: Preview | undefined;

/** The page's preview, made at first use. */
export const preview = (): Preview => (shared ??= new Preview());
