import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import pg from 'pg';
import * as schema from './schema';

export type Database = NodePgDatabase<typeof schema>;

/** Connections to the database. A connection that breaks is replaced; it never ends the server. */
export function connect(url: string): { db: Database; pool: pg.Pool; close: () => Promise<void> } {
  const pool = new pg.Pool({ connectionString: url, max: 12, connectionTimeoutMillis: 4000 });
  pool.on('error', () => undefined);
  // Nor one that breaks while it is lent out and nothing is asked: who has it is told at the next question.
  pool.on('connect', (client) => void client.on('error', () => undefined));
  return { db: drizzle(pool, { schema }), pool, close: () => pool.end() };
}

/** Brings the tables up to date. @param folder of the committed migrations */
export const migrateTo = (db: Database, folder: string): Promise<void> => migrate(db, { migrationsFolder: folder });

const LOST = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', '57P01', '57P02', '57P03', '53300', '08006', '08001', '08003']);

/** What the driver says itself, without a code. The third is of a transaction whose connection broke: taking it back fails, and hides what it failed by. */
const GONE = /Connection terminated|timeout (?:exceeded when trying to connect|expired)|is not queryable|not (?:currently|yet) accepting connections/i;

/** Whether an error means that the database is away. */
export function isDatabaseAway(error: unknown): boolean {
  for (let e = error as Partial<NodeJS.ErrnoException & AggregateError> | null | undefined; typeof e === 'object' && e; e = e.cause as typeof e) {
    if (LOST.has(e.code ?? '')) return true;
    if (GONE.test(e.message ?? '')) return true;
    if (e.errors?.some(isDatabaseAway)) return true;
  }
  return false;
}
