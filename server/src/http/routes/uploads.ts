import type { Router } from 'express';
import { Server, type Upload } from '@tus/server';
import { eq } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import type { Context } from '../../context';
import { reels } from '../../db/schema';
import { isWhole } from '../../footage/arrivals';
import { SPARE_BYTES } from '../../store/media-store';
import { log } from '../../log';
import { notFound, Refusal } from '../../refusal';
import { answerOf, asRefusal } from '../errors';
import { serve } from '../serve';
import { idOf } from '../validate';

/** Each holds a file open and writes to the disk; a page sends three. */
export const MOST_AT_ONCE = 24;

/**
 * Resumable uploads by the tus protocol. An upload that names a `reel` becomes a shot of it (or, as `reference`, something to hold its
 * shots against, or those of all reels where it names none), one that is a `plate` a plate, as soon as its last byte is there, whether or not the page is still open; images of one sequence are uploaded without, and then named together.
 */
export function uploadRoutes(router: Router, { db, store, arrivals }: Context): void {
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
        throw new Refusal('disk-full', `the disk has ${Math.floor(free / 1e6)} MB free; this file needs ${Math.ceil((upload.size ?? 0) / 1e6)} MB and some room beside it`);
      const reel = upload.metadata?.reel;
      if (reel) await reelThere(idOf(reel, 'reel'));
      return {};
    },
    async onUploadFinish(_request, upload) {
      if (!isWhole(upload)) return {};
      const { as, id } = await arrivals.takeUpload(upload.id);
      return { headers: { [`x-${as}`]: id } };
    },
    onResponseError: (_request, error) => {
      // What the protocol itself refuses comes with a status and a body.
      const refusal = 'status_code' in error ? new Refusal('upload-refused', error.body.trim(), [], error.status_code) : asRefusal(error);
      if (refusal.code === 'internal') log.error({ err: error }, refusal.code);
      return { status_code: refusal.status, body: JSON.stringify(answerOf(refusal)) };
    },
  });

  // Images that were uploaded one by one become one sequence, in the order of their names.
  serve(router, ROUTES.makeSequence, async ({ body }) => {
    if (body.reel !== null) await reelThere(body.reel);
    const found: Upload[] = [];
    for (const [i, upload] of body.uploads.entries()) {
      const known = await arrivals.uploads.getUpload(upload).catch(() => null);
      if (!known || known.offset !== known.size) throw new Refusal('invalid', `uploads[${i}] is not there whole`, [{ path: `uploads[${i}]`, message: 'is not there whole' }]);
      found.push(known);
    }
    return arrivals.takeSequence(body.reel, body.name, found);
  });

  let open = 0;
  router.use('/uploads', (request, response) => {
    if (request.method === 'PATCH') {
      if (open >= MOST_AT_ONCE) throw new Refusal('too-many', `the server takes ${MOST_AT_ONCE} uploads at once; this one is tried again`);
      open++;
      response.once('close', () => open--);
    }
    // The protocol's own server answers all else below this path and wants to see the whole address.
    request.url = request.originalUrl;
    void tus.handle(request, response);
  });
}
