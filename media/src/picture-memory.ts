import { frameBytes, type RawFrame } from '@tin-ghost/core';

/** So many are kept at the most: planes of another picture may happen to be as long, and would only be more and more. */
const MOST_SPARE = 32;

/** Memory of pictures of one size that are done with, for those that come next: new memory for each would have what is no longer used searched for several times a second. */
export class PictureMemory {
  private readonly spare = new Set<ArrayBuffer>();

  /** @param bytes of a picture */
  constructor(readonly bytes: number) {}

  /** Memory of a picture; what stands in it is of no meaning. */
  take(): Uint8Array {
    const [found] = this.spare;
    if (!found) return new Uint8Array(this.bytes);
    this.spare.delete(found);
    return new Uint8Array(found);
  }

  /** Takes back what nobody reads any more; what is not of this size is passed over. @returns whether any was */
  give(planes: readonly Uint8Array[]): boolean {
    const given = planes.map(({ buffer }) => buffer).filter((buffer): buffer is ArrayBuffer => buffer instanceof ArrayBuffer && buffer.byteLength === this.bytes);
    for (const buffer of given) if (this.spare.size < MOST_SPARE) this.spare.add(buffer);
    return given.length > 0;
  }
}

/** Memory of pictures as they are decoded. */
export const memoryFor = ({ width, height, encoding }: Pick<RawFrame, 'width' | 'height' | 'encoding'>): PictureMemory => new PictureMemory(frameBytes(width, height, encoding));
