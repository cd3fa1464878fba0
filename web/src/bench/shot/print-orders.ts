import { lookShape, preparedFrames, preparedSize, shownSize, type Ground } from '@tin-ghost/core';
import { holdsSound, isImages, type Print, type PrintCoding, type PrintFormat, type PrintOrder, type Shot } from '@tin-ghost/contract';
import { rateOf } from '../../api/footage';
import { codingOf, hasQuality, type Quality } from './print-formats';

/** What is made of several shots. */
export type Making = 'each' | 'film' | 'both';

export interface PrintChoice {
  /** A pattern of the files' names, the usual ones without; a film beside files of its shots keeps its usual one. */
  readonly name?: string;
  readonly format: PrintFormat;
  readonly coding: PrintCoding;
  /** The coding's usual ones without. */
  readonly bits?: number;
  /** The wear alone. */
  readonly ground?: Ground;
  /** Of several images. */
  readonly firstNumber?: number;
  readonly quality: Quality;
  /** Mbit/s, in place of a quality. */
  readonly bitRate?: number;
  /** Of each shot's own size. */
  readonly share: number;
  /** Bars beside a picture of its carrier's shape; else the file takes that shape. */
  readonly bars: boolean;
  readonly sound: boolean;
  readonly making: Making;
  /** Of a single shot, from 0, the last excluded. */
  readonly range?: { readonly from: number; readonly to: number };
}

const even = (v: number): number => Math.max(16, Math.round(v / 2) * 2);

/** The size of the file of a shot. */
export function sizeOf({ medium, preparation, look }: Shot, { share, bars }: Pick<PrintChoice, 'share' | 'bars'>): { width: number; height: number } {
  const { width, height } = preparedSize(medium.footage!, preparation);
  const whole = { width: even(width * share), height: even(height * share) };
  if (bars) return whole;
  const shown = shownSize(look, whole);
  return { width: even(shown.width), height: even(shown.height) };
}

/** Whether a shot's look has a shape of its own, beside which there can be bars. */
export const hasShape = ({ look }: Shot): boolean => lookShape(look) !== undefined;

/** What is ordered of the server: a file for each shot, one film of all, or both. A film has the first shot's size and rate. */
export function ordersFor(shots: readonly Shot[], choice: PrintChoice): PrintOrder[] {
  const { name, format, coding, bits, ground, firstNumber, quality, bitRate, making, range } = choice;
  const order = (shot: Shot, more: Partial<PrintOrder>): PrintOrder => ({
    ...{ shotId: shot.id, format, coding, ...(bitRate !== undefined ? { bitRate } : hasQuality(coding) && { quality }), ...(bits && { bits }), ...(ground && { ground }) },
    ...{ sound: choice.sound && holdsSound(format), ...(isImages(format) && firstNumber !== undefined && { firstNumber }), ...sizeOf(shot, choice), ...more },
  });
  const [first, ...others] = shots;
  if (!first) return [];
  const named = name ? { name } : {};
  if (others.length === 0) return [order(first, { ...range, ...named })];
  const film = { following: others.map(({ id }) => id), ...(making === 'film' && named) };
  return [...(making === 'film' ? [] : shots.map((shot) => order(shot, named))), ...(making === 'each' ? [] : [order(first, film)])];
}

/** Frames of the prepared shot. */
export const framesOf = ({ medium, preparation }: Shot): number => preparedFrames(medium.footage!.frames, preparation);

/** How many pixels are made, over all files. */
export function pixelsOf(shots: readonly Shot[], choice: PrintChoice): number {
  const { making, range } = choice;
  const [first] = shots;
  if (!first) return 0;
  const area = (shot: Shot): number => sizeOf(shot, choice).width * sizeOf(shot, choice).height;
  const rate = ({ medium }: Shot): number => rateOf(medium.footage!);
  if (shots.length === 1) return area(first) * (range ? range.to - range.from : framesOf(first));
  const each = shots.reduce((sum, shot) => sum + area(shot) * framesOf(shot), 0);
  const film = area(first) * shots.reduce((sum, shot) => sum + (framesOf(shot) / rate(shot)) * rate(first), 0);
  return (making === 'film' ? 0 : each) + (making === 'each' ? 0 : film);
}

/** Seconds of a shot, or of a range of it. */
const lasts = (shot: Shot, range?: PrintChoice['range']): number => (range ? range.to - range.from : framesOf(shot)) / rateOf(shot.medium.footage!);

/** Bytes of sound alone (16 bits a sample), over all files: a shot's as it is, a film's in stereo at 48 kHz. */
export function soundBytes(shots: readonly Shot[], { making, range }: Pick<PrintChoice, 'making' | 'range'>): number {
  const seconds = (shot: Shot): number => lasts(shot, shots.length === 1 ? range : undefined);
  const bytes = ({ medium }: Shot): number => 2 * (medium.footage!.sound ? medium.footage!.sound.channels * medium.footage!.sound.sampleRate : 0);
  const each = shots.reduce((sum, shot) => sum + seconds(shot) * bytes(shot), 0);
  const film = shots.reduce((sum, shot) => sum + seconds(shot) * 2 * 2 * 48_000, 0);
  return shots.length === 1 ? each : (making === 'film' ? 0 : each) + (making === 'each' ? 0 : film);
}

/** Seconds that are made, over all files. */
export function secondsOf(shots: readonly Shot[], { making, range }: Pick<PrintChoice, 'making' | 'range'>): number {
  const seconds = (shot: Shot): number => lasts(shot, shots.length === 1 ? range : undefined);
  return (shots.length > 1 && making === 'both' ? 2 : 1) * shots.reduce((sum, shot) => sum + seconds(shot), 0);
}

/** One figure for every quality. */
const same = (bits: number): Record<Quality, number> => ({ check: bits, deliver: bits, master: bits });

/** Bits a pixel where nothing was struck yet by which to tell: means of two grained looks at 1080 lines, measured on the demo. */
const USUAL_BITS: Record<PrintCoding, Record<Quality, number>> = {
  h264: { check: 0.05, deliver: 0.19, master: 0.44 },
  h265: { check: 0.03, deliver: 0.12, master: 0.34 },
  vp9: { check: 0.05, deliver: 0.15, master: 0.25 },
  av1: { check: 0.03, deliver: 0.1, master: 0.25 },
  // DNxHR has a fixed rate: LB, SQ, HQX.
  dnxhr: { check: 0.87, deliver: 2.8, master: 4.2 },
  dnxhr444: same(7.1),
  prores: { check: 1.6, deliver: 2.2, master: 3.3 },
  prores4444: { check: 1.6, deliver: 2.4, master: 4.4 },
  ffv1: same(5),
  png: same(13),
  tiff: same(35),
  exr: same(23),
  gif: { check: 2.7, deliver: 3.3, master: 4.1 },
  webp: { check: 0.19, deliver: 0.37, master: 4 },
  // Told by its length: `soundBytes`.
  pcm: same(0),
};

/** Where nothing is lost, finer pictures take more: by bits of the file, measured in the same way. */
const DEEPER_BITS: Partial<Record<PrintCoding, Readonly<Record<number, number>>>> = { png: { 16: 35 }, ffv1: { 10: 9.1, 16: 23 } };

const usualBits = ({ coding, quality, bits }: Pick<PrintChoice, 'coding' | 'quality' | 'bits'>): number =>
  (bits === undefined ? undefined : DEEPER_BITS[coding]?.[bits]) ?? USUAL_BITS[coding][quality];

/**
 * About how large files become and how long they take, by what was struck last in the same way.
 * @returns bytes, and seconds where some print was struck by which to tell
 */
export function estimate(
  pixels: number,
  { coding, quality, bits, ground }: Pick<PrintChoice, 'coding' | 'quality' | 'bits' | 'ground'>,
  prints: readonly Print[],
): { bytes: number; seconds: number | null } {
  const done = prints.filter((print) => print.state === 'done' && print.bytes !== null && print.total > 0);
  const area = ({ settings, total }: Print): number => settings.width * settings.height * total;
  const alike = done.find(
    ({ settings }) =>
      codingOf(settings) === coding &&
      settings.bitRate === undefined &&
      (settings.quality ?? 'deliver') === (hasQuality(coding) ? quality : 'deliver') &&
      settings.bits === bits &&
      settings.ground === ground,
  );
  const timed = done.find(({ perSecond }) => perSecond > 0);
  return {
    bytes: alike ? (alike.bytes! / area(alike)) * pixels : (usualBits({ coding, quality, bits }) * pixels) / 8,
    seconds: timed ? pixels / (timed.perSecond * timed.settings.width * timed.settings.height) : null,
  };
}
