/** What prints can be made as, in words. */
import type { Ground } from '@tin-ghost/core';
import { ALPHA_CODINGS, CODING_DEPTHS, isImages, PRINT_CODINGS, RATED_CODINGS, type PrintCoding, type PrintFormat, type PrintSettings } from '@tin-ghost/contract';
import { texts } from '../../messages/shot';

/** What codings are called. */
export const CODING_NAMES: Readonly<Record<PrintCoding, string>> = {
  h264: 'H.264',
  h265: 'H.265',
  vp9: 'VP9',
  av1: 'AV1',
  prores: 'ProRes 422',
  prores4444: 'ProRes 4444',
  dnxhr: 'DNxHR',
  dnxhr444: 'DNxHR 444',
  ffv1: 'FFV1',
  png: 'PNG',
  tiff: 'TIFF',
  exr: 'EXR',
  gif: 'GIF',
  webp: 'WebP',
  pcm: 'WAV',
};

/** What formats are called. */
const FORMAT_NAMES: Readonly<Partial<Record<PrintFormat, string>>> = { webm: 'WebM', webp: 'WebP' };
export const formatName = (format: PrintFormat): string => FORMAT_NAMES[format] ?? format.toUpperCase();

export type Quality = NonNullable<PrintSettings['quality']>;

/** A format and one of its codings, as one choice. */
export interface Form {
  readonly format: PrintFormat;
  readonly coding: PrintCoding;
}

export const formKey = ({ format, coding }: Form): string => `${format}/${coding}`;

export const codingOf = ({ format, coding }: Pick<PrintSettings, 'format' | 'coding'>): PrintCoding => coding ?? PRINT_CODINGS[format][0];

/** Every choice under the words of its kind, in the order in which they are offered. */
export const FORMS: readonly { readonly kind: string; readonly forms: readonly (Form & { readonly name: string })[] }[] = [
  {
    kind: texts.film,
    forms: [
      { format: 'mp4', coding: 'h264', name: texts.formPlaysEverywhere('MP4', CODING_NAMES.h264) },
      { format: 'mp4', coding: 'h265', name: texts.form('MP4', CODING_NAMES.h265) },
      { format: 'webm', coding: 'vp9', name: texts.form('WebM', CODING_NAMES.vp9) },
      { format: 'webm', coding: 'av1', name: texts.form('WebM', CODING_NAMES.av1) },
      { format: 'mov', coding: 'prores', name: texts.formToEdit('MOV', CODING_NAMES.prores) },
      { format: 'mov', coding: 'prores4444', name: texts.formToEdit('MOV', CODING_NAMES.prores4444) },
      { format: 'mov', coding: 'dnxhr', name: texts.formToEdit('MOV', CODING_NAMES.dnxhr) },
      { format: 'mov', coding: 'dnxhr444', name: texts.formToEdit('MOV', CODING_NAMES.dnxhr444) },
      { format: 'mxf', coding: 'dnxhr', name: texts.formToEdit('MXF', CODING_NAMES.dnxhr) },
      { format: 'mxf', coding: 'dnxhr444', name: texts.formToEdit('MXF', CODING_NAMES.dnxhr444) },
      { format: 'mkv', coding: 'ffv1', name: texts.formLossless('MKV', CODING_NAMES.ffv1) },
    ],
  },
  {
    kind: texts.images,
    forms: [
      { format: 'png', coding: 'png', name: 'PNG' },
      { format: 'tiff', coding: 'tiff', name: 'TIFF' },
      { format: 'exr', coding: 'exr', name: texts.exrHalfFloatLinearLight },
    ],
  },
  {
    kind: texts.loopKind,
    forms: [
      { format: 'gif', coding: 'gif', name: 'GIF' },
      { format: 'webp', coding: 'webp', name: 'WebP' },
    ],
  },
  { kind: texts.sound, forms: [{ format: 'wav', coding: 'pcm', name: texts.wav16Bits }] },
];

export const QUALITIES: readonly (readonly [Quality, string])[] = [
  ['check', texts.toCheckSmall],
  ['deliver', texts.toDeliver],
  ['master', texts.masterLarge],
];

/** In place of a quality, where a bit rate can be set. */
export const BY_BIT_RATE = ['rate', texts.byBitRate] as const;
export const takesBitRate = (coding: PrintCoding): boolean => RATED_CODINGS.includes(coding);
/** Mbit/s that is offered first. */
export const USUAL_BIT_RATE = 12;

/** Codings that lose nothing, or have one quality alone. */
const ONE_QUALITY: readonly PrintCoding[] = ['dnxhr444', 'ffv1', 'png', 'tiff', 'exr', 'pcm'];
export const hasQuality = (coding: PrintCoding): boolean => !ONE_QUALITY.includes(coding);

/** What the picture of a print is: worn, or the wear alone over a ground. */
export const GROUNDS: readonly (readonly [Ground | 'worn', string])[] = [
  ['worn', texts.worn],
  ['alpha', texts.wearAloneWithAlpha],
  ['grey', texts.wearAloneOverGrey],
  ['black', texts.wearAloneOverBlack],
];

/** How the wear alone is laid over the picture elsewhere, and what comes of it. */
export function groundWords(ground: Ground, coding: PrintCoding): string {
  const exact = coding === 'ffv1' || coding === 'png' || coding === 'tiff';
  const comes = exact ? texts.itGivesWornPictureWithin : texts.itGivesNearlyWornPicture;
  if (ground === 'alpha') return texts.laidByNormal(comes);
  if (ground === 'grey') return texts.laidByLinearLight(comes);
  return texts.laidByAdd;
}

/** Whether a form can be chosen: a single frame is an image; alpha, and the signal that is laid, need a place. */
export function fits({ format, coding }: Form, { frame, ground, sound }: { frame: boolean; ground: Ground | undefined; sound: boolean }): boolean {
  if (frame && !isImages(format)) return false;
  if (format === 'wav') return sound && ground === undefined;
  if (ground !== undefined && coding === 'exr') return false;
  return ground !== 'alpha' || ALPHA_CODINGS.includes(coding);
}

/** Depths that can be chosen, the usual first. VP9 has alpha with 8 bits alone; DNxHR has both as a master. */
export function depthsFor(coding: PrintCoding, ground: Ground | undefined, quality: Quality): readonly number[] {
  if (coding === 'dnxhr') return quality === 'master' ? [10, 8] : [];
  if ((coding === 'vp9' && ground === 'alpha') || CODING_DEPTHS[coding].length === 1) return [];
  return CODING_DEPTHS[coding];
}

/** Profiles of DNxHR that are told apart by their depth. */
const PROFILES: Readonly<Record<number, string>> = { 8: 'HQ', 10: 'HQX' };

/** What a depth is called. */
export const depthName = (coding: PrintCoding, bits: number): string => (coding === 'dnxhr' ? texts.profileBits(PROFILES[bits]!, bits) : texts.bits(bits));
