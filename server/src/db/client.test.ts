/** What a database that goes away leaves behind is told apart from what is wrong with a question. */
import { afterAll, beforeAll, expect, test } from '@jest/globals';
import { sql } from 'drizzle-orm';
import { connect, isDatabaseAway } from './client';

let to: ReturnType<typeof connect>;
beforeAll(() => {
  to = connect(process.env.TEST_DATABASE_URL!);
});
afterAll(() => to.close());

/** Ends the connection that a transaction goes by, from another one. */
async function cut(pid: unknown): Promise<void> {
  await to.db.execute(sql`select pg_terminate_backend(${pid}::int)`);
}
const failing = (work: Promise<unknown>): Promise<unknown> =>
  work.then(
    () => undefined,
    (error: unknown) => error,
  );

test.each(['another question', 'nothing but its end'])('a connection that breaks within a transaction, before %s, means that the database is away', async (before) => {
  const error = await failing(
    to.db.transaction(async (inside) => {
      const { rows } = await inside.execute(sql`select pg_backend_pid() as pid`);
      await cut(rows[0]!.pid);
      if (before === 'another question') await inside.execute(sql`select 1`);
    }),
  );
  expect(error).toBeInstanceOf(Error);
  expect(isDatabaseAway(error)).toBe(true);
  expect((await to.db.execute(sql`select 1 as one`)).rows).toEqual([{ one: 1 }]);
});

test('a database that nobody runs is away; one that does not take a question is not', async () => {
  const none = connect('postgres://nobody@127.0.0.1:9/none');
  expect(isDatabaseAway(await failing(none.db.execute(sql`select 1`)))).toBe(true);
  await none.close();
  for (const wrong of [sql`select no_such_column`, sql`select 1 / 0`]) {
    const error = await failing(to.db.execute(wrong));
    expect(error).toBeInstanceOf(Error);
    expect(isDatabaseAway(error)).toBe(false);
  }
  expect(isDatabaseAway(new Error('the disk is full'))).toBe(false);
});
