/** A thread that wears pictures: one engine, one plan, pictures in, pictures out. */
import { parentPort, workerData } from 'node:worker_threads';
import { AS_SHOT, Engine, ledBetweenParts, pictureBetween, Plan, type Look, type Part, type PlanOptions, type RawFrame } from '@tin-ghost/core';

export interface WorkerStart {
  readonly module: WebAssembly.Module;
  readonly look: Look;
  readonly options: PlanOptions;
}

/** A picture of the prepared shot: its number, and the footage's pictures that share in it. */
export interface ShotPicture {
  readonly picture: number;
  readonly frames: readonly RawFrame[];
  readonly parts: readonly Part[];
}

export interface Order {
  readonly id: number;
  readonly n: number;
  /** Those that the plan asks for, the one it shows first. */
  readonly pictures: readonly ShotPicture[];
}

export type Answer = { readonly id: number; readonly planes: Uint8Array[] } | { readonly id: number; readonly error: string };

const { module, look, options } = workerData as WorkerStart;
const plan = Engine.create(module).then((engine) => new Plan(engine, look, options));

parentPort!.on('message', (order: Order) => {
  void plan
    .then((ready) => {
      const led = ledBetweenParts(options.preparation ?? AS_SHOT);
      const shot = new Map(order.pictures.map(({ picture, frames, parts }) => [picture, pictureBetween(frames, parts, led)]));
      const [shown] = shot.values();
      // The footage's picture is this thread's own and not needed after: the worn one may take its place.
      const planes = ready.render(order.n, (picture) => shot.get(picture)!, undefined, shown!.planes);
      parentPort!.postMessage({ id: order.id, planes } satisfies Answer, [...new Set(planes.map((p) => p.buffer as ArrayBuffer))]);
    })
    .catch((error: unknown) => parentPort!.postMessage({ id: order.id, error: error instanceof Error ? error.message : String(error) } satisfies Answer));
});
