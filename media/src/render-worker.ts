/** A thread that wears pictures: one engine, one plan, pictures in, pictures out. */
import { parentPort, workerData } from 'node:worker_threads';
import { AS_SHOT, Engine, Plan, shotPictures, type Look, type PlanOptions } from '@tin-ghost/core';
import { platesAt, type PlateRead } from './plates';
import type { Made } from './retimed';

export interface WorkerStart {
  readonly module: WebAssembly.Module;
  readonly look: Look;
  readonly options: PlanOptions;
}

export interface Order extends Made {
  readonly plates: readonly PlateRead[];
  readonly id: number;
}

export type Answer = { readonly id: number; readonly planes: Uint8Array[] } | { readonly id: number; readonly error: string };

const { module, look, options } = workerData as WorkerStart;
const plan = Engine.create(module).then((engine) => new Plan(engine, look, options));

/** Wears a picture. */
async function wear({ n, needs, frames, plates }: Order): Promise<Uint8Array[]> {
  const shot = await shotPictures(needs, options.preparation ?? AS_SHOT, (picture) => frames.get(picture)!);
  const [shown] = shot.values();
  // The footage's picture is this thread's own and not needed after: the worn one may take its place.
  return (await plan).render(n, (picture) => shot.get(picture)!, undefined, shown!.planes, platesAt(plates));
}

parentPort!.on('message', (order: Order) => {
  void wear(order).then(
    (planes) => parentPort!.postMessage({ id: order.id, planes } satisfies Answer, [...new Set(planes.map((p) => p.buffer as ArrayBuffer))]),
    (error: unknown) => parentPort!.postMessage({ id: order.id, error: error instanceof Error ? error.message : String(error) } satisfies Answer),
  );
});
