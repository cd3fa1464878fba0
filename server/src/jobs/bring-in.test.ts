/** An import while the database goes away, at each of its questions in turn. */
import { copyFile, mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { eq } from 'drizzle-orm';
import { connect, type Database } from '../db/client';
import { media } from '../db/schema';
import { Newsroom } from '../newsroom';
import { MediaStore } from '../store/media-store';
import { TestServer } from '../testing';
import { bringIn } from './bring-in';
import { Presence } from './presence';
import { Turns } from './turns';

const under = new TestServer(`bring_in_test_${process.pid}`);
let open: ReturnType<typeof connect>;
beforeAll(async () => {
  await under.up();
  // What is imported here is imported by the test alone.
  await under.stop();
  open = connect(under.databaseUrl);
});
afterAll(async () => {
  await open.close();
  await under.down();
});

/** A question to a database that is away, whatever is asked. */
function unanswered(): unknown {
  const away = (): Promise<never> => Promise.reject(Object.assign(new Error('away'), { code: 'ECONNREFUSED' }));
  const question: unknown = new Proxy(() => undefined, {
    get: (_, key) =>
      key === 'then' ? (...then: Parameters<Promise<never>['then']>) => away().then(...then) : key === 'catch' ? (f: () => void) => away().catch(f) : () => question,
  });
  return question;
}

/** A database that answers all questions but one. @param n which, from 0 */
function lacking(db: Database, n: number): { db: Database; asked: () => number } {
  let asked = 0;
  const faulty = new Proxy(db, {
    get: (target, key) => {
      const real: unknown = Reflect.get(target, key);
      if (key !== 'select' && key !== 'update') return real;
      return (...args: unknown[]): unknown => (asked++ === n ? unanswered() : (real as (...all: unknown[]) => unknown).apply(target, args));
    },
  });
  return { db: faulty, asked: () => asked };
}

test('the database away at any one question of an import: once it is back the footage is there', async () => {
  const { db } = open;
  const store = new MediaStore(under.media);
  const clip = join(under.folder, 'night.mp4');
  await under.clip(['-f', 'lavfi', '-i', 'testsrc2=s=64x36:r=10:d=1'], 'night.mp4');
  /** Imports with a database that does not answer the nth question. @returns how many were asked */
  const without = async (n: number): Promise<number> => {
    const [row] = await db.insert(media).values({ name: 'night.mp4', bytes: 1, original: 'original.mp4' }).returning();
    const { id } = row!;
    await mkdir(store.folder(id), { recursive: true });
    await copyFile(clip, join(store.folder(id), 'original.mp4'));
    const presence = new Presence(db, 'test', 1);
    const tools = { store, news: new Newsroom(), presence, signal: new AbortController().signal, free: () => undefined, wake: () => undefined, turns: new Turns() };
    const fault = lacking(db, n);
    const work = bringIn(id, { ...tools, db: fault.db });
    // Where it cannot even be begun it still waits, for whoever looks next.
    if (n === 0) {
      await expect(work).rejects.toThrow('away');
      await bringIn(id, { ...tools, db });
    } else await work;
    const [there] = await db.select().from(media).where(eq(media.id, id));
    expect([n, there!.state, there!.error]).toEqual([n, 'ready', null]);
    return fault.asked();
  };
  await without(0);
  const all = await without(1);
  for (let n = 2; n < all; n++) await without(n);
  // It asks when it begins, what it is, whether it is a plate, and when it is ready, at the least.
  expect(all).toBeGreaterThanOrEqual(4);
});
