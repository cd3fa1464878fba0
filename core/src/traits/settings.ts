/**
 * Kinds of setting. Each unit knows its sign, its range by default and how it becomes a number for the picture at hand,
 * so that no setting is in output pixels.
 */
import type { Units } from './units';

export type Unit =
  | 'percentOfWidth'
  | 'percentOfHeight'
  | 'percent'
  | 'micrometres'
  | 'millimetres'
  | 'lines'
  | 'linesPerSecond'
  | 'milliseconds'
  | 'nanoseconds'
  | 'microseconds'
  | 'megahertz'
  | 'hertz'
  | 'perSecond'
  | 'perMinute'
  | 'perPicture'
  | 'seconds'
  | 'pictures'
  | 'decibels'
  | 'stops'
  | 'degrees'
  | 'thousandths'
  | 'kelvins'
  | 'share';

/** Red, green and blue of a colour as displayed, each 0 to 1. */
export type Colour = readonly [number, number, number];

/** Points of a curve, [in, out], each 0 to 1, rising in `in`. */
export type Curve = readonly (readonly [number, number])[];

export type Value = number | boolean | string | Colour | Curve;

interface Described {
  readonly name: string;
  readonly says: string;
}

export interface NumberSetting extends Described {
  readonly kind: 'number';
  readonly unit: Unit;
  /** Unit as written beside the value. */
  readonly sign: string;
  readonly default: number;
  readonly min: number;
  readonly max: number;
  /** Smallest change that matters, for a slider or an arrow key. */
  readonly step: number;
  /** For the strength of a tint: the setting that holds its hue, so that both can be picked at once. */
  readonly hueIn?: string;
  /** Value in the unit to the number the trait works with (pixels for lengths). */
  readonly resolve: (value: number, units: Units) => number;
}

export interface ToggleSetting extends Described {
  readonly kind: 'toggle';
  readonly default: boolean;
}

export interface ChoiceSetting<T extends string = string> extends Described {
  readonly kind: 'choice';
  readonly default: T;
  /** What may be chosen, with its name for people. */
  readonly options: Readonly<Record<T, string>>;
}

export interface ColourSetting extends Described {
  readonly kind: 'colour';
  readonly default: Colour;
}

/** A curve over values 0 to 1. */
export interface CurveSetting extends Described {
  readonly kind: 'curve';
  readonly default: Curve;
  /** What runs along it: the channel's own values, or luma. Says what histogram lies behind it. */
  readonly over: 'luma' | 'red' | 'green' | 'blue';
}

/** The identity of a table of colours that is kept beside the look; empty where there is none. */
export interface TableSetting extends Described {
  readonly kind: 'table';
  readonly default: string;
}

/** Words of the user's. */
export interface TextSetting extends Described {
  readonly kind: 'text';
  readonly default: string;
  /** Characters at the most. */
  readonly most: number;
  /** What may stand in braces, where the text is one of several lines with fields. */
  readonly fields?: readonly string[];
  /** Of a short text: what it must look like, as a regular expression and in words. */
  readonly pattern?: string;
  readonly form?: string;
}

/** The identity of a font: one that ships, or one of the user's by the hash of its file. */
export interface FontSetting extends Described {
  readonly kind: 'font';
  readonly default: string;
}

/** The identity of a plate; empty where there is none. */
export interface PlateSetting extends Described {
  readonly kind: 'plate';
  readonly default: string;
}

export type Setting = NumberSetting | ToggleSetting | ChoiceSetting | ColourSetting | CurveSetting | TableSetting | TextSetting | FontSetting | PlateSetting;
export type Settings = Readonly<Record<string, Setting>>;

interface NumberOptions extends Described {
  default: number;
  min?: number;
  max: number;
  step?: number;
  hueIn?: string;
}

const number =
  (unit: Unit, sign: string, step: number, resolve: NumberSetting['resolve'] = (v) => v) =>
  (options: NumberOptions): NumberSetting => ({ kind: 'number', unit, sign, min: 0, step, ...options, resolve });

/** Length in hundredths of the picture's width; becomes pixels. */
export const percentOfWidth = number('percentOfWidth', '% W', 0.01, (v, u) => (v / 100) * u.width);
/** Length in hundredths of the picture's height; becomes pixels down the picture. */
export const percentOfHeight = number('percentOfHeight', '% H', 0.01, (v, u) => (v / 100) * u.height);
/** A ratio in hundredths; becomes the ratio. */
export const percent = number('percent', '%', 0.01, (v) => v / 100);
/** Length on the carrier's gate; becomes pixels. */
export const micrometres = number('micrometres', 'µm', 0.1, (v, u) => v / u.micrometresPerPixel);
/** Length on the carrier's gate; becomes pixels. */
export const millimetres = number('millimetres', 'mm', 0.01, (v, u) => (v * 1000) / u.micrometresPerPixel);
/** A count of lines over the picture's height. */
export const lines = number('lines', 'lines', 1);
/** Lines a second. */
export const linesPerSecond = number('linesPerSecond', 'lines/s', 0.1);
/** Time along a line; becomes pixels. */
export const nanoseconds = number('nanoseconds', 'ns', 1, (v, u) => v / 1000 / u.microsecondsPerPixel);
/** Time along a line; becomes pixels. */
export const microseconds = number('microseconds', 'µs', 0.1, (v, u) => v / u.microsecondsPerPixel);
/** Frequency along a line; becomes cycles a pixel. */
export const megahertz = number('megahertz', 'MHz', 0.01, (v, u) => v * u.microsecondsPerPixel);
export const hertz = number('hertz', 'Hz', 0.1);
export const perSecond = number('perSecond', '/s', 0.1);
export const perMinute = number('perMinute', '/min', 0.1);
/** A mean count on each of the carrier's pictures. */
export const perPicture = number('perPicture', '/picture', 0.1);
export const milliseconds = number('milliseconds', 'ms', 0.1);
export const seconds = number('seconds', 's', 0.01);
/** A count of the carrier's pictures. */
export const pictures = number('pictures', 'pictures', 1);
/** Becomes a ratio of amplitudes. */
export const decibels = number('decibels', 'dB', 0.5);
/** A power of two of light. */
export const stops = number('stops', 'stops', 0.05);
/** Becomes radians. */
export const degrees = number('degrees', '°', 0.01, (v) => (v * Math.PI) / 180);
/** Density x 1000; becomes density. */
export const thousandths = number('thousandths', 'D × 1000', 0.1, (v) => v / 1000);
/** A difference of colour temperature. */
export const kelvins = number('kelvins', 'K', 10);
/** 0 to 1. */
export const share = (options: Omit<NumberOptions, 'max'> & { max?: number }): NumberSetting => number('share', '', 0.01)({ max: 1, ...options });

export const toggle = (options: Omit<ToggleSetting, 'kind'>): ToggleSetting => ({ kind: 'toggle', ...options });
export const choice = <T extends string>(options: Omit<ChoiceSetting<T>, 'kind'>): ChoiceSetting<T> => ({ kind: 'choice', ...options });
export const colour = (options: Omit<ColourSetting, 'kind'>): ColourSetting => ({ kind: 'colour', ...options });
export const curve = (options: Omit<CurveSetting, 'kind'>): CurveSetting => ({ kind: 'curve', ...options });
export const table = (options: Omit<TableSetting, 'kind' | 'default'>): TableSetting => ({ kind: 'table', default: '', ...options });
export const text = (options: Omit<TextSetting, 'kind'>): TextSetting => ({ kind: 'text', ...options });
export const font = (options: Omit<FontSetting, 'kind'>): FontSetting => ({ kind: 'font', ...options });
export const plate = (options: Omit<PlateSetting, 'kind' | 'default'>): PlateSetting => ({ kind: 'plate', default: '', ...options });

/** Settings to begin with, for an editor who only knows how much of it there should be. @param slight, ruined what differs from the defaults */
export const readySettings = <S>(slight: S, ruined: S): { slight: S; usual: Partial<S>; ruined: S } => ({ slight, usual: {}, ruined });
