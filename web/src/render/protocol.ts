import type { Look } from '@tin-ghost/core';

/** A proxy to take pictures from. */
export interface Source {
  readonly mediaId: string;
  readonly width: number;
  readonly height: number;
  readonly rate: number;
  readonly frames: number;
}

/** A picture wanted from a render worker. */
export interface Want {
  readonly id: number;
  readonly source: Source;
  readonly n: number;
  readonly look: Look;
  /** Size of the picture; the original's own where `original` is set. */
  readonly width: number;
  readonly height: number;
  /** The use that is being changed: the picture before it is kept, so that only what comes after costs. */
  readonly editing: { readonly life: number; readonly index: number } | null;
  /** From the original footage rather than the proxy, for looking at 1:1. */
  readonly original: boolean;
}

export interface Worn {
  readonly id: number;
  readonly width: number;
  readonly height: number;
  readonly pixels: ArrayBuffer;
  /** Of the wearing alone. */
  readonly milliseconds: number;
}

export type Reply = Worn | { readonly id: number; readonly error: string };
