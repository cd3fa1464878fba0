import type { Look } from '../look/look';
import { preparedFrames, type Preparation } from '../shot/preparation';
import { readTimecode, type CutRate } from './timecode';

/** An event of an EDL, in the words it came with. */
export interface EdlEvent {
  readonly reel: string;
  readonly source: readonly [string, string];
  /** Its place among the events, from 0: those beside each other hang together. */
  readonly order?: number;
  readonly number?: string;
  readonly channels?: string;
  /** In and out of the finished cut. */
  readonly record?: readonly [string, string];
  /** What leads into it, how many frames long, and what it leads out of. */
  readonly transition?: { readonly kind: string; readonly length: string; readonly reel?: string; readonly at?: string };
  /** Its line of a speed. */
  readonly retimed?: string;
  /** Lines that say more of it. */
  readonly comments?: readonly string[];
  /** Whether its timecode leaves out numbers. */
  readonly drop?: boolean;
}

/** What a shot's clip was in another program's cut: it goes out again as it came, but for what was changed here. */
export interface ClipOrigin extends Partial<EdlEvent> {
  /** Its object in OTIO, without what is ours. */
  readonly clip?: Readonly<Record<string, unknown>>;
  /** What stood before it on its track and is no shot: gaps, transitions (OTIO's own objects). */
  readonly before?: readonly unknown[];
  /** Which of the cut's `nests` it lies in, from the outermost in. */
  readonly within?: readonly number[];
  /** Events of an EDL that stood before it and are no shots: black, sound by itself. */
  readonly passed?: readonly EdlEvent[];
  /** As it was laid here: what of this is still so goes out with its own words. */
  readonly laid?: { readonly name: string } & Pick<Preparation, 'trim' | 'speed'>;
}

/** What a reel was in another program's cut. */
export interface CutOrigin {
  /** The timeline in OTIO; the track that became the reel is empty in it. */
  readonly timeline?: Readonly<Record<string, unknown>>;
  /** Which of the timeline's tracks that is. */
  readonly track?: number;
  /** What stood on it after the last clip. */
  readonly after?: readonly unknown[];
  /** Stacks and tracks within it: each without the clips that became shots, and what stood before it. */
  readonly nests?: readonly { readonly item: Readonly<Record<string, unknown>>; readonly before?: readonly unknown[] }[];
  /** Events of an EDL after its last shot. */
  readonly passed?: readonly EdlEvent[];
  /** Of an EDL: timecode at which its first event was recorded, with a semicolon where numbers are left out. */
  readonly start?: string;
}

/** A shot of a reel, as it is told to a program that cuts. */
export interface CutShot {
  readonly name: string;
  /** The file that was imported. */
  readonly file: string;
  readonly rate: CutRate;
  /** Of the whole footage. */
  readonly frames: number;
  /** Of the footage's first frame, where its file tells one. */
  readonly timecode?: string;
  readonly sound: boolean;
  readonly preparation: Preparation;
  readonly look: Look;
  /** Where it came with a cut. */
  readonly origin?: ClipOrigin;
}

/** A reel: its shots one after the other. */
export interface Cut {
  readonly name: string;
  readonly shots: readonly CutShot[];
  readonly origin?: CutOrigin;
}

/** The number of the footage's first frame, counted from midnight; 0 where its file tells none. */
export const begins = ({ timecode, rate }: Pick<CutShot, 'timecode' | 'rate'>): number => readTimecode(timecode ?? '', rate)?.frame ?? 0;

export const fps = ({ num, den }: CutRate): number => num / den;

/** What of its footage a shot takes, in frames of the footage, and how long it is shown, in its own frames. */
export function takenOf({ frames, preparation }: Pick<CutShot, 'frames' | 'preparation'>): { from: number; to: number; shown: number } {
  const { from = 0, to = frames } = preparation.trim ?? {};
  return { from, to, shown: preparedFrames(frames, preparation) };
}

/** Whether a shot has the range and the speed that it came with. */
export function isAsLaid({ origin, preparation: { trim, speed } }: Pick<CutShot, 'origin' | 'preparation'>): boolean {
  const laid = origin?.laid;
  return laid !== undefined && laid.trim?.from === trim?.from && laid.trim?.to === trim?.to && (laid.speed ?? 1) === (speed ?? 1);
}
