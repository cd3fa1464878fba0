import { rm } from 'node:fs/promises';
import { Router } from 'express';
import Joi from 'joi';
import { and, desc, eq, inArray } from 'drizzle-orm';
import { preparedFrames, preparedSize } from '@tin-ghost/core';
import { printSize } from '@tin-ghost/media';
import type { Context } from '../../context';
import { media, prints, shots, type Print, type PrintSettings } from '../../db/schema';
import { discardUnused } from '../../footage/discard';
import { HttpError, notFound } from '../errors';
import { checked, count, idOf } from '../validate';

interface PrintOrder {
  shotId: string;
  format: PrintSettings['format'];
  width?: number;
  height?: number;
  from?: number;
  to?: number;
  sound?: boolean;
}

const side = Joi.number().integer().min(16).max(8192);
const ORDER = Joi.object<PrintOrder>({
  shotId: Joi.string().uuid().required(),
  format: Joi.string().valid('mp4', 'webm').required(),
  width: side,
  height: side,
  from: count(),
  to: count(1),
  sound: Joi.boolean(),
}).and('width', 'height');

/** A file name for a download: what was shown, without what a file system may refuse. */
const fileName = (print: Print): string => `${print.name.replace(/[^\p{L}\p{N} ._-]+/gu, '_').slice(0, 100)}.${print.settings.format}`;

export function printRoutes(context: Context): Router {
  const { db, store, jobs, news } = context;
  const router = Router();

  const find = async (id: unknown): Promise<Print> => {
    const [print] = await db
      .select()
      .from(prints)
      .where(eq(prints.id, idOf(id, 'print')));
    if (!print) throw notFound('print');
    return print;
  };

  router.get('/', async (_request, response) => {
    response.json(await db.select().from(prints).orderBy(desc(prints.createdAt)));
  });

  router.post('/', async (request, response) => {
    const order = checked(ORDER, request.body);
    const [row] = await db.select({ shot: shots, medium: media }).from(shots).innerJoin(media, eq(media.id, shots.mediaId)).where(eq(shots.id, order.shotId));
    if (!row) throw notFound('shot');
    const { footage } = row.medium;
    if (!footage) throw new HttpError(409, 'the footage of this shot is not ready yet');
    const { preparation } = row.shot;
    const frames = preparedFrames(footage.frames, preparation);
    const from = order.from ?? 0;
    const to = order.to ?? frames;
    if (from >= to || to > frames)
      throw new HttpError(400, `the range ${from} to ${to} does not lie within the ${frames} pictures of the shot`, [
        { path: 'to', message: `must lie above from and be at most ${frames}` },
      ]);
    const own = preparedSize(footage, preparation);
    const size = printSize(order.width ?? own.width, order.height ?? own.height, order.format);
    const settings: PrintSettings = { format: order.format, ...size, from, to, sound: order.sound ?? true };
    const [print] = await db
      .insert(prints)
      .values({ shotId: row.shot.id, mediaId: row.medium.id, name: `${row.shot.name}, ${row.shot.look.name}`, look: row.shot.look, preparation, settings, total: to - from })
      .returning();
    await jobs.strike(print!.id);
    news.tell({ type: 'print', id: print!.id, state: 'waiting', done: 0, total: to - from, perSecond: 0, secondsLeft: 0, error: null });
    response.status(201).json(print);
  });

  router.get('/:id', async (request, response) => {
    response.json(await find(request.params.id));
  });

  router.get('/:id/file', async (request, response) => {
    const print = await find(request.params.id);
    if (print.state !== 'done') throw new HttpError(409, 'the print is not finished');
    const options = { dotfiles: 'allow' } as const;
    if (request.query.watch !== undefined) response.sendFile(store.print(print), options);
    else response.download(store.print(print), fileName(print), options);
  });

  router.post('/:id/stop', async (request, response) => {
    const print = await find(request.params.id);
    const [stopped] = await db
      .update(prints)
      .set({ state: 'stopped', finishedAt: new Date().toISOString() })
      .where(and(eq(prints.id, print.id), inArray(prints.state, ['waiting', 'striking'])))
      .returning();
    if (!stopped) throw new HttpError(409, 'the print is no longer being struck');
    void jobs.cancel(print.id);
    news.tell({ type: 'print', id: print.id, state: 'stopped', done: print.done, total: print.total, perSecond: 0, secondsLeft: 0, error: null });
    response.json(stopped);
  });

  router.post('/:id/again', async (request, response) => {
    const print = await find(request.params.id);
    const [again] = await db
      .update(prints)
      .set({ state: 'waiting', done: 0, error: null, finishedAt: null })
      .where(and(eq(prints.id, print.id), inArray(prints.state, ['failed', 'stopped'])))
      .returning();
    if (!again) throw new HttpError(409, 'only a print that failed or was stopped can be struck again');
    await jobs.strike(print.id);
    response.json(again);
  });

  router.delete('/:id', async (request, response) => {
    const print = await find(request.params.id);
    await db.delete(prints).where(eq(prints.id, print.id));
    await jobs.cancel(print.id);
    await rm(store.print(print), { force: true });
    await discardUnused(context, [print.mediaId]);
    response.status(204).end();
  });

  return router;
}
