import type { Act } from '../traits/trait';

export const LOOK_SCHEMA = 'tin-ghost/look@1';

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
  readonly settings?: Readonly<Record<string, number | boolean>>;
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
  readonly lives: readonly Life[];
}

export const EMPTY_LOOK: Look = { schema: LOOK_SCHEMA, name: 'Clean', seed: 1, lives: [] };

/** Largest numbers a look may hold; far above any use, far below what would stall the engine. */
export const LOOK_LIMITS = { lives: 8, traits: 64, name: 120, bytes: 262_144 } as const;
