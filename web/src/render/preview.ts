import type { ListedEvent, Look } from '@tin-ghost/core';
import { toast } from 'sonner';
import type { Clean, Costs, Envelope, Order, Reply, ResultOf, Source, Want, Worn } from './protocol';
import { watch } from './watched-worker';
import { texts } from '../messages/render';

interface Waiting {
  readonly order: Order;
  /** Workers that died over it. */
  readonly deaths: number;
  resolve(result: unknown): void;
  reject(error: Error): void;
}

interface Entry {
  worker: Worker;
  /** Orders it was given and has not answered. */
  readonly under: Map<number, Waiting>;
}

/** What may be asked of a picture besides the look. */
export interface WearOptions {
  readonly original?: boolean;
  readonly editing?: Want['editing'];
  readonly scope?: boolean;
  readonly clean?: Clean;
}

/** More workers than this would only compete with the page and the decoder. */
const MOST_WORKERS = 6;

/** The first picture has a worker to itself for so long at the most: its footage may not come. */
const LONGEST_ALONE_MS = 3000;

/** An order over which so many workers died is not tried again: it would take the next with it. */
const MOST_DEATHS = 2;

const numbers = new WeakMap<object, number>();
let counted = 0;

/** A number for a thing of the page that is never changed in place: the same as long as it is there. */
function numberOf(thing: object): number {
  const known = numbers.get(thing) ?? counted++;
  numbers.set(thing, known);
  return known;
}

/** Tells a look on a shot from every other that the page has asked for. */
const nameOf = (look: Look, source: Source): string => `${numberOf(look)} on ${numberOf(source)}`;

/** The render workers of the page. The first has the machine to itself until it has made a picture; then the others come. One that dies is replaced, and what it was at is done by another. */
export class Preview {
  private readonly entries: Entry[] = [];
  private next = 1;
  /** How far the first picture is; what is asked while it is made waits until it is there. */
  private first: 'unasked' | 'asked' | 'made' = 'unasked';
  private readonly held: Waiting[] = [];

  /** @param onDeath told when a worker had to be replaced */
  constructor(
    readonly size = Math.max(1, Math.min(MOST_WORKERS, navigator.hardwareConcurrency || 2)),
    private readonly onDeath: (why: string) => void = () => undefined,
  ) {
    this.add();
  }

  private add(): void {
    const entry = { under: new Map<number, Waiting>() } as Entry;
    this.begin(entry);
    this.entries.push(entry);
  }

  /** Orders under way, and those that wait. */
  get load(): number {
    return this.entries.reduce((sum, entry) => sum + entry.under.size, this.held.length);
  }

  /** Has the least busy worker do something. */
  ask<O extends Order>(order: O): Promise<ResultOf<O>> {
    return new Promise((resolve, reject) => {
      const waiting = { order, deaths: 0, resolve, reject };
      if (this.first === 'asked') this.held.push(waiting);
      else {
        if (this.first === 'unasked' && order.kind === 'wear') {
          this.first = 'asked';
          setTimeout(() => this.opened(), LONGEST_ALONE_MS);
        }
        this.give(waiting);
      }
    });
  }

  /** The first picture is made, or cannot be. */
  private opened(): void {
    if (this.first === 'made') return;
    this.first = 'made';
    while (this.entries.length < this.size) this.add();
    for (const waiting of this.held.splice(0)) this.give(waiting);
  }

  private give(waiting: Waiting): void {
    const entry = this.entries.reduce((a, b) => (b.under.size < a.under.size ? b : a));
    const id = this.next++;
    entry.under.set(id, waiting);
    entry.worker.postMessage({ id, order: waiting.order } satisfies Envelope);
  }

  private begin(entry: Entry): void {
    const name = crypto.randomUUID();
    const worker = new Worker(new URL('./render.worker.ts', import.meta.url), { type: 'module', name });
    entry.worker = worker;
    const watched = watch(worker, name, (why) => this.replace(entry, worker, why));
    worker.onmessage = ({ data }: MessageEvent<Reply>) => {
      if (watched(data)) return;
      const waiting = entry.under.get(data.id);
      entry.under.delete(data.id);
      if ('error' in data) waiting?.reject(new Error(data.error));
      else waiting?.resolve(data.result);
      if (waiting?.order.kind === 'wear') this.opened();
    };
  }

  private replace(entry: Entry, dead: Worker, why: string): void {
    if (entry.worker !== dead) return;
    const left = [...entry.under.values()];
    entry.under.clear();
    this.begin(entry);
    this.onDeath(why);
    for (const waiting of left) {
      if (waiting.deaths + 1 < MOST_DEATHS) this.give({ ...waiting, deaths: waiting.deaths + 1 });
      else {
        waiting.reject(new Error(texts.endedTwice(why)));
        this.opened();
      }
    }
  }

  /** What the traits of a look take of a picture's time. */
  costs(source: Source, n: number, look: Look, { width, height }: { width: number; height: number }): Promise<Costs> {
    return this.ask({ kind: 'costs', source, n, look, name: nameOf(look, source), width, height, original: false });
  }

  /** Which event shows at a point of a picture. */
  under(source: Source, n: number, look: Look, { width, height }: { width: number; height: number }, { x, y }: { x: number; y: number }): Promise<ListedEvent | null> {
    return this.ask({ kind: 'under', source, n, look, name: nameOf(look, source), width, height, original: false, x, y });
  }

  /** One picture. */
  wear(
    source: Source,
    n: number,
    look: Look,
    size: { width: number; height: number },
    { original = false, editing = null, scope = false, clean = null }: WearOptions = {},
  ): Promise<Worn> {
    return this.ask({ kind: 'wear', source, n, look, name: nameOf(look, source), width: size.width, height: size.height, original, editing, scope, clean });
  }
}

let shared: Preview | undefined;

/** The page's preview, made at first use. */
export const preview = (): Preview => (shared ??= new Preview(undefined, (why) => toast(texts.workerStartedAgain(why))));
