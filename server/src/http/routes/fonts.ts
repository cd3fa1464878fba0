import type { Router } from 'express';
import { desc, eq } from 'drizzle-orm';
import { ROUTES } from '@tin-ghost/contract/routes';
import { shippedFonts } from '@tin-ghost/core';
import { charactersOf, FontError, readFont } from '@tin-ghost/core/read-font';
import { shippedFontFile } from '@tin-ghost/media';
import type { Context } from '../../context';
import { fonts } from '../../db/schema';
import { notFound, Refusal } from '../../refusal';
import { fileId } from '../../store/look-files';
import { cleanName } from '../../store/media-store';
import { serve } from '../serve';

/** What a font is tried with before it is kept. */
const PROOF = 'The last tram of line 14 leaves Orrin Vale at 23:52.';

/** Fonts for captions: those that ship, and the user's by the hash of their files. */
export function fontRoutes(router: Router, { db }: Context): void {
  let known: Promise<{ id: string; name: string; shipped: boolean; characters: string }[]> | undefined;
  const shipped = (): NonNullable<typeof known> =>
    (known ??= Promise.all(shippedFonts.map(async ({ id, name }) => ({ id, name, shipped: true, characters: charactersOf((await shippedFontFile(id))!) }))));

  serve(router, ROUTES.listFonts, async () => {
    const own = await db.select({ id: fonts.id, name: fonts.name, characters: fonts.characters }).from(fonts).orderBy(desc(fonts.createdAt));
    return [...(await shipped()), ...own.map((font) => ({ ...font, shipped: false }))];
  });

  serve(router, ROUTES.storeFont, async ({ body, query }) => {
    const name = cleanName(typeof query.name === 'string' ? query.name : 'Font.ttf');
    try {
      const characters = charactersOf(body);
      // What is listed must be drawn, too.
      readFont(body, PROOF);
      const id = fileId(body);
      await db.insert(fonts).values({ id, name, body, characters }).onConflictDoNothing();
      return { id, name, shipped: false, characters };
    } catch (error) {
      if (!(error instanceof FontError)) throw error;
      throw new Refusal('unusable-file', `${name}: ${error.message}`);
    }
  });

  serve(router, ROUTES.readFont, async ({ params, response }) => {
    const ships = await shippedFontFile(params.id!);
    const found = ships ?? (await db.select({ body: fonts.body }).from(fonts).where(eq(fonts.id, params.id!)))[0]?.body;
    if (!found) throw notFound('font');
    // One that ships is called by a word, and may be another file in a later version.
    response.setHeader('cache-control', ships ? 'no-cache' : 'public, max-age=31536000, immutable');
    response.type('application/octet-stream').send(Buffer.from(found));
  });
}
