import { splitPlanes, type Encoding, type FootagePictures, type RawFrame, type ScoredShot } from '@tin-ghost/core';
import { ProxyReader } from './proxy-reader';
import type { PlateSource } from './look-files';
import type { Proxy, Source } from './protocol';

const KEPT_READERS = 8;
/** A picture, those beside it, and those of plates. */
const KEPT_DECODED = 8;

const readers = new Map<string, ProxyReader>();
const decoded = new Map<string, RawFrame>();

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

/** A picture that the server decodes. @param place where the footage's pictures are, among what there is of it */
async function decodedOf(mediaId: string, place: 'frames' | 'proxy/frames', n: number): Promise<RawFrame> {
  const address = `/api/media/${mediaId}/${place}/${n}`;
  const known = decoded.get(address);
  if (known) return known;
  const response = await fetch(address);
  if (!response.ok) throw new Error(((await response.json()) as { error: { message: string } }).error.message);
  const { width, height, encoding } = JSON.parse(response.headers.get('x-picture')!) as { width: number; height: number; encoding: Encoding };
  const frame = splitPlanes(new Uint8Array(await response.arrayBuffer()), width, height, encoding);
  decoded.set(address, frame);
  if (decoded.size > KEPT_DECODED) decoded.delete(decoded.keys().next().value!);
  return frame;
}

/** The footage's pictures, as a preview takes them: of its proxy, or what that will be made of, or of its original. They must not be written to. */
export function footageOf({ mediaId, proxy, rate }: Source, original: boolean): FootagePictures {
  if (original) return (picture) => decodedOf(mediaId, 'frames', picture);
  return proxy.made ? (picture) => readerOf(proxy, rate).read(picture) : (picture) => decodedOf(mediaId, 'proxy/frames', picture);
}

/** Tells pictures of footage that `footageOf` takes from one place from those of another. */
export const footageName = ({ mediaId, proxy }: Source, original: boolean): string => `${mediaId}:${original ? 'original' : proxy.made ? 'proxy' : 'decoded'}`;

/** A picture of a plate, of its proxy or its original. It must not be written to. */
export const plateFrame = ({ proxy, rate }: PlateSource, picture: number, original: boolean): Promise<RawFrame> =>
  original ? decodedOf(proxy.mediaId, 'frames', picture) : readerOf(proxy, rate).read(picture);

/** A source as a score asks for its pictures. */
export const scoredShot = ({ proxy, preparation }: Source): ScoredShot => ({ frames: proxy.frames, step: [1, 1], preparation });
