/** What was sent is never lost, and nothing stays that nobody refers to. */
import { execFileSync, spawnSync } from 'node:child_process';
import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import { here } from '@tin-ghost/media';
import { TestServer, TUS } from '../testing';

const under = new TestServer(`arrivals_test_${process.pid}`);
beforeAll(() => under.up());
afterAll(() => under.down());
const call = under.call.bind(under);
const uploads = (): Promise<string[]> => readdir(join(under.media, 'uploads'));
const folders = (): Promise<string[]> => readdir(join(under.media, 'media'));
const image = (n: number): Promise<Buffer> =>
  under.clip(['-f', 'lavfi', '-i', `color=c=0x${(n * 20).toString(16).padStart(2, '0').repeat(3)}:s=32x24`, '-frames:v', '1'], `i${n}.png`);

test('files sent together stand in the order they were given, whichever is there first; what was there before stays before them', async () => {
  const reel = await under.newReel();
  const bytes = await under.aClip();
  await under.send(bytes, { filename: 'first.mp4', reel });
  for (const place of [3, 0, 2, 1]) await under.send(bytes, { filename: `${place}.mp4`, reel, together: 'a-drop', place: String(place) });
  await under.send(bytes, { filename: 'last.mp4', reel, together: 'another', place: '0' });
  await under.send(bytes, { filename: 'odd.mp4', reel, together: 'a-drop', place: 'x' });
  await under.send(bytes, { filename: 'odder.mp4', reel, together: 'a\0drop', place: '0' });
  const { body } = await call('GET', `/reels/${reel}`);
  expect(body.shots.map(({ name }: { name: string }) => name)).toEqual(['first', '0', '1', '2', '3', 'last', 'odd', 'odder']);
  expect(await under.rows(`select position from shots where reel_id = '${reel}' order by position`)).toEqual([0, 1, 2, 3, 4, 5, 6, 7].map((position) => ({ position })));
});

describe('an upload whose last piece comes at a bad moment', () => {
  test('with the database away: it is said, and the shot is there once the database is back', async () => {
    const reel = await under.newReel();
    const bytes = await under.aClip();
    const place = await under.beginUpload(bytes.length, { filename: 'late.mp4', reel });
    await under.withoutDatabase(async () => {
      const last = await under.sendPart(place, bytes, 0);
      expect(last.status).toBe(503);
      expect(await last.text()).toMatch(/database cannot be reached/);
    });
    const [shot] = await under.settled(reel);
    expect(shot.medium).toMatchObject({ name: 'late.mp4', state: 'ready' });
    expect(await readFile(join(under.media, 'media', shot.medium.id, 'original.mp4'))).toEqual(bytes);
    expect(await uploads()).toEqual([]);
  });

  test('and the server killed before it is back: the next one takes it in', async () => {
    const reel = await under.newReel();
    const bytes = await under.aClip();
    const place = await under.beginUpload(bytes.length, { filename: 'later.mp4', reel });
    await under.withoutDatabase(async () => {
      expect((await under.sendPart(place, bytes, 0)).status).toBe(503);
      await under.stop();
    });
    await under.boot();
    expect((await under.settled(reel))[0].medium).toMatchObject({ name: 'later.mp4', state: 'ready' });
  });

  test('its reel removed meanwhile: it is said, and nothing lies about', async () => {
    const reel = await under.newReel();
    const bytes = await under.aClip();
    const place = await under.beginUpload(bytes.length, { filename: 'a.mp4', reel });
    const before = await folders();
    await call('DELETE', `/reels/${reel}`);
    const last = await under.sendPart(place, bytes, 0);
    expect(last.status).toBe(404);
    expect(await last.text()).toMatch(/no such reel/);
    expect(await uploads()).toEqual([]);
    expect(await folders()).toEqual(before);
  });

  test('one that is cut off can be gone on with after a restart', async () => {
    const reel = await under.newReel();
    const bytes = await under.aClip();
    const place = await under.beginUpload(bytes.length, { filename: 'cut.mp4', reel });
    expect((await under.sendPart(place, bytes.subarray(0, 1000), 0)).status).toBe(204);
    await under.restart();
    const again = new URL(place.pathname, under.address);
    expect((await fetch(again, { method: 'HEAD', headers: TUS })).headers.get('upload-offset')).toBe('1000');
    expect((await under.sendPart(again, bytes.subarray(1000), 1000)).status).toBe(204);
    expect((await under.settled(reel))[0].medium.state).toBe('ready');
  });
});

describe('images of a sequence', () => {
  test('for a reel that is not there stay where they are, and can be named again', async () => {
    const ids = [await under.send(await image(1), { filename: '1.png' }), await under.send(await image(2), { filename: '2.png' })];
    expect((await call('POST', '/uploads/sequence', { reel: '00000000-0000-4000-8000-000000000000', name: 'x', uploads: ids })).status).toBe(404);
    expect((await uploads()).filter((name) => ids.includes(name)).sort()).toEqual([...ids].sort());
    const reel = await under.newReel();
    expect((await call('POST', '/uploads/sequence', { reel, name: 'x', uploads: ids })).status).toBe(201);
    expect((await under.settled(reel))[0].medium).toMatchObject({ state: 'ready', footage: { frames: 2 } });
    expect(await uploads()).toEqual([]);
  });

  test.each(['first', 'middle', 'last'])('the %s of which is broken is refused by its own name', async (which) => {
    const reel = await under.newReel();
    const broken = { first: 1, middle: 3, last: 6 }[which];
    const ids: string[] = [];
    for (let n = 1; n <= 6; n++) {
      const whole = await image(n);
      // Its header stands; what it should hold does not.
      const bytes = n === broken ? Buffer.concat([whole.subarray(0, 60), Buffer.alloc(whole.length - 60)]) : whole;
      ids.push(await under.send(bytes, { filename: `pan-${n}.png` }));
    }
    await call('POST', '/uploads/sequence', { reel, name: 'pan', uploads: ids });
    const [shot] = await under.settled(reel);
    expect(shot.medium).toMatchObject({ state: 'failed', error: expect.stringContaining(`pan-${broken}.png`) });
  });

  test('in a zip that is larger unpacked than it can be are refused before they are unpacked', async () => {
    const reel = await under.newReel();
    execFileSync('python3', ['-c', "import zipfile; z=zipfile.ZipFile('bomb.zip','w',zipfile.ZIP_DEFLATED); z.writestr('1.png', bytes(900_000_000)); z.writestr('2.png', b'x')"], {
      cwd: under.folder,
    });
    const bomb = await readFile(join(under.folder, 'bomb.zip'));
    expect(bomb.length).toBeLessThan(2e6);
    await under.send(bomb, { filename: 'bomb.zip', reel });
    const [shot] = await under.settled(reel);
    expect(shot.medium).toMatchObject({ state: 'failed', error: expect.stringMatching(/an image of 900 MB; one has at most 800 \(1\.png\)/) });
    expect(await readdir(join(under.media, 'media', shot.medium.id))).toEqual(['original.zip']);
  });
});

describe('footage that failed', () => {
  test('is tried again from its original, by request', async () => {
    const reel = await under.newReel();
    await under.send(Buffer.from('no film'), { filename: 'a.mp4', reel });
    const [failed] = await under.settled(reel);
    expect(failed.medium.state).toBe('failed');
    await writeFile(join(under.media, 'media', failed.medium.id, 'original.mp4'), await under.aClip());
    expect((await call('POST', `/media/${failed.medium.id}/again`)).status).toBe(200);
    expect((await under.settled(reel))[0].medium).toMatchObject({ state: 'ready', error: null });
    expect((await call('POST', `/media/${failed.medium.id}/again`)).status).toBe(409);
  });
});

describe('what nobody refers to', () => {
  test('goes with the shot, and work on it is ended', async () => {
    const reel = await under.newReel();
    await under.send(await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=1280x720:r=25:d=20', '-preset', 'ultrafast'], 'long.mp4'), { filename: 'long.mp4', reel });
    const {
      shots: [shot],
    } = await under.once(`/reels/${reel}`, ({ shots: [one] }) => one.medium.state === 'working' && one.medium.progress > 0.06);
    expect((await call('DELETE', `/shots/${shot.id}`)).status).toBe(204);
    expect(await folders()).not.toContain(shot.medium.id);
    expect((await call('GET', `/media/${shot.medium.id}`)).status).toBe(404);
    expect(spawnSync('pgrep', ['-f', shot.medium.id], { encoding: 'utf8' }).stdout).toBe('');
  });

  test('stays as long as a print was struck from it, and goes with the print', async () => {
    const reel = await under.newReel();
    await under.send(await under.aClip(), { filename: 'a.mp4', reel });
    const [shot] = await under.settled(reel);
    const { body: print } = await call('POST', '/prints', { shotId: shot.id, format: 'mp4', width: 64, height: 36 });
    await under.printEnd(print.id);
    await call('DELETE', `/reels/${reel}`);
    await call('DELETE', '/bin');
    expect((await call('GET', `/media/${shot.medium.id}/poster`.replace('/poster', ''))).status).toBe(200);
    await call('DELETE', `/prints/${print.id}`);
    expect((await call('GET', `/media/${shot.medium.id}`)).status).toBe(404);
    expect(await folders()).not.toContain(shot.medium.id);
  });

  test('left by a server that was killed is removed by the next: rows, folders, parts, strange prints', async () => {
    const reel = await under.newReel();
    await under.send(await under.aClip(), { filename: 'a.mp4', reel });
    const [shot] = await under.settled(reel);
    const before = await folders();
    const [row] = await under.rows("insert into media (name, bytes, original) values ('lost', 1, 'original.mp4') returning id");
    await mkdir(join(under.media, 'media', String(row!.id)));
    await mkdir(join(under.media, 'media/11111111-1111-4111-8111-111111111111'));
    // No process has this number: it is above the highest that Linux gives.
    for (const place of [
      `prints/.x.mp4.part-${here()}-4999999-abc123`,
      `media/${shot.medium.id}/.proxy.mp4.part-${here()}-4999999-abc123`,
      'prints/22222222-2222-4222-8222-222222222222.mp4',
    ])
      await writeFile(join(under.media, place), 'half');
    await under.restart();
    expect(await folders()).toEqual(before);
    expect(await under.rows("select id from media where name = 'lost'")).toEqual([]);
    expect(await readdir(join(under.media, 'prints'))).toEqual([]);
    expect((await readdir(join(under.media, 'media', shot.medium.id))).filter((name) => name.startsWith('.'))).toEqual([]);
    expect((await call('GET', `/media/${shot.medium.id}/poster`.slice(0, -7))).body.state).toBe('ready');
  });
});

test('an import that is under way when the server ends is taken up by the next one at once', async () => {
  const reel = await under.newReel();
  await under.send(await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=1280x720:r=25:d=6'], 'half.mp4'), { filename: 'half.mp4', reel });
  await under.once(`/reels/${reel}`, ({ shots }) => shots[0]?.medium.state === 'working');
  await under.restart();
  expect((await under.settled(reel))[0].medium).toMatchObject({ name: 'half.mp4', state: 'ready' });
});

describe('a database that goes away while a print is struck', () => {
  test('is waited for: the print ends whole, and the process is never told of it', async () => {
    const unheard: unknown[] = [];
    const hear = (reason: unknown): void => void unheard.push(reason);
    process.on('unhandledRejection', hear);
    const reel = await under.newReel();
    await under.send(await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=25:d=4'], 'print.mp4'), { filename: 'print.mp4', reel });
    const [shot] = await under.settled(reel);
    await call('PUT', `/shots/${shot.id}/look`, { look: { ...EMPTY_LOOK, lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }] }] }, revision: 0 });
    const { body } = await call('POST', '/prints', { shotId: shot.id, format: 'mp4' });
    await under.once(`/prints/${body.id}`, ({ state }) => state === 'striking');
    await under.withoutDatabase(async () => {
      await pause(4000);
      expect((await call('GET', '/reels')).status).toBe(503);
    });
    expect(await under.printEnd(body.id)).toMatchObject({ state: 'done', done: 100 });
    process.off('unhandledRejection', hear);
    expect(unheard).toEqual([]);
  });
});
