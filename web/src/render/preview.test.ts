/** Which worker is asked what, and when: the first picture before all else. */
import { afterEach, beforeEach, expect, jest, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import type { Envelope, Order, Source } from './protocol';
import { Preview } from './preview';
import { HOLD } from './watched-worker';

/** Stands for a worker: notes what it is asked, and answers when it is told to. */
class FakeWorker {
  static all: FakeWorker[] = [];
  readonly asked: Envelope[] = [];
  onmessage: ((event: { data: unknown }) => void) | undefined;
  constructor() {
    FakeWorker.all.push(this);
  }
  addEventListener(): void {}
  terminate(): void {}
  postMessage(message: Envelope | typeof HOLD): void {
    if (message !== HOLD) this.asked.push(message);
  }
  answer(n: number, more: object = { result: n }): void {
    this.onmessage!({ data: { id: this.asked[n]!.id, ...more } });
  }
  get kinds(): string[] {
    return this.asked.map(({ order }) => order.kind);
  }
}

const source = { mediaId: 'tram', frames: 10, rate: 25 } as Source;
const events: Order = { kind: 'events', look: EMPTY_LOOK, rate: 25, frames: 10 };
const wear = (preview: Preview, n = 0): Promise<unknown> => preview.wear(source, n, EMPTY_LOOK, { width: 320, height: 180 });

const real = (globalThis as { Worker?: unknown }).Worker;
beforeEach(() => {
  jest.useFakeTimers();
  FakeWorker.all = [];
  (globalThis as { Worker?: unknown }).Worker = FakeWorker;
});
afterEach(() => {
  jest.useRealTimers();
  (globalThis as { Worker?: unknown }).Worker = real;
});

test('what is asked while the first picture is made waits for it, and then goes to all workers', async () => {
  const preview = new Preview(2);
  const first = wear(preview);
  const later = [preview.ask(events), wear(preview, 1), wear(preview, 2)];
  expect(FakeWorker.all.map(({ kinds }) => kinds)).toEqual([['wear']]);
  expect(preview.load).toBe(4);
  FakeWorker.all[0]!.answer(0);
  expect(await first).toBe(0);
  const [one, two] = FakeWorker.all as [FakeWorker, FakeWorker];
  expect([one.kinds, two.kinds]).toEqual([['wear', 'events', 'wear'], ['wear']]);
  one.answer(1);
  one.answer(2);
  two.answer(0);
  expect(await Promise.all(later)).toEqual([1, 0, 2]);
  expect(preview.load).toBe(0);
});

test('what is no picture is asked at once, and does not bring the others', async () => {
  const preview = new Preview(2);
  const told = preview.ask(events);
  FakeWorker.all[0]!.answer(0);
  expect(await told).toBe(0);
  expect(FakeWorker.all).toHaveLength(1);
});

test('a first picture that cannot be made holds nothing up', async () => {
  const preview = new Preview(2);
  const first = wear(preview);
  const next = wear(preview, 1);
  FakeWorker.all[0]!.answer(0, { error: 'the footage is not there' });
  await expect(first).rejects.toThrow('the footage is not there');
  FakeWorker.all[0]!.answer(1);
  expect(await next).toBe(1);
});

test('a first picture that does not come holds the others up for no more than 3 s', async () => {
  const preview = new Preview(2);
  void wear(preview);
  const next = wear(preview, 1);
  jest.advanceTimersByTime(2900);
  expect(FakeWorker.all).toHaveLength(1);
  jest.advanceTimersByTime(200);
  expect(FakeWorker.all.map(({ kinds }) => kinds)).toEqual([['wear'], ['wear']]);
  FakeWorker.all[1]!.answer(0);
  expect(await next).toBe(0);
});
