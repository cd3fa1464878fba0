import type { Look } from '@tin-ghost/core';
import type { WearOptions } from './preview';
import type { Source, Worn } from './protocol';

/** What is asked of a picture: footage, the moment, the size. */
export interface PictureAsked {
  readonly source: Source | null;
  readonly n: number;
  readonly width: number;
  readonly height: number;
  readonly options: WearOptions;
}

/** Makes pictures, and gives the last one again where the same is asked for. */
export class LastPicture {
  private key: readonly unknown[] = [];
  private picture: Promise<Worn> | undefined;

  /** @param make how one is made */
  constructor(private readonly make: (asked: PictureAsked, look: Look) => Promise<Worn>) {}

  /** A picture of a look alone: of the options only whether it is of the original counts. */
  wear(asked: PictureAsked, look: Look): Promise<Worn> {
    const original = asked.options.original ?? false;
    const key = [asked.source, asked.n, asked.width, asked.height, original, look];
    if (this.picture && key.every((part, i) => part === this.key[i])) return this.picture;
    const picture = this.make({ ...asked, options: { original } }, look);
    [this.key, this.picture] = [key, picture];
    // One that could not be made is tried again.
    picture.catch(() => {
      if (this.picture === picture) this.picture = undefined;
    });
    return picture;
  }
}
