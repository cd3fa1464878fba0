/** What ends a segment's worker again and again ends its print. What hinders it for a time is waited for: `workers-hindered.test.ts`. */
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { TestServer, until } from '../testing';

const under = new TestServer(`hindered_test_${process.pid}`, { strikes: false });
let shot: string;
beforeAll(async () => {
  await under.up();
  const reel = await under.newReel();
  await under.send(await under.aClip(), { filename: 'a.mp4', reel });
  [{ id: shot }] = (await under.settled(reel)) as [{ id: string }];
});
afterAll(() => under.down());

test('a segment that ends worker after worker fails its print, and can be tried again', async () => {
  const { body } = await under.call('POST', '/prints', { shotId: shot, format: 'mp4' });
  const segments = `print_segments where print_id = '${body.id}'`;
  await until(async () => (await under.rows(`select 1 from ${segments}`)).length > 0);
  // Taken again and again by those of whom nothing is seen any more.
  for (let i = 0; i < 40; i++) {
    const state = (await under.call('GET', `/prints/${body.id}`)).body.state;
    if (state === 'failed') break;
    await under.rows(
      `update print_segments set state = 'working', losses = losses + 10, worker_id = gen_random_uuid() where print_id = '${body.id}' and kind = 'wear' and state = 'waiting' and exists (select 1 from prints where id = print_id and state <> 'failed')`,
    );
    await pause(500);
  }
  const { state, error } = (await under.call('GET', `/prints/${body.id}`)).body;
  expect([state, error]).toEqual(['failed', expect.stringMatching(/ended its worker again and again/)]);
  expect((await under.call('POST', `/prints/${body.id}/again`)).body).toMatchObject({ state: 'waiting', error: null });
  expect(await under.rows(`select max(losses) as losses from ${segments}`)).toEqual([{ losses: 0 }]);
  await under.call('POST', `/prints/${body.id}/stop`);
});
