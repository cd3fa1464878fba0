import type { Engine } from '../engine';
import type { Surface } from '../frame/surface';
import type { NumberSetting, Settings } from './settings';
import type { Units } from './units';

/** Where in the carrier's life a trait happens, in physical order. */
export const ACTS = ['lens', 'stock', 'years', 'machine', 'screen'] as const;
export type Act = (typeof ACTS)[number];

/**
 * `display`: BT.709 R'G'B', 0..1. `linear`: light, 1 at white. `density`: -log10 of light. `any`: whichever the
 * picture is in.
 */
export type Domain = 'display' | 'linear' | 'density';

/** What a trait reads: its own pixel, its own row, or neighbours anywhere. */
export type Footprint = 'point' | 'line' | 'area';

/** Values of a trait's settings in their units. */
export type Values<S extends Settings> = { [K in keyof S]: S[K] extends NumberSetting ? number : boolean };

/** What is known when a look is compiled for a size. */
export interface Preparation<S extends Settings> {
  readonly engine: Engine;
  readonly units: Units;
  /** Settings as numbers for this picture (lengths in pixels); toggles as they are. */
  readonly settings: Values<S>;
  /** Of this use of the trait. */
  readonly seed: number;
  /** Pictures a second. */
  readonly rate: number;
  /** Reserves bytes in the engine for as long as the plan lives. */
  reserve(bytes: number): number;
}

/** One picture, or one band of it, to be worn. */
export interface Pass {
  readonly surface: Surface;
  /** The carrier's picture, counted from 0. */
  readonly picture: number;
  /** For `area`: three planes of the size of the surface to write into; exchange them with the surface's by `swap`. */
  readonly spare: readonly number[];
  /** Makes spare plane `plane` the picture's. */
  swap(plane: number): void;
}

/** Wears one band (point and line) or the whole picture (area). A function of the pass alone. */
export type Render = (pass: Pass) => void;

export interface Trait<S extends Settings = Settings> {
  readonly id: string;
  readonly act: Act;
  readonly name: string;
  /** One sentence for the card. */
  readonly says: string;
  readonly domain: Domain | 'any';
  readonly settings: S;
  /** May depend on the settings: a shift along the row reads less than one across rows. */
  readonly footprint: (settings: Values<S>) => Footprint;
  /** True where these settings leave every picture as it is. */
  readonly idle?: (settings: Values<S>) => boolean;
  /** Called once a plan. */
  readonly prepare: (preparation: Preparation<S>) => Render;
}

/** A trait as the index holds it, whatever its settings. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- settings differ from trait to trait; the index only reads declarations
export type AnyTrait = Trait<any>;

/** Declares a trait; the declaration is all that cards, checks, documents and plans read. */
export const trait = <S extends Settings>(declaration: Trait<S>): Trait<S> => declaration;
