import { execFileSync, spawnSync } from 'node:child_process';
import { readdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK, LOOK_SCHEMA } from '@tin-ghost/core';
import { connect } from './db/client';
import { createApp } from './http/app';
import { contextOf } from './server';
import { cleanName, MediaStore } from './store/media-store';
import { TestServer, until, type Answer } from './testing';

const under = new TestServer(`server_test_${process.pid}`);
beforeAll(() => under.up());
afterAll(() => under.down());

const call = under.call.bind(under);
const send = under.send.bind(under);
const settled = under.settled.bind(under);
const printEnd = under.printEnd.bind(under);
const clip = under.clip.bind(under);
const newReel = (): Promise<string> => under.newReel();
const aClip = (): Promise<Buffer> => under.aClip();

describe('footage comes in', () => {
  test('a clip becomes a shot with its preview; the original stays byte for byte', async () => {
    const reel = await newReel();
    const bytes = await aClip();
    await send(bytes, { filename: 'a.mp4', reel });
    const [shot] = await settled(reel);
    expect(shot.medium).toMatchObject({ state: 'ready', hasSound: true, proxyWidth: 320, proxyHeight: 180 });
    expect(shot.medium.footage).toMatchObject({ width: 320, height: 180, frames: 25, rate: { num: 25, den: 1 } });
    expect(shot.medium.footage.path).toBeUndefined();
    expect(await readFile(join(under.folder, 'media/media', shot.medium.id, 'original.mp4'))).toEqual(bytes);
    for (const kind of ['proxy', 'poster', 'strip', 'sound', 'peaks']) expect((await fetch(`${under.address}/api/media/${shot.medium.id}/${kind}`)).status).toBe(200);
    const frame = await fetch(`${under.address}/api/media/${shot.medium.id}/frames/7`);
    expect((await frame.arrayBuffer()).byteLength).toBe(320 * 180 * 1.5);
    expect((await fetch(`${under.address}/api/media/${shot.medium.id}/frames/25`)).status).toBe(404);
    const proxy = spawnSync(
      'ffprobe',
      ['-v', 'error', '-show_entries', 'packet=flags', '-select_streams', 'v', '-of', 'csv=p=0', join(under.folder, 'media/media', shot.medium.id, 'proxy.mp4')],
      { encoding: 'utf8' },
    ).stdout;
    expect(
      proxy
        .trim()
        .split('\n')
        .map((l) => l[0]),
    ).toEqual(new Array(25).fill('K'));
  });

  test('images sent one by one, and images in a zip, become a sequence in the order of their numbers', async () => {
    const reel = await newReel();
    const uploads: string[] = [];
    for (const n of [10, 2, 1])
      uploads.push(
        await send(await clip(['-f', 'lavfi', '-i', `color=c=0x${(n * 20).toString(16).padStart(2, '0').repeat(3)}:s=32x24`, '-frames:v', '1'], `img-${n}.png`), {
          filename: `img-${n}.png`,
        }),
      );
    expect(await call('POST', '/uploads/sequence', { reel, name: 'img', uploads })).toMatchObject({ status: 201, body: { shot: expect.any(String), medium: expect.any(String) } });
    execFileSync(
      'python3',
      ['-c', "import zipfile,sys; z=zipfile.ZipFile('s.zip','w'); [z.write(f'img-{n}.png', f'../../in/img-{n}.png') for n in (10,2,1)]; z.writestr('notes.txt','x')"],
      { cwd: under.folder },
    );
    await send(await readFile(join(under.folder, 's.zip')), { filename: 's.zip', reel });
    const shots = await settled(reel);
    expect(shots).toHaveLength(2);
    for (const shot of shots) {
      expect(shot.medium).toMatchObject({ error: null, state: 'ready', footage: { kind: 'sequence', frames: 3, width: 32, height: 24 } });
      const levels = await Promise.all(
        [0, 1, 2].map(async (n) => new Uint8Array(await (await fetch(`${under.address}/api/media/${shot.medium.id}/frames/${n}`)).arrayBuffer())[0]),
      );
      // ffmpeg makes its colours in limited-range luma, so the greys are a code off at most.
      expect(levels.map((level) => Math.round(level! / 20))).toEqual([1, 2, 10]);
    }
  });

  test('a still becomes a shot of five seconds', async () => {
    const reel = await newReel();
    await send(await clip(['-f', 'lavfi', '-i', 'testsrc2=s=61x41', '-frames:v', '1'], 'still.png'), { filename: 'still.png', reel });
    const [shot] = await settled(reel);
    expect(shot.medium).toMatchObject({ state: 'ready', footage: { kind: 'still', frames: 120 } });
  });

  test('what is no footage fails with its reason, and all else stays', async () => {
    const reel = await newReel();
    const whole = await aClip();
    await send(whole, { filename: 'good.mp4', reel });
    await send(Buffer.from('no film at all'), { filename: `it's "bad"\n../../x.mp4`, reel });
    await send(Buffer.alloc(0), { filename: 'nothing.mp4', reel });
    await send(whole.subarray(0, whole.length / 2), { filename: 'cut.mp4', reel });
    await send(await clip(['-f', 'lavfi', '-i', 'sine=d=1'], 's.wav'), { filename: 's.wav', reel });
    await send(await clip(['-f', 'lavfi', '-i', 'testsrc2=s=2x2:r=25', '-frames:v', '1', '-c:v', 'ffv1'], 'one.mkv'), { filename: 'one.mkv', reel });
    const shots = await settled(reel);
    expect(shots.map((s) => [s.medium.name, s.medium.state, s.medium.error])).toEqual([
      ['good.mp4', 'ready', null],
      ['x.mp4', 'failed', 'a text or a list, not footage'],
      ['nothing.mp4', 'failed', 'the file is empty (0 bytes)'],
      ['cut.mp4', 'failed', 'the file is cut short: its index is missing'],
      ['s.wav', 'failed', 'there is no picture in it, only sound or data'],
      ['one.mkv', 'ready', null],
    ]);
    expect((await readdir(under.folder)).includes('x.mp4')).toBe(false);
  });

  test('an upload for a reel that is not there is refused at once', async () => {
    await expect(send(Buffer.from('x'), { filename: 'a.mp4', reel: '00000000-0000-4000-8000-000000000000' })).rejects.toThrow(/404 .*no such reel/);
  });

  test('names from outside are shown without paths and line breaks', () => {
    expect(cleanName('a/b/../c "d"\n e.mov')).toBe('c "d" e.mov');
    expect(cleanName('..')).toBe('Untitled');
  });
});

describe('looks of shots', () => {
  test('a change is kept on top of its revision; another tab’s is not overwritten', async () => {
    const reel = await newReel();
    await send(await aClip(), { filename: 'a.mp4', reel });
    const [shot] = await settled(reel);
    const look = { ...EMPTY_LOOK, name: 'Mine', lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }] }] };
    expect(await call('PUT', `/shots/${shot.id}/look`, { look, revision: 0 })).toMatchObject({ status: 200, body: { revision: 1 } });
    expect((await call('PUT', `/shots/${shot.id}/look`, { look: EMPTY_LOOK, revision: 0 })).status).toBe(409);
    expect((await call('GET', `/shots/${shot.id}`)).body.look).toEqual(look);
    const bad = { schema: LOOK_SCHEMA, shape: 'file', name: 'x', seed: 1, lives: [{ carrier: 'super8', traits: [{ trait: 'grain', settings: { rms: 'much' } }] }] };
    expect(await call('PUT', `/shots/${shot.id}/look`, { look: bad, revision: 1 })).toMatchObject({
      status: 400,
      body: { error: { problems: [{ path: 'lives[0].traits[0].settings.rms' }] } },
    });
    expect((await call('GET', `/shots/${shot.id}`)).body.look).toEqual(look);
  });

  test('a shot keeps other versions of its look, each checked, and copies have them, too', async () => {
    const reel = await newReel();
    await send(await aClip(), { filename: 'versions.mp4', reel });
    const [shot] = await settled(reel);
    const [one, two] = ['One', 'Two'].map((name) => ({ ...EMPTY_LOOK, name }));
    const put = (revision: number, versions: unknown) => call('PUT', `/shots/${shot.id}/look`, { look: one, versions, revision });
    expect((await put(0, [null, two])).body.revision).toBe(1);
    expect((await call('GET', `/shots/${shot.id}`)).body.versions).toEqual([null, two]);
    // Left out they stay.
    expect((await put(1, undefined)).status).toBe(200);
    const copy = (await call('POST', `/shots/${shot.id}/copy`)).body.shot;
    expect((await call('GET', `/shots/${copy}`)).body.versions).toEqual([null, two]);
    for (const wrong of [[two], [null, null], [null, { name: 'no look' }], Array.from({ length: 13 }, () => null)]) expect((await put(2, wrong)).status).toBe(400);
    expect((await put(2, [null, { ...two, seed: -1 }])).body.error.problems[0].path).toBe('versions[1].seed');
    expect((await put(2, [])).body.revision).toBe(3);
    expect((await call('GET', `/shots/${shot.id}`)).body.versions).toEqual([]);
  });

  test('one that was stored in an older version is read as the present one has it, and can be printed', async () => {
    const reel = await newReel();
    await send(await aClip(), { filename: 'a.mp4', reel });
    const [shot] = await settled(reel);
    const old = { schema: 'tin-ghost/look@1', name: 'Old', seed: 3, lives: [{ carrier: 'super8', traits: [{ trait: 'grain' }] }] };
    await under.rows(`update shots set look = '${JSON.stringify(old)}' where id = '${shot.id}'`);
    const present = { ...old, schema: LOOK_SCHEMA, shape: 'file' };
    expect((await call('GET', `/shots/${shot.id}`)).body.look).toEqual(present);
    const { body } = await call('POST', '/prints', { shotId: shot.id, format: 'mp4', from: 0, to: 2 });
    expect(body.look).toEqual(present);
    expect(await printEnd(body.id)).toMatchObject({ state: 'done' });
    expect((await call('POST', '/looks', old)).body.look).toEqual(present);
  });

  test('no two looks have one name: what is put in or renamed gets a number', async () => {
    const named = async (name: string) => (await call('POST', '/looks', { ...EMPTY_LOOK, name })).body;
    const [one, two, shipped] = [await named('Twice'), await named('Twice'), await named('Home gauge')];
    expect([one, two, shipped].map(({ look }) => look.name)).toEqual(['Twice', 'Twice 2', 'Home gauge 2']);
    const renamed = await call('PATCH', `/looks/${two.id}`, { name: 'Twice' });
    expect(renamed.body.look.name).toBe('Twice 2');
    expect((await call('PATCH', `/looks/${one.id}`, { name: 'Once' })).body.look.name).toBe('Once');
    expect((await call('GET', `/looks/${one.id}`)).body.name).toBe('Once');
    expect((await call('PATCH', '/looks/home-gauge', { name: 'Mine' })).status).toBe(404);
    for (const { id } of [one, two, shipped]) await call('DELETE', `/looks/${id}`);
  });

  test('the stockroom takes a look and gives it back; those that ship cannot be discarded', async () => {
    const { body } = await call('POST', '/looks', { ...EMPTY_LOOK, name: 'Put away' });
    expect((await call('GET', '/looks')).body.map((l: { id: string }) => l.id)).toEqual(expect.arrayContaining([body.id, 'home-gauge']));
    expect((await call('DELETE', '/looks/home-gauge')).status).toBe(404);
    expect((await call('DELETE', `/looks/${body.id}`)).status).toBe(204);
    expect((await call('POST', '/looks', { ...EMPTY_LOOK, lives: [{ carrier: 'none', traits: new Array(2000).fill({ trait: 'grain' }) }] })).body.error.problems[0].path).toBe(
      'lives[0].traits',
    );
  });
});

describe('how a shot is prepared', () => {
  test('is kept with its look, checked, and a print is as long and as large as it says', async () => {
    const reel = await newReel();
    await send(await aClip(), { filename: 'a.mp4', reel });
    const [shot] = await settled(reel);
    expect(shot.preparation).toEqual({});
    const preparation = { trim: { from: 5, to: 25 }, speed: 0.5, between: 'blend', shape: 4 / 3, framing: { x: 0.4, y: 0.5, scale: 1.2, turn: 0 } };
    expect(await call('PUT', `/shots/${shot.id}/look`, { look: EMPTY_LOOK, preparation, revision: 0 })).toMatchObject({ status: 200 });
    expect((await call('GET', `/shots/${shot.id}`)).body.preparation).toEqual(preparation);
    // Twenty of its frames at half speed: what the shelf says of it.
    const shelf = (await call('GET', '/reels')).body.flatMap((one: Answer['body']) => one.shots);
    expect(shelf.find((one: Answer['body']) => one.id === shot.id).frames).toBe(40);
    // A change of the look alone leaves it.
    await call('PUT', `/shots/${shot.id}/look`, { look: { ...EMPTY_LOOK, name: 'b' }, revision: 1 });
    expect((await call('GET', `/shots/${shot.id}`)).body.preparation).toEqual(preparation);
    expect(await call('PUT', `/shots/${shot.id}/look`, { look: EMPTY_LOOK, preparation: { speed: 99 }, revision: 2 })).toMatchObject({
      status: 400,
      body: { error: { problems: [{ path: 'speed' }] } },
    });
    const { body } = await call('POST', '/prints', { shotId: shot.id, format: 'mp4' });
    expect(body).toMatchObject({ total: 40, settings: { width: 240, height: 180, from: 0, to: 40 } });
    expect(await printEnd(body.id)).toMatchObject({ state: 'done', done: 40 });
    expect((await call('POST', '/prints', { shotId: shot.id, format: 'mp4', to: 41 })).status).toBe(400);
  });
});

describe('tables of colours', () => {
  const post = (text: string, file = 'a.cube') =>
    fetch(`${under.address}/api/tables?name=${encodeURIComponent(file)}`, { method: 'POST', body: text, headers: { 'content-type': 'text/plain' } });

  test('a table is kept by the hash of its text, once, and given back; what is none is refused with its line', async () => {
    const text = 'LUT_1D_SIZE 2\n1 1 1\n0 0 0\n';
    const first = (await (await post(text, '../inverse.cube')).json()) as { id: string; name: string };
    expect(first.name).toBe('inverse.cube');
    expect(((await (await post(text)).json()) as { id: string }).id).toBe(first.id);
    expect((await call('GET', '/tables')).body.filter((t: { id: string }) => t.id === first.id)).toHaveLength(1);
    expect(await (await fetch(`${under.address}/api/tables/${first.id}`)).text()).toBe(text);
    const bad = await post('LUT_3D_SIZE 2\n0 0 0\n1 0\n');
    expect(bad.status).toBe(400);
    expect(await bad.json()).toMatchObject({ error: { problems: [{ path: 'line 3', message: 'a point takes 3 numbers, here stand 2' }] } });
    expect((await call('GET', '/tables/nothing')).status).toBe(404);
  });

  test('a print whose look names a table that is not here fails and says so', async () => {
    const reel = await newReel();
    await send(await aClip(), { reel, filename: 'clip.mp4' });
    const [shot] = await settled(reel);
    const look = { ...EMPTY_LOOK, lives: [{ carrier: 'none', traits: [{ trait: 'table', settings: { file: 'lost' } }] }] };
    await call('PUT', `/shots/${shot.id}/look`, { look, revision: shot.revision });
    const { body } = await call('POST', '/prints', { shotId: shot.id, format: 'mp4', width: 160, height: 90 });
    const end = await printEnd(body.id);
    expect(end).toMatchObject({ state: 'failed', error: expect.stringContaining('a table of colours is not here: lost') });
    expect(end.bytes).toBeNull();
    expect((await readdir(join(under.folder, 'media', 'prints')).catch(() => [])).some((name) => name.includes(body.id))).toBe(false);
  });

  test('a print is struck through the table its look refers to', async () => {
    const { id } = (await (await post('LUT_1D_SIZE 2\n1 1 1\n0 0 0\n')).json()) as { id: string };
    const reel = await newReel();
    await send(await clip(['-f', 'lavfi', '-i', 'color=c=0xe0e0e0:s=64x48:r=25:d=0.2'], 'white.mp4'), { filename: 'white.mp4', reel });
    const [shot] = await settled(reel);
    const look = { ...EMPTY_LOOK, lives: [{ carrier: 'none', traits: [{ trait: 'table', settings: { file: id } }] }] };
    await call('PUT', `/shots/${shot.id}/look`, { look, revision: 0 });
    const { body } = await call('POST', '/prints', { shotId: shot.id, format: 'mp4' });
    expect(await printEnd(body.id)).toMatchObject({ state: 'done' });
    const file = join(under.folder, 'inverse.mp4');
    await writeFile(file, Buffer.from(await (await fetch(`${under.address}/api/prints/${body.id}/file`)).arrayBuffer()));
    const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'gray', 'pipe:1']);
    expect(Math.abs(raw[1000]! - (0xff - 0xe0))).toBeLessThan(4);
  });
});

describe('references', () => {
  test('a still comes in beside the shots of its reel, is told, renamed and discarded with its file', async () => {
    const reel = await newReel();
    await send(await clip(['-f', 'lavfi', '-i', 'testsrc2=s=64x48', '-frames:v', '1'], 'real.png'), { filename: 'The real thing.png', reel, as: 'reference' });
    const [found] = await under.once(`/references?reel=${reel}`, ([one]) => one?.medium.state === 'ready');
    expect(found).toMatchObject({ name: 'The real thing', shipped: false, reelId: reel, medium: { state: 'ready' } });
    expect((await call('GET', `/reels/${reel}`)).body.shots).toEqual([]);
    expect((await call('GET', `/references?reel=${await newReel()}`)).body).toEqual([]);
    expect((await call('PATCH', `/references/${found.id}`, { name: 'Newsfilm' })).body.name).toBe('Newsfilm');
    expect((await call('DELETE', `/references/${found.id}`)).status).toBe(204);
    expect((await readdir(join(under.folder, 'media/media'))).includes(found.medium.id)).toBe(false);
    expect((await call('GET', '/references?reel=x')).status).toBe(404);
  });
});

describe('prints', () => {
  let shot: Answer['body'];
  beforeAll(async () => {
    const reel = await newReel();
    await send(await clip(['-f', 'lavfi', '-i', 'testsrc2=s=640x360:r=24:d=6', '-f', 'lavfi', '-i', 'sine=d=6'], 'long.mp4'), { filename: 'long.mp4', reel });
    [shot] = await settled(reel);
  });

  test.each(['mp4', 'webm'])('a print in %s has the size, range and sound ordered', async (format) => {
    const { body, status } = await call('POST', '/prints', { shotId: shot.id, format, width: 320, height: 180, from: 10, to: 34 });
    expect(status).toBe(201);
    expect(await printEnd(body.id)).toMatchObject({ state: 'done', done: 24, error: null });
    const file = join(under.folder, `out.${format}`);
    await writeFile(file, Buffer.from(await (await fetch(`${under.address}/api/prints/${body.id}/file`)).arrayBuffer()));
    const { streams } = JSON.parse(execFileSync('ffprobe', ['-v', 'error', '-count_frames', '-show_streams', '-of', 'json', file], { encoding: 'utf8' }));
    expect(streams[0]).toMatchObject({ width: 320, height: 180, nb_read_frames: '24', r_frame_rate: '24/1' });
    expect(streams[1].codec_type).toBe('audio');
  });

  test('a stopped print ends, leaves nothing, and can be struck again', async () => {
    const { body } = await call('POST', '/prints', { shotId: shot.id, format: 'webm' });
    await under.once(`/prints/${body.id}`, ({ state }) => state === 'striking');
    expect((await call('POST', `/prints/${body.id}/stop`)).status).toBe(200);
    await under.once(`/prints/${body.id}`, ({ state }) => state === 'stopped');
    await until(async () => !(await readdir(join(under.folder, 'media/prints'))).some((n) => n.includes(body.id)));
    expect((await call('POST', `/prints/${body.id}/again`)).status).toBe(200);
    expect((await printEnd(body.id)).state).toBe('done');
  });

  test.each([
    [1, 'done', null],
    [3, 'failed', expect.stringMatching(/ffmpeg was ended from outside/)],
  ])('ffmpeg killed %d times: the print is %s, and nothing is left half-written', async (times, state, error) => {
    const { body } = await call('POST', '/prints', { shotId: shot.id, format: 'webm' });
    const encoder = (): string => spawnSync('pgrep', ['-P', String(process.pid), '-f', body.id], { encoding: 'utf8' }).stdout.trim();
    for (let n = 0; n < times; n++) {
      await until(() => encoder() !== '');
      const pid = Number(encoder().split('\n')[0]);
      process.kill(pid, 'SIGKILL');
      await until(() => !encoder().includes(String(pid)));
    }
    expect(await printEnd(body.id)).toMatchObject({ state, error });
    if (state === 'done') await call('DELETE', `/prints/${body.id}`);
    for (const folder of ['prints', 'segments'])
      expect((await readdir(join(under.folder, 'media', folder), { recursive: true })).filter((n) => n.includes(`${body.id}/`) || n.includes(`${body.id}.`))).toEqual([]);
    expect((await call('GET', `/shots/${shot.id}`)).body.medium.state).toBe('ready');
  });

  test('a server that goes down takes its print up again', async () => {
    const { body } = await call('POST', '/prints', { shotId: shot.id, format: 'webm' });
    await under.once(`/prints/${body.id}`, ({ state }) => state === 'striking');
    await under.restart();
    expect((await printEnd(body.id)).state).toBe('done');
  });

  test.each([
    [{ format: 'avi' }, 'format'],
    [{ format: 'mp4', width: 320 }, ''],
    [{ format: 'mp4', from: 100, to: 50 }, 'to'],
    [{ format: 'mp4', to: 9999 }, 'to'],
    [{ format: 'mp4', width: 1e9, height: 2 }, 'width'],
  ])('an order of %j is refused with its place', async (order, path) => {
    const { status, body } = await call('POST', '/prints', { shotId: shot.id, ...order });
    expect(status).toBe(400);
    expect(body.error.problems[0].path).toBe(path);
  });
});

describe('the interface of the server', () => {
  test.each([
    ['GET', '/reels/nonsense', 404],
    ['GET', '/shots/00000000-0000-4000-8000-000000000000', 404],
    ['POST', '/reels', 400],
    ['GET', '/nowhere', 404],
  ])('%s %s answers %d with a message', async (method, path, status) => {
    const answer = await call(method, path, method === 'POST' ? {} : undefined);
    expect(answer.status).toBe(status);
    expect(answer.body.error.message.length).toBeGreaterThan(5);
  });

  test('bodies that are no JSON or too large, and strangers, are refused', async () => {
    const post = (body: string, headers = {}) => fetch(`${under.address}/api/looks`, { method: 'POST', headers: { 'content-type': 'application/json', ...headers }, body });
    expect((await post('{nope')).status).toBe(400);
    expect((await post(JSON.stringify('x'.repeat(2_000_000)))).status).toBe(413);
    expect((await post('{}', { origin: 'http://elsewhere.example' })).status).toBe(403);
  });

  test('a database that is away is said, with 503', async () => {
    const away = 'postgres://tinghost@127.0.0.1:9/none';
    const { db, pool, close } = connect(away);
    const app = createApp(contextOf(db, pool, new MediaStore(join(under.folder, 'media'))), (_q, r) => void r.end());
    const listening = app.listen(0, '127.0.0.1');
    await pause(50);
    const response = await fetch(`http://127.0.0.1:${(listening.address() as { port: number }).port}/api/reels`);
    expect(response.status).toBe(503);
    expect((await response.json()).error.message).toMatch(/database cannot be reached/);
    listening.close();
    await close();
  });
});
