/** The log has a line for each request, by its route and number, and nothing of what was asked for. */
import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import type { TestServer } from './testing';

let folder: string;
let testing: typeof import('./testing');
let under: TestServer;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'tin-ghost-log-'));
  // Read when the log is first used.
  process.env.TIN_GHOST_LOG = join(folder, 'server.log');
  testing = await import('./testing');
  under = new testing.TestServer(`log_test_${process.pid}`);
  await under.up();
});
afterAll(async () => {
  await under.down();
  await rm(folder, { recursive: true, force: true });
});

test('requests are noted by route, number and status; names and what was sent are not', async () => {
  const reel = (await under.call('POST', '/reels', { name: 'A diary' })).body.id;
  const answer = await fetch(`${under.address}/api/reels/${reel}?secret=yes`);
  await under.send(Buffer.from('no footage'), { filename: 'diary.mp4', reel });
  await under.settled(reel);
  const id = answer.headers.get('x-request-id');
  const lines = async () => (await readFile(join(folder, 'server.log'), 'utf8')).split('\n').flatMap((line) => (line ? [JSON.parse(line) as Record<string, unknown>] : []));
  await testing.until(async () => (await lines()).some((line) => line.id === id));
  const all = await lines();
  expect(all.find((line) => line.id === id)).toEqual({
    level: 30,
    time: expect.stringMatching(/^\d{4}-.*Z$/),
    id,
    method: 'GET',
    route: '/reels/:id',
    status: 200,
    ms: expect.any(Number),
  });
  expect(all).toContainEqual(expect.objectContaining({ method: 'POST', route: '/reels', status: 201 }));
  expect(JSON.stringify(all)).not.toMatch(new RegExp(`diary|secret|${reel}`));
});
