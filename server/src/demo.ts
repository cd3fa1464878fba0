import { randomUUID } from 'node:crypto';
import { copyFile, mkdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { eq } from 'drizzle-orm';
import { shippedLook, type Look } from '@tin-ghost/core';
import type { Context } from './context';
import { facts, reels } from './db/schema';
import { addShot } from './http/routes/uploads';

const SEEDED = 'demo-reel';

interface DemoReel {
  name: string;
  shots: { file: string; name: string; look: string }[];
}

/** Lays the demo reel in, once in the life of the database. @param folder of the demo footage and its `reel.json` */
export async function seedDemo(context: Context, folder: string): Promise<void> {
  const { db, store } = context;
  const [done] = await db.select().from(facts).where(eq(facts.key, SEEDED));
  if (done) return;
  const demo = JSON.parse(await readFile(join(folder, 'reel.json'), 'utf8')) as DemoReel;
  const [reel] = await db.insert(reels).values({ name: demo.name }).returning();
  for (const shot of demo.shots) {
    const id = randomUUID();
    const original = store.originalName(shot.file);
    await mkdir(store.folder(id), { recursive: true });
    const target = join(store.folder(id), original);
    await copyFile(join(folder, 'footage', shot.file), target);
    const look: Look = shippedLook(shot.look)!;
    await addShot(context, reel!.id, { id, name: shot.file, bytes: await store.size(target), original }, look, shot.name);
  }
  await db.insert(facts).values({ key: SEEDED, value: reel!.id });
}
