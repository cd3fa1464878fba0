/** Kinds of files that prints stand in: what they hold, and how ffmpeg writes them. */
import type { Rate } from './footage';

export type Container = 'mp4' | 'webm' | 'mov' | 'mxf' | 'mkv' | 'png' | 'tiff' | 'exr' | 'gif' | 'webp' | 'wav' | 'proxy';

/** A film with its sound; an image for each picture; a loop of a few seconds without sound; sound alone. */
export type ContainerKind = 'film' | 'images' | 'loop' | 'sound';

interface Kind {
  readonly kind: ContainerKind;
  /** Endings of its files' names, the usual one first. */
  readonly endings: readonly string[];
  /** ffmpeg's arguments for the sound and the file. */
  readonly file: readonly string[];
  /** ffmpeg's name of the file that a segment of pictures alone is in; its own where it is not said. */
  readonly segment?: string;
  /** How it tells the timecode of its first picture: as its format does, or by the pictures' tag. */
  readonly timed?: 'own' | 'tag';
}

/** Each picture is a file: told so that none is mistaken for the pattern of many. */
const IMAGES = ['-f', 'image2'] as const;
const PCM = ['-c:a', 'pcm_s16le'] as const;
/** What MXF asks of its sound. */
const HZ_48000 = ['-ar', '48000'] as const;

const KINDS: Record<Container, Kind> = {
  mp4: { kind: 'film', endings: ['mp4'], file: ['-movflags', '+faststart', '-c:a', 'aac', '-b:a', '192k', '-f', 'mp4'], segment: 'mp4', timed: 'own' },
  webm: { kind: 'film', endings: ['webm'], file: ['-c:a', 'libopus', '-b:a', '160k', '-f', 'webm'], segment: 'mp4' },
  mov: { kind: 'film', endings: ['mov'], file: ['-movflags', '+write_colr', ...PCM, '-f', 'mov'], segment: 'mov', timed: 'own' },
  mxf: { kind: 'film', endings: ['mxf'], file: [...PCM, ...HZ_48000, '-f', 'mxf'], segment: 'mov', timed: 'own' },
  mkv: { kind: 'film', endings: ['mkv'], file: ['-c:a', 'flac', '-f', 'matroska'], segment: 'matroska', timed: 'tag' },
  png: { kind: 'images', endings: ['png'], file: IMAGES },
  tiff: { kind: 'images', endings: ['tif', 'tiff'], file: IMAGES },
  exr: { kind: 'images', endings: ['exr'], file: IMAGES },
  gif: { kind: 'loop', endings: ['gif'], file: ['-loop', '0', '-f', 'gif'] },
  webp: { kind: 'loop', endings: ['webp'], file: ['-loop', '0', '-f', 'webp'] },
  wav: { kind: 'sound', endings: ['wav'], file: [...PCM, '-f', 'wav'] },
  proxy: { kind: 'film', endings: [], file: ['-movflags', '+faststart', '-f', 'mp4'], segment: 'mp4' },
};

export const kindOf = (container: Container): ContainerKind => KINDS[container].kind;

/** The container that a name's ending asks for, or undefined. @param ending without its point */
export const containerByEnding = (ending: string): Container | undefined => (Object.keys(KINDS) as Container[]).find((container) => KINDS[container].endings.includes(ending));

/** The usual ending of a container's files. */
export const endingOf = (container: Container): string => KINDS[container].endings[0]!;

/** Endings of all files that can be made. */
export const ENDINGS: readonly string[] = Object.values(KINDS).flatMap(({ endings }) => endings.slice(0, 1));

/** ffmpeg's arguments that choose and set the encoder of the sound, and the kind of file. @param timecode of the first picture, told where the file can */
export const fileCoding = (container: Container, timecode?: string): readonly string[] => [
  ...(timecode === undefined || !KINDS[container].timed ? [] : KINDS[container].timed === 'own' ? ['-timecode', timecode] : ['-metadata:s:v:0', `timecode=${timecode}`]),
  ...KINDS[container].file,
];

/** How every kind of file is made, as a text. */
export const containersText = (): string => JSON.stringify(KINDS);

/** ffmpeg's arguments for a file of pictures alone, to be joined without coding them again. @param alpha whether the pictures have any */
export const segmentCoding = (container: Container, alpha = false): readonly string[] => {
  const { segment, file } = KINDS[container];
  // Matroska keeps what WebM has beside its pictures, their alpha.
  return segment ? ['-f', container === 'webm' && alpha ? 'matroska' : segment] : file;
};

/** ffmpeg's arguments for the pictures of segments that are joined. @param alpha whether they have any */
export function joinedPictures(container: Container, { num, den }: Rate, alpha = false): readonly string[] {
  const copied = ['-c:v', 'copy', ...(container === 'webm' && alpha ? ['-metadata:s:v:0', 'alpha_mode=1'] : [])];
  // Where segments count in milliseconds, two roundings would miss; each picture stands for itself.
  if (container === 'mkv' || (container === 'webm' && alpha)) return [...copied, '-bsf:v', `setts=ts=round(N*${den}/(${num}*TB))`];
  // Whose rate is told by the step of its times.
  return container === 'mxf' ? [...copied, '-bsf:v', `setts=time_base=${den}/${num}:ts=N`] : copied;
}

/** MXF has a place for these alone (SMPTE 377). */
const MXF_RATES: readonly string[] = ['24000/1001', '24/1', '25/1', '30000/1001', '30/1', '50/1', '60000/1001', '60/1'];

/** Loops are for a few seconds: what shows them holds all of their pictures. */
export const MOST_LOOP_FRAMES = 600;

/** Why a container cannot hold a film, in words; undefined where it can. */
export function unfitFor(container: Container, { rate, frames, sound }: { rate: Rate; frames: number; sound: boolean }): string | undefined {
  if (container === 'mxf' && !MXF_RATES.includes(`${rate.num}/${rate.den}`)) return `MXF has no place for ${Number((rate.num / rate.den).toFixed(3))} fps; MOV takes any`;
  if (kindOf(container) === 'loop' && frames > MOST_LOOP_FRAMES) return `a loop has at most ${MOST_LOOP_FRAMES} pictures, not ${frames}; choose a range, or a film`;
  if (kindOf(container) === 'sound' && !sound) return 'there is no sound in it';
  return undefined;
}
