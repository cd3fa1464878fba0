import { randomUUID } from 'node:crypto';
import { copyFile, mkdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { shippedLook, type Look } from '@tin-ghost/core';
import type { Context } from './context';
import { facts, reels } from './db/schema';
import { addReference, addShot } from './footage/add';

const SEEDED = 'demo-reel';
const REFERENCES = 'demo-references';

interface DemoReel {
  name: string;
  shots: { file: string; name: string; look: string }[];
  references: { file: string; name: string }[];
}

/** Lays a file of the demo into the store as a medium of its own. */
async function laidIn({ store }: Context, folder: string, file: string) {
  const id = randomUUID();
  const original = store.originalName(file);
  await mkdir(store.folder(id), { recursive: true });
  const target = join(store.folder(id), original);
  await copyFile(join(folder, file), target);
  return { id, name: file, bytes: await store.size(target), original };
}

/** Lays the demo reel and the references in, each once in the life of the database. @param folder of the demo footage and its `reel.json` */
export async function seedDemo(context: Context, folder: string): Promise<void> {
  const { db } = context;
  const done = new Set((await db.select().from(facts)).map((fact) => fact.key));
  if (done.has(SEEDED) && done.has(REFERENCES)) return;
  const demo = JSON.parse(await readFile(join(folder, 'reel.json'), 'utf8')) as DemoReel;
  if (!done.has(SEEDED)) {
    const [reel] = await db.insert(reels).values({ name: demo.name }).returning();
    for (const shot of demo.shots) {
      const look: Look = shippedLook(shot.look)!;
      const medium = await laidIn(context, join(folder, 'footage'), shot.file);
      await addShot(context, reel!.id, medium, look, shot.name);
      await context.jobs.bringIn(medium.id);
    }
    await db.insert(facts).values({ key: SEEDED, value: reel!.id });
  }
  if (!done.has(REFERENCES)) {
    for (const reference of demo.references) {
      const medium = await laidIn(context, join(folder, 'references'), reference.file);
      await addReference(context, null, medium, reference.name);
      await context.jobs.bringIn(medium.id);
    }
    await db.insert(facts).values({ key: REFERENCES, value: String(demo.references.length) });
  }
}
