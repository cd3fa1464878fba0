/** Prints made by several processes while database and store go away, or a disk is full. They are the ones made in a single go, and nothing is left over. */
import { mkdir, readdir, rm, statfs, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { expect, test } from '@jest/globals';
import { until } from './testing';
import { workersOf } from './testing-workers';

const workers = workersOf('hindered_workers_test');

test('the database away ten times', async () => {
  await Promise.all([workers.begin(), workers.begin()]);
  const id = await workers.order();
  for (let i = 0; i < 10; i++) {
    await workers.under.withoutDatabase(() => pause(400));
    await until(async () => (await workers.under.call('GET', '/reels')).status === 200);
    await pause(250);
  }
  await workers.endsRight(id);
});

test('the store away: it is said, and the print goes on when it is back', async () => {
  await Promise.all([workers.begin(), workers.begin()]);
  const id = await workers.order();
  await until(async () => (await workers.print(id)).done > 50);
  await workers.bucket.close();
  const back = Date.now() + 60_000;
  await until(async () => /^the store cannot be reached; it is tried again every \d+ s$/.test((await workers.print(id)).error ?? ''));
  await pause(back - Date.now());
  expect((await workers.print(id)).state).toBe('striking');
  await workers.openBucket();
  await workers.endsRight(id);
});

test('a disk that is full in the midst: it is said, nothing half-written is left, and the print goes on when there is room', async () => {
  const own = workers.newFolder();
  await mkdir(own);
  // A disk of its own of 16 MB, which nobody else sees: root may mount it as it is, others as root of a namespace of theirs.
  const alone = process.getuid!() === 0 ? '-m' : '-rm';
  const worker = await workers.begin(own, 'unshare', alone, 'sh', '-c', 'mount -t tmpfs -o size=16m tmpfs "$0" && exec "$@"', own);
  const seen = `/proc/${worker.pid}/root${own}`;
  const id = await workers.order();
  await until(async () => (await workers.print(id)).done > 0);
  const ballast = join(seen, 'ballast');
  await expect(writeFile(ballast, Buffer.alloc(17e6))).rejects.toThrow(/ENOSPC/);
  expect((await statfs(seen)).bavail).toBe(0);
  await until(async () => (await workers.print(id)).error === 'the disk is full; it is tried again every 10 s');
  expect((await workers.print(id)).state).toBe('striking');
  // Of the segments that could not be written there is nothing.
  expect((await readdir(seen, { recursive: true })).filter((name) => name.includes(`segments/${id}/`))).toEqual([]);
  await rm(ballast);
  await workers.endsRight(id);
});
