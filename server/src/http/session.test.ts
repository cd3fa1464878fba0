/** A server that others can reach, behind its password; and what it tells of its condition. */
import { request } from 'node:http';
import { networkInterfaces } from 'node:os';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { StartError } from '../refusal';
import { startServer } from '../server';
import { TestServer } from '../testing';

const PASSWORD = 'last tram to the depot';
const under = new TestServer(`session_test_${process.pid}`, { host: '0.0.0.0', password: PASSWORD, names: ['tram.example:443', 'depot.example'] });
let port: number;
beforeAll(async () => {
  await under.up();
  port = Number(new URL(under.address).port);
});
afterAll(() => under.down());

interface Asked {
  readonly method?: string;
  readonly path: string;
  readonly host?: string;
  readonly headers?: Record<string, string>;
  readonly body?: string;
}

/** Asks by any name: what `fetch` sends as host cannot be chosen. */
function ask({ method = 'GET', path, host = `localhost:${port}`, headers = {}, body }: Asked): Promise<{ status: number; cookie?: string; body: string }> {
  return new Promise((resolve, reject) => {
    const asked = request(
      { host: '127.0.0.1', port, method, path: `/api${path}`, headers: { host, ...(body ? { 'content-type': 'application/json' } : {}), ...headers } },
      (response) => {
        let text = '';
        response.setEncoding('utf8').on('data', (more: string) => (text += more));
        response.on('end', () => resolve({ status: response.statusCode!, cookie: response.headers['set-cookie']?.[0], body: text }));
      },
    );
    asked.on('error', reject).end(body);
  });
}
const give = (password: string, headers = {}) => ask({ method: 'POST', path: '/session', body: JSON.stringify({ password }), headers });
const cookieOf = (set: string | undefined): string => set!.split(';')[0]!;

test.each([
  ['0.0.0.0', undefined, /needs TIN_GHOST_PASSWORD/],
  ['::', undefined, /needs TIN_GHOST_PASSWORD/],
  ['127.0.0.1', 'short', /has 5 characters/],
])('does not start on %s with the password %s', async (host, password, words) => {
  const starting = startServer({ databaseUrl: under.databaseUrl, mediaFolder: under.media, migrations: 'server/migrations', port: 0, host, password, pages: () => undefined });
  await expect(starting).rejects.toThrow(StartError);
  await expect(starting).rejects.toThrow(words);
});

describe('without the password', () => {
  test('nothing is told and nothing taken, but for how the server is and what it needs', async () => {
    for (const path of ['/reels', '/prints', '/machines', '/metrics', '/events', '/openapi.json', '/uploads', '/nowhere'])
      for (const method of ['GET', 'POST', 'DELETE']) expect([path, method, (await ask({ method, path })).status]).toEqual([path, method, 401]);
    expect(JSON.parse((await ask({ path: '/session' })).body)).toEqual({ needed: true, open: false });
    expect((await ask({ path: '/health' })).status).toBe(200);
    expect((await ask({ path: '/ready' })).status).toBe(200);
  });

  test('a wrong one is refused, and a cookie that is none, is old, or was made up', async () => {
    expect((await give('the first tram')).status).toBe(401);
    const { cookie } = await give(PASSWORD);
    const [until, code] = /(\d+)\.([0-9a-f]+)/.exec(cookie!)!.slice(1);
    for (const made of ['', `${until}`, `${until}.${'0'.repeat(64)}`, `${Number(until) + 1}.${code}`, `${Date.now() - 1}.${code}`])
      expect((await ask({ path: '/reels', headers: { cookie: `tin-ghost=${made}` } })).status).toBe(401);
  });
});

describe('with the password', () => {
  test('one is in, by a cookie that no page elsewhere and no script can have', async () => {
    const { status, cookie } = await give(PASSWORD);
    expect(status).toBe(204);
    for (const attribute of [/HttpOnly/i, /SameSite=Strict/i, /Path=\//]) expect(cookie).toMatch(attribute);
    const headers = { cookie: `theme=dark; ${cookieOf(cookie)}` };
    expect((await ask({ path: '/reels', headers })).status).toBe(200);
    expect(JSON.parse((await ask({ path: '/session', headers })).body)).toEqual({ needed: true, open: true });
    // The cookie alone does not let a page elsewhere in.
    expect((await ask({ method: 'POST', path: '/reels', body: '{"name":"x"}', headers: { ...headers, origin: 'http://elsewhere.example' } })).status).toBe(403);
    expect((await ask({ method: 'DELETE', path: '/session', headers })).cookie).toMatch(/^tin-ghost=;/);
    // It outlives the server.
    await under.restart();
    port = Number(new URL(under.address).port);
    expect((await ask({ path: '/reels', headers })).status).toBe(200);
  });

  test('too many tries are stopped for a while', async () => {
    const statuses: number[] = [];
    for (let i = 0; i < 14; i++) statuses.push((await give(`try ${i}`)).status);
    expect(new Set(statuses)).toEqual(new Set([401, 429]));
    expect(statuses.filter((status) => status === 401).length).toBeLessThanOrEqual(10);
    expect(statuses.at(-1)).toBe(429);
  });
});

describe('by which names', () => {
  const own = Object.values(networkInterfaces())
    .flatMap((all) => all ?? [])
    .find(({ family }) => family === 'IPv4')!.address;
  test.each([
    ['localhost:PORT', {}, 200],
    [`${own}:PORT`, {}, 200],
    ['depot.example:PORT', {}, 200],
    ['depot.example', {}, 200],
    ['tram.example:443', { origin: 'https://tram.example:443' }, 200],
    ['depot.example:PORT', { origin: 'https://elsewhere.example' }, 403],
    ['tram.example:PORT', {}, 403],
    ['localhost:1', {}, 403],
    ['elsewhere.example:PORT', {}, 403],
    ['127.0.0.1.elsewhere.example:PORT', {}, 403],
  ])('%s with %j: %d', async (host, headers, status) => {
    expect((await ask({ path: '/health', host: host.replace('PORT', String(port)), headers: headers })).status).toBe(status);
  });
});

test('what it measures is there for Prometheus: requests by route, prints by state, who works', async () => {
  const plain = new TestServer(`metrics_test_${process.pid}`);
  await plain.up();
  try {
    const reel = await plain.newReel();
    await plain.call('GET', `/reels/${reel}`);
    await plain.call('GET', '/reels/00000000-0000-4000-8000-000000000000');
    const text = await (await fetch(`${plain.address}/api/metrics`)).text();
    expect(text).toMatch(/tin_ghost_request_seconds_count\{method="GET",route="\/reels\/:id",status="200"\} 1/);
    expect(text).toMatch(/tin_ghost_request_seconds_count\{method="GET",route="\/reels\/:id",status="404"\} 1/);
    expect(text).toMatch(/tin_ghost_workers 1\n/);
    expect(Number(/^tin_ghost_store_free_bytes (\S+)$/m.exec(text)![1])).toBeGreaterThan(0);
    expect(text).not.toContain(reel);
    const answer = await fetch(`${plain.address}/api/reels`);
    expect(answer.headers.get('x-request-id')).toMatch(/^[0-9a-f-]{36}$/);
  } finally {
    await plain.down();
  }
});
