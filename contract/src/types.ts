import type { ClipOrigin, CutOrigin, Encoding, Ground, Look, Preparation } from '@tin-ghost/core';

/** What a piece of footage is, as far as it is told outside the server. */
export interface Footage {
  readonly kind: 'clip' | 'still' | 'sequence';
  readonly codec: string;
  /** As seen: turned by the file's flag, with square pixels. */
  readonly width: number;
  readonly height: number;
  /** Frames a second as a fraction, so that 30000/1001 stays exact. */
  readonly rate: { readonly num: number; readonly den: number };
  /** False: pictures come at uneven times and are brought to `rate`. */
  readonly constantRate: boolean;
  readonly frames: number;
  /** Of the pictures as they are decoded. */
  readonly encoding: Encoding;
  readonly interlaced: boolean;
  /** Of its first picture, where the file tells one. */
  readonly timecode?: string;
  /** Degrees clockwise that the file's flag turns the picture. */
  readonly rotation: number;
  /** Of plates: its pictures hold two, one above the other, the colours times their alpha and the alpha. */
  readonly stacked: boolean;
  readonly sound: { readonly codec: string; readonly channels: number; readonly sampleRate: number } | null;
}

export type MediumState = 'waiting' | 'working' | 'ready' | 'failed';
export type PrintState = 'waiting' | 'striking' | 'paused' | 'done' | 'failed' | 'stopped';

/** States of prints that are not at their end. */
export const UNDER_WAY = ['waiting', 'striking', 'paused'] as const satisfies readonly PrintState[];

/** Whether a print in this state is not at its end. */
export const isUnderWay = (state: PrintState): boolean => (UNDER_WAY as readonly PrintState[]).includes(state);

/** A file that was sent, and how far it has been taken in. */
export interface Medium {
  readonly id: string;
  readonly name: string;
  readonly bytes: number;
  readonly state: MediumState;
  /** Share of the import that is done, 0 to 1; 0 while others are imported before it. */
  readonly progress: number;
  /** Why it failed, in words. */
  readonly error: string | null;
  /** null until it has been read, and where it could not be imported. From then on its pictures can be seen, before its proxy is made. */
  readonly footage: Footage | null;
  /** Size of the proxy, from when the footage has been read. */
  readonly proxyWidth: number | null;
  readonly proxyHeight: number | null;
  readonly hasSound: boolean;
  readonly createdAt: string;
}

export interface Shot {
  readonly id: string;
  readonly reelId: string;
  readonly name: string;
  /** Its place in the reel, from 0. */
  readonly position: number;
  readonly look: Look;
  /** What is done to the footage before the look. */
  readonly preparation: Preparation;
  /** Other looks that the shot keeps, in their order; null stands for `look`, which is shown. Empty where there is only that one. */
  readonly versions: readonly (Look | null)[];
  /** Rises with every kept change, so that two pages cannot overwrite each other unseen. */
  readonly revision: number;
  readonly touchedAt: string;
  readonly medium: Medium;
}

export interface ReelHead {
  readonly id: string;
  readonly name: string;
  readonly createdAt: string;
  readonly touchedAt: string;
}

export interface ReelSummary extends ReelHead {
  readonly shots: {
    readonly id: string;
    readonly name: string;
    readonly medium: Medium;
    /** Of the shot as it is prepared: trimmed, faster or slower; null before its footage is read. */
    readonly frames: number | null;
  }[];
}

export interface Reel extends ReelHead {
  readonly shots: Shot[];
}

/** Looks a shot may keep, the shown one among them. */
export const MOST_VERSIONS = 12;

/** So long what was deleted can be put back. */
export const BIN_DAYS = 30;

/** What was deleted and can be put back. */
export interface Bin {
  readonly reels: { readonly id: string; readonly name: string; readonly discardedAt: string; readonly shots: number; readonly medium: Medium | null }[];
  readonly shots: { readonly id: string; readonly name: string; readonly discardedAt: string; readonly reelId: string; readonly reel: string; readonly medium: Medium }[];
}

/** Formats of prints and the codings that each holds, the usual one first. Images are one file where there is one picture, else a zip; gif and webp are loops; wav is sound alone. */
export const PRINT_CODINGS = {
  mp4: ['h264', 'h265'],
  webm: ['vp9', 'av1'],
  mov: ['prores', 'prores4444', 'dnxhr', 'dnxhr444'],
  mxf: ['dnxhr', 'dnxhr444'],
  mkv: ['ffv1'],
  png: ['png'],
  tiff: ['tiff'],
  exr: ['exr'],
  gif: ['gif'],
  webp: ['webp'],
  wav: ['pcm'],
} as const;

export type PrintFormat = keyof typeof PRINT_CODINGS;
export type PrintCoding = (typeof PRINT_CODINGS)[PrintFormat][number];

/** Formats whose pictures are files each. */
export const IMAGE_FORMATS = ['png', 'tiff', 'exr'] as const satisfies readonly PrintFormat[];
/** Formats that are shown again and again, without sound. */
export const LOOP_FORMATS = ['gif', 'webp'] as const satisfies readonly PrintFormat[];
/** The most pictures of a loop. */
export const MOST_LOOP_FRAMES = 600;

const among = (formats: readonly PrintFormat[], format: PrintFormat): boolean => formats.includes(format);
export const isImages = (format: PrintFormat): boolean => among(IMAGE_FORMATS, format);
export const isLoop = (format: PrintFormat): boolean => among(LOOP_FORMATS, format);
/** Whether a format can hold sound. */
export const holdsSound = (format: PrintFormat): boolean => !isImages(format) && !isLoop(format);

/** The ending of a print's file. @param total pictures in it */
export const printEnding = ({ format }: Pick<PrintSettings, 'format'>, total: number): string => (isImages(format) && total > 1 ? 'zip' : format === 'tiff' ? 'tif' : format);

/** Bits of each coding, the usual first (DNxHR has 10 as a master). */
export const CODING_DEPTHS: Readonly<Record<PrintCoding, readonly number[]>> = {
  h264: [8, 10],
  h265: [10, 8],
  vp9: [8, 10],
  av1: [10, 8],
  prores: [10],
  prores4444: [10],
  dnxhr: [8, 10],
  dnxhr444: [10],
  ffv1: [8, 10, 16],
  png: [8, 16],
  tiff: [16],
  exr: [16],
  gif: [8],
  webp: [8],
  pcm: [16],
};

/** Codings for which a bit rate can be set, and its limits in Mbit/s. */
export const RATED_CODINGS: readonly PrintCoding[] = ['h264', 'h265', 'vp9', 'av1'];
export const BIT_RATE = { least: 0.1, most: 400 } as const;

/** Codings that hold alpha. */
export const ALPHA_CODINGS: readonly PrintCoding[] = ['vp9', 'prores4444', 'png', 'tiff'];

export interface PrintSettings {
  readonly format: PrintFormat;
  /** One that the format holds; its first without it. */
  readonly coding?: PrintCoding;
  /** Bits of the file; the coding's usual ones without. */
  readonly bits?: number;
  /**
   * The wear alone, to be laid over the picture in another program: with alpha by normal, over grey by linear light, over black by add. What moves or colours
   * the picture is not in it.
   */
  readonly ground?: Ground;
  /** Number of the first of several images; that of its frame, counted from 1, without. */
  readonly firstNumber?: number;
  /** To look at, to hand on (where it is not said), to work on further. */
  readonly quality?: 'check' | 'deliver' | 'master';
  /** Mean Mbit/s of the pictures, in place of a quality. */
  readonly bitRate?: number;
  readonly width: number;
  readonly height: number;
  /** The first picture, and the one after the last, of the prepared shot. */
  readonly from: number;
  readonly to: number;
  readonly sound: boolean;
}

export interface Print {
  readonly id: string;
  /** null where the shot was deleted meanwhile. */
  readonly shotId: string | null;
  readonly mediaId: string;
  readonly name: string;
  /** How many shots are in it, one after the other. */
  readonly shots: number;
  /** The look and the preparation as they were when the print was ordered; of a film of several shots those of the first. */
  readonly look: Look;
  readonly preparation: Preparation;
  readonly settings: PrintSettings;
  readonly state: PrintState;
  /** Pictures that are done, of `total`. */
  readonly done: number;
  readonly total: number;
  readonly perSecond: number;
  readonly secondsLeft: number;
  /** Why it failed, or what it waits for, in words. */
  readonly error: string | null;
  /** Prints of a higher one come first. */
  readonly priority: number;
  readonly bytes: number | null;
  readonly createdAt: string;
  readonly finishedAt: string | null;
}

/** Whether the server is behind a password, and whether whoever asks has given it. */
export interface Session {
  readonly needed: boolean;
  readonly open: boolean;
}

export interface Password {
  readonly password: string;
}

/** The server lives: its version, and for how long it has run. */
export interface Health {
  readonly version: string;
  readonly seconds: number;
}

/** The server can work: bytes free on the disk of footage and prints. */
export interface Readiness {
  readonly free: number;
}

/** A process that takes work: the server itself, or a worker on this or another machine. */
export interface Machine {
  readonly id: string;
  readonly name: string;
  /** Threads it renders with. */
  readonly threads: number;
  readonly startedAt: string;
  readonly seenAt: string;
  /** What it does: pictures of prints (`from` the first, counted from 1, `to` the last), prints it joins, footage it imports (percent of it). */
  readonly doing: readonly {
    readonly kind: 'wear' | 'join' | 'import';
    readonly name: string;
    readonly from: number;
    readonly to: number;
    readonly done: number;
    readonly perSecond: number;
  }[];
}

/** A cut that was made elsewhere: shots in their order, each of the footage of one that is there. */
export interface CutOrder {
  readonly shots: readonly {
    /** A shot of any reel, whose footage has come in. */
    readonly from: string;
    readonly name: string;
    /** Left out: that of `from`. */
    readonly look?: unknown;
    readonly preparation: unknown;
    /** What goes out again with it. */
    readonly origin?: ClipOrigin;
  }[];
  /** And with the whole. */
  readonly origin?: CutOrigin;
}

/** What a reel and its shots were in the cut that they came with; null, and no clip, where they came with none. */
export interface ReelCut {
  readonly origin: CutOrigin | null;
  readonly clips: readonly { readonly shot: string; readonly origin: ClipOrigin }[];
}

/** What a print is ordered with; what is left out is as the shot is. */
export interface PrintOrder {
  readonly shotId: string;
  /** Shots that follow it in one film, each whole, at its rate and within its size. */
  readonly following?: readonly string[];
  /** A pattern of the print's name; see `nameBy`. Of a film, the first shot is put in. */
  readonly name?: string;
  readonly format: PrintSettings['format'];
  readonly coding?: PrintCoding;
  readonly bits?: number;
  readonly ground?: Ground;
  readonly firstNumber?: number;
  readonly quality?: PrintSettings['quality'];
  readonly bitRate?: number;
  readonly width?: number;
  readonly height?: number;
  readonly from?: number;
  readonly to?: number;
  readonly sound?: boolean;
}

/** A still or a clip of the real thing. */
export interface Reference {
  readonly id: string;
  /** null where it is offered for every reel. */
  readonly reelId: string | null;
  readonly name: string;
  readonly shipped: boolean;
  readonly createdAt: string;
  readonly medium: Medium;
}

/** A table of colours that the server keeps; `id` is the SHA-256 of its text. */
export interface StoredTable {
  readonly id: string;
  readonly name: string;
}

/** A clip or a still that is laid over pictures: one that ships, or one of the user's. */
export interface StoredPlate {
  readonly id: string;
  /** What looks call it by: its own word where it ships, else the SHA-256 of its file; null until that has been read. */
  readonly key: string | null;
  readonly name: string;
  readonly shipped: boolean;
  /** Mean brightness of each of its pictures, 0 to 1; null until it has been read. */
  readonly light: readonly number[] | null;
  readonly createdAt: string;
  readonly medium: Medium;
}

/** A shot of plain colour, made from nothing, for titles. */
export interface CardOrder {
  readonly name?: string;
  /** Red, green and blue as displayed, 0 to 1, at the top and at the bottom. */
  readonly upper: readonly number[];
  readonly lower: readonly number[];
  readonly seconds: number;
  readonly width: number;
  readonly height: number;
  readonly rate: { readonly num: number; readonly den: number };
}

/** A font for captions: one that ships, or one of the user's by the SHA-256 of its file. */
export interface StoredFont {
  readonly id: string;
  readonly name: string;
  readonly shipped: boolean;
  /** The characters it has, as a unicode-range of CSS: U+20-7E, U+A9. */
  readonly characters: string;
}

export interface StoredLook {
  readonly id: string;
  readonly look: Look;
  readonly shipped: boolean;
}

/** A shot's look and preparation as they are to be, made from one revision. */
export interface LookChange {
  readonly look: unknown;
  /** Left out: as it was. */
  readonly preparation?: unknown;
  /** Left out: as they were. */
  readonly versions?: readonly unknown[];
  readonly revision: number;
}

export interface LookKept {
  readonly revision: number;
  readonly touchedAt: string;
}

/** Images that were uploaded one by one and are to become one sequence. */
export interface SequenceOrder {
  /** Whose shot it becomes; null: it becomes a plate. */
  readonly reel: string | null;
  readonly name: string;
  readonly uploads: string[];
}

/** What images became. */
export interface SequenceMade {
  /** null where it is a plate. */
  readonly shot: string | null;
  readonly medium: string;
}
