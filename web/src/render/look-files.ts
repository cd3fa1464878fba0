import type { StoredPlate } from '@tin-ghost/contract';
import { fontsOf, parseCube, plateIds, tableIds, type ColourTable, type FontOutlines, type Look, type PlanOptions, type PlateInfo, type Preparation } from '@tin-ghost/core';
import type { Proxy } from './protocol';

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

/** A plate, and where its pictures come from. */
export interface PlateSource {
  readonly proxy: Proxy;
  readonly rate: number;
  /** What the engine knows of it: of its proxy, and of its original. */
  readonly info: PlateInfo;
  readonly original: PlateInfo;
}

function plateSource({ light, medium: { id, footage, proxyWidth, proxyHeight } }: StoredPlate): PlateSource {
  const { width, height, encoding, frames, stacked, rate: fraction } = footage!;
  const rate = fraction.num / fraction.den;
  const original: PlateInfo = { width, height, encoding, lines: stacked ? height / 2 : height, frames, rate, stacked, light: light ?? undefined };
  return {
    proxy: { mediaId: id, width: proxyWidth!, height: proxyHeight!, frames, made: true },
    rate,
    info: { ...original, width: proxyWidth!, height: proxyHeight! },
    original,
  };
}

let plates: Promise<ReadonlyMap<string, PlateSource>> | undefined;
/** When the list was asked for last: one that is lost is not looked for with every picture. */
let listedAt = 0;
const LIST_AGAIN_MS = 2000;

/** The plates of a look by their keys; the list is asked for again where one is not in it. */
export async function platesFor(look: Look): Promise<Record<string, PlateSource>> {
  const ids = plateIds(look);
  if (ids.length === 0) return {};
  const all = async (): Promise<ReadonlyMap<string, PlateSource>> => {
    listedAt = performance.now();
    const response = await fetch('/api/plates');
    const list = response.ok ? ((await response.json()) as StoredPlate[]) : [];
    return new Map(list.flatMap((plate) => (plate.key !== null && plate.medium.state === 'ready' ? [[plate.key, plateSource(plate)] as const] : [])));
  };
  let known = await (plates ??= all());
  if (performance.now() - listedAt > LIST_AGAIN_MS && ids.some((id) => !known.has(id))) known = await (plates = all());
  return there(ids, async (id) => known.get(id) ?? null);
}

/** Tables and fonts that a look and a preparation refer to; what the server has not is left out, and the cards say so. */
export async function filesFor(look: Look, preparation: Preparation): Promise<Pick<PlanOptions, 'tables' | 'fonts'>> {
  const texts = fontsOf(look);
  const [tables, fonts] = await Promise.all([
    there(tableIds(look, preparation), (id) => table(`/api/tables/${encodeURIComponent(id)}`)),
    there(Object.keys(texts), async (id): Promise<FontOutlines | null> => {
      const bytes = await fontFile(`/api/fonts/${encodeURIComponent(id)}`);
      return bytes && (await import('@tin-ghost/core/read-font')).readFont(bytes, texts[id]!);
    }),
  ]);
  return { tables, fonts };
}
