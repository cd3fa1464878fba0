import { Router } from 'express';
import Joi from 'joi';
import { Server, type Upload } from '@tus/server';
import { eq } from 'drizzle-orm';
import type { Context } from '../../context';
import { reels } from '../../db/schema';
import { SPARE_BYTES } from '../../store/media-store';
import { asHttp, HttpError, notFound } from '../errors';
import { checked, idOf, nameText } from '../validate';

/**
 * Resumable uploads by the tus protocol. An upload that names a `reel` becomes a shot of it (or, as `reference`, something to hold its
 * shots against) as soon as its last byte is there, whether or not the page is still open; images of one sequence are uploaded without, and then named together.
 */
export function uploadRoutes({ db, store, arrivals }: Context): Router {
  const reelThere = async (id: string): Promise<void> => {
    const [found] = await db.select({ id: reels.id }).from(reels).where(eq(reels.id, id));
    if (!found) throw notFound('reel');
  };
  const tus = new Server({
    path: '/api/uploads',
    relativeLocation: true,
    datastore: arrivals.uploads,
    // Whoever may call this server has been told apart before.
    allowedOrigins: () => false,
    async onUploadCreate(_request, upload) {
      const free = await store.free();
      if ((upload.size ?? 0) + SPARE_BYTES > free)
        throw new HttpError(507, `the disk has ${Math.floor(free / 1e6)} MB free; this file needs ${Math.ceil((upload.size ?? 0) / 1e6)} MB and some room beside it`);
      const reel = upload.metadata?.reel;
      if (reel) await reelThere(idOf(reel, 'reel'));
      return {};
    },
    async onUploadFinish(_request, upload) {
      if (!upload.metadata?.reel) return {};
      const { as, id } = await arrivals.takeUpload(upload.id);
      return { headers: { [`x-${as}`]: id } };
    },
    onResponseError: (_request, error) => {
      // What the protocol itself refuses comes with a status and a body.
      const http = 'status_code' in error ? new HttpError(error.status_code, error.body.trim()) : asHttp(error);
      if (http.status === 500) console.error(error);
      return { status_code: http.status, body: JSON.stringify({ error: { message: http.message, problems: [] } }) };
    },
  });

  const router = Router();

  // Images that were uploaded one by one become one sequence, in the order of their names.
  router.post('/sequence', async (request, response) => {
    const body = checked(
      Joi.object<{ reel: string; name: string; uploads: string[] }>({
        reel: Joi.string().uuid().required(),
        name: nameText(400).required(),
        uploads: Joi.array()
          .items(Joi.string().pattern(/^[0-9a-f]{32}$/))
          .min(2)
          .max(20_000)
          .unique()
          .required(),
      }),
      request.body,
    );
    await reelThere(body.reel);
    const found: Upload[] = [];
    for (const [i, upload] of body.uploads.entries()) {
      const known = await arrivals.uploads.getUpload(upload).catch(() => null);
      if (!known || known.offset !== known.size) throw new HttpError(400, `uploads[${i}] is not there whole`, [{ path: `uploads[${i}]`, message: 'is not there whole' }]);
      found.push(known);
    }
    const shot = await arrivals.takeSequence(body.reel, body.name, found);
    response.status(201).json({ shot });
  });

  router.use((request, response) => {
    // The protocol's own server answers all else below this path and wants to see the whole address.
    request.url = request.originalUrl;
    void tus.handle(request, response);
  });
  return router;
}
