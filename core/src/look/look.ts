import type { EventChanges } from '../events/events';
import type { Motion } from '../motion/motion';
import type { Value } from '../traits/settings';
import type { Act } from '../traits/trait';
import type { Blend } from './blends';

export { BLEND_NAMES, BLENDS, type Blend } from './blends';

export const LOOK_SCHEMA = 'tin-ghost/look@2';

/** Where in the picture a trait acts. Places and radii in shares of the width and the height. */
export interface Zone {
  readonly kind: 'all' | 'edges' | 'ellipse' | 'quiet';
  /** Middle of the ellipse; default the picture's. */
  readonly x?: number;
  readonly y?: number;
  readonly across?: number;
  readonly down?: number;
  /** Share of the radius over which the border fades. */
  readonly soft?: number;
  /** Where it lies at moments, in their order, if it moves: it goes straight from one to the next. */
  readonly keys?: readonly ZoneKey[];
  /** How much of the trait shows at a luma: points [luma, share], joined by lines. */
  readonly tones?: readonly (readonly [number, number])[];
}

/** Where a zone lies at a moment (seconds). */
export interface ZoneKey {
  readonly at: number;
  readonly x: number;
  readonly y: number;
  readonly across: number;
  readonly down: number;
}

/** A time in which a trait acts, in seconds, with ramps in and out inside it. */
export interface Span {
  readonly from: number;
  readonly to: number;
  readonly in?: number;
  readonly out?: number;
}

/** One use of a trait in a look. What is left out takes its default. */
export interface TraitUse {
  readonly trait: string;
  /** The user's own name for it. */
  readonly name?: string;
  /** Where it stands, if not in the trait's own act. */
  readonly act?: Act;
  /** Default true. */
  readonly on?: boolean;
  /** 0 leaves the picture bit for bit as it was; default 1. */
  readonly strength?: number;
  /** Varies this use's randomness alone. */
  readonly seed?: number;
  readonly settings?: Readonly<Record<string, Value>>;
  /** By the setting that moves. */
  readonly motions?: Readonly<Record<string, Motion>>;
  readonly blend?: Blend;
  readonly zone?: Zone;
  /** Default: always. */
  readonly when?: readonly Span[];
  readonly events?: EventChanges;
}

export interface Life {
  readonly carrier: string;
  readonly traits: readonly TraitUse[];
}

/** The saved recipe. An empty `lives` leaves every picture as it is. */
export interface Look {
  readonly schema: typeof LOOK_SCHEMA;
  readonly name: string;
  readonly seed: number;
  /** What shape the picture has: the file's, or the last carrier's, filled and framed, with bars where the file is of another. */
  readonly shape: 'file' | 'carrier';
  readonly lives: readonly Life[];
}

export const EMPTY_LOOK: Look = { schema: LOOK_SCHEMA, name: 'Clean', seed: 1, shape: 'file', lives: [] };

/** Largest numbers a look may hold; far above any use, far below what would stall the engine. */
export const LOOK_LIMITS = { lives: 8, traits: 64, name: 120, bytes: 262_144, keys: 500, speeds: 8, spans: 100, changes: 5000, points: 33 } as const;
