/**
 * Kinds of setting. Each unit knows its sign, its range by default and how it becomes a number for the picture at hand,
 * so that no setting is in output pixels.
 */
import type { Units } from './units';

export type Unit = 'percentOfWidth' | 'percent' | 'micrometres' | 'lines' | 'linesPerSecond' | 'thousandths' | 'share';

export interface NumberSetting {
  readonly kind: 'number';
  readonly unit: Unit;
  /** Unit as written beside the value. */
  readonly sign: string;
  readonly name: string;
  readonly says: string;
  readonly default: number;
  readonly min: number;
  readonly max: number;
  /** Smallest change that matters, for a slider or an arrow key. */
  readonly step: number;
  /** Value in the unit to the number the trait works with (pixels for lengths). */
  readonly resolve: (value: number, units: Units) => number;
}

export interface ToggleSetting {
  readonly kind: 'toggle';
  readonly name: string;
  readonly says: string;
  readonly default: boolean;
}

export type Setting = NumberSetting | ToggleSetting;
export type Settings = Readonly<Record<string, Setting>>;

interface NumberOptions {
  name: string;
  says: string;
  default: number;
  min?: number;
  max: number;
  step?: number;
}

const number =
  (unit: Unit, sign: string, step: number, resolve: NumberSetting['resolve']) =>
  (options: NumberOptions): NumberSetting => ({ kind: 'number', unit, sign, min: 0, step, ...options, resolve });

/** Length in hundredths of the picture's width; becomes pixels. */
export const percentOfWidth = number('percentOfWidth', '% W', 0.01, (v, u) => (v / 100) * u.width);
/** A ratio in hundredths; becomes the ratio. */
export const percent = number('percent', '%', 0.01, (v) => v / 100);
/** Length on the carrier's gate; becomes pixels. */
export const micrometres = number('micrometres', 'µm', 0.1, (v, u) => v / u.micrometresPerPixel);
/** A count of lines over the picture's height. */
export const lines = number('lines', 'lines', 1, (v) => v);
/** Lines a second. */
export const linesPerSecond = number('linesPerSecond', 'lines/s', 0.1, (v) => v);
/** Density x 1000; becomes density. */
export const thousandths = number('thousandths', 'D × 1000', 0.1, (v) => v / 1000);
/** 0 to 1. */
export const share = (options: Omit<NumberOptions, 'max'> & { max?: number }): NumberSetting => number('share', '', 0.01, (v) => v)({ max: 1, ...options });

export const toggle = (options: Omit<ToggleSetting, 'kind'>): ToggleSetting => ({ kind: 'toggle', ...options });
