import { basename } from 'node:path';
import type { Encoding } from '@tin-ghost/core';
import type { Rate } from './footage';

export type Container = 'mp4' | 'webm' | 'mov' | 'mkv' | 'png' | 'proxy';

/** How the pictures are coded. */
export type Coding = 'h264' | 'h265' | 'vp9' | 'av1' | 'prores' | 'dnxhr' | 'ffv1' | 'png' | 'proxy';

/** How much of the picture a coding that loses something keeps: to look at, to hand on, to work on further. */
export type Quality = 'check' | 'deliver' | 'master';
export const QUALITIES: readonly Quality[] = ['check', 'deliver', 'master'];

interface Coder {
  readonly container: Container;
  /** Bits it can hold, the usual first. */
  readonly depths: readonly number[];
  /** Bits that are usual for a quality, where they are others. */
  readonly depthFor?: Partial<Record<Quality, number>>;
  /** Smallest picture it takes; any where it is not said. */
  readonly least?: { readonly width: number; readonly height: number };
  /** ffmpeg's arguments for the pictures. */
  readonly pictures: (options: CodingOptions & { readonly quality: Quality }) => string[];
}

export interface CodingOptions {
  readonly coding: Coding;
  /** File to write (or the printf pattern of a PNG sequence). */
  readonly file: string;
  readonly width: number;
  readonly height: number;
  readonly encoding: Encoding;
  readonly quality?: Quality;
  /** Number of the first file of a PNG sequence. */
  readonly firstNumber?: number;
}

const TAGS = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'];
/** ProRes and DNxHR write into each picture's header what the picture says of itself. */
const TAGGED = ['-vf', 'setparams=colorspace=bt709:color_primaries=bt709:color_trc=bt709:range=tv', ...TAGS];

/** ffmpeg's arguments for the sound and the file of each container. */
const FILES: Record<Container, readonly string[]> = {
  mp4: ['-movflags', '+faststart', '-c:a', 'aac', '-b:a', '192k', '-f', 'mp4'],
  webm: ['-c:a', 'libopus', '-b:a', '160k', '-f', 'webm'],
  mov: ['-movflags', '+write_colr', '-c:a', 'pcm_s16le', '-f', 'mov'],
  mkv: ['-c:a', 'flac', '-f', 'matroska'],
  png: ['-f', 'image2'],
  proxy: ['-movflags', '+faststart', '-f', 'mp4'],
};

/** Smaller pictures than this are coded by the plainer one of the two AV1 encoders, as the other takes none. */
const SVT_LEAST = 64;

const CODERS: Record<Coding, Coder> = {
  h264: {
    container: 'mp4',
    depths: [8, 10],
    pictures: ({ quality }) => ['-c:v', 'libx264', '-preset', 'medium', '-crf', { check: '26', deliver: '18', master: '12' }[quality], ...TAGS],
  },
  h265: {
    container: 'mp4',
    depths: [10, 8],
    pictures: ({ quality }) => [
      ...['-c:v', 'libx265', '-preset', 'medium', '-crf', { check: '28', deliver: '20', master: '14' }[quality]],
      // As players of the other kind of MOV and MP4 look for it.
      ...['-tag:v', 'hvc1', '-x265-params', 'log-level=error', ...TAGS],
    ],
  },
  vp9: {
    container: 'webm',
    depths: [8, 10],
    pictures: ({ quality }) => [
      ...['-c:v', 'libvpx-vp9', '-crf', { check: '36', deliver: '24', master: '15' }[quality], '-b:v', '0'],
      ...['-deadline', 'good', '-cpu-used', '4', '-row-mt', '1', ...TAGS],
    ],
  },
  av1: {
    container: 'webm',
    depths: [10, 8],
    pictures: ({ quality, width, height }) => [
      ...(Math.min(width, height) < SVT_LEAST ? ['-c:v', 'libaom-av1', '-cpu-used', '6', '-b:v', '0'] : ['-c:v', 'libsvtav1', '-preset', '8']),
      ...['-crf', { check: '40', deliver: '27', master: '16' }[quality], ...TAGS],
    ],
  },
  // Profiles LT, 422 and 422 HQ.
  prores: { container: 'mov', depths: [10], pictures: ({ quality }) => ['-c:v', 'prores_ks', '-profile:v', { check: '1', deliver: '2', master: '3' }[quality], ...TAGGED] },
  // Profiles SQ and HQ have 8 bits, HQX has 10.
  dnxhr: {
    container: 'mov',
    depths: [8, 10],
    depthFor: { master: 10 },
    least: { width: 256, height: 120 },
    pictures: ({ quality, encoding }) => [
      ...['-c:v', 'dnxhd', '-profile:v', encoding.bits > 8 ? 'dnxhr_hqx' : { check: 'dnxhr_lb', deliver: 'dnxhr_sq', master: 'dnxhr_hq' }[quality]],
      ...TAGGED,
    ],
  },
  ffv1: {
    container: 'mkv',
    depths: [8, 10, 16],
    pictures: ({ width, height }) => ['-c:v', 'ffv1', '-level', '3', ...(width >= 64 && height >= 64 ? ['-slices', '4'] : []), '-slicecrc', '1', '-g', '1'],
  },
  png: {
    container: 'png',
    depths: [8, 16],
    pictures: ({ encoding, file, firstNumber = 0 }) => [
      ...['-c:v', 'png', '-pix_fmt', encoding.bits > 8 ? 'rgb48be' : 'rgb24'],
      ...(/%0?\d*d/.test(basename(file)) ? ['-start_number', String(firstNumber)] : ['-update', '1']),
    ],
  },
  // Every picture is whole in itself, so that any can be shown at once.
  proxy: {
    container: 'proxy',
    depths: [8],
    pictures: () => ['-c:v', 'libx264', '-preset', 'veryfast', '-tune', 'fastdecode', '-crf', '14', '-g', '1', ...TAGS],
  },
};

/** Codings that a container holds, the usual first. */
export const codingsOf = (container: Container): Coding[] => (Object.keys(CODERS) as Coding[]).filter((coding) => CODERS[coding].container === container);

/** Bits a coding can hold. */
export const depthsOf = (coding: Coding): readonly number[] => CODERS[coding].depths;

/** Bits that a coding has where none are asked for. */
export const usualDepth = (coding: Coding, quality: Quality = 'deliver'): number => CODERS[coding].depthFor?.[quality] ?? CODERS[coding].depths[0]!;

/** Why a coding cannot take pictures of a size, in words; undefined where it can. */
export function tooSmallFor(coding: Coding, { width, height }: { width: number; height: number }): string | undefined {
  const { least } = CODERS[coding];
  if (!least || (width >= least.width && height >= least.height)) return undefined;
  return `this coding takes pictures of ${least.width} by ${least.height} and more, not ${width} by ${height}`;
}

/** ffmpeg's arguments that choose and set the encoder of the pictures. */
export const pictureCoding = (options: CodingOptions): string[] => CODERS[options.coding].pictures({ ...options, quality: options.quality ?? 'deliver' });

/** ffmpeg's arguments that choose and set the encoder of the sound, and the kind of file. */
export const fileCoding = (container: Container): readonly string[] => FILES[container];

/** ffmpeg's arguments for a file of pictures alone, to be joined without coding them again. */
export const segmentCoding = (container: Container): readonly string[] => ['-f', { mp4: 'mp4', webm: 'mp4', mov: 'mov', mkv: 'matroska', png: 'image2', proxy: 'mp4' }[container]];

/** ffmpeg's arguments for the pictures of segments that are joined. */
export const joinedPictures = (container: Container, { num, den }: Rate): readonly string[] => [
  ...['-c:v', 'copy'],
  // Its files count in milliseconds, which two roundings would miss; each picture stands for itself.
  ...(container === 'mkv' ? ['-bsf:v', `setts=ts=round(N*${den}/(${num}*TB))`] : []),
];

/** Container of a coding. */
export const containerFor = (coding: Coding): Container => CODERS[coding].container;

/** ffmpeg's arguments that choose and set all that a coding's file is made with. */
export const codec = (options: CodingOptions): string[] => [...pictureCoding(options), ...FILES[CODERS[options.coding].container]];

const LIMITED_709 = { matrix: 'bt709', range: 'limited' } as const;

/** What the encoder of a container takes. */
export function encodingFor(container: Container, bits: number): Encoding {
  if (container === 'mkv' || container === 'png') return { layout: 'rgb', bits, subX: 0, subY: 0, matrix: 'bt709', range: 'full' };
  return { layout: 'yuv', bits, subX: 1, subY: container === 'mov' ? 0 : 1, ...LIMITED_709 };
}
