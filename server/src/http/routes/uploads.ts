import { randomUUID } from 'node:crypto';
import { copyFile, mkdir, rename, rm } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { Router } from 'express';
import Joi from 'joi';
import { FileStore } from '@tus/file-store';
import { Server, type Upload } from '@tus/server';
import { eq, sql } from 'drizzle-orm';
import { EMPTY_LOOK, type Look } from '@tin-ghost/core';
import type { Context } from '../../context';
import { media, reels, references, shots } from '../../db/schema';
import { LOOSE } from '../../jobs/bring-in';
import { cleanName } from '../../store/media-store';
import { HttpError, notFound } from '../errors';
import { checked, idOf } from '../validate';

/** A new shot's look: one life, nothing in it yet. */
export const FRESH_LOOK: Look = { ...EMPTY_LOOK, name: 'New look', lives: [{ carrier: 'super8', traits: [] }] };

/** Room that an upload must leave on the disk, for its preview and for the database. */
const SPARE_BYTES = 200_000_000;

/** Puts footage on the end of a reel and starts bringing it in. */
export async function addShot(
  { db, jobs, news }: Context,
  reelId: string,
  medium: { id: string; name: string; bytes: number; original: string },
  look: Look = FRESH_LOOK,
  shotName?: string,
): Promise<string> {
  const shotId = await db.transaction(async (tx) => {
    const [reel] = await tx
      .update(reels)
      .set({ touchedAt: sql`now()` })
      .where(eq(reels.id, reelId))
      .returning();
    if (!reel) throw notFound('reel');
    await tx.insert(media).values(medium);
    const position = sql<number>`(select coalesce(max(position) + 1, 0) from shots where reel_id = ${reelId})`;
    const name = shotName ?? withoutEnding(medium.name);
    const [shot] = await tx.insert(shots).values({ reelId, mediaId: medium.id, position, name, look }).returning();
    return shot!.id;
  });
  await jobs.bringIn(medium.id);
  news.tell({ type: 'reels' });
  return shotId;
}

/** Brings in footage to hold shots against: of a reel, or of all where `reelId` is null. */
export async function addReference(
  { db, jobs, news }: Context,
  reelId: string | null,
  medium: { id: string; name: string; bytes: number; original: string },
  name: string,
): Promise<string> {
  const id = await db.transaction(async (tx) => {
    await tx.insert(media).values(medium);
    const [row] = await tx.insert(references).values({ reelId, mediaId: medium.id, name }).returning();
    return row!.id;
  });
  await jobs.bringIn(medium.id);
  news.tell({ type: 'reels' });
  return id;
}

const withoutEnding = (name: string): string => name.replace(/\.[^.]{1,5}$/, '') || name;

/**
 * Resumable uploads by the tus protocol. An upload that names a `reel` becomes a shot of it (or, as `reference`, something to hold its
 * shots against) as soon as its last byte is there, whether or not the page is still open; images of one sequence are uploaded without, and then named together.
 */
export function uploadRoutes(context: Context): Router {
  const { db, store } = context;
  const datastore = new FileStore({ directory: store.uploads });
  const tus = new Server({
    path: '/api/uploads',
    relativeLocation: true,
    datastore,
    async onUploadCreate(_request, upload) {
      const free = await store.free();
      if ((upload.size ?? 0) + SPARE_BYTES > free)
        throw refusal(507, `the disk has ${Math.floor(free / 1e6)} MB free; this file needs ${Math.ceil((upload.size ?? 0) / 1e6)} MB and some room beside it`);
      const reel = upload.metadata?.reel;
      if (reel) {
        const [found] = await db
          .select({ id: reels.id })
          .from(reels)
          .where(eq(reels.id, idOf(reel, 'reel')));
        if (!found) throw refusal(404, 'there is no such reel');
      }
      return {};
    },
    async onUploadFinish(_request, upload) {
      const reel = upload.metadata?.reel;
      if (!reel) return {};
      const id = randomUUID();
      const name = cleanName(upload.metadata?.filename ?? '');
      const original = store.originalName(name);
      await store.adopt(join(store.uploads, upload.id), id, original);
      const medium = { id, name, bytes: upload.size ?? 0, original };
      const headers: Record<string, string> =
        upload.metadata?.as === 'reference'
          ? { 'x-reference': await addReference(context, reel, medium, withoutEnding(name)) }
          : { 'x-shot': await addShot(context, reel, medium) };
      return { headers };
    },
    onResponseError: (_request, error) => {
      const status = 'status_code' in error ? error.status_code : (error as NodeJS.ErrnoException).code === 'ENOSPC' ? 507 : 500;
      const message = 'body' in error ? error.body.trim() : status === 507 ? 'the disk is full' : 'the upload failed in the server';
      return { status_code: status, body: JSON.stringify({ error: { message, problems: [] } }) };
    },
  });

  const router = Router();

  // Images that were uploaded one by one become one sequence, in the order of their names.
  router.post('/sequence', async (request, response) => {
    const body = checked(
      Joi.object<{ reel: string; name: string; uploads: string[] }>({
        reel: Joi.string().uuid().required(),
        name: Joi.string().min(1).max(400).required(),
        uploads: Joi.array()
          .items(Joi.string().pattern(/^[0-9a-f]{32}$/))
          .min(2)
          .max(20_000)
          .unique()
          .required(),
      }),
      request.body,
    );
    const found: Upload[] = [];
    for (const [i, upload] of body.uploads.entries()) {
      const known = await datastore.getUpload(upload).catch(() => null);
      if (!known || known.offset !== known.size) throw new HttpError(400, `uploads[${i}] is not there whole`, [{ path: `uploads[${i}]`, message: 'is not there whole' }]);
      found.push(known);
    }
    const order = new Intl.Collator('en', { numeric: true });
    found.sort((a, b) => order.compare(a.metadata?.filename ?? '', b.metadata?.filename ?? ''));
    const id = randomUUID();
    const loose = join(store.folder(id), LOOSE);
    await mkdir(loose, { recursive: true });
    for (const [i, upload] of found.entries()) {
      const ending = extname(store.originalName(cleanName(upload.metadata?.filename ?? '')));
      const from = join(store.uploads, upload.id);
      const to = join(loose, `${String(i).padStart(6, '0')}${ending}`);
      await rename(from, to).catch(() => copyFile(from, to));
      await rm(`${from}.json`, { force: true });
    }
    const bytes = found.reduce((sum, upload) => sum + (upload.size ?? 0), 0);
    const shot = await addShot(context, body.reel, { id, name: cleanName(body.name), bytes, original: LOOSE });
    response.status(201).json({ shot });
  });

  router.use((request, response) => {
    // The protocol's own server answers all else below this path and wants to see the whole address.
    request.url = request.originalUrl;
    void tus.handle(request, response);
  });
  return router;
}

const refusal = (status_code: number, body: string): { status_code: number; body: string } => ({ status_code, body });
