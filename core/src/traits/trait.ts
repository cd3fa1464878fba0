import type { Carrier } from '../carriers';
import type { Engine, Kernels, Store } from '../engine';
import type { Channel, RecorderPath } from '../frame/recorder';
import type { RawFrame } from '../frame/encoding';
import type { PlateInfo } from '../frame/plate';
import type { Surface } from '../frame/surface';
import type { ActiveEvent } from '../events/events';
import type { ColourTable } from '../formats/cube';
import type { FontOutlines } from '../text/outlines';
import type { ChoiceSetting, Colour, ColourSetting, Curve, CurveSetting, FontSetting, NumberSetting, PlateSetting, Settings, TableSetting, TextSetting } from './settings';
import type { Units } from './units';

/** Most pictures of the film that are lost at one of a trait's events. */
export const MOST_LOST = 12;

/** Where in the carrier's life a trait happens, in physical order. */
export const ACTS = ['lens', 'stock', 'years', 'machine', 'screen'] as const;
export type Act = (typeof ACTS)[number];

/**
 * `display`: BT.709 R'G'B', 0..1. `linear`: light, 1 at white. `density`: -log10 of light. `video`: Y'CbCr by BT.601, Y'
 * 0..1, colour differences -1/2..1/2. `rf`: on a recorder's carriers; what happens there is done to the channel (frame/recorder.ts), and shows when it is played.
 */
export type Domain = 'display' | 'linear' | 'density' | 'video' | 'rf';

/** What a trait reads: its own pixel, its own row, or neighbours anywhere. */
export type Footprint = 'point' | 'line' | 'area';

/** A picture beside that which is shown: the one before it on the film, the one after, or that at the moment of the second field. */
export type Beside = -1 | 1 | 'second';

/** Values of a trait's settings: in their units, or as numbers for a picture (lengths in pixels). */
export type Values<S extends Settings> = {
  readonly [K in keyof S]: S[K] extends NumberSetting
    ? number
    : S[K] extends ColourSetting
      ? Colour
      : S[K] extends CurveSetting
        ? Curve
        : S[K] extends TableSetting | TextSetting | FontSetting | PlateSetting
          ? string
          : S[K] extends ChoiceSetting<infer T>
            ? T
            : boolean;
};

/** What is known when a look is compiled for a size. */
export interface Setup {
  readonly engine: Engine;
  readonly units: Units;
  readonly carrier: Carrier;
  /** Of this use of the trait. */
  readonly seed: number;
  /** The carrier's pictures a second. */
  readonly rate: number;
  /** The picture's domain where the trait works in any. */
  readonly domain: Domain;
  readonly footprint: Footprint;
  /** Width over height of the picture that is shown in the end; on a raster pixels are not square. */
  readonly shape: number;
  /** A table of colours by its identity; undefined where it is not at hand. */
  table(id: string): ColourTable | undefined;
  /** A font by its identity; undefined where it is not at hand. */
  font(id: string): FontOutlines | undefined;
  /** What is known of a plate by its identity; undefined where it is not at hand. */
  plate(id: string): PlateInfo | undefined;
  /** A picture of a plate, as `Trait.plates` asked for it at this moment. */
  platePicture(id: string, picture: number): RawFrame;
  /** For the domain `rf`: the recorder's path for luma. */
  readonly recorder?: RecorderPath;
  /** Reserves bytes in the engine for as long as the plan lives. */
  reserve(bytes: number): number;
  /** Memory that grows with what is asked of it and lives as long as the plan. */
  store(): Store;
  /** Hands over something of the plan's life span. */
  own<T extends { release(): void }>(thing: T): T;
}

/** One picture, or one band of it, to be worn. */
export interface Pass<S extends Settings = Settings> {
  readonly surface: Surface;
  /** The carrier's picture, counted from 0. */
  readonly picture: number;
  /** Moment of that picture. */
  readonly seconds: number;
  /** Settings at this moment as numbers for this picture. The same object as long as nothing changes; see `perSettings`. */
  readonly settings: Values<S>;
  /** Events under way. */
  readonly events: readonly ActiveEvent[];
  /** For `area`: three planes of the size of the surface to write into; exchange them with the surface's by `swap`. */
  readonly spare: readonly number[];
  /** Makes spare plane `plane` the picture's. */
  swap(plane: number): void;
  /** The planes, as those of the surface, of a picture beside that `Trait.beside` asked for; the film's first picture has itself before it. */
  beside(offset: Beside): readonly number[];
  /** For what `remembers`: where a row of what the screen showed so many pictures ago stands, as `addHalvesRow` takes it; the picture as it is before this trait, in its domain. */
  earlier(pictures: number, plane: number, y: number): number;
  /** How many pictures it reads, as `Trait.remembers` told; 1 is its own alone. */
  readonly remembered: number;
  /** For what `showsFilm`: how far the film is from its place. */
  readonly displaced: Displacement;
  /** For the domain `rf`: the rows' way from head to demodulator, to be written to. */
  readonly channel: Channel;
}

/** What decides which pictures beside its own a trait reads. */
export interface BesideMoment<S extends Settings> {
  /** In their units. */
  readonly settings: Values<S>;
  readonly events: readonly ActiveEvent[];
  readonly carrier: Carrier;
}

/** Wears one band (point and line) or the whole picture (area). A function of the pass alone. */
export type Render<S extends Settings = Settings> = (pass: Pass<S>) => void;

/** How a trait makes events. All is worked out from the settings in their units at a moment. */
export interface EventSource<S extends Settings> {
  /** Events a second. */
  rate(settings: Values<S>, picturesPerSecond: number): number;
  /** Moments from `from` up to `to` (seconds) of events that come by the clock; in place of those that `rate` scatters. */
  times?(settings: Values<S>, from: number, to: number): readonly number[];
  /** Seconds that an event lasts, from a number drawn for it (0..1); at least one picture is shown. */
  length(settings: Values<S>, drawn: number, picturesPerSecond: number): number;
  /** Whether where an event is matters, and which way. */
  readonly place?: 'across' | 'both';
  /** The longest an event can last, in seconds. */
  readonly longest: number;
}

/** How far film stands from its place, in pixels of the picture in the gate: to the right and down. */
export interface Displacement {
  readonly x: number;
  readonly y: number;
}

/** What a trait needs to tell how far it has moved the film. */
export interface Displacing<S extends Settings>
  extends Pick<Setup, 'engine' | 'units' | 'carrier' | 'seed' | 'rate'>, Pick<Pass<S>, 'settings' | 'events' | 'picture' | 'seconds'> {}

/** How a carrier holds pictures: so many a second, each taken from the first (0) to the last (1) of those that fall on it. */
export interface Cadence {
  readonly rate: number;
  readonly place: number;
}

/** How the pictures of a raster are made of fields. */
export interface Fields {
  /** Fields a second; left out where there are two for each picture of the file. */
  readonly perSecond?: number;
  /** Both in one picture; else each stands alone. */
  readonly woven: boolean;
  /** A moment between two pictures of the shot has a picture of its own; else that which stands at the middle of a field is scanned. */
  readonly between: boolean;
}

/** A picture of a plate that is needed. */
export interface PlateAsked {
  readonly plate: string;
  readonly picture: number;
}

/** What a trait needs to tell how active it is. */
export interface Liveliness<S extends Settings> {
  readonly engine: Engine;
  readonly settings: Values<S>;
  readonly seed: number;
  readonly picture: number;
  readonly seconds: number;
  /** What is known of a plate. */
  plate(id: string): PlateInfo | undefined;
}

/** What a trait needs to tell where that stands which it lays over the picture. */
export interface LaidMoment<S extends Settings> extends Pick<Setup, 'rate' | 'shape' | 'font' | 'plate'> {
  readonly kernels: Pick<Kernels, 'sin' | 'cos'>;
  /** Of the picture it works on; settings are numbers for it. */
  readonly size: { readonly width: number; readonly height: number };
  readonly settings: Values<S>;
  readonly picture: number;
  readonly seconds: number;
}

export interface Trait<S extends Settings = Settings> {
  readonly id: string;
  readonly act: Act;
  /** May stand in any act: what works on the colour of single pixels, and what is laid over the picture. */
  readonly family?: 'colour' | 'laid';
  /** Of other traits: what it does to a colour depends on that colour alone, so a table of colours can hold it. */
  readonly ofColourAlone?: true;
  /** The media it happens on; left out where it may be any. */
  readonly media?: readonly Carrier['medium'][];
  /** What its carrier must have, where it cannot do without. */
  readonly needs?: 'raster' | 'recorder';
  readonly name: string;
  /** One sentence for the card. */
  readonly says: string;
  /** `any`: whichever the picture is in; `rgb`: whichever has red, green and blue. */
  readonly domain: Domain | 'any' | 'rgb';
  /** Where it leaves the picture in another domain than it takes it in, which saves turning it back. */
  readonly leaves?: Domain;
  readonly settings: S;
  /** May depend on the settings: a shift along the row reads less than one across rows. */
  readonly footprint: Footprint | ((settings: Values<S>) => Footprint);
  /** True where these settings leave every picture as it is. */
  readonly idle?: (settings: Values<S>) => boolean;
  readonly events?: EventSource<S>;
  /**
   * The pictures beside its own on the film that it reads at a moment, worn by all that happened to them before this trait: in Lens, Stock and Years
   * as what they are, in Machine as at this moment. For `area` traits that name their domain.
   */
  readonly beside?: (moment: BesideMoment<S>) => readonly Beside[];
  /** It moves the film in the gate, so far. Where a later trait `showsFilm`, that trait moves it, with all that is about the picture, and this one is left out. */
  readonly displaces?: (moment: Displacing<S>) => Displacement;
  /** While it reads pictures beside its own, it shows the film itself: what has moved that stands in `pass.displaced`. */
  readonly showsFilm?: boolean;
  /** The same at every moment while its settings are: on a screen that shows a held picture, nothing of it changes. */
  readonly still?: boolean;
  /** How active it is at a moment, for traits that follow it; about 1 when it is fully so, 0 on the mean for what swings. */
  readonly activity?: (moment: Liveliness<S>) => number;
  /** Holds pictures: which of the carrier's pictures a picture of the file shows. Such a trait changes no pixel. */
  readonly cadence?: (settings: Values<S>) => Cadence;
  /** Pictures of the film that are lost at each of its events: it goes on so many further on. */
  readonly loses?: (settings: Values<S>) => number;
  /** Makes pictures of fields, each of a moment of its own. */
  readonly fields?: (settings: Values<S>, carrier: Carrier) => Fields;
  /**
   * How many pictures of its screen it reads, its own among them, given how many of them there are a second. For `area` traits that name their domain;
   * each earlier one costs as much as all that is before this trait, unless it was shown just before.
   */
  readonly remembers?: (settings: Values<S>, picturesPerSecond: number) => number;
  /** What it lets through along the line, for the line scope. @param settings in their units */
  readonly limits?: (settings: Values<S>) => { readonly name: string; readonly megahertz: number };
  /** What follows from these settings (in their units) that a person should know, for its card. @param shape width over height of the picture */
  readonly tells?: (settings: Values<S>, shape: number) => string;
  /**
   * What becomes of its settings when its life goes on another carrier that has as much of the kind: what the carrier decides by itself goes along.
   * @param settings in their units @returns those that change, and a sentence that says how; undefined where they stay
   */
  readonly onto?: (settings: Values<S>, from: Carrier, to: Carrier) => { readonly settings: Readonly<Record<string, number>>; readonly says: string } | undefined;
  /** The pictures of plates that it reads at a moment. @param settings as numbers for a picture */
  readonly plates?: (settings: Values<S>, seconds: number, info: (id: string) => PlateInfo | undefined) => readonly PlateAsked[];
  /** Presets, by their name for people; what they leave out takes its default, but for texts of the user's. */
  readonly presets?: Readonly<Record<string, Readonly<Partial<Values<S>>>>>;
  /** Where the corners of what it lays over the picture stand, in shares of the picture, clockwise from the upper left one; none where it is not seen. */
  readonly corners?: (moment: LaidMoment<S>) => readonly (readonly [number, number])[];
  /** Files of others that its settings may come from and go to. */
  readonly files?: 'cdl';
  /** Makes what takes long and needs no picture, once for an engine: while the first picture is fetched there is time for it. @param settings in their units */
  readonly ahead?: (engine: Engine, settings: Values<S>) => void;
  /** Called once a plan. */
  readonly prepare: (setup: Setup) => Render<S>;
}

/** A trait as the index holds it, whatever its settings. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- settings differ from trait to trait; the index only reads declarations
export type AnyTrait = Trait<any>;

/** Declares a trait; the declaration is all that cards, checks, documents and plans read. */
export const trait = <S extends Settings>(declaration: Trait<S>): Trait<S> => declaration;

/** What follows from settings, and from what else it is given, worked out anew only when one of them is another: for all bands of a picture once. */
export function perSettings<A extends readonly unknown[], T>(work: (...of: A) => T): (...of: A) => T {
  let of: A | undefined;
  let made: T;
  return (...now) => {
    if (!of || now.some((value, i) => value !== of![i])) {
      made = work(...now);
      of = now;
    }
    return made;
  };
}
