/**
 * Prints made by several processes with folders of their own, through a bucket, while workers are killed, cut off and paused. Whatever happens, the print
 * is the one that is made in a single go, and nothing is left over.
 */
import { once } from 'node:events';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { expect, test } from '@jest/globals';
import { engineOf } from './jobs/engine-fact';
import { connect } from './db/client';
import { Bucket } from './store/bucket';
import { until } from './testing';
import { PICTURES, workersOf } from './testing-workers';
import { startWorker } from './worker';

const workers = workersOf('workers_test');

test('two workers share a print through the bucket, each has its part, and it is the print made in one go', async () => {
  await Promise.all([workers.begin(), workers.begin()]);
  const id = await workers.order();
  const seen = new Map<string, Set<number>>();
  await until(async () => {
    for (const { id: worker, doing } of await workers.machines())
      for (const { kind, from, name } of doing) {
        expect(name).toBe('night, Worn');
        if (kind === 'wear') seen.set(worker, (seen.get(worker) ?? new Set()).add(from));
      }
    return (await workers.print(id)).state === 'done';
  }, 120);
  await workers.endsRight(id);
  const parts = [...seen.values()].map((froms) => [...froms]);
  expect(parts.map((froms) => froms.length > 1)).toEqual([true, true]);
  // No segment was made twice.
  expect(new Set(parts.flat()).size).toBe(parts.flat().length);
});

test('three workers killed ten times each, at random moments: every print ends right', async () => {
  // A reproducible course of moments.
  let seed = 14;
  const random = (): number => (seed = (seed * 16_807) % 2_147_483_647) / 2_147_483_647;
  let [kills, killing] = [0, true];
  const killed = Promise.all(
    [1, 2, 3].map(async (n) => {
      const place = join(workers.folder, `killed-${n}`);
      for (let i = 0; i < 10; i++) {
        const worker = await workers.begin(place);
        await pause(150 + 900 * random());
        await workers.end(worker, 'SIGKILL');
        kills++;
      }
      await workers.begin(place);
    }),
  ).finally(() => (killing = false));
  const prints: string[] = [];
  do {
    prints.push(await workers.order());
    await until(async () => !killing || (await workers.print(prints.at(-1)!)).state === 'done', 300);
  } while (killing);
  await killed;
  expect(kills).toBe(30);
  for (const id of prints) await workers.endsRight(id);
}, 600_000);

test('a worker that is cut off has its segment taken by another, and does no harm when it comes back', async () => {
  const cutOff = await workers.begin();
  const id = await workers.order();
  await until(async () => (await workers.machines()).some(({ doing }) => doing.length > 0));
  cutOff.kill('SIGSTOP');
  const [{ worker_id: lost }] = (await workers.under.rows(`select worker_id from print_segments where print_id = '${id}' and state = 'working'`)) as [{ worker_id: string }];
  await workers.begin();
  await until(async () => !(await workers.machines()).some((machine) => machine.id === lost), 30);
  await until(async () => (await workers.print(id)).done > PICTURES / 2);
  cutOff.kill('SIGCONT');
  await workers.endsRight(id);
});

test('a print can rest, and go before others', async () => {
  await workers.begin();
  const [first, second] = [await workers.order(), await workers.order()];
  // As soon as the first is begun, so that most of it is still before it when the second is done.
  await until(async () => (await workers.machines()).some(({ doing }) => doing.length > 0));
  expect((await workers.under.call('POST', `/prints/${second}/next`)).status).toBe(200);
  // All its pictures are worn; while they are joined the first goes on.
  await until(async () => (await workers.print(second)).done === PICTURES, 120);
  const { state, done } = await workers.print(first);
  expect([state, done < PICTURES]).toEqual(['striking', true]);
  expect((await workers.under.call('POST', `/prints/${first}/pause`)).body.state).toBe('paused');
  await workers.under.printEnd(second, 120);
  await until(async () => (await workers.machines()).every(({ doing }) => doing.length === 0));
  const rested = (await workers.print(first)).done;
  await pause(1500);
  expect(await workers.print(first)).toMatchObject({ state: 'paused', done: rested });
  expect((await workers.under.call('POST', `/prints/${second}/resume`)).status).toBe(409);
  expect((await workers.under.call('POST', `/prints/${first}/resume`)).status).toBe(200);
  await workers.endsRight(first);
  await workers.endsRight(second);
});

test('a worker whose engine is not the server’s takes nothing: it is refused at the start, and ends where the server changes', async () => {
  const { db, close } = connect(workers.under.databaseUrl);
  const engine = await engineOf(db);
  const worker = await workers.begin();
  await workers.under.rows("update facts set value = 'another' where key = 'engine'");
  const id = await workers.order();
  await expect(startWorker({ databaseUrl: workers.under.databaseUrl, mediaFolder: join(workers.folder, 'refused') })).rejects.toThrow(/another version of the engine/);
  const [code] = (await once(worker, 'exit')) as [number];
  expect(code).toBe(3);
  expect(await workers.print(id)).toMatchObject({ state: 'waiting', done: 0 });
  await workers.under.rows(`update facts set value = '${engine}' where key = 'engine'`);
  await close();
  await workers.begin();
  await workers.endsRight(id);
});

test('what nobody refers to is removed from the bucket, and nothing else', async () => {
  const store = await Bucket.at(workers.storeAddress);
  const file = join(workers.under.folder, 'night.mp4');
  const before = (await store.list('')).sort();
  expect(before.length).toBeGreaterThan(3);
  const stray = '11111111-1111-4111-8111-111111111111';
  for (const key of [`media/${stray}/original.mp4`, `prints/${stray}.mp4`, `segments/${stray}/00001.part`]) await store.put(key, file);
  expect(await store.list('')).toHaveLength(before.length + 3);
  await workers.under.restart();
  expect((await store.list('')).sort()).toEqual(before);
});
