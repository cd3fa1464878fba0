import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { fontsOf, shippedFonts, type FontOutlines, type Look } from '@tin-ghost/core';
import { FontError, readFont } from '@tin-ghost/core/read-font';
import { WorkError } from './errors';

const locate = createRequire(import.meta.url);

/** The file of a font that ships; undefined where there is none of that identity. */
export async function shippedFontFile(id: string): Promise<Uint8Array | undefined> {
  const shipped = shippedFonts.find((font) => font.id === id);
  return shipped && readFile(locate.resolve(shipped.file));
}

/**
 * The fonts that a look refers to, with the characters of its texts.
 * @param own finds the file of one that does not ship
 * @throws WorkError where one is not there or cannot be read: a picture without it would not be what was seen
 */
export async function fontsFor(look: Look, own: (id: string) => Promise<Uint8Array | undefined>): Promise<Record<string, FontOutlines>> {
  const found = Object.entries(fontsOf(look)).map(async ([id, text]) => {
    const bytes = (await shippedFontFile(id)) ?? (await own(id));
    if (!bytes) throw new WorkError(`a font of the look is not here: ${id}; bring its file in again, or choose another`);
    try {
      return [id, readFont(bytes, text)] as const;
    } catch (error) {
      if (error instanceof FontError) throw new WorkError(`a font of the look, ${id}: ${error.message}`);
      throw error;
    }
  });
  return Object.fromEntries(await Promise.all(found));
}
