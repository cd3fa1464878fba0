import { joined } from './joining';
import { SIGNS, signCharacter } from './signs';

/** What fields in a text are made of. */
export interface FieldSettings {
  /** Of the clock at the shot's first picture, h:mm or h:mm:ss. */
  readonly clockFrom: string;
  readonly clockForm: '24' | '24 short' | '12' | '12 short';
  /** At the shot's first picture, yyyy-mm-dd. */
  readonly dateFrom: string;
  readonly dateForm: 'iso' | 'day month' | 'month day' | 'dots' | 'slashes';
  /** Of the counter, h:mm:ss; may be below zero. */
  readonly counterFrom: string;
  readonly counterForm: 'time' | 'digits';
  /** hh:mm:ss:ff. */
  readonly timecodeFrom: string;
}

/** The moment of a picture. */
export interface Moment {
  readonly seconds: number;
  /** Counted at `rate` pictures a second. */
  readonly picture: number;
  readonly rate: number;
}

const MONTHS = ['JAN', 'FEB', 'MAR', 'APR', 'MAY', 'JUN', 'JUL', 'AUG', 'SEP', 'OCT', 'NOV', 'DEC'];
const DAY = 86_400;
/** A picture's moment may be a rounding error before its second. */
const ROUNDING = 1e-6;

const two = (v: number): string => String(v).padStart(2, '0');
const numbers = (text: string): number[] => text.split(/[:.-]/).map((part) => Number(part) || 0);

/** Seconds of h:mm or h:mm:ss, with a sign. */
function secondsOf(text: string): number {
  const [h = 0, m = 0, s = 0] = numbers(text.replace(/^-/, ''));
  return (text.startsWith('-') ? -1 : 1) * (h * 3600 + m * 60 + s);
}

const passed = ({ seconds }: Moment): number => Math.floor(seconds + ROUNDING);

function clock(s: FieldSettings, moment: Moment): string {
  const at = (((secondsOf(s.clockFrom) + passed(moment)) % DAY) + DAY) % DAY;
  const [h, m, sec] = [Math.floor(at / 3600), Math.floor(at / 60) % 60, at % 60];
  const tail = s.clockForm.endsWith('short') ? `:${two(m)}` : `:${two(m)}:${two(sec)}`;
  if (s.clockForm.startsWith('24')) return two(h) + tail;
  return `${h % 12 || 12}${tail} ${h < 12 ? 'AM' : 'PM'}`;
}

/** The day goes over at midnight by the clock. */
function date(s: FieldSettings, moment: Moment): string {
  const [year = 0, month = 1, day = 1] = numbers(s.dateFrom);
  const days = Math.floor((secondsOf(s.clockFrom) + passed(moment)) / DAY);
  const at = new Date(Date.UTC(year, month - 1, day + days));
  const [y, m, d] = [at.getUTCFullYear(), at.getUTCMonth(), at.getUTCDate()];
  switch (s.dateForm) {
    case 'iso':
      return `${String(y).padStart(4, '0')}-${two(m + 1)}-${two(d)}`;
    case 'day month':
      return `${d} ${MONTHS[m]} ${y}`;
    case 'month day':
      return `${MONTHS[m]} ${d} ${y}`;
    case 'dots':
      return `${two(d)}.${two(m + 1)}.${y}`;
    case 'slashes':
      return `${two(m + 1)}/${two(d)}/${two(y % 100)}`;
  }
}

function counter(s: FieldSettings, moment: Moment): string {
  const at = secondsOf(s.counterFrom) + passed(moment);
  if (s.counterForm === 'digits') return String(((at % 10_000) + 10_000) % 10_000).padStart(4, '0');
  const abs = Math.abs(at);
  return `${at < 0 ? '-' : ''}${Math.floor(abs / 3600)}:${two(Math.floor(abs / 60) % 60)}:${two(abs % 60)}`;
}

/** Pictures are counted, none left out: at 29.97 it falls behind the clock. */
function timecode(s: FieldSettings, { picture, rate }: Moment): string {
  const base = Math.max(1, Math.round(rate));
  const [h = 0, m = 0, sec = 0, f = 0] = numbers(s.timecodeFrom);
  const at = ((h * 60 + m) * 60 + sec) * base + f + picture;
  const whole = Math.floor(at / base);
  return `${two(Math.floor(whole / 3600) % 24)}:${two(Math.floor(whole / 60) % 60)}:${two(whole % 60)}:${String(at % base).padStart(base > 100 ? 3 : 2, '0')}`;
}

const FIELDS: Readonly<Record<string, (s: FieldSettings, moment: Moment) => string>> = { clock, date, counter, timecode };

/** What may stand in braces. */
export const FIELD_NAMES: readonly string[] = [...Object.keys(FIELDS), ...Object.keys(SIGNS)];

const BRACES = /\{([a-z]+)\}/g;

/** Names in braces that are no field. */
export const unknownFields = (text: string): string[] => [...text.matchAll(BRACES)].map(([, name]) => name!).filter((name) => !FIELD_NAMES.includes(name));

/** A text with its fields as they stand at a moment; what is no field stays as it is written. */
export const filledIn = (text: string, settings: FieldSettings, moment: Moment): string =>
  text.replace(BRACES, (written, name: string) => (name in SIGNS ? signCharacter(name) : (FIELDS[name]?.(settings, moment) ?? written)));

/** Characters that fields may come to be made of. */
const ANY_FIELD = `0123456789 :/.-AMP${MONTHS.join('')}`;

/** The joined letters a text needs of its font, where it has them. */
export const joinedFor = (text: string): string =>
  text
    .split(/\r\n|\r|\n/)
    .map(joined)
    .join('')
    .replace(/[^\ufe80-\ufefc]/g, '');

/** The characters a text needs of its font: its own, as they stand, and those of its fields. */
export const charactersFor = (text: string): string => `${text.replace(BRACES, ' ')}${/\{[a-z]+\}/.test(text) ? `\n${ANY_FIELD}` : ''}`;
