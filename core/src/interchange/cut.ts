import type { Look } from '../look/look';
import { preparedFrames, type Preparation } from '../shot/preparation';

/** Frames a second as a fraction. */
export interface CutRate {
  readonly num: number;
  readonly den: number;
}

/** A shot of a reel, as it is told to a program that cuts. */
export interface CutShot {
  readonly name: string;
  /** The file that was imported. */
  readonly file: string;
  readonly rate: CutRate;
  /** Of the whole footage. */
  readonly frames: number;
  readonly sound: boolean;
  readonly preparation: Preparation;
  readonly look: Look;
}

/** A reel: its shots one after the other. */
export interface Cut {
  readonly name: string;
  readonly shots: readonly CutShot[];
}

export const fps = ({ num, den }: CutRate): number => num / den;

/** What of its footage a shot takes, in frames of the footage, and how long it is shown, in its own frames. */
export function takenOf({ frames, preparation }: Pick<CutShot, 'frames' | 'preparation'>): { from: number; to: number; shown: number } {
  const { from = 0, to = frames } = preparation.trim ?? {};
  return { from, to, shown: preparedFrames(frames, preparation) };
}
