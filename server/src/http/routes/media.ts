import { Router } from 'express';
import { and, eq } from 'drizzle-orm';
import { decodeOne, type INTAKE_FILES } from '@tin-ghost/media';
import type { Context } from '../../context';
import { media, type Medium } from '../../db/schema';
import { HttpError, notFound } from '../errors';
import { digits, idOf } from '../validate';

/** A medium as the interface sees it: no path of the server. */
export function mediumView({ footage, original: _original, ...rest }: Medium) {
  if (!footage) return { ...rest, footage: null };
  const { path: _path, ...known } = footage;
  return { ...rest, footage: known };
}

const TYPES: Record<keyof typeof INTAKE_FILES, string> = { proxy: 'video/mp4', poster: 'image/jpeg', strip: 'image/jpeg', sound: 'audio/mp4', peaks: 'application/json' };

export function mediaRoutes({ db, store, jobs, news }: Context): Router {
  const router = Router();

  const find = async (id: unknown): Promise<Medium> => {
    const [medium] = await db
      .select()
      .from(media)
      .where(eq(media.id, idOf(id, 'footage')));
    if (!medium) throw notFound('footage');
    return medium;
  };

  router.get('/:id', async (request, response) => {
    response.json(mediumView(await find(request.params.id)));
  });

  // Footage that failed to come in is tried again from its original, which is as it was sent.
  router.post('/:id/again', async (request, response) => {
    const { id } = await find(request.params.id);
    const [again] = await db
      .update(media)
      .set({ state: 'waiting', progress: 0, error: null })
      .where(and(eq(media.id, id), eq(media.state, 'failed')))
      .returning();
    if (!again) throw new HttpError(409, 'only footage that failed to come in can be tried again');
    await jobs.bringIn(id);
    news.tell({ type: 'media', id, state: 'waiting', progress: 0, error: null });
    response.json(mediumView(again));
  });

  for (const kind of Object.keys(TYPES) as (keyof typeof TYPES)[]) {
    router.get(`/:id/${kind}`, async (request, response) => {
      const medium = await find(request.params.id);
      if (medium.state !== 'ready') throw new HttpError(409, 'the footage is not ready yet');
      if ((kind === 'sound' || kind === 'peaks') && !medium.hasSound) throw new HttpError(404, 'the footage has no sound');
      response.type(TYPES[kind]).sendFile(store.file(medium.id, kind), { immutable: true, maxAge: '1y', dotfiles: 'allow' });
    });
  }

  // One picture of the original as the decoder gives it, for looking at 1:1: planes one after the other.
  router.get('/:id/frames/:n', async (request, response) => {
    const medium = await find(request.params.id);
    if (medium.state !== 'ready' || !medium.footage) throw new HttpError(409, 'the footage is not ready yet');
    const n = digits(request.params.n);
    if (n === undefined || n >= medium.footage.frames) throw new HttpError(404, `there are pictures 0 to ${medium.footage.frames - 1}`);
    const controller = new AbortController();
    response.on('close', () => controller.abort());
    const frame = await decodeOne(store.footage(medium), n, controller.signal);
    response.setHeader('x-picture', JSON.stringify({ width: frame.width, height: frame.height, encoding: frame.encoding }));
    response.setHeader('cache-control', 'private, max-age=3600');
    response.type('application/octet-stream').send(Buffer.concat(frame.planes.map((p) => Buffer.from(p.buffer, p.byteOffset, p.length))));
  });

  return router;
}
