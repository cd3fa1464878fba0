/** A thread that wears pictures: one engine, a plan for each task, pictures in, pictures out. */
import { parentPort, workerData } from 'node:worker_threads';
import { AS_SHOT, EMPTY_LOOK, Engine, Plan, shotPictures, unlay, type Encoding, type Ground, type Look, type PlanOptions } from '@tin-ghost/core';
import { platesAt, type PlateRead } from './plates';
import type { Made } from './retimed';

/** What a thread works by, until it is told another. */
export interface Task {
  readonly look: Look;
  readonly options: PlanOptions;
  /** The wear alone, over this. */
  readonly ground?: Ground;
}

export interface Order extends Made {
  readonly plates: readonly PlateRead[];
  readonly id: number;
  /** Planes of a result that is shown no more, to write into. */
  readonly into?: readonly Uint8Array[];
}

/** The worn picture, and planes of the footage's of which nothing is in it. */
export type Answer = { readonly id: number; readonly planes: Uint8Array[]; readonly over: Uint8Array[] } | { readonly id: number; readonly error: string };

/** A task with the plans it is done by. */
interface Begun {
  readonly task: Task;
  readonly plan: Plan;
  /** Makes the picture as it is without its wear. */
  readonly clean?: Plan;
}

const engine = Engine.create(workerData as WebAssembly.Module);
let begun: Promise<Begun> | undefined;

async function begin(task: Task): Promise<Begun> {
  const own = await engine;
  return { task, plan: new Plan(own, task.look, task.options), clean: task.ground === undefined ? undefined : new Plan(own, EMPTY_LOOK, task.options) };
}

/** Gives back what the last task took. */
async function end(last: Promise<Begun> | undefined): Promise<void> {
  const { plan, clean } = (await last?.catch(() => undefined)) ?? {};
  plan?.dispose();
  clean?.dispose();
}

/** Wears a picture. */
async function wear({ n, needs, frames, plates, into }: Order): Promise<Uint8Array[]> {
  const { task, plan, clean } = await begun!;
  const { options, ground } = task;
  const shot = await shotPictures(needs, options.preparation ?? AS_SHOT, (picture) => frames.get(picture)!);
  const [shown] = shot.values();
  const bare = clean?.render(n, shown!);
  // The footage's picture is this thread's own and not needed after: the worn one may take its place.
  const worn = plan.render(n, (picture) => shot.get(picture)!, undefined, into ?? shown!.planes, platesAt(plates));
  return bare ? unlay(bare, worn, ground!, (options.target.encoding as Encoding).bits as 8 | 16) : worn;
}

/** A task to begin with (nothing: the last is over), or a picture to wear. */
export type Said = { readonly task: Task | undefined } | Order;

parentPort!.on('message', (said: Said) => {
  if ('task' in said) {
    const over = end(begun);
    const { task } = said;
    begun = task && over.then(() => begin(task));
    begun?.catch(() => undefined);
    return;
  }
  void wear(said).then(
    (planes) => {
      const own = new Set(planes.map((p) => p.buffer as ArrayBuffer));
      const over = [...said.frames.values()].flatMap((frame) => frame.planes).filter((plane) => !own.has(plane.buffer as ArrayBuffer));
      parentPort!.postMessage({ id: said.id, planes, over } satisfies Answer, [...new Set([...own, ...over.map((p) => p.buffer as ArrayBuffer)])]);
    },
    (error: unknown) => parentPort!.postMessage({ id: said.id, error: error instanceof Error ? error.message : String(error) } satisfies Answer),
  );
});
