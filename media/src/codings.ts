/** How pictures are coded: what each coding holds, and ffmpeg's arguments for it. */
import { basename } from 'node:path';
import type { Encoding, Ground } from '@tin-ghost/core';
import { fileCoding, type Container } from './containers';

export type Coding = 'h264' | 'h265' | 'vp9' | 'av1' | 'prores' | 'prores4444' | 'dnxhr' | 'dnxhr444' | 'ffv1' | 'png' | 'tiff' | 'exr' | 'gif' | 'webp' | 'pcm' | 'proxy';

/** How much of the picture a coding that loses something keeps: to look at, to hand on, to work on further. */
export type Quality = 'check' | 'deliver' | 'master';
export const QUALITIES: readonly Quality[] = ['check', 'deliver', 'master'];

interface Chosen extends CodingOptions {
  readonly quality: Quality;
  readonly bits: number;
}

interface Coder {
  /** The usual one first. */
  readonly containers: readonly Container[];
  /** Bits it can hold, the usual first. */
  readonly depths: readonly number[];
  /** Bits that are usual for a quality, where they are others. */
  readonly depthFor?: Partial<Record<Quality, number>>;
  /** Smallest picture it takes; any where it is not said. */
  readonly least?: { readonly width: number; readonly height: number };
  /** What its pictures are made of: luma and colour differences, those halved across, or both ways; or red, green and blue. */
  readonly planes: '420' | '422' | '444' | 'rgb';
  /** ffmpeg's name of the pixels it takes with alpha; it takes none where this is not said. */
  readonly alpha?: (bits: number) => string;
  /** Whether a bit rate can be set. */
  readonly rated?: true;
  /** Filters that its pictures go through. */
  readonly filters?: (options: Chosen) => readonly string[];
  /** ffmpeg's arguments for the pictures. */
  readonly pictures: (options: Chosen) => readonly string[];
}

export interface CodingOptions {
  readonly coding: Coding;
  /** File to write (or the printf pattern of images). */
  readonly file: string;
  readonly width: number;
  readonly height: number;
  /** Of the pictures that come. */
  readonly encoding: Encoding;
  /** Bits of the file; those of the pictures that come where it is not said. */
  readonly bits?: number;
  /** Whether a fourth plane comes, of alpha. */
  readonly alpha?: boolean;
  readonly quality?: Quality;
  /** Mean Mbit/s of the pictures, in place of a quality; of codings that can be set so. */
  readonly bitRate?: number;
  /** Number of the first image. */
  readonly firstNumber?: number;
}

const TAGS = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'];
const RGB_TAGS = ['-colorspace', 'rgb', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'pc'];
/** ProRes and DNxHR write into each picture's header what the picture says of itself. */
const TAGGED = (): string[] => ['setparams=colorspace=bt709:color_primaries=bt709:color_trc=bt709:range=tv'];

/** Smaller pictures than this are coded by the plainer one of the two AV1 encoders, as the other takes none. */
const SVT_LEAST = 64;
const AV1_FACTORS = { check: '40', deliver: '27', master: '16' };

/** Where files are counted that are written one by one; a single one stands under its name. */
const numbered = ({ file, firstNumber = 0 }: CodingOptions): string[] => (/%0?\d*d/.test(basename(file)) ? ['-start_number', String(firstNumber)] : ['-update', '1']);

/** ffmpeg's arguments for how much is kept: a constant quality, or a bit rate in kbit/s, which a shot of a few seconds keeps, too. */
const kept = (
  { quality, bitRate }: Chosen,
  factors: Record<Quality, string>,
  byRate: (kilobits: number) => readonly string[],
  always: readonly string[] = [],
): readonly string[] => (bitRate === undefined ? ['-crf', factors[quality], ...always] : ['-b:v', `${Math.round(1000 * bitRate)}k`, ...byRate(Math.round(1000 * bitRate))]);

const CODERS: Record<Coding, Coder> = {
  h264: {
    containers: ['mp4'],
    depths: [8, 10],
    planes: '420',
    rated: true,
    pictures: (options) => [
      '-c:v',
      'libx264',
      '-preset',
      'medium',
      ...kept(options, { check: '26', deliver: '18', master: '12' }, (k) => ['-maxrate', `${Math.round(1.5 * k)}k`, '-bufsize', `${k}k`, '-x264-params', 'ratetol=0.1']),
      ...TAGS,
    ],
  },
  h265: {
    containers: ['mp4'],
    depths: [10, 8],
    planes: '420',
    rated: true,
    pictures: (options) => [
      ...['-c:v', 'libx265', '-preset', 'medium', ...kept(options, { check: '28', deliver: '20', master: '14' }, (k) => ['-maxrate', `${k}k`, '-bufsize', `${k}k`])],
      // As players of the other kind of MOV and MP4 look for it.
      ...['-tag:v', 'hvc1', '-x265-params', 'log-level=error', ...TAGS],
    ],
  },
  vp9: {
    containers: ['webm'],
    depths: [8, 10],
    planes: '420',
    alpha: () => 'yuva420p',
    rated: true,
    pictures: ({ alpha, ...options }) => [
      ...[
        '-c:v',
        'libvpx-vp9',
        ...kept(options, { check: '36', deliver: '24', master: '15' }, (k) => ['-minrate', `${k}k`, '-maxrate', `${k}k`, '-bufsize', `${k}k`], ['-b:v', '0']),
      ],
      ...['-deadline', 'good', '-cpu-used', '4', '-row-mt', '1', ...TAGS],
      // Pictures and alpha are coded beside each other; neither may leave the other's order.
      ...(alpha ? ['-auto-alt-ref', '0'] : []),
    ],
  },
  av1: {
    containers: ['webm'],
    depths: [10, 8],
    planes: '420',
    rated: true,
    pictures: (options) => [
      ...(Math.min(options.width, options.height) < SVT_LEAST
        ? ['-c:v', 'libaom-av1', '-cpu-used', '6', ...kept(options, AV1_FACTORS, () => [], ['-b:v', '0'])]
        : ['-c:v', 'libsvtav1', '-preset', '8', ...kept(options, AV1_FACTORS, (k) => ['-svtav1-params', `rc=2:tbr=${k}`])]),
      ...TAGS,
    ],
  },
  // Profiles LT, 422 and 422 HQ.
  prores: {
    containers: ['mov'],
    depths: [10],
    planes: '422',
    filters: TAGGED,
    pictures: ({ quality }) => ['-c:v', 'prores_ks', '-profile:v', { check: '1', deliver: '2', master: '3' }[quality], ...TAGS],
  },
  // A quantiser of its own for each quality: this profile has no smaller sisters.
  prores4444: {
    containers: ['mov'],
    depths: [10],
    planes: '444',
    alpha: (bits) => `yuva444p${bits}le`,
    filters: TAGGED,
    pictures: ({ quality, alpha }) => [
      ...['-c:v', 'prores_ks', '-profile:v', '4', '-qscale:v', { check: '9', deliver: '5', master: '2' }[quality], ...TAGS],
      ...(alpha ? ['-alpha_bits', '16'] : []),
    ],
  },
  // Profiles SQ and HQ have 8 bits, HQX has 10.
  dnxhr: {
    containers: ['mov', 'mxf'],
    depths: [8, 10],
    depthFor: { master: 10 },
    least: { width: 256, height: 120 },
    planes: '422',
    filters: TAGGED,
    pictures: ({ quality, bits }) => ['-c:v', 'dnxhd', '-profile:v', bits > 8 ? 'dnxhr_hqx' : { check: 'dnxhr_lb', deliver: 'dnxhr_sq', master: 'dnxhr_hq' }[quality], ...TAGS],
  },
  dnxhr444: {
    containers: ['mov', 'mxf'],
    depths: [10],
    least: { width: 256, height: 120 },
    planes: '444',
    filters: TAGGED,
    pictures: () => ['-c:v', 'dnxhd', '-profile:v', 'dnxhr_444', ...TAGS],
  },
  ffv1: {
    containers: ['mkv'],
    depths: [8, 10, 16],
    planes: 'rgb',
    pictures: ({ width, height }) => ['-c:v', 'ffv1', '-level', '3', ...(width >= 64 && height >= 64 ? ['-slices', '4'] : []), '-slicecrc', '1', '-g', '1', ...RGB_TAGS],
  },
  png: {
    containers: ['png'],
    depths: [8, 16],
    planes: 'rgb',
    alpha: (bits) => (bits > 8 ? 'rgba64be' : 'rgba'),
    pictures: (options) => ['-c:v', 'png', ...(options.alpha ? [] : ['-pix_fmt', options.bits > 8 ? 'rgb48be' : 'rgb24']), ...numbered(options)],
  },
  tiff: {
    containers: ['tiff'],
    depths: [16],
    planes: 'rgb',
    alpha: () => 'rgba64le',
    pictures: (options) => ['-c:v', 'tiff', '-compression_algo', 'deflate', ...(options.alpha ? [] : ['-pix_fmt', 'rgb48le']), ...numbered(options)],
  },
  // Half floats of light: `Encoder` turns the signal into it.
  exr: { containers: ['exr'], depths: [16], planes: 'rgb', pictures: (options) => ['-c:v', 'exr', '-format', 'half', '-compression', 'zip16', ...numbered(options)] },
  // A palette for each picture: grain of one does not take the colours of another.
  gif: {
    containers: ['gif'],
    depths: [8],
    planes: 'rgb',
    filters: ({ quality }) => [`split[a][b];[a]palettegen=stats_mode=single:max_colors=${{ check: 64, deliver: 128, master: 256 }[quality]}[p];[b][p]paletteuse=new=1`],
    pictures: () => ['-c:v', 'gif'],
  },
  webp: {
    containers: ['webp'],
    depths: [8],
    planes: 'rgb',
    pictures: ({ quality }) => [
      '-c:v',
      'libwebp_anim',
      ...(quality === 'master' ? ['-pix_fmt', 'bgra', '-lossless', '1'] : ['-pix_fmt', 'yuv420p', '-quality', quality === 'check' ? '60' : '85']),
    ],
  },
  // Sound alone.
  pcm: { containers: ['wav'], depths: [16], planes: 'rgb', pictures: () => [] },
  // Every picture is whole in itself, so that any can be shown at once.
  proxy: {
    containers: ['proxy'],
    depths: [8],
    planes: '420',
    pictures: () => ['-c:v', 'libx264', '-preset', 'veryfast', '-tune', 'fastdecode', '-crf', '14', '-g', '1', ...TAGS],
  },
};

/** Codings that a container holds, the usual first. */
export const codingsOf = (container: Container): Coding[] => (Object.keys(CODERS) as Coding[]).filter((coding) => CODERS[coding].containers.includes(container));

/** Bits a coding can hold. */
export const depthsOf = (coding: Coding): readonly number[] => CODERS[coding].depths;

/** Bits that a coding has where none are asked for. */
export const usualDepth = (coding: Coding, quality: Quality = 'deliver'): number => CODERS[coding].depthFor?.[quality] ?? CODERS[coding].depths[0]!;

/** Whether a bit rate can be set for a coding. */
export const takesBitRate = (coding: Coding): boolean => CODERS[coding].rated === true;

/** Whether a coding can hold alpha. */
export const holdsAlpha = (coding: Coding): boolean => CODERS[coding].alpha !== undefined;

/** Why a coding cannot hold the wear alone over a ground, in words; undefined where it can. */
export function unfitForGround(coding: Coding, bits: number, ground: Ground): string | undefined {
  // What is laid is told in signal, as displayed: light would be laid otherwise.
  if (coding === 'exr' || coding === 'pcm') return 'files of light and sound do not hold the wear alone';
  if (ground !== 'alpha') return undefined;
  if (!holdsAlpha(coding)) return 'this coding has no place for alpha';
  return coding === 'vp9' && bits > 8 ? 'VP9 has alpha with 8 bits alone' : undefined;
}

/** Why a coding cannot take pictures of a size, in words; undefined where it can. */
export function tooSmallFor(coding: Coding, { width, height }: { width: number; height: number }): string | undefined {
  const { least } = CODERS[coding];
  if (!least || (width >= least.width && height >= least.height)) return undefined;
  return `this coding takes pictures of ${least.width} by ${least.height} and more, not ${width} by ${height}`;
}

/** ffmpeg's name of the layout of an encoding's planes. */
export const pixelFormat = (e: Encoding, alpha = false): string =>
  `${e.layout === 'rgb' ? `gbr${alpha ? 'a' : ''}p` : `yuv${e.subY ? '420' : e.subX ? '422' : '444'}p`}${e.bits > 8 ? `${e.bits}le` : ''}`;

/** ffmpeg's arguments that choose and set the encoder of the pictures, which are brought to its kind of planes where others come. */
export function pictureCoding(options: CodingOptions): string[] {
  const { coding, encoding, alpha = false } = options;
  const coder = CODERS[coding];
  const chosen: Chosen = { ...options, quality: options.quality ?? 'deliver', bits: options.bits ?? encoding.bits };
  const own = encodingFor(coding, chosen.bits);
  const pixels = alpha ? coder.alpha!(chosen.bits) : pixelFormat(own);
  const turned =
    encoding.layout === 'rgb' && own.layout === 'yuv'
      ? ['scale=in_range=full:out_color_matrix=bt709:out_range=limited:flags=accurate_rnd+full_chroma_int', `format=${pixels}`]
      : [];
  const filters = [...turned, ...(alpha && own.layout === 'rgb' ? [`format=${pixels}`] : []), ...(coder.filters?.(chosen) ?? [])];
  return [...(filters.length ? ['-vf', filters.join(',')] : []), ...coder.pictures(chosen)];
}

/** How every coding is made in every quality, as a text: it differs where any of them does. */
export const codingsText = (): string =>
  (Object.keys(CODERS) as Coding[])
    .flatMap((coding) =>
      [...QUALITIES, ...(takesBitRate(coding) ? [undefined] : [])].map((quality) => {
        const bits = usualDepth(coding, quality);
        return [
          coding,
          ...pictureCoding({
            coding,
            quality,
            bitRate: quality ? undefined : 8,
            file: '',
            width: 1280,
            height: 720,
            encoding: encodingFor(coding, bits),
            alpha: holdsAlpha(coding),
          }),
        ].join(' ');
      }),
    )
    .join('\n');

/** ffmpeg's arguments that choose and set all that a coding's usual file is made with. */
export const codec = (options: CodingOptions): string[] => [...pictureCoding(options), ...fileCoding(CODERS[options.coding].containers[0]!)];

const LIMITED_709 = { matrix: 'bt709', range: 'limited' } as const;

/** What the encoder of a coding takes. */
export function encodingFor(coding: Coding, bits: number): Encoding {
  const { planes } = CODERS[coding];
  if (planes === 'rgb') return { layout: 'rgb', bits, subX: 0, subY: 0, matrix: 'bt709', range: 'full' };
  return { layout: 'yuv', bits, subX: planes === '444' ? 0 : 1, subY: planes === '420' ? 1 : 0, ...LIMITED_709 };
}
