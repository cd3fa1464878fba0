import type { LaidAsked, Figures, ListedEvent, Look, Match, Preparation } from '@tin-ghost/core';

/** A proxy to take pictures from. */
export interface Proxy {
  readonly mediaId: string;
  readonly width: number;
  readonly height: number;
  readonly frames: number;
  /** False while its footage is being imported: its pictures come from the server one by one, too slowly to be played. */
  readonly made: boolean;
}

/** A shot as it is prepared: what the looks are worn on. */
export interface Source {
  readonly mediaId: string;
  readonly proxy: Proxy;
  readonly preparation: Preparation;
  /** Of the prepared picture, at the proxy's size. */
  readonly width: number;
  readonly height: number;
  readonly rate: number;
  /** Pictures of the prepared shot. */
  readonly frames: number;
}

/** A picture wanted from a render worker. */
export interface Want {
  readonly kind: 'wear';
  readonly source: Source;
  readonly n: number;
  readonly look: Look;
  /** Tells this look on this shot from every other that the page has asked for. */
  readonly name: string;
  /** Size of the picture; the original's own where `original` is set. */
  readonly width: number;
  readonly height: number;
  /** The use that is being changed: the picture before it is kept, so that only what comes after costs. */
  readonly editing: { readonly life: number; readonly index: number } | null;
  /** From the original footage rather than the proxy, for looking at 1:1. */
  readonly original: boolean;
  /** Counts for the scopes, too. */
  readonly scope: boolean;
  /** The picture without its wear, too, in the same shape. */
  readonly clean: Clean;
}

/** How much of a picture is wanted: all, or the row at a share of its height; or nothing. */
export type Clean = 'all' | number | null;

/** What each trait of a look takes of the time that a picture takes. */
export interface WantCosts extends Pick<Want, 'source' | 'n' | 'look' | 'name' | 'width' | 'height' | 'original'> {
  readonly kind: 'costs';
}

/** Which event shows at a point of a picture, given in shares of its width and height. */
export interface WantUnder extends Pick<Want, 'source' | 'n' | 'look' | 'name' | 'width' | 'height' | 'original'> {
  readonly kind: 'under';
  readonly x: number;
  readonly y: number;
}

/** A setting wanted that brings a shot's figures to a reference's. */
export interface WantMatch {
  readonly kind: 'match';
  readonly source: Source;
  readonly look: Look;
  readonly reference: Source;
}

/** The figures of a shot or a reference, over its time. */
export interface WantFigures {
  readonly kind: 'figures';
  readonly source: Source;
}

/** A look's colour as the text of a .cube file. */
export interface WantCube {
  readonly kind: 'cube';
  readonly look: Look;
  readonly points: number;
}

/** What happens by itself in a look over a shot. */
export interface WantEvents {
  readonly kind: 'events';
  readonly look: Look;
  readonly rate: number;
  readonly frames: number;
}

/** What a setting is at pictures of a shot. */
export interface WantTrace {
  readonly kind: 'trace';
  readonly look: Look;
  readonly rate: number;
  readonly life: number;
  readonly index: number;
  readonly key: string;
  readonly pictures: readonly number[];
}

/** Where a caption or a plate stands. */
export interface WantLaid extends LaidAsked {
  readonly kind: 'laid';
  readonly look: Look;
}

export type Order = Want | WantCosts | WantUnder | WantMatch | WantFigures | WantCube | WantEvents | WantTrace | WantLaid;

/** Values of a picture as scopes draw them: how many pixels stand at each place, held at 255. */
export interface ScopeData {
  /** Luma, red, green, blue: LEVELS rows of COLUMNS, the highest level first. */
  readonly waves: readonly Uint8Array[];
  readonly vector: Uint8Array;
  /** Pixels counted. */
  readonly pixels: number;
  /** Luma, red, green, blue by level, each to the highest of its own, 0..1. */
  readonly bins: readonly Float32Array[];
  /** Shares of the pixels that have a channel below black or above white. */
  readonly below: number;
  readonly above: number;
  /** Luma below which a share of the pixels lies: 1, 50 and 99 of a hundred. */
  readonly low: number;
  readonly median: number;
  readonly high: number;
}

export interface Worn {
  readonly width: number;
  readonly height: number;
  readonly pixels: ArrayBuffer;
  /** Of the wearing alone. */
  readonly milliseconds: number;
  /** Of what the scopes need besides: counting, and the picture without its wear. */
  readonly counting: number;
  readonly scope?: ScopeData;
  /** What was asked for of the picture without its wear: all of it, or one row, counted from the top. */
  readonly clean?: { readonly pixels: ArrayBuffer; readonly row?: number };
}

/** Of a picture's time, by trait, the dearest first; what belongs to none is in the whole alone. */
export interface Costs {
  readonly milliseconds: number;
  readonly traits: readonly { readonly trait: string; readonly share: number }[];
}

export interface Results {
  wear: Worn;
  costs: Costs;
  under: ListedEvent | null;
  match: Match;
  figures: Figures;
  events: readonly ListedEvent[];
  /** A row for a number, three for a colour. */
  trace: readonly Float32Array[];
  laid: readonly (readonly [number, number])[];
  cube: { readonly text: string; readonly left: readonly string[] };
}
export type ResultOf<O extends Order> = Results[O['kind']];

export interface Envelope {
  readonly id: number;
  readonly order: Order;
}

export type Reply = { readonly id: number; readonly result: Results[keyof Results] } | { readonly id: number; readonly error: string };
