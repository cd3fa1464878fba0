/** Every route answers as its description says: each is asked once for what it gives, and for what is not there. All other tests of the server hold its answers against the description, too. */
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { ERROR_STATUS } from '@tin-ghost/contract';
import { ROUTES, type Route, type RouteName } from '@tin-ghost/contract/routes';
import { EMPTY_LOOK, shippedFonts } from '@tin-ghost/core';
import { answered, holdAgainstDescription } from '../described';
import { TestServer, type Answer } from '../testing';

const NOBODY = '00000000-0000-4000-8000-000000000000';
const CUBE = 'LUT_1D_SIZE 2\n0 0 0\n1 1 1\n';

const under = new TestServer(`described_test_${process.pid}`);
beforeAll(() => under.up());
afterAll(() => under.down());
const call = under.call.bind(under);

/** As `call`, for what is no JSON: the head of the answer alone. */
async function head(path: string, init: RequestInit = {}): Promise<Response> {
  const controller = new AbortController();
  const response = await fetch(`${under.address}/api${path}`, { ...init, signal: controller.signal });
  const type = response.headers.get('content-type');
  holdAgainstDescription(init.method ?? 'GET', path, response.status, type, undefined);
  if (type?.includes('event-stream')) controller.abort();
  else await response.arrayBuffer();
  return response;
}

test('every route gives what is described', async () => {
  const { body: reel } = await call('POST', '/reels', { name: 'Line 14' });
  await under.send(await under.aClip(), { filename: 'a.mp4', reel: reel.id });
  const [shot] = await under.settled(reel.id);
  const medium = shot.medium.id as string;
  const card = { upper: [0.2, 0, 0], lower: [0, 0, 0.4], seconds: 1, width: 96, height: 54, rate: { num: 25, den: 1 } };
  const { body: carded } = await call('POST', `/reels/${reel.id}/cards`, card);
  await under.settled(reel.id);
  for (const more of [{ seconds: 61 }, { width: 97 }, { upper: [2, 0, 0] }, { seconds: 60, rate: { num: 1000, den: 1 } }])
    expect((await call('POST', `/reels/${reel.id}/cards`, { ...card, ...more })).status).toBe(400);
  await call('DELETE', `/shots/${carded.shot}`);
  await call('GET', '/reels');
  await call('PATCH', `/reels/${reel.id}`, { name: 'The last night' });
  await call('PUT', `/reels/${reel.id}/order`, { shots: [shot.id] });
  await call('GET', `/shots/${shot.id}`);
  await call('PATCH', `/shots/${shot.id}`, { name: 'Arrival' });
  await call('PUT', `/shots/${shot.id}/look`, { look: EMPTY_LOOK, preparation: { speed: 0.5 }, revision: 0 });
  // A cut of its shots, all or none: the one it is taken from makes way, the others come after.
  const { body: second } = await call('POST', '/reels', { name: 'Cut' });
  // The shelf's order by hand; what is made later stands before it, and no reel is left out.
  const shelf = async (): Promise<string[]> => (await call('GET', '/reels')).body.map(({ name }: { name: string }) => name);
  expect(await shelf()).toEqual(['Cut', 'The last night']);
  expect((await call('PUT', '/reels/order', { reels: [reel.id, second.id] })).status).toBe(204);
  expect(await shelf()).toEqual(['The last night', 'Cut']);
  await call('PATCH', `/reels/${second.id}`, { name: 'Cut' });
  expect(await shelf()).toEqual(['The last night', 'Cut']);
  expect((await call('PUT', '/reels/order', { reels: [reel.id] })).body.error.problems).toEqual([{ path: 'reels', message: 'must name every reel once' }]);
  const { body: third } = await call('POST', '/reels', { name: 'Later' });
  expect(await shelf()).toEqual(['Later', 'The last night', 'Cut']);
  await call('DELETE', `/reels/${third.id}`);
  const laid = [
    {
      from: shot.id,
      name: 'First',
      preparation: { trim: { from: 2, to: 5 } },
      origin: { clip: { OTIO_SCHEMA: 'Clip.1', metadata: { scene: 4 } }, before: [{ name: 'gap' }], comments: ['* BELL'], laid: { name: 'First', trim: { from: 2, to: 5 } } },
    },
    { from: shot.id, name: 'Again', look: { ...EMPTY_LOOK, name: 'Given' }, preparation: {} },
  ];
  const wrong = await call('PUT', `/reels/${second.id}/cut`, { shots: [laid[0], { ...laid[1], preparation: { trim: { from: 0, to: 9999 } } }] });
  expect([wrong.status, wrong.body.error.problems[0].path]).toEqual([400, 'shots[1].preparation.trim.to']);
  expect((await call('GET', `/reels/${second.id}`)).body.shots).toEqual([]);
  expect((await call('PUT', `/reels/${second.id}/cut`, { shots: laid })).status).toBe(204);
  const cutNow = async (): Promise<unknown[]> =>
    (await call('GET', `/reels/${second.id}`)).body.shots.map((one: Answer['body']) => [one.name, one.look.name, one.preparation.trim, one.position, one.medium.id === medium]);
  expect(await cutNow()).toEqual([
    ['First', EMPTY_LOOK.name, { from: 2, to: 5 }, 0, true],
    ['Again', 'Given', undefined, 1, true],
  ]);
  const [firstLaid, again] = (await call('GET', `/reels/${second.id}`)).body.shots;
  const came = async (id: string): Promise<unknown> => {
    const { origin, clips } = (await call('GET', `/reels/${id}/cut`)).body;
    return [origin, ...clips.map((one: Answer['body']) => one.origin)];
  };
  expect(await came(second.id)).toEqual([null, laid[0]!.origin]);
  // A copy does not repeat what stands before the shot; a copy of the reel has all of it.
  const { shot: copied } = (await call('POST', `/shots/${firstLaid.id}/copy`)).body;
  const { before: _before, ...once } = laid[0]!.origin!;
  expect(await came(second.id)).toEqual([null, laid[0]!.origin, once]);
  await call('DELETE', `/shots/${copied}`);
  const whole = { timeline: { OTIO_SCHEMA: 'Timeline.1', metadata: { version: 7 } }, track: 1, after: [{ name: 'gap' }] };
  expect(await came(second.id)).toEqual([null, laid[0]!.origin]);
  await call('PUT', `/reels/${second.id}/cut`, { shots: [{ ...laid[0], from: again.id, name: 'Instead' }], origin: whole });
  const { body: secondCopy } = await call('POST', `/reels/${second.id}/copy`);
  for (const { id } of [second, secondCopy]) expect(await came(id)).toEqual([whole, laid[0]!.origin, laid[0]!.origin]);
  await call('DELETE', `/reels/${secondCopy.id}`);
  expect((await cutNow()).map((row) => (row as unknown[])[0])).toEqual(['Instead', 'First']);
  // As long as a cut can be: more than other requests hold, and than one statement takes.
  const many = Array.from({ length: 1200 }, (_, i) => ({
    from: shot.id,
    name: `Shot ${i}`,
    look: { ...EMPTY_LOOK, seed: i },
    preparation: {},
    origin: { clip: { metadata: { notes: 'x'.repeat(1000) } } },
  }));
  expect((await call('PUT', `/reels/${second.id}/cut`, { shots: many })).status).toBe(204);
  expect(await under.rows(`select count(*)::int as n, max(position) as last from shots where reel_id = '${second.id}' and discarded_at is null`)).toEqual([
    { n: 1202, last: 1201 },
  ]);
  await call('DELETE', `/reels/${second.id}`);
  await call('GET', `/media/${medium}`);
  for (const part of ['proxy', 'poster', 'strip', 'sound', 'frames/3', 'proxy/frames/3']) await head(`/media/${medium}/${part}`);
  await call('GET', `/media/${medium}/peaks`);
  await under.send(Buffer.from('no footage'), { filename: 'bad.mp4', reel: reel.id });
  const failed = (await under.settled(reel.id)).find((s: Answer['body']) => s.medium.state === 'failed');
  expect((await call('POST', `/media/${failed.medium.id}/again`)).status).toBe(200);
  await under.settled(reel.id);

  const { body: look } = await call('POST', '/looks', EMPTY_LOOK);
  await call('GET', '/looks');
  await call('GET', `/looks/${look.id}`);
  await call('PATCH', `/looks/${look.id}`, { name: 'Renamed' });
  await call('DELETE', `/looks/${look.id}`);

  await under.send(await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=64x48', '-frames:v', '1'], 'real.png'), { filename: 'real.png', reel: reel.id, as: 'reference' });
  const [reference] = (await call('GET', `/references?reel=${reel.id}`)).body;
  await call('PATCH', `/references/${reference.id}`, { name: 'The real thing' });
  await call('DELETE', `/references/${reference.id}`);
  // Without a reel it is one of all reels, and one's own all the same.
  await under.send(await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=64x48', '-frames:v', '1'], 'all.png'), { filename: 'all.png', as: 'reference' });
  const ofAll = (await call('GET', `/references?reel=${reel.id}`)).body.find(({ name }: { name: string }) => name === 'all');
  expect(ofAll).toMatchObject({ reelId: null, shipped: false });
  expect((await call('DELETE', `/references/${ofAll.id}`)).status).toBe(204);

  await under.send(await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=64x48', '-frames:v', '1'], 'plate.png'), { filename: 'plate.png', as: 'plate' });
  const [plate] = (await call('GET', '/plates')).body;
  await call('PATCH', `/plates/${plate.id}`, { name: 'Mine' });
  await call('DELETE', `/plates/${plate.id}`);

  const table = await head('/tables?name=a.cube', { method: 'POST', body: CUBE, headers: { 'content-type': 'text/plain' } });
  expect(table.status).toBe(201);
  const [kept] = (await call('GET', '/tables')).body;
  await head(`/tables/${kept.id}`);

  const font = await head('/fonts?name=mono.woff', {
    method: 'POST',
    body: new Uint8Array(await readFile(createRequire(import.meta.url).resolve(shippedFonts[0]!.file))),
    headers: { 'content-type': 'font/woff' },
  });
  expect(font.status).toBe(201);
  const own = (await call('GET', '/fonts')).body.find((f: { shipped: boolean }) => !f.shipped);
  await head(`/fonts/${own.id}`);

  const { body: print } = await call('POST', '/prints', { shotId: shot.id, format: 'webm' });
  await call('GET', '/prints');
  await call('GET', `/prints/${print.id}`);
  for (const way of ['pause', 'next', 'resume', 'stop']) expect((await call('POST', `/prints/${print.id}/${way}`)).status).toBe(200);
  expect((await call('GET', '/machines')).body).toEqual([expect.objectContaining({ doing: expect.any(Array) })]);
  expect((await call('POST', `/prints/${print.id}/again`)).status).toBe(200);
  expect((await under.printEnd(print.id)).state).toBe('done');
  await head(`/prints/${print.id}/file`);
  await head(`/prints/${print.id}/poster`);
  await call('DELETE', `/prints/${print.id}`);

  const uploads: string[] = [];
  for (const n of [1, 2]) uploads.push(await under.send(await under.clip(['-f', 'lavfi', '-i', 'color=s=32x24', '-frames:v', '1'], `${n}.png`), { filename: `${n}.png` }));
  expect((await call('POST', '/uploads/sequence', { reel: reel.id, name: 'Sequence', uploads })).status).toBe(201);
  await head('/events');
  for (const path of ['/session', '/health', '/ready']) expect((await call('GET', path)).status).toBe(200);
  expect((await call('POST', '/session', { password: 'whichever' })).status).toBe(204);
  expect((await call('DELETE', '/session')).status).toBe(204);
  await head('/metrics');
  expect((await call('POST', `/shots/${shot.id}/copy`)).status).toBe(201);
  await call('DELETE', `/shots/${shot.id}`);
  expect((await call('GET', '/bin')).body.shots.map((one: { id: string }) => one.id)).toContain(shot.id);
  expect((await call('POST', `/shots/${shot.id}/restore`)).status).toBe(200);
  expect((await call('POST', `/reels/${reel.id}/copy`)).status).toBe(201);
  await call('DELETE', `/reels/${reel.id}`);
  expect((await call('GET', '/bin')).body.reels).toHaveLength(4);
  expect((await call('POST', `/reels/${reel.id}/restore`)).status).toBe(200);
  await call('DELETE', `/reels/${reel.id}`);
  expect((await call('DELETE', '/bin')).status).toBe(204);
  expect([...answered].sort()).toEqual((Object.keys(ROUTES) as RouteName[]).sort());
});

/** What is right to send, by the last word of the path. */
const RIGHT: Record<string, object> = { order: { shots: [] }, cut: { shots: [{ from: NOBODY, name: 'x', preparation: {} }] }, look: { look: EMPTY_LOOK, revision: 0 } };

describe('what is not there', () => {
  const asked = (Object.values(ROUTES) as Route[]).filter(({ path, method }) => path.includes(':id') && (method !== 'POST' || /(copy|restore)$/.test(path)));
  test.each(asked.map((route) => [`${route.method} ${route.path}`, route] as const))('%s says so, with its code', async (_, { method, path, body }) => {
    const sent = body && (RIGHT[path.split('/').at(-1)!] ?? { name: 'x' });
    for (const id of [NOBODY, 'nonsense']) {
      const answer = await call(method, path.replace(':id', id).replace(':n', '0'), sent);
      expect([answer.status, answer.body.error.code]).toEqual([404, 'not-found']);
    }
  });

  test.each((Object.values(ROUTES) as Route[]).filter(({ body }) => body).map((route) => [`${route.method} ${route.path}`, route] as const))(
    '%s names what is wrong in what was sent',
    async (_, { method, path }) => {
      const answer = await call(method, path.replace(':id', NOBODY), '[1');
      expect([answer.status, answer.body.error.code]).toEqual([400, 'invalid']);
      const list = await call(method, path.replace(':id', NOBODY), [1]);
      expect(list.status).toBe(400);
      expect(list.body.error.problems.length).toBeGreaterThan(0);
    },
  );
});

test('the description is served, and a page that shows it, without anything from elsewhere', async () => {
  const { body } = await call('GET', '/openapi.json');
  expect(body).toMatchObject({ openapi: '3.1.0', info: { title: 'Tin Ghost' } });
  expect(Object.values(body.paths as Record<string, object>).reduce((sum, path) => sum + Object.keys(path).length, 0)).toBe(Object.keys(ROUTES).length);
  const page = await (await fetch(`${under.address}/api/docs`)).text();
  expect([...page.matchAll(/(?:src|spec-url)="([^"]+)"/g)].map(([, url]) => url)).toEqual(['/api/docs/viewer.js', '/api/openapi.json']);
  const viewer = await fetch(`${under.address}/api/docs/viewer.js`);
  expect([viewer.status, viewer.headers.get('content-type')]).toEqual([200, expect.stringContaining('javascript')]);
});

test('an answer that is not as described is found', () => {
  const hold = (status: number, body: unknown) => () => holdAgainstDescription('GET', '/reels', status, 'application/json', body);
  expect(hold(200, [])).not.toThrow();
  expect(hold(200, [{ id: 'x' }])).toThrow('not as described');
  expect(hold(418, {})).toThrow('not described');
  expect(hold(ERROR_STATUS.forbidden, { error: { code: 'not-found', message: 'x', problems: [] } })).toThrow('not as described');
  expect(hold(ERROR_STATUS.forbidden, { error: { code: 'forbidden', message: 'x', problems: [] } })).not.toThrow();
});
