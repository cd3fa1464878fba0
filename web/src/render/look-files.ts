import { fontsOf, parseCube, tableIds, type ColourTable, type FontOutlines, type Look, type PlanOptions, type Preparation } from '@tin-ghost/core';
import { readFont } from '@tin-ghost/core/read-font';

/** What has been fetched, by its address; null where the server has none. */
function fetched<T>(read: (response: Response) => Promise<T>): (address: string) => Promise<T | null> {
  const kept = new Map<string, Promise<T | null>>();
  return (address) => {
    let found = kept.get(address);
    if (!found) {
      found = fetch(address).then((response) => (response.ok ? read(response) : null));
      found.catch(() => kept.delete(address));
      kept.set(address, found);
    }
    return found;
  };
}

const table = fetched(async (response): Promise<ColourTable> => parseCube(await response.text()));
const fontFile = fetched(async (response) => new Uint8Array(await response.arrayBuffer()));

/** Of those that are there. */
async function there<T extends object>(ids: readonly string[], find: (id: string) => Promise<T | null>): Promise<Record<string, T>> {
  const found: Record<string, T> = {};
  await Promise.all(
    ids.map(async (id) => {
      const one = await find(id);
      if (one) found[id] = one;
    }),
  );
  return found;
}

/** Tables and fonts that a look and a preparation refer to; what the server has not is left out, and the cards say so. */
export async function filesFor(look: Look, preparation: Preparation): Promise<Pick<PlanOptions, 'tables' | 'fonts'>> {
  const texts = fontsOf(look);
  const [tables, fonts] = await Promise.all([
    there(tableIds(look, preparation), (id) => table(`/api/tables/${encodeURIComponent(id)}`)),
    there(Object.keys(texts), async (id): Promise<FontOutlines | null> => {
      const bytes = await fontFile(`/api/fonts/${encodeURIComponent(id)}`);
      return bytes && readFont(bytes, texts[id]!);
    }),
  ]);
  return { tables, fonts };
}
