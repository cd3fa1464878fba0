import type { Router } from 'express';
import { and, desc, eq, inArray, isNull, lt, sql } from 'drizzle-orm';
import { filmName, isImages, isUnderWay, nameBy, PRINT_CODINGS, UNDER_WAY, USUAL_NAME, type PrintSettings, type PrintState } from '@tin-ghost/contract';
import { ROUTES } from '@tin-ghost/contract/routes';
import { preparedFrames, preparedSize } from '@tin-ghost/core';
import { framesAt, printSize } from '@tin-ghost/media';
import type { Context } from '../../context';
import { media, printParts, printSegments, prints, reels, shots, type Print, type Shot } from '../../db/schema';
import { notFound, Refusal } from '../../refusal';
import { StoreAwayError } from '../../store/away';
import { newsOf } from '../../jobs/claims';
import { printFileName } from '../../jobs/print-name';
import { checkCoding } from '../print-order';
import { serve } from '../serve';
import { idOf } from '../validate';

export function printRoutes(router: Router, { db, store, jobs, news, footage }: Context): void {
  const find = async (id: unknown): Promise<Print> => {
    const [print] = await db
      .select()
      .from(prints)
      .where(eq(prints.id, idOf(id, 'print')));
    if (!print) throw notFound('print');
    return print;
  };

  serve(router, ROUTES.listPrints, () => db.select().from(prints).orderBy(desc(prints.createdAt)));

  /** Shots with their footage, in the order asked for; each must be there and have come in. */
  const ready = async (ids: readonly string[]) => {
    const rows = await db
      .select({ shot: shots, medium: media, reel: reels })
      .from(shots)
      .innerJoin(media, eq(media.id, shots.mediaId))
      .innerJoin(reels, eq(reels.id, shots.reelId))
      .where(inArray(shots.id, [...ids]));
    return ids.map((id) => {
      const row = rows.find(({ shot }) => shot.id === id);
      if (!row) throw notFound('shot');
      if (row.medium.state !== 'ready' || !row.medium.footage) throw new Refusal('not-ready', `the footage of ${row.shot.name} is not ready yet`);
      return { ...row, known: row.medium.footage };
    });
  };

  /** Of a shot among those of its reel, from 0. */
  const placeOf = ({ reelId, position }: Pick<Shot, 'reelId' | 'position'>): Promise<number> =>
    db.$count(shots, and(eq(shots.reelId, reelId), lt(shots.position, position), isNull(shots.discardedAt)));

  serve(router, ROUTES.orderPrint, async ({ body: order }) => {
    const ranged = order.following?.length ? (['from', 'to'] as const).filter((end) => order[end] !== undefined) : [];
    if (ranged.length)
      throw new Refusal(
        'invalid',
        'a film has each of its shots whole; a range is that of a single shot',
        ranged.map((path) => ({ path, message: 'is not taken for a film' })),
      );
    const [first, ...following] = await ready([order.shotId, ...(order.following ?? [])]);
    const { shot, medium, known, reel } = first!;
    const { preparation } = shot;
    const frames = preparedFrames(known.frames, preparation);
    const from = order.from ?? 0;
    const to = order.to ?? frames;
    if (from >= to || to > frames)
      throw new Refusal('invalid', `the range ${from} to ${to} does not lie within the ${frames} pictures of the shot`, [
        { path: 'to', message: `must lie above from and be at most ${frames}` },
      ]);
    const own = preparedSize(known, preparation);
    const total = following.reduce((sum, part) => sum + framesAt(part.known, known.rate, part.shot.preparation), to - from);
    const coding = order.coding ?? PRINT_CODINGS[order.format][0];
    const size = printSize(order.width ?? own.width, order.height ?? own.height, coding);
    checkCoding({ ...order, coding, ...size }, total, [first!, ...following]);
    const { format, bits, ground, firstNumber, sound = true, bitRate, quality = 'deliver' } = order;
    const kept = bitRate === undefined ? { quality } : { bitRate };
    const chosen = { ...(order.coding && { coding }), ...(bits && { bits }), ...(ground && { ground }) };
    const settings: PrintSettings = { format, ...chosen, ...(isImages(format) && { firstNumber: firstNumber ?? from + 1 }), ...kept, ...size, from, to, sound };
    const pattern = order.name ?? (following.length ? undefined : USUAL_NAME);
    const name =
      pattern === undefined ? filmName(reel.name, 1 + following.length) : nameBy(pattern, { reel: reel.name, place: await placeOf(shot), shot: shot.name, look: shot.look.name });
    const print = await db.transaction(async (tx) => {
      const [row] = await tx
        .insert(prints)
        .values({ shotId: following.length ? null : shot.id, mediaId: medium.id, name, shots: 1 + following.length, look: shot.look, preparation, settings, total })
        .returning();
      if (following.length)
        await tx
          .insert(printParts)
          .values(following.map((part, i) => ({ printId: row!.id, position: i, mediaId: part.medium.id, look: part.shot.look, preparation: part.shot.preparation })));
      return row!;
    });
    jobs.wake();
    news.tell(newsOf(print));
    return print;
  });

  serve(router, ROUTES.readPrint, ({ params }) => find(params.id));

  serve(router, ROUTES.readPrintFile, async ({ params, query, response }) => {
    const print = await find(params.id);
    if (print.state !== 'done') throw new Refusal('not-ready', 'the print is not finished');
    const options = { dotfiles: 'allow' } as const;
    const path = await store.finishedPrint(print);
    if (query.watch !== undefined) response.sendFile(path, options);
    else response.download(path, printFileName(print), options);
  });

  serve(router, ROUTES.readPrintPoster, async ({ params, response }) => {
    const print = await find(params.id);
    if (print.state !== 'done') throw new Refusal('not-ready', 'the print is not finished');
    if (print.settings.format === 'wav') throw notFound('still');
    const [medium] = await db.select().from(media).where(eq(media.id, print.mediaId));
    const { num, den } = medium?.footage?.rate ?? { num: 24, den: 1 };
    const file = await store.printPoster(print, (print.total * den) / num);
    response.type('image/jpeg').sendFile(file, { immutable: true, maxAge: '1y', dotfiles: 'allow' });
  });

  /** Changes a print that is in one of some states, and tells of it. @throws Refusal `not-found`, or `wrong-state` with the words given */
  const change = async (id: unknown, from: readonly PrintState[], set: Partial<Record<keyof Print, unknown>>, otherwise: string): Promise<Print> => {
    const print = await find(id);
    const [changed] = await db
      .update(prints)
      .set(set as Partial<Print>)
      .where(and(eq(prints.id, print.id), inArray(prints.state, [...from])))
      .returning();
    if (!changed) throw new Refusal('wrong-state', otherwise);
    news.tell(newsOf(changed));
    jobs.wake();
    return changed;
  };

  /** Ends what is being made of a print, and removes what was. */
  const abandon = async (print: Print): Promise<void> => {
    await db.delete(printSegments).where(eq(printSegments.printId, print.id));
    await jobs.cancel(print.id);
    // While the store is away they stay there, until the hourly sweep.
    await store.dropSegments(print.id).catch((error: unknown) => {
      if (!(error instanceof StoreAwayError)) throw error;
    });
  };

  serve(router, ROUTES.stopPrint, async ({ params }) => {
    const ended = { state: 'stopped', perSecond: 0, secondsLeft: 0, error: null, finishedAt: new Date().toISOString() };
    const stopped = await change(params.id, UNDER_WAY, ended, 'the print is no longer being struck');
    // Whoever strikes it again at once must not have its new segments removed.
    await abandon(stopped);
    return stopped;
  });

  serve(router, ROUTES.pausePrint, ({ params }) =>
    change(params.id, ['waiting', 'striking'], { state: 'paused', perSecond: 0, secondsLeft: 0 }, 'only a print that waits or is being struck can be paused'),
  );

  serve(router, ROUTES.resumePrint, ({ params }) => change(params.id, ['paused'], { state: 'waiting' }, 'the print is not paused'));

  serve(router, ROUTES.printNext, async ({ params }) => {
    const next = await change(params.id, UNDER_WAY, { priority: sql`(select max(priority) + 1 from prints)` }, 'the print is no longer being struck');
    jobs.wake();
    return next;
  });

  const NOT_ENDED = 'only a print that failed or was stopped can be struck again';
  serve(router, ROUTES.printAgain, async ({ params }) => {
    const print = await find(params.id);
    if (isUnderWay(print.state) || print.state === 'done') throw new Refusal('wrong-state', NOT_ENDED);
    // What is made of one that failed is not made again.
    await db.update(printSegments).set({ fails: 0, losses: 0, notBefore: null, jobId: null }).where(eq(printSegments.printId, print.id));
    return change(
      print.id,
      ['failed', 'stopped'],
      {
        state: 'waiting',
        done: sql`(select coalesce(sum(s.done), 0)::int from print_segments s where s.print_id = ${print.id} and s.kind = 'wear')`,
        error: null,
        finishedAt: null,
      },
      NOT_ENDED,
    );
  });

  serve(router, ROUTES.deletePrint, async ({ params }) => {
    const print = await find(params.id);
    const parts = await db.select({ mediaId: printParts.mediaId }).from(printParts).where(eq(printParts.printId, print.id));
    await db.delete(prints).where(eq(prints.id, print.id));
    await abandon(print);
    await store.dropPrint(print);
    await footage.discardUnused([print, ...parts].map(({ mediaId }) => mediaId));
  });
}
