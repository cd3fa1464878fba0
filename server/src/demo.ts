import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { shippedLook, shippedPlates } from '@tin-ghost/core';
import type { Context } from './context';
import { shippedPlateFile } from '@tin-ghost/media';
import { facts, plates, reels } from './db/schema';

const SEEDED = 'demo-reel';
const REFERENCES = 'demo-references';

interface DemoReel {
  name: string;
  shots: { file: string; name: string; look: string }[];
  references: { file: string; name: string }[];
}

/** Lays the demo reel and the references in, each once in the life of the database. @param folder of the demo footage and its `reel.json` */
export async function seedDemo({ db, footage }: Context, folder: string): Promise<void> {
  const done = new Set((await db.select().from(facts)).map((fact) => fact.key));
  if (done.has(SEEDED) && done.has(REFERENCES)) return;
  const demo = JSON.parse(await readFile(join(folder, 'reel.json'), 'utf8')) as DemoReel;
  if (!done.has(SEEDED)) {
    const [reel] = await db.insert(reels).values({ name: demo.name }).returning();
    for (const shot of demo.shots) {
      const medium = await footage.copyIn(join(folder, 'footage', shot.file));
      await footage.addShot(reel!.id, medium, { look: shippedLook(shot.look), name: shot.name });
      await footage.begin(medium.id);
    }
    await db.insert(facts).values({ key: SEEDED, value: reel!.id });
  }
  if (!done.has(REFERENCES)) {
    for (const reference of demo.references) {
      const medium = await footage.copyIn(join(folder, 'references', reference.file));
      await footage.addReference(null, medium, reference.name, true);
      await footage.begin(medium.id);
    }
    await db.insert(facts).values({ key: REFERENCES, value: String(demo.references.length) });
  }
}

/** Brings in the plates that ship and are not there yet. */
export async function seedPlates({ db, footage }: Context): Promise<void> {
  const known = new Set((await db.select({ shippedAs: plates.shippedAs }).from(plates)).map((row) => row.shippedAs));
  for (const { id, name } of shippedPlates.filter((plate) => !known.has(plate.id))) {
    const medium = await footage.copyIn(shippedPlateFile(id)!);
    await footage.addPlate(medium, name, id);
    await footage.begin(medium.id);
  }
}
