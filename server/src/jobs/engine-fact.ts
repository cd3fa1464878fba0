import { eq } from 'drizzle-orm';
import type { Database } from '../db/client';
import { facts, printSegments } from '../db/schema';
import { atRest } from './claims';

/** Which engine prints are made with: that of the server that started last. What another made of prints that are not at their end is made again. */
export async function setEngine(db: Database, engine: string): Promise<void> {
  await db.transaction(async (tx) => {
    const [known] = await tx.select().from(facts).where(eq(facts.key, 'engine')).for('update');
    if (known?.value === engine) return;
    await tx
      .insert(facts)
      .values({ key: 'engine', value: engine })
      .onConflictDoUpdate({ target: facts.key, set: { value: engine } });
    await tx.update(printSegments).set(atRest).where(eq(printSegments.state, 'done'));
  });
}

/** Which engine the server has; undefined where none has started yet. */
export async function engineOf(db: Database): Promise<string | undefined> {
  return (await db.select().from(facts).where(eq(facts.key, 'engine')))[0]?.value;
}
