import { splitPlanes, type Encoding, type FootagePictures, type RawFrame, type ScoredShot } from '@tin-ghost/core';
import { ProxyReader } from './proxy-reader';
import type { PlateSource } from './look-files';
import type { Proxy, Source } from './protocol';

const KEPT_READERS = 8;
/** A picture, those beside it, and those of plates. */
const KEPT_ORIGINALS = 8;

const readers = new Map<string, ProxyReader>();
const originals = new Map<string, RawFrame>();

function readerOf(proxy: Proxy, rate: number): ProxyReader {
  let reader = readers.get(proxy.mediaId);
  if (!reader) {
    reader = new ProxyReader(proxy, rate);
    readers.set(proxy.mediaId, reader);
    if (readers.size > KEPT_READERS) {
      const [oldest, old] = readers.entries().next().value!;
      old.close();
      readers.delete(oldest);
    }
  }
  return reader;
}

/** A picture of the original, as the server's decoder gives it. */
async function originalOf(mediaId: string, n: number): Promise<RawFrame> {
  const key = `${mediaId}:${n}`;
  const known = originals.get(key);
  if (known) return known;
  const response = await fetch(`/api/media/${mediaId}/frames/${n}`);
  if (!response.ok) throw new Error(((await response.json()) as { error: { message: string } }).error.message);
  const { width, height, encoding } = JSON.parse(response.headers.get('x-picture')!) as { width: number; height: number; encoding: Encoding };
  const frame = splitPlanes(new Uint8Array(await response.arrayBuffer()), width, height, encoding);
  originals.set(key, frame);
  if (originals.size > KEPT_ORIGINALS) originals.delete(originals.keys().next().value!);
  return frame;
}

/** The footage's pictures, as a preview takes them: of its proxy or of its original. Those of the proxy must not be written to. */
export const footageOf =
  (source: Source, original: boolean): FootagePictures =>
  (picture) =>
    original ? originalOf(source.mediaId, picture) : readerOf(source.proxy, source.rate).read(picture);

/** A picture of a plate, of its proxy or its original. It must not be written to. */
export const plateFrame = ({ proxy, rate }: PlateSource, picture: number, original: boolean): Promise<RawFrame> =>
  original ? originalOf(proxy.mediaId, picture) : readerOf(proxy, rate).read(picture);

/** A source as a score asks for its pictures. */
export const scoredShot = ({ proxy, preparation }: Source): ScoredShot => ({ frames: proxy.frames, step: [1, 1], preparation });
