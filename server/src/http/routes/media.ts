import { readFile } from 'node:fs/promises';
import type { Response, Router } from 'express';
import { eq } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import type { RawFrame } from '@tin-ghost/core';
import { decodeOne, proxyPicture, type Footage, type INTAKE_FILES } from '@tin-ghost/media';
import type { Context } from '../../context';
import { media, type Medium } from '../../db/schema';
import { notFound, Refusal } from '../../refusal';
import { mediumView } from '../../views';
import { serve } from '../serve';
import { digits, idOf } from '../validate';

export function mediaRoutes(router: Router, { db, store, footage }: Context): void {
  const find = async (id: unknown): Promise<Medium> => {
    const [medium] = await db
      .select()
      .from(media)
      .where(eq(media.id, idOf(id, 'footage')));
    if (!medium) throw notFound('footage');
    return medium;
  };
  const ready = async (id: unknown): Promise<Medium> => {
    const medium = await find(id);
    if (medium.state !== 'ready') throw notReady();
    return medium;
  };

  serve(router, ROUTES.readMedium, async ({ params }) => mediumView(await find(params.id)));

  serve(router, ROUTES.importAgain, async ({ params }) => mediumView(await footage.again((await find(params.id)).id)));

  const heard = async (id: unknown): Promise<Medium> => {
    const medium = await ready(id);
    if (!medium.hasSound) throw new Refusal('not-found', 'the footage has no sound');
    return medium;
  };
  const send = async (response: Response, medium: Medium, kind: keyof typeof INTAKE_FILES, type: string): Promise<void> =>
    response.type(type).sendFile(await store.file(medium.id, kind), { immutable: true, maxAge: '1y', dotfiles: 'allow' });
  serve(router, ROUTES.readProxy, async ({ params, response }) => send(response, await ready(params.id), 'proxy', 'video/mp4'));
  serve(router, ROUTES.readPoster, async ({ params, response }) => send(response, await ready(params.id), 'poster', 'image/jpeg'));
  serve(router, ROUTES.readStrip, async ({ params, response }) => send(response, await ready(params.id), 'strip', 'image/jpeg'));
  serve(router, ROUTES.readSound, async ({ params, response }) => send(response, await heard(params.id), 'sound', 'audio/mp4'));
  serve(router, ROUTES.readPeaks, async ({ params, response }) => {
    const { id } = await heard(params.id);
    const peaks = JSON.parse(await readFile(await store.file(id, 'peaks'), 'utf8')) as number[];
    response.setHeader('cache-control', 'public, max-age=31536000, immutable');
    return peaks;
  });

  /** One picture, from when the footage has been read: its planes one after the other. */
  const sendPicture = async (
    params: Readonly<Record<string, string>>,
    response: Response,
    make: (footage: Footage, n: number, signal: AbortSignal) => Promise<RawFrame>,
  ): Promise<void> => {
    const medium = await find(params.id);
    if (!medium.footage) throw notReady();
    const { frames } = medium.footage;
    const n = digits(params.n);
    if (n === undefined || n >= frames) throw new Refusal('not-found', `there are pictures 0 to ${frames - 1}`);
    const controller = new AbortController();
    response.on('close', () => controller.abort());
    const { width, height, encoding, planes } = await make(await store.footage(medium), n, controller.signal);
    response.setHeader('x-picture', JSON.stringify({ width, height, encoding }));
    response.setHeader('cache-control', 'private, max-age=3600');
    response.type('application/octet-stream').send(Buffer.concat(planes.map((p) => Buffer.from(p.buffer, p.byteOffset, p.length))));
  };
  // As the decoder gives it, for looking at 1:1.
  serve(router, ROUTES.readFrame, ({ params, response }) => sendPicture(params, response, decodeOne));
  // For looking at footage whose proxy is not made yet.
  serve(router, ROUTES.readProxyFrame, ({ params, response }) => sendPicture(params, response, proxyPicture));
}

const notReady = (): Refusal => new Refusal('not-ready', 'the footage is not ready yet');
