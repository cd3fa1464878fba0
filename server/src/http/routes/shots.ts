import type { Router } from 'express';
import { and, eq, sql } from 'drizzle-orm';
import type { Shot } from '@tin-ghost/contract';
import { ROUTES } from '@tin-ghost/contract/routes';
import { checkLook, checkPreparation, checkTrim, LookError, type Look } from '@tin-ghost/core';
import type { Context } from '../../context';
import { media, reels, shots } from '../../db/schema';
import { copyShot } from '../../footage/copies';
import { notFound, Refusal } from '../../refusal';
import { shotView } from '../../views';
import { serve } from '../serve';
import { idOf } from '../validate';

/** Checks a version of a look; what is wrong with it is told with its place among the versions. */
function versionAt(place: number, kept: unknown): Look {
  try {
    return checkLook(kept);
  } catch (error) {
    if (!(error instanceof LookError)) throw error;
    throw new LookError(error.problems.map((problem) => ({ ...problem, path: `versions[${place}]${problem.path && '.'}${problem.path}` })));
  }
}

export function shotRoutes(router: Router, context: Context): void {
  const { db, bin } = context;
  const find = async (id: string): Promise<Shot> => {
    const [row] = await db.select({ shot: shots, medium: media }).from(shots).innerJoin(media, eq(media.id, shots.mediaId)).where(eq(shots.id, id));
    if (!row) throw notFound('shot');
    return shotView(row.shot, row.medium);
  };

  serve(router, ROUTES.readShot, ({ params }) => find(idOf(params.id, 'shot')));

  serve(router, ROUTES.renameShot, async ({ params, body }) => {
    const id = idOf(params.id, 'shot');
    await db
      .update(shots)
      .set({ name: body.name, touchedAt: sql`now()` })
      .where(eq(shots.id, id));
    return find(id);
  });

  serve(router, ROUTES.changeLook, async ({ params, body }) => {
    const id = idOf(params.id, 'shot');
    const look = checkLook(body.look);
    const preparation = body.preparation === undefined ? undefined : checkPreparation(body.preparation);
    const versions = body.versions?.map((kept, i) => (kept === null ? null : versionAt(i, kept)));
    if (versions && versions.filter((kept) => kept === null).length !== (versions.length ? 1 : 0))
      throw new Refusal('invalid', 'one of the versions is shown, and its place is null', [{ path: 'versions', message: 'must hold null once, or nothing' }]);
    if (preparation?.trim) {
      const { medium } = await find(id);
      if (medium.footage) checkTrim(preparation, medium.footage.frames);
    }
    const [kept] = await db
      .update(shots)
      .set({ look, ...(preparation ? { preparation } : {}), ...(versions ? { versions } : {}), revision: sql`${shots.revision} + 1`, touchedAt: sql`now()` })
      .where(and(eq(shots.id, id), eq(shots.revision, body.revision)))
      .returning({ revision: shots.revision, touchedAt: shots.touchedAt, reelId: shots.reelId });
    if (!kept) {
      await find(id);
      throw new Refusal('changed-elsewhere', 'this shot was changed elsewhere in the meantime');
    }
    await db
      .update(reels)
      .set({ touchedAt: sql`now()` })
      .where(eq(reels.id, kept.reelId));
    return { revision: kept.revision, touchedAt: kept.touchedAt };
  });

  serve(router, ROUTES.deleteShot, ({ params }) => bin.discardShot(idOf(params.id, 'shot')));
  serve(router, ROUTES.restoreShot, async ({ params }) => find(await bin.restoreShot(idOf(params.id, 'shot'))));
  serve(router, ROUTES.copyShot, async ({ params }) => ({ shot: await copyShot(context, idOf(params.id, 'shot')) }));
}
