/** What is deleted can be put back, with all it had; what is copied shares its footage. */
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import { sql } from 'drizzle-orm';
import { connect } from '../db/client';
import { TestServer, type Answer } from '../testing';

const under = new TestServer(`bin_test_${process.pid}`);
beforeAll(() => under.up());
afterAll(() => under.down());
const call = under.call.bind(under);

async function reelOf(count: number): Promise<{ reel: string; shots: Answer['body'][] }> {
  const reel = await under.newReel();
  for (let i = 0; i < count; i++) await under.send(await under.aClip(), { reel, filename: `clip ${i + 1}.mp4` });
  return { reel, shots: await under.settled(reel) };
}
const names = async (reel: string): Promise<string[]> => (await call('GET', `/reels/${reel}`)).body.shots.map((shot: { name: string }) => shot.name);
const footageThere = (shot: Answer['body']): boolean => existsSync(join(under.media, 'media', shot.medium.id));

test('a deleted shot lies in the bin with its footage and comes back to its place with its look', async () => {
  const { reel, shots } = await reelOf(3);
  const look = { ...EMPTY_LOOK, name: 'Kept', lives: [{ carrier: 'super8', traits: [{ trait: 'dust' }] }] };
  await call('PUT', `/shots/${shots[1].id}/look`, { look, revision: 0 });
  expect((await call('DELETE', `/shots/${shots[1].id}`)).status).toBe(204);
  expect(await names(reel)).toEqual(['clip 1', 'clip 3']);
  expect((await call('DELETE', `/shots/${shots[1].id}`)).status).toBe(404);
  const { body: bin } = await call('GET', '/bin');
  expect(bin.shots).toMatchObject([{ id: shots[1].id, name: 'clip 2', reelId: reel }]);
  expect(footageThere(shots[1])).toBe(true);
  // The rest is put into another order meanwhile.
  expect((await call('PUT', `/reels/${reel}/order`, { shots: [shots[2].id, shots[0].id] })).status).toBe(204);
  expect((await call('POST', `/shots/${shots[1].id}/restore`)).body.look).toEqual(look);
  expect(await names(reel)).toEqual(['clip 3', 'clip 2', 'clip 1']);
  expect((await call('GET', '/bin')).body.shots).toEqual([]);
  expect((await call('POST', `/shots/${shots[1].id}/restore`)).status).toBe(404);
});

test('a deleted reel comes back whole; meanwhile nothing is added to it', async () => {
  const { reel, shots } = await reelOf(2);
  await call('DELETE', `/shots/${shots[0].id}`);
  expect((await call('DELETE', `/reels/${reel}`)).status).toBe(204);
  expect((await call('GET', `/reels/${reel}`)).status).toBe(404);
  expect((await call('GET', '/reels')).body.map((one: { id: string }) => one.id)).not.toContain(reel);
  const { body: bin } = await call('GET', '/bin');
  expect(bin.reels).toMatchObject([{ id: reel, shots: 1, medium: { id: shots[1].medium.id } }]);
  // A shot that was deleted before is told with its reel, and comes back after it.
  expect(bin.shots).toEqual([]);
  expect((await call('POST', `/shots/${shots[0].id}/restore`)).status).toBe(404);
  expect((await call('POST', `/reels/${reel}/restore`)).body.id).toBe(reel);
  expect((await call('POST', `/shots/${shots[0].id}/restore`)).status).toBe(200);
  expect(await names(reel)).toEqual(['clip 1', 'clip 2']);
});

test('a copy stands after its shot, has its look and its footage, and is changed alone', async () => {
  const { reel, shots } = await reelOf(2);
  const { body } = await call('POST', `/shots/${shots[0].id}/copy`);
  expect(await names(reel)).toEqual(['clip 1', 'clip 1 copy', 'clip 2']);
  const { body: copy } = await call('GET', `/shots/${body.shot}`);
  expect(copy).toMatchObject({ look: shots[0].look, revision: 0, medium: { id: shots[0].medium.id } });
  await call('PUT', `/shots/${copy.id}/look`, { look: { ...EMPTY_LOOK, name: 'Other' }, revision: 0 });
  expect((await call('GET', `/shots/${shots[0].id}`)).body.look.name).toBe(shots[0].look.name);
  const { body: second } = await call('POST', `/reels/${reel}/copy`);
  expect(await names(second.id)).toEqual(['clip 1', 'clip 1 copy', 'clip 2']);
  // Footage stays as long as one of them has it.
  for (const id of [reel, second.id]) {
    await call('DELETE', `/reels/${id}`);
    expect(footageThere(shots[0])).toBe(true);
  }
  expect((await call('DELETE', '/bin')).status).toBe(204);
  expect(footageThere(shots[0])).toBe(false);
  expect((await call('GET', '/bin')).body).toEqual({ reels: [], shots: [] });
});

test('what has lain there for thirty days is removed, what has not stays', async () => {
  const { reel, shots } = await reelOf(2);
  for (const shot of shots) await call('DELETE', `/shots/${shot.id}`);
  const { db, close } = connect(under.databaseUrl);
  await db.execute(sql`update shots set discarded_at = now() - interval '31 days' where id = ${shots[0].id}`);
  await db.execute(sql`update shots set discarded_at = now() - interval '29 days' where id = ${shots[1].id}`);
  await close();
  // As a server does at its start, and every hour.
  await under.restart();
  expect((await call('GET', '/bin')).body.shots.map((shot: { id: string }) => shot.id)).toEqual([shots[1].id]);
  expect([footageThere(shots[0]), footageThere(shots[1])]).toEqual([false, true]);
  await call('DELETE', `/reels/${reel}`);
  await call('DELETE', '/bin');
});

test('a shot whose footage never came in is gone at once', async () => {
  const reel = await under.newReel();
  await under.send(Buffer.from('no footage'), { reel, filename: 'words.mp4' });
  const [shot] = await under.settled(reel);
  expect(shot.medium.state).toBe('failed');
  expect((await call('DELETE', `/shots/${shot.id}`)).status).toBe(204);
  expect((await call('GET', '/bin')).body.shots).toEqual([]);
  expect(footageThere(shot)).toBe(false);
});
