/** Footage can be worked on from when it has been read: before its proxy is made, and while it waits for others. */
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import { TestServer, type Answer } from '../testing';

const under = new TestServer(`early_test_${process.pid}`);
beforeAll(() => under.up());
afterAll(() => under.down());
const call = under.call.bind(under);

type Shot = Answer['body'];

/** The shots of a reel, once something holds of them. */
async function when(reel: string, holds: (shots: Shot[]) => boolean): Promise<Shot[]> {
  for (let i = 0; i < 400; i++) {
    const { shots } = (await call('GET', `/reels/${reel}`)).body;
    if (holds(shots)) return shots;
    await pause(25);
  }
  throw new Error('it does not come to that');
}
const known = ({ medium }: Shot): boolean => medium.footage !== null;

/** Sends a film whose import takes the one processor a while, and after it another. @returns the reel's shots once both have been read */
async function longAndShort(short: Buffer, name = 'short.mp4'): Promise<{ reel: string; shots: Shot[] }> {
  const reel = await under.newReel();
  await under.send(await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=1280x720:r=25:d=60', '-preset', 'ultrafast'], 'long.mp4'), { filename: 'long.mp4', reel });
  await under.send(short, { filename: name, reel });
  return { reel, shots: await when(reel, (all) => all.length === 2 && all.every(known)) };
}

/** A picture that the server makes. */
async function picture(medium: string, place: string): Promise<{ status: number; width: number; height: number; bytes: Buffer }> {
  const answer = await fetch(`${under.address}/api/media/${medium}/${place}`);
  const { width, height } = JSON.parse(answer.headers.get('x-picture') ?? '{}') as { width: number; height: number };
  return { status: answer.status, width, height, bytes: Buffer.from(await answer.arrayBuffer()) };
}

test('what waits for others is known, seen and worked on; nothing that needs its proxy is given, and once it is made the look is there', async () => {
  const { reel, shots } = await longAndShort(await under.aClip());
  const [long, short] = shots;
  expect(short.medium).toMatchObject({ state: 'working', progress: 0, proxyWidth: 320, proxyHeight: 180, footage: { width: 320, height: 180, frames: 25 } });
  // One of them is worked on, the other waits for its turn.
  const [machine] = (await call('GET', '/machines')).body;
  expect(machine.doing.map(({ name }: { name: string }) => name)).toEqual(['long.mp4']);

  const first = await picture(short.medium.id, 'proxy/frames/0');
  expect(first).toMatchObject({ status: 200, width: 320, height: 180 });
  expect(first.bytes).toHaveLength((320 * 180 * 3) / 2);
  const later = await picture(short.medium.id, 'proxy/frames/24');
  expect(later.bytes.equals(first.bytes)).toBe(false);
  expect(await picture(short.medium.id, 'frames/24')).toMatchObject({ status: 200, width: 320, height: 180 });
  // Of a large picture what the proxy has, and the original.
  expect(await picture(long.medium.id, 'proxy/frames/1499')).toMatchObject({ status: 200, width: 960, height: 540 });
  expect(await picture(long.medium.id, 'frames/3')).toMatchObject({ status: 200, width: 1280, height: 720 });
  expect((await call('GET', `/media/${short.medium.id}/proxy/frames/25`)).body.error).toMatchObject({ code: 'not-found', message: 'there are pictures 0 to 24' });

  for (const part of ['proxy', 'poster', 'strip', 'sound', 'peaks']) expect((await call('GET', `/media/${short.medium.id}/${part}`)).status).toBe(409);
  expect((await call('POST', '/prints', { shotId: short.id, format: 'mp4' })).body.error).toMatchObject({ code: 'not-ready' });
  const look = { ...EMPTY_LOOK, name: 'Early', lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }] }] };
  expect((await call('PUT', `/shots/${short.id}/look`, { look, preparation: { trim: { from: 5, to: 20 } }, revision: 0 })).status).toBe(200);
  const beyond = await call('PUT', `/shots/${short.id}/look`, { look, preparation: { trim: { from: 5, to: 40 } }, revision: 1 });
  expect(beyond.status).toBe(400);

  expect((await call('DELETE', `/shots/${long.id}`)).status).toBe(204);
  const [ready] = await under.settled(reel);
  expect(ready).toMatchObject({ id: short.id, look: { name: 'Early' }, medium: { state: 'ready', progress: 1, hasSound: true, proxyWidth: 320, proxyHeight: 180 } });
  expect((await call('GET', `/media/${short.medium.id}/peaks`)).status).toBe(200);
});

test('an import that waits is cancelled at once, and the one before it goes on', async () => {
  const { reel, shots } = await longAndShort(await under.aClip());
  const [long, short] = shots;
  expect((await call('DELETE', `/shots/${short.id}`)).status).toBe(204);
  expect(await readdir(join(under.media, 'media'))).not.toContain(short.medium.id);
  const [{ medium }] = (await call('GET', `/reels/${reel}`)).body.shots;
  expect({ id: medium.id, state: medium.state }).toEqual({ id: long.medium.id, state: 'working' });
  // It did not wait for the other's end.
  expect(medium.progress).toBeLessThan(1);
  await call('DELETE', `/shots/${long.id}`);
});

test('footage that breaks off while its proxy is made: what was seen of it is known no more, and the reason is told', async () => {
  const reel = await under.newReel();
  const whole = await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=8', '-c:v', 'mjpeg', '-q:v', '5'], 'whole.avi');
  // The beginning is as it was, the index at the end too: all that lies between is lost.
  const broken = Buffer.from(whole);
  broken.fill(0, Math.floor(whole.length * 0.3), Math.floor(whole.length * 0.95));
  await under.send(broken, { filename: 'broken.avi', reel });
  const [shot] = await under.settled(reel);
  expect(shot.medium).toMatchObject({ state: 'failed', footage: null, error: expect.stringMatching(/./) });
  expect((await call('GET', `/media/${shot.medium.id}/proxy/frames/0`)).body.error).toMatchObject({ code: 'not-ready' });
  expect(await readdir(join(under.media, 'media', shot.medium.id))).toEqual(['original.avi']);
});
