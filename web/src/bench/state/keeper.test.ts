import { afterEach, beforeEach, describe, expect, jest, test } from '@jest/globals';
import { EMPTY_LOOK, type Look } from '@tin-ghost/core';
import { draftOf, Keeper, type Keeping, type Work } from './keeper';

const SHOT = { id: 'shot', reelId: 'reel' };
const work = (name: string): Work => ({ look: { ...EMPTY_LOOK, name }, preparation: {}, versions: [] });

/** What the server was sent, and what it answers next. */
let sent: { method: string; url: string; body?: { look: Look; revision: number } }[];
let answers: (() => Response | Promise<Response>)[];
let stored: Map<string, string>;
/** Characters that the browser's store takes for one thing. */
let room: number;
let told: Keeping[];
let keeper: Keeper;

/** Its JSON is read here: what Node's own reading makes has other constructors than this test's objects, and equals none of them. */
const answer = (status: number, body: unknown) => (): Response =>
  Object.assign(new Response(JSON.stringify(body), { status }), { json: async () => JSON.parse(JSON.stringify(body)) as unknown });
const away = (): Promise<Response> => Promise.reject(new TypeError('fetch failed'));
const put = () => sent.filter(({ method }) => method === 'PUT').map(({ body }) => body);
const states = (): string[] => told.map((k) => k.state);
const pass = (ms: number): Promise<void> => jest.advanceTimersByTimeAsync(ms);

beforeEach(() => {
  jest.useFakeTimers();
  [sent, answers, stored, room, told] = [[], [], new Map(), Infinity, []];
  globalThis.localStorage = {
    getItem: (key: string) => stored.get(key) ?? null,
    setItem: (key: string, value: string) => {
      if (value.length > room) throw new DOMException('full', 'QuotaExceededError');
      stored.set(key, value);
    },
    removeItem: (key: string) => void stored.delete(key),
  } as unknown as Storage;
  globalThis.fetch = (async (url: string, init: RequestInit) => {
    sent.push({ method: init.method!, url, body: init.body ? JSON.parse(init.body as string) : undefined });
    return answers.length ? answers.shift()!() : answer(200, { revision: 100 + sent.length })();
  }) as typeof fetch;
  keeper = new Keeper(SHOT, 7, (keeping) => told.push(keeping));
});
afterEach(() => void jest.useRealTimers());

describe('a change', () => {
  test('is in the browser at once, with the server when the hand rests, and then only there', async () => {
    keeper.keep(work('a'));
    expect(draftOf('shot')).toMatchObject({ look: { name: 'a' }, revision: 7 });
    await pass(200);
    keeper.keep(work('b'));
    await pass(200);
    expect(sent).toHaveLength(0);
    await pass(300);
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({ method: 'PUT', url: '/api/shots/shot/look', body: { look: { name: 'b' }, revision: 7 } });
    expect(states()).toEqual(['keeping', 'keeping', 'kept']);
    expect(draftOf('shot')).toBeNull();
  });

  test('made while another is on its way is sent on top of it', async () => {
    let land = (_: Response): void => undefined;
    answers.push(() => new Promise<Response>((resolve) => (land = resolve)));
    keeper.keep(work('a'));
    await pass(400);
    keeper.keep(work('b'));
    await pass(400);
    expect(sent).toHaveLength(1);
    land(answer(200, { revision: 8 })());
    await pass(1000);
    expect(sent[1]!.body).toMatchObject({ look: { name: 'b' }, revision: 8 });
    expect(states().at(-1)).toBe('kept');
  });

  test('that the server does not get is held, tried again, and kept when it answers', async () => {
    answers.push(away, answer(500, { error: { message: 'the disk is full' } }));
    keeper.keep(work('a'));
    await pass(500);
    expect(told.at(-1)).toMatchObject({ state: 'held', why: expect.stringContaining('does not answer') });
    expect(draftOf('shot')).toMatchObject({ look: { name: 'a' } });
    await pass(3000);
    expect(told.at(-1)).toEqual({ state: 'held', why: 'the disk is full' });
    await pass(3000);
    expect(states().at(-1)).toBe('kept');
    expect(sent).toHaveLength(3);
    expect(draftOf('shot')).toBeNull();
  });

  test('that the server refuses says where', async () => {
    answers.push(answer(400, { error: { message: 'no', problems: [{ path: 'lives[0].traits[0].settings.size', message: 'must be a number' }] } }));
    keeper.keep(work('a'));
    await pass(500);
    expect(told.at(-1)).toEqual({ state: 'held', why: 'lives[0].traits[0].settings.size must be a number' });
  });

  test('made elsewhere in the meantime is not overwritten until one is chosen', async () => {
    answers.push(answer(409, { error: { code: 'changed-elsewhere', message: 'changed' } }), answer(200, { revision: 9, look: work('theirs').look, preparation: {} }));
    keeper.keep(work('mine'));
    await pass(500);
    expect(told.at(-1)).toMatchObject({ state: 'contested', revision: 9, work: { look: { name: 'theirs' } } });
    await pass(20_000);
    expect(sent.filter((s) => s.method === 'PUT')).toHaveLength(1);
    expect(draftOf('shot')).toMatchObject({ look: { name: 'mine' } });
    keeper.rebase(9);
    keeper.keep(work('mine'));
    await pass(500);
    expect(sent.at(-1)!.body).toMatchObject({ look: { name: 'mine' }, revision: 9 });
  });

  describe('whose answer never came', () => {
    const elsewhere = (stored: Work): (() => Response)[] => [answer(409, { error: { code: 'changed-elsewhere', message: 'changed' } }), answer(200, { ...stored, revision: 8 })];

    /** One change goes and nobody answers, then another; the server has something by now. */
    async function twoChanges(stored: Work): Promise<void> {
      answers.push(away, ...elsewhere(stored));
      keeper.keep(work('a'));
      await pass(500);
      keeper.keep(work('b'));
      await pass(5000);
    }

    test('is known as one’s own when the next is sent', async () => {
      await twoChanges(work('a'));
      expect(put().at(-1)).toMatchObject({ look: { name: 'b' }, revision: 8 });
      expect(states()).not.toContain('contested');
      expect(states().at(-1)).toBe('kept');
      expect(draftOf('shot')).toBeNull();
    });

    test('is known as one’s own by the page that opens the shot next', async () => {
      answers.push(() => new Promise<Response>(() => undefined));
      keeper.keep(work('a'));
      await pass(500);
      keeper.keep(work('b'));
      const draft = draftOf('shot')!;
      expect(draft).toMatchObject({ look: { name: 'b' }, revision: 7, sent: [{ look: { name: 'a' } }] });
      answers.push(...elsewhere(work('a')));
      keeper = new Keeper(SHOT, 7, (keeping) => told.push(keeping), draft.sent);
      keeper.keep(work('b'));
      await pass(5000);
      expect(put().at(-1)).toMatchObject({ look: { name: 'b' }, revision: 8 });
      expect(states()).not.toContain('contested');
    });

    test('does not make another’s change one’s own', async () => {
      await twoChanges(work('theirs'));
      expect(told.at(-1)).toMatchObject({ state: 'contested', work: { look: { name: 'theirs' } } });
    });
  });

  test('that has an answer leaves a draft on top of it while the next waits', async () => {
    let land = (_: Response): void => undefined;
    answers.push(() => new Promise<Response>((resolve) => (land = resolve)));
    keeper.keep(work('a'));
    await pass(400);
    keeper.keep(work('b'));
    land(answer(200, { revision: 8 })());
    await pass(0);
    expect(draftOf('shot')).toMatchObject({ look: { name: 'b' }, revision: 8, sent: [] });
  });

  test('is sent at once when the page goes', async () => {
    keeper.keep(work('a'));
    keeper.flush();
    await pass(0);
    expect(sent).toHaveLength(1);
  });

  test('is kept alone where the browser’s store has no room for what was sent before', async () => {
    answers.push(away);
    keeper.keep(work('a'));
    room = stored.get('tin-ghost/draft/shot')!.length;
    await pass(500);
    keeper.keep(work('b'));
    expect(draftOf('shot')).toMatchObject({ look: { name: 'b' }, sent: [] });
  });

  test('reaches the server even where the browser keeps nothing', async () => {
    room = 0;
    keeper.keep(work('a'));
    await pass(500);
    expect(sent).toHaveLength(1);
    expect(states().at(-1)).toBe('kept');
  });
});

test('a draft that is no JSON, or none, is no draft; an old one without a preparation or versions has empty ones', () => {
  expect(draftOf('shot')).toBeNull();
  stored.set('tin-ghost/draft/shot', '{broken');
  expect(draftOf('shot')).toBeNull();
  stored.set('tin-ghost/draft/shot', JSON.stringify({ look: EMPTY_LOOK, revision: 3 }));
  expect(draftOf('shot')).toEqual({ look: EMPTY_LOOK, preparation: {}, versions: [], revision: 3, sent: [] });
});
