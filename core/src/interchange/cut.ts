import type { Look } from '../look/look';
import { preparedFrames, type Preparation } from '../shot/preparation';
import { readTimecode, type CutRate } from './timecode';

/** What a clip of another program's cut holds that is nothing to us: it goes out again as it came (OTIO's own objects). */
export interface ClipOrigin {
  readonly metadata?: Readonly<Record<string, unknown>>;
  readonly markers?: readonly unknown[];
  readonly reference?: Readonly<Record<string, unknown>>;
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
}

/** The number of the footage's first frame, counted from midnight; 0 where its file tells none. */
export const begins = ({ timecode, rate }: Pick<CutShot, 'timecode' | 'rate'>): number => readTimecode(timecode ?? '', rate)?.frame ?? 0;

export const fps = ({ num, den }: CutRate): number => num / den;

/** What of its footage a shot takes, in frames of the footage, and how long it is shown, in its own frames. */
export function takenOf({ frames, preparation }: Pick<CutShot, 'frames' | 'preparation'>): { from: number; to: number; shown: number } {
  const { from = 0, to = frames } = preparation.trim ?? {};
  return { from, to, shown: preparedFrames(frames, preparation) };
}
