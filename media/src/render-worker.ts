/** A thread that wears pictures: one engine, one plan, pictures in, pictures out. */
import { parentPort, workerData } from 'node:worker_threads';
import { AS_SHOT, EMPTY_LOOK, Engine, Plan, shotPictures, unlay, type Encoding, type Ground, type Look, type PlanOptions } from '@tin-ghost/core';
import { platesAt, type PlateRead } from './plates';
import type { Made } from './retimed';

export interface WorkerStart {
  readonly module: WebAssembly.Module;
  readonly look: Look;
  readonly options: PlanOptions;
  /** The wear alone, over this. */
  readonly ground?: Ground;
}

export interface Order extends Made {
  readonly plates: readonly PlateRead[];
  readonly id: number;
}

export type Answer = { readonly id: number; readonly planes: Uint8Array[] } | { readonly id: number; readonly error: string };

const { module, look, options, ground } = workerData as WorkerStart;
const engine = Engine.create(module);
const plan = engine.then((own) => new Plan(own, look, options));
/** Makes the picture as it is without its wear. */
const clean = ground === undefined ? undefined : engine.then((own) => new Plan(own, EMPTY_LOOK, options));

/** Wears a picture. */
async function wear({ n, needs, frames, plates }: Order): Promise<Uint8Array[]> {
  const shot = await shotPictures(needs, options.preparation ?? AS_SHOT, (picture) => frames.get(picture)!);
  const [shown] = shot.values();
  const bare = (await clean)?.render(n, shown!);
  // The footage's picture is this thread's own and not needed after: the worn one may take its place.
  const worn = (await plan).render(n, (picture) => shot.get(picture)!, undefined, shown!.planes, platesAt(plates));
  return bare ? unlay(bare, worn, ground!, (options.target.encoding as Encoding).bits as 8 | 16) : worn;
}

parentPort!.on('message', (order: Order) => {
  void wear(order).then(
    (planes) => parentPort!.postMessage({ id: order.id, planes } satisfies Answer, [...new Set(planes.map((p) => p.buffer as ArrayBuffer))]),
    (error: unknown) => parentPort!.postMessage({ id: order.id, error: error instanceof Error ? error.message : String(error) } satisfies Answer),
  );
});
