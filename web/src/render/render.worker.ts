/** Renders previews with the engine that strikes the prints. */
import { Engine, Kept, Plan, sourcePicture, splitPlanes, type Encoding, type RawFrame } from '@tin-ghost/core';
import kernels from '@tin-ghost/core/kernels.wasm?url';
import { ProxyReader } from './proxy-reader';
import type { Reply, Source, Want } from './protocol';

const KEPT_PLANS = 4;
const KEPT_READERS = 8;

const engine = fetch(kernels)
  .then((response) => response.arrayBuffer())
  .then((bytes) => Engine.create(bytes));
const plans = new Map<string, Plan>();
const readers = new Map<string, ProxyReader>();
let lastOriginal: { key: string; frame: RawFrame } | undefined;

function readerOf(source: Source): ProxyReader {
  let reader = readers.get(source.mediaId);
  if (!reader) {
    reader = new ProxyReader(source);
    readers.set(source.mediaId, reader);
    if (readers.size > KEPT_READERS) {
      const [oldest, old] = readers.entries().next().value!;
      old.close();
      readers.delete(oldest);
    }
  }
  return reader;
}

let kept: Kept | undefined;

/** Where the picture before the use that is being changed is kept; one at a time. */
function keptFor({ editing, source, original }: Want): Kept | undefined {
  if (!editing) return undefined;
  const name = `${source.mediaId}:${original}`;
  if (kept?.life !== editing.life || kept.index !== editing.index || kept.source !== name) {
    kept?.release();
    kept = new Kept(editing.life, editing.index, name);
  }
  return kept;
}

/** A picture of the original, as the server's decoder gives it. */
async function originalOf({ source }: Want, n: number): Promise<RawFrame> {
  const key = `${source.mediaId}:${n}`;
  if (lastOriginal?.key === key) return lastOriginal.frame;
  const response = await fetch(`/api/media/${source.mediaId}/frames/${n}`);
  if (!response.ok) throw new Error(((await response.json()) as { error: { message: string } }).error.message);
  const { width, height, encoding } = JSON.parse(response.headers.get('x-picture')!) as { width: number; height: number; encoding: Encoding };
  const frame = splitPlanes(new Uint8Array(await response.arrayBuffer()), width, height, encoding);
  lastOriginal = { key, frame };
  return frame;
}

async function planFor(want: Want, frame: RawFrame, width: number, height: number): Promise<Plan> {
  const { look, source } = want;
  const key = JSON.stringify([look, frame.width, frame.height, frame.encoding, width, height, source.rate]);
  let plan = plans.get(key);
  if (plan) plans.delete(key);
  else {
    if (plans.size >= KEPT_PLANS) {
      const [oldest, old] = plans.entries().next().value!;
      old.dispose();
      plans.delete(oldest);
    }
    const { encoding } = frame;
    plan = new Plan(await engine, look, { source: { width: frame.width, height: frame.height, encoding }, target: { width, height, encoding: 'rgba' }, rate: source.rate });
  }
  plans.set(key, plan);
  return plan;
}

async function wear(want: Want): Promise<Reply> {
  const shown = Math.min(want.source.frames - 1, sourcePicture(want.look, want.n, want.source.rate));
  const frame = want.original ? await originalOf(want, shown) : await readerOf(want.source).read(shown);
  const { width, height } = want.original ? frame : want;
  const plan = await planFor(want, frame, width, height);
  const from = performance.now();
  const [pixels] = plan.render(want.n, frame, keptFor(want));
  return { id: want.id, width, height, pixels: pixels!.buffer as ArrayBuffer, milliseconds: performance.now() - from };
}

self.onmessage = ({ data: want }: MessageEvent<Want>) => {
  void wear(want)
    .catch((error: unknown): Reply => ({ id: want.id, error: error instanceof Error ? error.message : String(error) }))
    .then((reply) => self.postMessage(reply, { transfer: 'pixels' in reply ? [reply.pixels] : [] }));
};
