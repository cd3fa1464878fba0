/**
 * A bounded, reproducible run of what nobody should send: every route with parts of addresses and bodies that are nearly right, and files that are not
 * what they say. Nothing ends in an error of the server's own, every answer is one that is described, nothing hangs, and no process is left.
 */
import { spawnSync } from 'node:child_process';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { EMPTY_LOOK, shippedLooks } from '@tin-ghost/core';
import { ROUTES, type Route, type RouteName } from '@tin-ghost/contract/routes';
import { TestServer } from '../testing';

const under = new TestServer(`fuzz_test_${process.pid}`);
let reel: string;
let shot: string;
let medium: string;
beforeAll(async () => {
  await under.up();
  reel = await under.newReel();
  await under.send(await under.aClip(), { filename: 'a.mp4', reel });
  const [first] = await under.settled(reel);
  [shot, medium] = [first.id, first.medium.id];
});
afterAll(() => under.down());

/** Random numbers from a seed (xorshift): the same course every time. */
function course(seed: number): () => number {
  let x = seed;
  return () => {
    x ^= x << 13;
    x ^= x >>> 17;
    x ^= x << 5;
    return (x >>> 0) / 4_294_967_296;
  };
}
const pick = <T>(random: () => number, from: readonly T[]): T => from[Math.floor(random() * from.length)]!;

const ODD_TEXTS = [
  '',
  ' ',
  '0',
  '-1',
  '1e999',
  'null',
  '../../etc/passwd',
  '..%2f',
  '%00',
  'a\u0000b',
  '\ud800',
  '🚋'.repeat(400),
  'x'.repeat(5000),
  "'; drop table shots; --",
  '{}',
  '[]',
  '<script>',
];
const ODD_VALUES: readonly unknown[] = [
  null,
  true,
  0,
  -1,
  0.5,
  1e308,
  Number.MAX_SAFE_INTEGER,
  [],
  {},
  [[[[]]]],
  { constructor: 1 },
  JSON.parse('{"__proto__":{"a":1}}'),
  ...ODD_TEXTS,
];

/** A value of JSON with one of its parts changed, left out or doubled. */
function bent(value: unknown, random: () => number): unknown {
  if (Array.isArray(value)) {
    if (value.length === 0 || random() < 0.3) return pick(random, [[...value, ...value, pick(random, ODD_VALUES)], pick(random, ODD_VALUES), []]);
    const at = Math.floor(random() * value.length);
    return value.map((inner, i) => (i === at ? bent(inner, random) : inner));
  }
  if (typeof value === 'object' && value !== null) {
    const keys = Object.keys(value);
    if (keys.length === 0 || random() < 0.15) return pick(random, [pick(random, ODD_VALUES), { ...value, [pick(random, ODD_TEXTS)]: pick(random, ODD_VALUES) }]);
    const key = pick(random, keys);
    const { [key]: inner, ...rest } = value as Record<string, unknown>;
    return random() < 0.2 ? rest : { ...value, [key]: bent(inner, random) };
  }
  return pick(random, ODD_VALUES);
}

/** Bytes of a file with some of them changed, cut off or put in. */
function bentBytes(bytes: Buffer, random: () => number): Buffer {
  const made = Buffer.from(bytes);
  for (let i = 0; i < 1 + random() * 20 && made.length; i++) made[Math.floor(random() * made.length)] = Math.floor(random() * 256);
  return random() < 0.4 ? made.subarray(0, Math.floor(random() * made.length)) : made;
}

const CUBE = Buffer.from(`TITLE "Night"\nLUT_3D_SIZE 2\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n${'0 0 0\n1 0 0\n0 1 0\n1 1 0\n0 0 1\n1 0 1\n0 1 1\n1 1 1\n'}`);

/** A body that is right. */
const bodies = (): Partial<Record<RouteName, unknown>> => ({
  makeReel: { name: 'Line 14' },
  renameReel: { name: 'Line 14' },
  orderReel: { shots: [shot] },
  layCut: { shots: [{ from: shot, name: 'x', preparation: {} }] },
  renameShot: { name: 'Arrival' },
  changeLook: { look: pickLook(), preparation: { speed: 0.5 }, revision: 0 },
  storeLook: pickLook(),
  renameLook: { name: 'Mine' },
  addCard: { upper: [0.2, 0, 0], lower: [0, 0, 0.4], seconds: 1, width: 96, height: 54, rate: { num: 25, den: 1 } },
  orderPrint: { shotId: shot, format: 'mp4', width: 64, height: 36, from: 0, to: 2 },
  makeSequence: { reel, name: 'img', uploads: ['a'] },
  renameReference: { name: 'Reference' },
  beginSession: { password: 'none' },
});
let looked = 0;
const pickLook = () => [EMPTY_LOOK, ...shippedLooks.map(({ look }) => look)][looked++ % (shippedLooks.length + 1)]!;

const PER_ROUTE = 24;

test.each(Object.keys(ROUTES).filter((name) => name !== 'followNews') as RouteName[])(
  '%s takes nothing amiss',
  async (name) => {
    const route: Route = ROUTES[name];
    const random = course(1 + [...name].reduce((sum, letter) => sum * 31 + letter.charCodeAt(0), 7));
    for (let i = 0; i < PER_ROUTE; i++) {
      const known = route.path.startsWith('/media') ? medium : route.path.startsWith('/shots') ? shot : reel;
      // What is there is left alone: the other routes need it.
      const ids = route.method === 'DELETE' ? ODD_TEXTS : [known, known, ...ODD_TEXTS];
      const path = route.path.replace(/:\w+/g, () => encodeURIComponent(pick(random, ids).replace(/[\ud800-\udfff]/g, '?')) || '-');
      const body = route.body ? JSON.stringify(bent(bodies()[name] ?? {}, random)) : route.text ? bentBytes(CUBE, random).toString('latin1') : undefined;
      const answer = route.bytes
        ? await fetch(`${under.address}/api${path}`, { method: route.method, body: new Uint8Array(bentBytes(CUBE, random)) }).then(({ status }) => ({ status, body: undefined }))
        : await under.call(route.method, path, body).catch((error: Error) => ({ status: 0, body: error.message }));
      expect([name, path, body, answer.status, answer.status >= 500 || answer.status === 0 ? answer.body : undefined]).toEqual([name, path, body, answer.status, undefined]);
    }
  },
  60_000,
);

test('files that are not what they say fail with their reason, and nothing is left running', async () => {
  const random = course(14);
  const [clip, still] = [await under.aClip(), await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=61x41', '-frames:v', '1'], 'still.png')];
  const into = await under.newReel();
  for (let i = 0; i < 8; i++) {
    const [bytes, ending] = pick(random, [
      [clip, 'mp4'],
      [still, 'png'],
      [still, 'zip'],
      [clip, pick(random, ['mkv', 'gif', 'cube', 'txt', ''])],
    ] as const);
    await under.send(bentBytes(bytes, random), { filename: `f${i}.${ending}`, reel: into });
  }
  for (const { medium: one } of await under.settled(into)) {
    expect(['ready', 'failed']).toContain(one.state);
    if (one.state === 'failed') expect(one.error).not.toMatch(/unforeseen/);
  }
  expect((await under.call('GET', '/health')).status).toBe(200);
  expect(spawnSync('pgrep', ['-P', String(process.pid), '-f', 'ffmpeg|ffprobe'], { encoding: 'utf8' }).stdout).toBe('');
});
