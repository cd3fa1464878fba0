/** Who may come in, and what is answered to what nobody should send. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { EMPTY_LOOK } from '@tin-ghost/core';
import { request, type ClientRequest } from 'node:http';
import { TestServer, TUS, until } from '../testing';
import { MOST_AT_ONCE } from './routes/uploads';

const under = new TestServer(`doors_test_${process.pid}`);
beforeAll(() => under.up());
afterAll(() => under.down());
const call = under.call.bind(under);

describe('who may write', () => {
  test('the application’s own pages, by each of its names, and whoever is no browser', async () => {
    const { port } = new URL(under.address);
    for (const host of ['127.0.0.1', 'localhost']) {
      const response = await fetch(`http://${host}:${port}/api/reels`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', origin: `http://${host}:${port}` },
        body: '{"name":"own"}',
      });
      expect([host, response.status]).toEqual([host, 201]);
    }
    expect((await call('POST', '/reels', { name: 'none' })).status).toBe(201);
  });

  test.each([
    ['another port of this machine', 'http://127.0.0.1:1'],
    ['another scheme', 'https://127.0.0.1'],
    ['another name of this machine', 'http://localhost'],
    ['a sandboxed page', 'null'],
    ['a page elsewhere', 'http://elsewhere.example'],
  ])('not %s', async (_what, origin) => {
    for (const path of ['/reels', '/uploads', '/looks']) expect((await call('POST', path, { name: 'x' }, { origin })).status).toBe(403);
    expect((await call('GET', '/reels', undefined, { origin })).status).toBe(403);
  });

  test.each(['cross-site', 'same-site'])('nor what a browser marks as %s, but for a link that opens a page', async (site) => {
    expect((await call('GET', '/reels', undefined, { 'sec-fetch-site': site })).status).toBe(403);
    const open = { 'sec-fetch-site': site, 'sec-fetch-mode': 'navigate', 'sec-fetch-dest': 'document' };
    expect((await call('GET', '/reels', undefined, open)).status).toBe(403);
    expect((await fetch(`${under.address}/`, { headers: { 'sec-fetch-site': site } })).status).toBe(403);
  });

  test('uploads are offered to nobody else, not even when they are asked about', async () => {
    for (const method of ['OPTIONS', 'HEAD', 'POST']) {
      const response = await fetch(`${under.address}/api/uploads`, { method, headers: TUS });
      expect([method, response.headers.get('access-control-allow-origin')]).toEqual([method, null]);
    }
  });

  test('every answer seals the page', async () => {
    for (const path of ['/', '/api/reels', '/api/nowhere']) {
      const { headers } = await fetch(under.address + path);
      const policy = headers.get('content-security-policy') ?? '';
      expect(policy).toContain("default-src 'self'");
      expect(policy).toContain("frame-ancestors 'none'");
      expect(/script-src [^;]*/.exec(policy)![0]).not.toMatch(/unsafe-inline|unsafe-eval'(?<!wasm-unsafe-eval')|https?:/);
      expect(headers.get('x-content-type-options')).toBe('nosniff');
      expect(headers.get('cross-origin-resource-policy')).toBe('same-origin');
      expect(headers.get('x-powered-by')).toBeNull();
    }
  });
});

describe('what nobody should send', () => {
  const NUL = 'a\u0000b';
  const LONE = 'a\ud800b';
  let reel: string;
  beforeAll(async () => {
    reel = await under.newReel();
  });

  test.each([
    ['POST', '/looks', undefined],
    ['POST', '/looks', { ...EMPTY_LOOK, name: NUL }],
    ['POST', '/looks', { ...EMPTY_LOOK, name: LONE }],
    ['POST', '/reels', { name: NUL }],
    ['POST', '/reels', { name: LONE }],
    ['POST', '/reels', { name: ' \n\t ' }],
    ['POST', '/reels', { name: 'x'.repeat(161) }],
    ['POST', '/reels', { name: ['x'] }],
    ['POST', '/reels', '{"name":"a\\u0000"}'],
    ['POST', '/uploads/sequence', { reel: '00000000-0000-4000-8000-000000000000', name: NUL, uploads: ['0'.repeat(32), '1'.repeat(32)] }],
  ])('%s %s with %j is answered with 400', async (method, path, body) => {
    const answer = await call(method, path, body);
    expect(answer.status).toBe(400);
    expect(answer.body.error.message.length).toBeGreaterThan(5);
  });

  test.each([
    ['GET', '/tables/%00', 404],
    ['GET', '/tables/%ED%A0%80', 400],
    ['GET', '/reels/%00', 404],
    ['GET', '/reels/%', 400],
    ['PUT', '/reels/unknown/order', 404],
    ['PUT', '/reels/00000000-0000-4000-8000-000000000000/order', 404],
    ['GET', '/references?reel=%00', 400],
  ])('%s %s is answered with %d', async (method, path, status) => {
    const answer = await call(method, path, method === 'PUT' ? { shots: [] } : undefined);
    expect([path, answer.status]).toEqual([path, status]);
    expect(answer.body.error.message.length).toBeGreaterThan(5);
  });

  test('names are kept in one line and one spelling', async () => {
    expect((await call('POST', '/reels', { name: '  Cafe\u0301 \n line  14 ' })).body.name).toBe('Caf\u00e9 line 14');
    expect((await call('PATCH', `/reels/${reel}`, { name: 'x'.repeat(159) + '\u{1f68b}' })).status).toBe(400);
    expect((await call('PATCH', `/reels/${reel}`, { name: 'x'.repeat(158) + '\u{1f68b}' })).body.name.endsWith('\u{1f68b}')).toBe(true);
  });

  test('numbers are those that the database holds, written in digits', async () => {
    await under.send(await under.aClip(), { filename: 'a.mp4', reel });
    const [shot] = await under.settled(reel);
    for (const revision of [2 ** 31, 1e300, -1, 0.5, '0', null]) expect((await call('PUT', `/shots/${shot.id}/look`, { look: EMPTY_LOOK, revision })).status).toBe(400);
    for (const n of ['%20', '0x1', '1e1', '-1', '1.0', '', '99999999999999999999'])
      expect([n, (await call('GET', `/media/${shot.medium.id}/frames/${n}`)).status]).toEqual([n, 404]);
    expect(await call('PUT', `/shots/${shot.id}/look`, { look: EMPTY_LOOK, preparation: { trim: { from: 3, to: 26 } }, revision: 0 })).toMatchObject({
      status: 400,
      body: { error: { problems: [{ path: 'trim.to', message: expect.stringContaining('25 frames') }] } },
    });
    expect((await call('PUT', `/shots/${shot.id}/look`, { look: EMPTY_LOOK, preparation: { trim: { from: 3, to: 25 } }, revision: 0 })).status).toBe(200);
  });

  test('a malformed reel on an upload is refused before a byte is sent', async () => {
    for (const bad of ['nonsense', '\u0000', '../..']) await expect(under.beginUpload(10, { filename: 'a.mp4', reel: bad })).rejects.toThrow(/^404 /);
  });

  test('the order of a reel names every shot once', async () => {
    const { body } = await call('GET', `/reels/${reel}`);
    const [id] = body.shots.map((s: { id: string }) => s.id);
    expect((await call('PUT', `/reels/${reel}/order`, { shots: [] })).status).toBe(400);
    expect((await call('PUT', `/reels/${reel}/order`, { shots: [id, id] })).status).toBe(400);
    expect((await call('PUT', `/reels/${reel}/order`, { shots: [id] })).status).toBe(204);
  });
});

test(`no more than ${MOST_AT_ONCE} uploads are open at once; the next may come when one of them is gone`, async () => {
  const headers = { ...TUS, 'content-type': 'application/offset+octet-stream', 'upload-offset': '0' };
  const begun = async (): Promise<string> => {
    const made = await fetch(`${under.address}/api/uploads`, { method: 'POST', headers: { ...TUS, 'upload-length': '5' } });
    return `${under.address}/api/uploads/${made.headers.get('location')!.split('/').at(-1)}`;
  };
  // Each has begun to send, and goes no further.
  const held: ClientRequest[] = [];
  for (let i = 0; i < MOST_AT_ONCE; i++) {
    const sending = request(await begun(), { method: 'PATCH', headers: { ...headers, 'content-length': '5' } });
    sending.on('error', () => undefined);
    sending.write('a');
    held.push(sending);
  }
  const place = await begun();
  const send = async (): Promise<number> => (await fetch(place, { method: 'PATCH', headers, body: 'trams' })).status;
  // Asked where nothing lies, so that what is let in changes nothing.
  const offset = async (): Promise<string | null> => (await fetch(place, { method: 'HEAD', headers: TUS })).headers.get('upload-offset');
  await until(async () => (await send()) === 429);
  const before = await offset();
  held.forEach((sending) => sending.destroy());
  if (before === '0') await until(async () => (await send()) === 204);
  expect(await offset()).toBe('5');
});
