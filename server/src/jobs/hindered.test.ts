/** What hinders a segment for a time is waited for; what it does not survive ends the print. */
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { engineStamp } from '@tin-ghost/media';
import { connect } from '../db/client';
import { Newsroom } from '../newsroom';
import { MediaStore } from '../store/media-store';
import { TestServer } from '../testing';
import { Jobs } from './jobs';
import { Presence } from './presence';

const under = new TestServer(`hindered_test_${process.pid}`, { strikes: false });
let shot: string;
beforeAll(async () => {
  await under.up();
  const reel = await under.newReel();
  await under.send(await under.aClip(), { filename: 'a.mp4', reel });
  [{ id: shot }] = (await under.settled(reel)) as [{ id: string }];
}, 60_000);
afterAll(() => under.down());

/** The server's folder on a disk that is full the first time that something is to be written. */
class FullOnce extends MediaStore {
  private full = true;

  override async segmentPlace(segment: Parameters<MediaStore['segmentPlace']>[0]): Promise<string> {
    if (this.full) {
      this.full = false;
      throw Object.assign(new Error('ENOSPC: no space left on device, write'), { code: 'ENOSPC' });
    }
    return super.segmentPlace(segment);
  }
}

test('a full disk is said and waited for', async () => {
  const { db, pool, close } = connect(under.databaseUrl);
  const store = new FullOnce(under.media);
  const jobs = new Jobs(pool, { db, store, news: new Newsroom(pool) });
  const presence = new Presence(db, await engineStamp());
  await presence.enter();
  await jobs.open();
  await jobs.start(presence, { imports: false, strikes: true });
  const { body } = await under.call('POST', '/prints', { shotId: shot, format: 'mp4' });
  const seen = new Set<string>();
  for (let i = 0; i < 300; i++) {
    const print = (await under.call('GET', `/prints/${body.id}`)).body;
    seen.add(`${print.state}: ${print.error}`);
    if (print.state === 'done') break;
    await pause(100);
  }
  expect([...seen]).toContain('striking: the disk is full; it is tried again every 10 s');
  expect([...seen].at(-1)).toBe('done: null');
  await jobs.stop();
  await close();
}, 60_000);

test('a segment that ends worker after worker fails its print, and can be tried again', async () => {
  const { body } = await under.call('POST', '/prints', { shotId: shot, format: 'mp4' });
  const segments = `print_segments where print_id = '${body.id}'`;
  for (let i = 0; i < 50 && (await under.rows(`select 1 from ${segments}`)).length === 0; i++) await pause(100);
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
}, 60_000);
